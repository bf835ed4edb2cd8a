#include "profile/unknown_fields.h"

#include "profile/profile.h"

#include <nlohmann/json.hpp>

namespace hasami {

namespace {

/// Members of objects in lists are not among it: where they belonged would not be known later.
nlohmann::json unknownIn(const nlohmann::json& value, const nlohmann::json& schema) {
    nlohmann::json unknown = nlohmann::json::object();
    if (!value.is_object() || !schema.contains("properties"))
        return unknown;
    for (const auto& [name, member] : value.items()) {
        const auto known = schema["properties"].find(name);
        if (known == schema["properties"].end())
            unknown[name] = member;
        else if (nlohmann::json inner = unknownIn(member, *known); !inner.empty())
            unknown[name] = std::move(inner);
    }
    return unknown;
}

std::string memberOf(const std::string& place, const std::string& name) {
    return place.empty() ? name : place + "." + name;
}

std::string elementOf(const std::string& place, std::size_t number) {
    return place + "[" + std::to_string(number) + "]";
}

void addUnknown(const nlohmann::json& value, const nlohmann::json& schema, const std::string& place,
                std::vector<std::string>& unknown) {
    if (value.is_array() && schema.contains("items"))
        for (std::size_t i = 0; i < value.size(); ++i)
            addUnknown(value[i], schema["items"], elementOf(place, i), unknown);
    if (!value.is_object() || !schema.contains("properties"))
        return;
    for (const auto& [name, member] : value.items()) {
        const std::string there = memberOf(place, name);
        const auto known = schema["properties"].find(name);
        if (known == schema["properties"].end())
            unknown.push_back(there);
        else
            addUnknown(member, *known, there, unknown);
    }
}

const nlohmann::json& schemaOfProfiles() {
    static const nlohmann::json schema = profileSchema();
    return schema;
}

} // namespace

nlohmann::json unknownPart(const nlohmann::json& profile) {
    return unknownIn(profile, schemaOfProfiles());
}

std::vector<std::string> unknownFields(const nlohmann::json& profile) {
    std::vector<std::string> unknown;
    addUnknown(profile, schemaOfProfiles(), {}, unknown);
    return unknown;
}

} // namespace hasami
