#include "lettering/carets.h"

#include <algorithm>

namespace hasami {

namespace {

bool beginsLetter(char byte) {
    return (static_cast<unsigned char>(byte) & 0xC0) != 0x80;
}

CaretPlace strokeAt(std::size_t at, int line, const Affine& place, double along, double capHeight) {
    return {at, line, place({along, 0}), place({along, -capHeight})};
}

} // namespace

std::vector<CaretPlace> caretPlaces(const std::string& text, const LaidLettering& laid) {
    std::vector<CaretPlace> all;
    for (std::size_t l = 0; l < laid.lines.size(); ++l) {
        const LaidLettering::Line& line = laid.lines[l];
        const LaidLetter* last = nullptr;
        for (const LaidLetter& letter : laid.letters) {
            if (letter.line != int(l))
                continue;
            if (!last || letter.to > last->to)
                last = &letter;
            std::vector<std::size_t> begins;
            for (std::size_t at = letter.from; at < letter.to; ++at)
                if (beginsLetter(text[at]))
                    begins.push_back(at);
            for (std::size_t i = 0; i < begins.size(); ++i) {
                const double share = double(i) / double(begins.size());
                all.push_back(strokeAt(begins[i], int(l), letter.place,
                                       letter.advance * (letter.isRightToLeft ? 1 - share : share),
                                       laid.capHeight));
            }
        }
        all.push_back(last ? strokeAt(line.to, int(l), last->place, last->isRightToLeft ? 0 : last->advance,
                                      laid.capHeight)
                           : strokeAt(line.to, int(l), line.start, 0, laid.capHeight));
    }
    std::stable_sort(all.begin(), all.end(),
                     [](const CaretPlace& a, const CaretPlace& b) { return a.at < b.at; });
    return all;
}

std::optional<Counter> counterAt(const Lettering& lettering, const FontSource& fonts, Point place) {
    Lettering whole = lettering;
    whole.keepsCounters = true;
    whole.switched.clear();
    for (const LaidLetter& letter : layLettering(whole, fonts).letters) {
        int number = 0;
        for (const Curve& rim : letter.rims) {
            const Loop loop = flatten(rim, lettering.capHeight / 200);
            if (signedArea(loop) > 0)
                continue;
            if (contains(loop, place))
                return Counter{int(letter.from), number};
            ++number;
        }
    }
    return {};
}

} // namespace hasami
