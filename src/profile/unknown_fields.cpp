#include "profile/unknown_fields.h"

#include "profile/profile.h"

#include <nlohmann/json.hpp>

namespace hasami {

namespace {

void addUnknown(const nlohmann::json& value, const nlohmann::json& schema, const std::string& place,
                std::vector<std::string>& unknown) {
    if (value.is_array() && schema.contains("items"))
        for (std::size_t i = 0; i < value.size(); ++i) {
            std::string there = place;
            there.append("[").append(std::to_string(i)).append("]");
            addUnknown(value[i], schema["items"], there, unknown);
        }
    if (!value.is_object() || !schema.contains("properties"))
        return;
    for (const auto& [name, member] : value.items()) {
        const std::string there = place.empty() ? name : place + "." + name;
        const auto known = schema["properties"].find(name);
        if (known == schema["properties"].end())
            unknown.push_back(there);
        else
            addUnknown(member, *known, there, unknown);
    }
}

} // namespace

std::vector<std::string> unknownFields(const nlohmann::json& profile) {
    std::vector<std::string> unknown;
    addUnknown(profile, profileSchema(), {}, unknown);
    return unknown;
}

} // namespace hasami
