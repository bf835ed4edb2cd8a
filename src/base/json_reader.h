#pragma once

#include "base/error.h"
#include "base/translation.h"

#include <nlohmann/json.hpp>

#include <string>
#include <string_view>
#include <vector>

namespace hasami {

/// Reads a JSON value that came from outside and may hold anything. Every refusal is an InputError that names
/// the place, as "designs[2].count must be a whole number from 0 to 100000". Members that are not asked for
/// are passed over, so that files may hold more than this version knows.
class JsonReader {
public:
    JsonReader(const nlohmann::json& value, std::string place) : value_(value), place_(std::move(place)) {}

    const std::string& place() const { return place_; }
    const nlohmann::json& json() const { return value_; }

    bool isNull() const { return value_.is_null(); }
    bool isNumber() const { return value_.is_number(); }

    bool has(std::string_view member) const { return value_.is_object() && value_.contains(member); }

    void requireObject() const {
        if (!value_.is_object())
            refuse("%1 must be an object");
    }

    /// The member, which has to be there. The result refers to this reader's JSON.
    JsonReader at(std::string_view member) const {
        requireObject();
        const auto found = value_.find(member);
        const std::string place = place_.empty() ? std::string(member) : place_ + "." + std::string(member);
        if (found == value_.end())
            throw InputError(sentence("%1 is missing", place));
        return {*found, place};
    }

    std::vector<JsonReader> elements(std::size_t most) const {
        if (!value_.is_array())
            refuse("%1 must be a list");
        if (value_.size() > most)
            refuse("%1 has more than %2 entries", std::to_string(most));
        std::vector<JsonReader> all;
        for (std::size_t i = 0; i < value_.size(); ++i)
            all.emplace_back(value_[i], place_ + "[" + std::to_string(i) + "]");
        return all;
    }

    double number(double least, double most) const;
    int wholeNumber(int least, int most) const;
    bool flag() const;
    /// Text of at most `longest` bytes.
    std::string text(std::size_t longest) const;

    /// Throws InputError: an English sentence with "%1" for the place, "%2" and on for `values`.
    template <typename... Values>
    [[noreturn]] void refuse(const char* english, const Values&... values) const {
        throw InputError(sentence(english, place_.empty() ? translated("the file") : place_, values...));
    }

private:
    const nlohmann::json& value_;
    std::string place_;
};

/// Parses JSON text; an InputError says at which byte it stops being JSON.
nlohmann::json parseJson(std::string_view text);

} // namespace hasami
