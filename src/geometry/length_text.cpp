#include "geometry/length_text.h"

#include "base/number_text.h"

#include <array>
#include <charconv>
#include <cmath>
#include <vector>

namespace hasami {

namespace {

constexpr double longest = 100'000; // mm

struct UnitWord {
    std::string_view word;
    LengthUnit unit;
};
constexpr std::array unitWords{
    UnitWord{"mm", LengthUnit::millimetre}, UnitWord{"cm", LengthUnit::centimetre},
    UnitWord{"inches", LengthUnit::inch},   UnitWord{"inch", LengthUnit::inch},
    UnitWord{"in", LengthUnit::inch},       UnitWord{"\"", LengthUnit::inch},
    UnitWord{"pt", LengthUnit::point},
};

char lower(char c) {
    return c >= 'A' && c <= 'Z' ? char(c - 'A' + 'a') : c;
}

/// Reads from left to right; each take… moves on only if it finds what it looks for.
class LengthReader {
public:
    explicit LengthReader(std::string_view text) : rest_(text) {}

    std::optional<double> read(LengthUnit bare) {
        struct Term {
            double value;
            std::optional<LengthUnit> unit;
        };
        std::vector<Term> terms;
        double sign = takeSign().value_or(1);
        for (;;) {
            const auto value = takeMixedNumber();
            if (!value)
                return {};
            terms.push_back({sign * *value, takeUnit()});
            skipSpace();
            if (rest_.empty())
                break;
            const auto next = takeSign();
            if (!next)
                return {};
            sign = *next;
        }
        double sum = 0;
        LengthUnit unit = bare;
        for (std::size_t i = terms.size(); i-- > 0;) {
            unit = terms[i].unit.value_or(unit);
            sum += terms[i].value * millimetresIn(unit);
        }
        return std::abs(sum) <= longest ? std::optional(sum) : std::nullopt;
    }

private:
    void skipSpace() {
        while (!rest_.empty() && (rest_.front() == ' ' || rest_.front() == '\t'))
            rest_.remove_prefix(1);
    }

    bool take(char c) {
        if (rest_.empty() || rest_.front() != c)
            return false;
        rest_.remove_prefix(1);
        return true;
    }

    std::optional<double> takeSign() {
        skipSpace();
        if (take('+'))
            return 1;
        if (take('-'))
            return -1;
        return {};
    }

    /// Digits with at most one point or comma.
    std::optional<double> takeNumber() {
        skipSpace();
        std::string digits;
        std::size_t used = 0;
        for (; used < rest_.size(); ++used) {
            const char c = rest_[used];
            if (c >= '0' && c <= '9')
                digits += c;
            else if ((c == '.' || c == ',') && digits.find('.') == std::string::npos)
                digits += '.';
            else
                break;
        }
        double value = 0;
        const auto [end, error] = std::from_chars(digits.data(), digits.data() + digits.size(), value);
        if (error != std::errc{} || end != digits.data() + digits.size())
            return {};
        rest_.remove_prefix(used);
        return value;
    }

    /// "2", "3/8" or "1 3/8".
    std::optional<double> takeMixedNumber() {
        const auto whole = takeNumber();
        if (!whole)
            return {};
        if (take('/')) {
            const auto below = takeNumber();
            return below && *below > 0 ? std::optional(*whole / *below) : std::nullopt;
        }
        const std::string_view afterWhole = rest_;
        const auto above = takeNumber();
        if (!above || !take('/')) {
            rest_ = afterWhole;
            return whole;
        }
        const auto below = takeNumber();
        return below && *below > 0 ? std::optional(*whole + *above / *below) : std::nullopt;
    }

    std::optional<LengthUnit> takeUnit() {
        skipSpace();
        for (const UnitWord& u : unitWords) {
            if (rest_.size() < u.word.size())
                continue;
            bool same = true;
            for (std::size_t i = 0; i < u.word.size(); ++i)
                same = same && lower(rest_[i]) == u.word[i];
            if (same) {
                rest_.remove_prefix(u.word.size());
                return u.unit;
            }
        }
        return {};
    }

    std::string_view rest_;
};

int decimalsFor(LengthUnit unit) {
    switch (unit) {
    case LengthUnit::millimetre:
        return 2;
    case LengthUnit::centimetre:
    case LengthUnit::inch:
        return 3;
    case LengthUnit::point:
        return 1;
    }
    return 2;
}

} // namespace

double millimetresIn(LengthUnit unit) {
    switch (unit) {
    case LengthUnit::millimetre:
        return 1;
    case LengthUnit::centimetre:
        return 10;
    case LengthUnit::inch:
        return 25.4;
    case LengthUnit::point:
        return 25.4 / 72;
    }
    return 1;
}

std::string_view unitName(LengthUnit unit) {
    switch (unit) {
    case LengthUnit::millimetre:
        return "mm";
    case LengthUnit::centimetre:
        return "cm";
    case LengthUnit::inch:
        return "in";
    case LengthUnit::point:
        return "pt";
    }
    return "mm";
}

std::optional<double> parseLength(std::string_view text, LengthUnit bare) {
    return LengthReader(text).read(bare);
}

std::string lengthText(double millimetres, LengthUnit unit) {
    return numberText(millimetres / millimetresIn(unit), decimalsFor(unit)) + " " +
           std::string(unitName(unit));
}

} // namespace hasami
