#pragma once

#include "base/error.h"
#include "base/fields.h"

#include <string>
#include <string_view>

namespace hasami {

/// The files of the queue: an object with the number of its format, the fields of one struct, and what other
/// versions of the program have added, which is kept when the file is written again.

/// A file of a later format than this version knows.
struct NewerFormat : InputError {
    using InputError::InputError;
};

inline constexpr int keptFormat = 2; ///< 1 had numbers for names, and no number of its own

/// `unknown`: members that this version does not know, as a JSON object; empty: none.
template <HasFields Struct>
nlohmann::json keptJson(const Struct& value, const std::string& unknown) {
    nlohmann::json json = unknown.empty() ? nlohmann::json::object() : nlohmann::json::parse(unknown);
    json["format"] = keptFormat;
    json.update(fields::written(value));
    return json;
}

inline std::string keptText(const nlohmann::json& json, int indent = -1) {
    return json.dump(indent, ' ', false, nlohmann::json::error_handler_t::replace);
}

/// The format of a file. Throws InputError, NewerFormat.
inline int formatOf(const nlohmann::json& json) {
    const JsonReader in(json, "");
    in.requireObject();
    const int format = in.has("format") ? in.at("format").wholeNumber(1, 1'000'000) : 1;
    if (format > keptFormat)
        throw NewerFormat(translated("it was kept by a newer version of Hasami"));
    return format;
}

/// Fields that are missing have their start values. Throws InputError.
template <HasFields Struct>
Struct fromKept(const nlohmann::json& json, std::string& unknown) {
    Struct value = fromJson<Struct>(JsonReader(json, ""));
    std::size_t known = json.count("format");
    forEachField<Struct>([&](const auto& field) { known += json.count(field.name); });
    unknown.clear();
    if (known == json.size()) // nearly always, and copying takes as long as reading
        return value;
    nlohmann::json rest = json;
    rest.erase("format");
    forEachField<Struct>([&](const auto& field) { rest.erase(field.name); });
    unknown = rest.dump();
    return value;
}

/// Replaces a number of format 1 by its name.
template <class Value, std::size_t count>
void nameNumber(nlohmann::json& number, const Named<Value> (&names)[count]) {
    if (number.is_number())
        number = nameOf(names, Value(JsonReader(number, "").wholeNumber(0, int(count) - 1)));
}

} // namespace hasami
