#pragma once

#include "base/json_reader.h"

#include <algorithm>
#include <functional>
#include <optional>
#include <span>
#include <string>
#include <tuple>
#include <type_traits>
#include <utility>
#include <vector>

namespace hasami {

/// A struct that is saved lists its fields once, in a specialisation of Fields. What is written to JSON, what
/// is read and checked, the schema and cache keys all follow from that list:
///
///     template <>
///     struct Fields<Border> {
///         static constexpr auto list = std::make_tuple(
///             field("width", &Border::width, Within{0, Limits::mostBorder}), ...);
///     };
///
/// It may add `complete(value, reader)`, called once the fields are read (for older files), `write(json,
/// value)` for what is no field, and `describe(schema)` for both.
template <class Struct>
struct Fields;

template <class T>
concept HasFields = requires {
    Fields<T>::list;
};

/// A value that is neither a number, text, flag, choice nor struct: how JSON holds it. Members: static
/// json write(const T&); T read(const JsonReader&); json schema(); void hash(Key&, const T&).
template <class T>
struct Codec;

/// What a value is called in files.
template <class Value>
struct Named {
    const char* name;
    Value value;
};

template <class Value>
const char* nameOf(std::span<const Named<Value>> all, std::type_identity_t<Value> value) {
    return std::find_if(all.begin(), all.end(), [&](const auto& n) { return n.value == value; })->name;
}
template <class Value, std::size_t count>
const char* nameOf(const Named<Value> (&all)[count], std::type_identity_t<Value> value) {
    return nameOf(std::span<const Named<Value>>(all), value);
}

template <class Value>
Value valueOf(std::span<const Named<Value>> all, const JsonReader& in) {
    const std::string text = in.text(50);
    std::string names;
    for (const auto& n : all) {
        if (n.name == text)
            return n.value;
        names += (names.empty() ? "\"" : ", \"") + std::string(n.name) + "\"";
    }
    in.refuse("%1 must be one of %2", names);
}
template <class Value, std::size_t count>
Value valueOf(const Named<Value> (&all)[count], const JsonReader& in) {
    return valueOf(std::span<const Named<Value>>(all), in);
}

/// Rules: which values a field may have.
struct Anything {}; ///< flags, structs, and types with a Codec
struct Within {     ///< of a number
    double least = 0, most = 0;
};
struct AtMost { ///< of a text
    std::size_t bytes = 0;
};
template <class Value>
struct OneOf {
    template <std::size_t count>
    constexpr explicit OneOf(const Named<Value> (&names)[count]) : all(names) {}

    std::span<const Named<Value>> all;
};
template <class Rule>
struct Each { ///< of a list
    std::size_t most = 0;
    Rule rule = {};
    std::size_t least = 0;
};
template <class Rule>
Each(std::size_t, Rule) -> Each<Rule>;
template <class Rule>
Each(std::size_t, Rule, std::size_t) -> Each<Rule>;

/// A rule that knows by itself how JSON holds a value. Members: static json write(const T&); void read(const
/// JsonReader&, T&); json schema().
template <class Rule, class T>
concept HoldsItself = requires(const T& value) {
    Rule::write(value);
};

/// When a field stands in a file. One that is missing has its start value.
enum class Kept {
    always,
    sinceThen,   ///< always, but older files don't know it
    unlessStart, ///< only where it differs from its start value
};

template <class Get, class Rule>
struct Field {
    const char* name;
    Get get; ///< of the struct: a pointer to a member, or a function that gives a reference
    Rule rule;
    Kept kept;
    const char* older; ///< its name in older files, or nullptr

    template <class Struct>
    auto& of(Struct& value) const {
        return std::invoke(get, value);
    }
};

template <class Get, class Rule>
constexpr Field<Get, Rule> field(const char* name, Get get, Rule rule, Kept kept = Kept::always,
                                 const char* older = nullptr) {
    return {name, get, rule, kept, older};
}

template <class Struct, class Visit>
void forEachField(const Visit& visit) {
    std::apply([&](const auto&... fields) { (visit(fields), ...); }, Fields<Struct>::list);
}

namespace fields {

using nlohmann::json;

template <class T>
inline constexpr bool isOptional = false;
template <class T>
inline constexpr bool isOptional<std::optional<T>> = true;
template <class T>
inline constexpr bool isList = false;
template <class T>
inline constexpr bool isList<std::vector<T>> = true;

/// The schema of a list of `count` numbers.
inline json numbersSchema(int count, double least, double most, const char* type = "number") {
    return {{"type", "array"},
            {"minItems", count},
            {"maxItems", count},
            {"items", {{"type", type}, {"minimum", least}, {"maximum", most}}}};
}

template <HasFields Struct>
json written(const Struct& value);
template <HasFields Struct>
void readInto(const JsonReader& in, Struct& value);
template <HasFields Struct>
json schema();

template <class T, class Rule>
json write(const T& value, const Rule& rule) {
    if constexpr (isOptional<T>) {
        return value ? write(*value, rule) : json(nullptr);
    } else if constexpr (HoldsItself<Rule, T>) {
        return Rule::write(value);
    } else if constexpr (isList<T>) {
        json all = json::array();
        for (const auto& one : value)
            all.push_back(write(one, rule.rule));
        return all;
    } else if constexpr (std::is_enum_v<T>) {
        return nameOf(rule.all, value);
    } else if constexpr (HasFields<T>) {
        return written(value);
    } else if constexpr (std::is_arithmetic_v<T> || std::is_same_v<T, std::string>) {
        return value;
    } else {
        return Codec<T>::write(value);
    }
}

template <class T, class Rule>
T readOne(const JsonReader& in, const Rule& rule);

template <class T, class Rule>
void read(const JsonReader& in, const Rule& rule, T& value) {
    if constexpr (isOptional<T>) {
        value.reset();
        if (!in.isNull())
            value = readOne<typename T::value_type>(in, rule);
    } else if constexpr (HoldsItself<Rule, T>) {
        Rule::read(in, value);
    } else if constexpr (isList<T>) {
        value.clear();
        for (const JsonReader& one : in.elements(rule.most))
            value.push_back(readOne<typename T::value_type>(one, rule.rule));
        if (value.size() < rule.least)
            in.refuse("%1 must not be empty");
    } else if constexpr (std::is_enum_v<T>) {
        value = valueOf(rule.all, in);
    } else if constexpr (HasFields<T>) {
        readInto(in, value);
    } else if constexpr (std::is_same_v<T, bool>) {
        value = in.flag();
    } else if constexpr (std::is_same_v<T, int>) {
        value = in.wholeNumber(int(rule.least), int(rule.most));
    } else if constexpr (std::is_unsigned_v<T>) {
        value = T(in.wholeNumber(int(rule.least), int(rule.most)));
    } else if constexpr (std::is_arithmetic_v<T>) {
        value = T(in.number(rule.least, rule.most));
    } else if constexpr (std::is_same_v<T, std::string>) {
        value = in.text(rule.bytes);
    } else if constexpr (requires { Codec<T>::read(in, rule); }) {
        value = Codec<T>::read(in, rule);
    } else {
        value = Codec<T>::read(in);
    }
}

template <class T, class Rule>
T readOne(const JsonReader& in, const Rule& rule) {
    T value{};
    read(in, rule, value);
    return value;
}

template <class T, class Rule>
json schemaOf(const Rule& rule) {
    if constexpr (isOptional<T>) {
        return {{"oneOf", {json{{"type", "null"}}, schemaOf<typename T::value_type>(rule)}}};
    } else if constexpr (HoldsItself<Rule, T>) {
        return Rule::schema();
    } else if constexpr (isList<T>) {
        json list{{"type", "array"},
                  {"maxItems", rule.most},
                  {"items", schemaOf<typename T::value_type>(rule.rule)}};
        if (rule.least > 0)
            list["minItems"] = rule.least;
        return list;
    } else if constexpr (std::is_enum_v<T>) {
        json names = json::array();
        for (const auto& one : rule.all)
            names.push_back(one.name);
        return {{"enum", names}};
    } else if constexpr (HasFields<T>) {
        return schema<T>();
    } else if constexpr (std::is_same_v<T, bool>) {
        return {{"type", "boolean"}};
    } else if constexpr (std::is_same_v<T, int> || std::is_unsigned_v<T>) {
        return {{"type", "integer"}, {"minimum", int(rule.least)}, {"maximum", int(rule.most)}};
    } else if constexpr (std::is_same_v<T, double>) {
        return {{"type", "number"}, {"minimum", rule.least}, {"maximum", rule.most}};
    } else if constexpr (std::is_same_v<T, std::string>) {
        return {{"type", "string"}, {"maxLength", rule.bytes}};
    } else {
        return Codec<T>::schema();
    }
}

/// Lengths stand before sequences, and whether there is one before an optional, so that no two values give
/// the same key.
template <class Key, class T>
void hash(Key& key, const T& value) {
    if constexpr (isOptional<T>) {
        key << double(value.has_value());
        if (value)
            hash(key, *value);
    } else if constexpr (isList<T>) {
        key << double(value.size());
        for (const auto& one : value)
            hash(key, one);
    } else if constexpr (std::is_enum_v<T> || std::is_arithmetic_v<T>) {
        key << double(value);
    } else if constexpr (HasFields<T>) {
        forEachField<T>([&](const auto& f) { hash(key, f.of(value)); });
    } else if constexpr (std::is_same_v<T, std::string>) {
        key << value;
    } else {
        Codec<T>::hash(key, value);
    }
}

template <HasFields Struct>
json written(const Struct& value) {
    json about = json::object();
    const Struct start{};
    forEachField<Struct>([&](const auto& f) {
        if (f.kept != Kept::unlessStart || !(f.of(value) == f.of(start)))
            about[f.name] = write(f.of(value), f.rule);
    });
    if constexpr (requires { Fields<Struct>::write(about, value); })
        Fields<Struct>::write(about, value);
    return about;
}

template <HasFields Struct>
void readInto(const JsonReader& in, Struct& value) {
    in.requireObject();
    forEachField<Struct>([&](const auto& f) {
        const char* name = f.older && !in.has(f.name) && in.has(f.older) ? f.older : f.name;
        if (f.kept == Kept::always || in.has(name))
            read(in.at(name), f.rule, f.of(value));
    });
    if constexpr (requires { Fields<Struct>::complete(value, in); })
        Fields<Struct>::complete(value, in);
}

template <HasFields Struct>
json schema() {
    json properties = json::object(), required = json::array();
    forEachField<Struct>([&](const auto& f) {
        using Value = std::remove_cvref_t<decltype(f.of(std::declval<Struct&>()))>;
        json& about = properties[f.name] = schemaOf<Value>(f.rule);
        if constexpr (isOptional<Value>)
            if (f.kept == Kept::unlessStart)
                about = json(about["oneOf"][1]);
        if (f.older)
            properties[f.older] = about;
        if (f.kept == Kept::always)
            required.push_back(f.name);
    });
    json all{{"type", "object"}, {"required", required}, {"properties", properties}};
    if constexpr (requires { Fields<Struct>::describe(all); })
        Fields<Struct>::describe(all);
    return all;
}

} // namespace fields

/// The value as JSON.
template <HasFields Struct>
nlohmann::json toJson(const Struct& value) {
    return fields::written(value);
}

/// The value that JSON holds. Throws InputError, which names the place.
template <HasFields Struct>
Struct fromJson(const JsonReader& in) {
    Struct value{};
    fields::readInto(in, value);
    return value;
}

/// Adds a value, or some of its fields, to a cache key.
template <class Key, class T>
void addFields(Key& key, const T& value) {
    fields::hash(key, value);
}
template <class Key, class Struct, class... Some>
void addFields(Key& key, const Struct& value, const std::tuple<Some...>& some) {
    std::apply([&](const auto&... f) { (fields::hash(key, f.of(value)), ...); }, some);
}

} // namespace hasami
