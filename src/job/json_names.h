#pragma once

#include "base/json_reader.h"

#include <algorithm>
#include <span>
#include <string>

namespace hasami {

/// What a value is called in files.
template <class Value>
struct Named {
    const char* name;
    Value value;
};

template <class Value>
const char* nameOf(std::span<const Named<Value>> all, Value value) {
    return std::find_if(all.begin(), all.end(), [&](const auto& n) { return n.value == value; })->name;
}
template <class Value, std::size_t count>
const char* nameOf(const Named<Value> (&all)[count], Value value) {
    return nameOf(std::span<const Named<Value>>(all), value);
}

template <class Value, std::size_t count>
Value valueOf(const Named<Value> (&all)[count], const JsonReader& in) {
    const std::string text = in.text(50);
    std::string names;
    for (const auto& n : all) {
        if (n.name == text)
            return n.value;
        names += (names.empty() ? "\"" : ", \"") + std::string(n.name) + "\"";
    }
    in.refuse("must be one of " + names);
}

} // namespace hasami
