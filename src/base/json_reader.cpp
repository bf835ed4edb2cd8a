#include "base/json_reader.h"

#include "base/number_text.h"
#include "base/translation.h"

#include <algorithm>
#include <cmath>

namespace hasami {

double JsonReader::number(double least, double most) const {
    const bool fits = value_.is_number() && std::isfinite(value_.get<double>()) &&
                      value_.get<double>() >= least && value_.get<double>() <= most;
    if (!fits)
        refuse("%1 must be a number from %2 to %3", numberText(least, 6), numberText(most, 6));
    return value_.get<double>();
}

int JsonReader::wholeNumber(int least, int most) const {
    const bool fits = value_.is_number() && value_.get<double>() >= least && value_.get<double>() <= most &&
                      value_.get<double>() == std::floor(value_.get<double>());
    if (!fits)
        refuse("%1 must be a whole number from %2 to %3", std::to_string(least), std::to_string(most));
    return static_cast<int>(value_.get<double>());
}

bool JsonReader::flag() const {
    if (!value_.is_boolean())
        refuse("%1 must be true or false");
    return value_.get<bool>();
}

std::string JsonReader::text(std::size_t longest) const {
    if (!value_.is_string())
        refuse("%1 must be text");
    auto text = value_.get<std::string>();
    if (text.size() > longest)
        refuse("%1 is longer than %2 characters", std::to_string(longest));
    return text;
}

namespace {

/// How deeply objects and lists stand in each other; of what is no JSON, at least as deeply as a parser goes.
int depthOf(std::string_view json) {
    int depth = 0, most = 0;
    bool isInText = false;
    for (std::size_t i = 0; i < json.size(); ++i) {
        const char c = json[i];
        if (c == '"')
            isInText = !isInText;
        else if (isInText && c == '\\')
            ++i;
        else if (!isInText && (c == '[' || c == '{'))
            most = std::max(most, ++depth);
        else if (!isInText && (c == ']' || c == '}'))
            --depth;
    }
    return most;
}

} // namespace

nlohmann::json parseJson(std::string_view text) {
    constexpr int deepest = 64; // the parser and its values are walked recursively
    if (depthOf(text) > deepest)
        throw InputError(translated("its JSON is nested too deeply"));
    try {
        return nlohmann::json::parse(text);
    } catch (const nlohmann::json::parse_error& error) {
        throw InputError(
            sentence("it is not valid JSON (wrong from byte %1 on)", std::to_string(error.byte)));
    } catch (const nlohmann::json::exception&) {
        throw InputError(translated("it holds a number that is too large"));
    }
}

} // namespace hasami
