#include "base/number_text.h"

#include <array>
#include <cassert>
#include <charconv>
#include <cmath>

namespace hasami {

std::string numberText(double value, int decimals) {
    assert(std::isfinite(value));
    std::array<char, 400> buffer{}; // the largest double has 309 digits before the point
    const auto [end, error] = std::to_chars(buffer.data(), buffer.data() + buffer.size(), value,
                                            std::chars_format::fixed, decimals);
    assert(error == std::errc{});
    std::string text(buffer.data(), end);
    if (text.find('.') != std::string::npos) {
        text.erase(text.find_last_not_of('0') + 1);
        if (text.back() == '.')
            text.pop_back();
    }
    return text == "-0" ? "0" : text;
}

} // namespace hasami
