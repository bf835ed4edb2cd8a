#include "lettering/lay_lettering.h"

#include "base/error.h"
#include "base/translation.h"
#include "geometry/box_sets.h"
#include "geometry/fit_loops.h"
#include "geometry/length_text.h"
#include "geometry/region_operations.h"
#include "lettering/shape_text.h"
#include "lettering/tighten.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <set>

namespace hasami {

namespace {

constexpr double flatteningOfLetters = 0.002; // mm: welded outlines and gaps hold to a few micrometres
constexpr double touchingGap = 0.004;         // mm: what flattening may take from two outlines
constexpr double weldedGap = 0.02;            // mm: letters closer than this touch
constexpr double sharpestCorner = 30;         // offsets: a corner of 4 degrees
constexpr double mostOverlap = 0.15;          // cap heights
constexpr double toRadians = std::numbers::pi / 180;

/// The letters of one cluster, in mm, its baseline's start at 0, 0.
struct Letter {
    LaidLetter laid;
    bool isJoined = false;
    double at = 0; ///< along the line
};

/// Which of a glyph's rims are counters: those that run against the rim around them.
std::vector<bool> countersOf(const std::vector<Loop>& loops) {
    std::vector<bool> isCounter(loops.size(), false);
    for (std::size_t i = 0; i < loops.size(); ++i)
        isCounter[i] = signedArea(loops[i]) < 0 && std::ranges::any_of(loops, [&](const Loop& around) {
                           return signedArea(around) > 0 && contains(around, loops[i].front());
                       });
    return isCounter;
}

std::vector<Loop> loopsOf(const std::vector<Curve>& rims, double tolerance = flatteningOfLetters) {
    std::vector<Loop> loops;
    loops.reserve(rims.size());
    for (const Curve& rim : rims)
        loops.push_back(flatten(rim, tolerance));
    return loops;
}

/// The loop with points added until no side is longer.
Loop inPieces(const Loop& loop, double longest) {
    Loop pieces;
    for (std::size_t i = 0; i < loop.size(); ++i) {
        const Point from = loop[i], to = loop[(i + 1) % loop.size()];
        const int count = std::max(1, int(std::ceil(distance(from, to) / longest)));
        for (int k = 0; k < count; ++k)
            pieces.push_back(between(from, to, double(k) / count));
    }
    return pieces;
}

class LetteringLayout {
public:
    LetteringLayout(const Lettering& lettering, const FontSource& source) : lettering_(lettering) {
        for (const FontChoice& choice : lettering.fonts) {
            auto font = source(choice);
            if (!font && fonts_.empty())
                throw InputError(sentence("The font %1 is not on this machine: choose another, or install it",
                                          choice.family + " " + choice.style));
            if (font) {
                fonts_.push_back(font.get());
                kept_.push_back(std::move(font));
            }
        }
        if (fonts_.empty())
            fonts_.push_back(&windowFont());
        scale_ = lettering.capHeight / fonts_.front()->capHeight();
    }

    LaidLettering laid() {
        split();
        for (std::size_t i = 0; i < lines_.size(); ++i)
            place(lines_[i]);
        if (lettering_.arcRadius != 0)
            bend();
        else
            align();
        for (Line& line : lines_) {
            laid_.lines.push_back(line.whole);
            for (Letter& letter : line.letters)
                laid_.letters.push_back(std::move(letter.laid));
        }
        laid_.capHeight = lettering_.capHeight;
        if (lettering_.fitWidth > 0 && lettering_.arcRadius == 0)
            fitToWidth();
        return std::move(laid_);
    }

private:
    struct Line {
        LaidLettering::Line whole;
        std::vector<Letter> letters;
        bool isRightToLeft = false;
    };

    void split() {
        const std::string& text = lettering_.text;
        for (std::size_t from = 0;;) {
            const std::size_t end = std::min(text.find('\n', from), text.size());
            Line line;
            line.whole.from = from;
            line.whole.to = end;
            shape(line);
            lines_.push_back(std::move(line));
            if (end == text.size())
                return;
            from = end + 1;
        }
    }

    /// The letters of a line as the font sets them.
    void shape(Line& line) {
        const std::size_t from = line.whole.from;
        const std::string text = lettering_.text.substr(from, line.whole.to - from);
        const ShapedLine shaped = shapeLine(text, fonts_);
        line.isRightToLeft = shaped.isRightToLeft;
        for (const Glyph& glyph : shaped.glyphs) {
            const bool isNew = line.letters.empty() || line.letters.back().laid.from != from + glyph.from;
            if (isNew) {
                Letter letter;
                letter.laid.from = from + glyph.from;
                letter.laid.to = from + glyph.to;
                letter.laid.line = int(lines_.size());
                letter.laid.isRightToLeft = glyph.isRightToLeft;
                letter.isJoined = glyph.isJoined;
                letter.at = glyph.at * scale_;
                line.letters.push_back(std::move(letter));
            }
            Letter& letter = line.letters.back();
            letter.laid.advance = (glyph.at + glyph.advance) * scale_ - letter.at;
            if (!glyph.font) {
                letter.laid.isLacking = true;
                addLacking(letter.laid);
                continue;
            }
            const Affine toLetter = Affine::translation({-letter.at, 0}) * Affine::scaling(scale_, scale_) *
                                    Affine::translation(glyph.origin) *
                                    Affine::scaling(glyph.scale, glyph.scale);
            for (const Curve& rim : outlineOf(*glyph.font, glyph.glyph))
                letter.laid.rims.push_back(map(rim, slanted() * toLetter));
        }
        for (Letter& letter : line.letters)
            takeCounters(letter.laid);
    }

    Affine slanted() const { return {1, 0, -std::tan(lettering_.slant * toRadians), 1, 0, 0}; }

    void addLacking(const LaidLetter& letter) {
        const std::string text = lettering_.text.substr(letter.from, letter.to - letter.from);
        if (laid_.lacking.find(text) == std::string::npos)
            laid_.lacking += text;
    }

    const std::vector<Curve>& outlineOf(const Font& font, std::uint32_t glyph) {
        const auto [found, isNew] = outlines_.try_emplace({&font, glyph});
        if (isNew)
            found->second = font.outline(glyph);
        return found->second;
    }

    void takeCounters(LaidLetter& letter) const {
        if (lettering_.keepsCounters && lettering_.switched.empty())
            return;
        const std::vector<bool> isCounter = countersOf(loopsOf(letter.rims, lettering_.capHeight / 200));
        std::vector<Curve> kept;
        int number = 0;
        for (std::size_t i = 0; i < letter.rims.size(); ++i) {
            bool stays = true;
            if (isCounter[i]) {
                const Counter counter{int(letter.from), number++};
                const bool isSwitched =
                    std::ranges::find(lettering_.switched, counter) != lettering_.switched.end();
                stays = lettering_.keepsCounters != isSwitched;
            }
            if (stays)
                kept.push_back(letter.rims[i]);
        }
        letter.rims = std::move(kept);
    }

    /// Along the line: the font's places, letter space, and together by the outlines.
    void place(Line& line) {
        double before = 0; // where the letter before it ends by the font
        std::vector<std::pair<double, LetterSides>> placed;
        double at = 0;
        for (std::size_t i = 0; i < line.letters.size(); ++i) {
            Letter& letter = line.letters[i];
            const double step = i == 0 ? 0 : letter.at - before + lettering_.letterSpace;
            before = letter.at;
            const double natural = at + step;
            double moved = natural;
            LetterSides sides;
            if (lettering_.closeness > 0) {
                sides = sidesOf(letter.laid);
                if (!sides.isEmpty() && !placed.empty() && !letter.isJoined)
                    moved = together(placed, sides, natural, spaceBefore(line, i));
            }
            letter.at = at = moved;
            if (lettering_.closeness > 0 && !sides.isEmpty()) {
                placed.emplace_back(at, std::move(sides));
                if (placed.size() > 4) // no letter overhangs more
                    placed.erase(placed.begin());
            }
        }
        if (line.letters.empty())
            return;
        line.whole.width = line.letters.back().at + line.letters.back().laid.advance;
    }

    /// The white that spaces before a letter take, which stays.
    double spaceBefore(const Line& line, std::size_t letter) const {
        double space = 0;
        for (std::size_t i = letter; i-- > 0 && line.letters[i].laid.rims.empty();)
            space += line.letters[i].laid.advance + lettering_.letterSpace;
        return space;
    }

    /// Where a letter stands that is moved together with those before it.
    double together(const std::vector<std::pair<double, LetterSides>>& placed, const LetterSides& sides,
                    double natural, double space) const {
        double touching = -std::numeric_limits<double>::infinity();
        for (const auto& [at, before] : placed)
            touching = std::max(touching, at + moveUntilTouching(before, sides) + touchingGap);
        touching += space;
        const double closeness = lettering_.closeness;
        if (closeness <= 1)
            return natural + (touching - natural) * closeness;
        return touching - (closeness - 1) * mostOverlap * lettering_.capHeight;
    }

    /// A letter's outline by which it slides: on a circle as it is seen from the circle's middle, distances
    /// along the baseline across, from the middle down.
    LetterSides sidesOf(const LaidLetter& letter) const {
        std::vector<Loop> loops = loopsOf(letter.rims);
        if (const double radius = lettering_.arcRadius; radius != 0)
            for (Loop& loop : loops)
                // Seen so, a straight side of this length is straight within the flattening.
                for (Point& p :
                     loop = inPieces(loop, std::sqrt(8 * flatteningOfLetters * std::abs(radius) / 2))) {
                    const double fromMiddle = std::abs(radius) - (radius > 0 ? p.y : -p.y);
                    const double along = p.x - letter.advance / 2;
                    p = {letter.advance / 2 + std::atan2(along, fromMiddle) * std::abs(radius),
                         std::hypot(along, fromMiddle)};
                }
        return LetterSides(loops);
    }

    double lineHeight() const { return lettering_.lineSpace * lettering_.capHeight; }

    void align() {
        double widest = 0;
        for (const Line& line : lines_)
            widest = std::max(widest, line.whole.width);
        for (std::size_t i = 0; i < lines_.size(); ++i) {
            Line& line = lines_[i];
            const double free = widest - line.whole.width;
            const double left = lettering_.alignment == TextAlignment::left     ? 0
                                : lettering_.alignment == TextAlignment::middle ? free / 2
                                                                                : free;
            line.whole.start = Affine::translation({left, double(i) * lineHeight()});
            for (Letter& letter : line.letters)
                put(letter.laid, line.whole.start * Affine::translation({letter.at, 0}));
        }
    }

    /// Each letter turned about the circle's middle by where its own middle stands.
    void bend() {
        const double given = lettering_.arcRadius;
        spread();
        for (std::size_t i = 0; i < lines_.size(); ++i) {
            Line& line = lines_[i];
            const double down = double(i) * lineHeight();
            const double radius = given > 0 ? given - down : -given + down;
            if (radius < lettering_.capHeight / 2 || (given < 0 && radius <= lettering_.capHeight))
                throw InputError(sentence("A circle of %1 is too small for these letters: make it larger, or "
                                          "the letters smaller",
                                          lengthText(std::abs(given))));
            if (line.whole.width > 2 * std::numbers::pi * radius * (1 + 1e-9))
                throw InputError(sentence("The lettering is longer than a circle of %1: make the circle "
                                          "larger, or the letters smaller",
                                          lengthText(std::abs(given))));
            const auto at = [&](double along) {
                const double angle = (along - line.whole.width / 2) / radius;
                return Affine::rotation(given > 0 ? angle : -angle) *
                       Affine::translation({0, given > 0 ? -radius : radius});
            };
            line.whole.start = at(0);
            for (Letter& letter : line.letters) {
                const double half = letter.laid.advance / 2;
                put(letter.laid, at(letter.at + half) * Affine::translation({-half, 0}));
            }
        }
    }

    /// Letter space by which the longest line takes its part of the circle.
    void spread() {
        if (lettering_.arcSpread <= 0)
            return;
        const Line* longest = nullptr;
        for (const Line& line : lines_)
            if (!longest || line.whole.width > longest->whole.width)
                longest = &line;
        if (!longest || longest->letters.size() < 2)
            return;
        const double wanted = lettering_.arcSpread * toRadians * std::abs(lettering_.arcRadius);
        const double space = (wanted - longest->whole.width) / double(longest->letters.size() - 1);
        for (Line& line : lines_) {
            for (std::size_t i = 0; i < line.letters.size(); ++i)
                line.letters[i].at += space * double(i);
            if (!line.letters.empty())
                line.whole.width += space * double(line.letters.size() - 1);
        }
    }

    static void put(LaidLetter& letter, const Affine& place) {
        letter.place = place;
        for (Curve& rim : letter.rims)
            rim = map(rim, place);
    }

    void fitToWidth() {
        Box box;
        for (const LaidLetter& letter : laid_.letters)
            for (const Curve& rim : letter.rims)
                box.add(bounds(flatten(rim, flatteningOfLetters)));
        const double grown = 2 * lettering_.weight;
        if (box.isEmpty() || box.width() <= 0 || lettering_.fitWidth <= grown)
            return;
        const double factor = (lettering_.fitWidth - grown) / box.width();
        const Affine by = Affine::scaling(factor, factor);
        for (LaidLetter& letter : laid_.letters) {
            for (Curve& rim : letter.rims)
                rim = map(rim, by);
            letter.place = by * letter.place;
        }
        for (LaidLettering::Line& line : laid_.lines)
            line.start = by * line.start;
        laid_.capHeight *= factor;
    }

    const Lettering& lettering_;
    std::vector<const Font*> fonts_;
    std::vector<std::shared_ptr<const Font>> kept_;
    double scale_ = 1; // mm a unit of the first font
    std::vector<Line> lines_;
    LaidLettering laid_;
    std::map<std::pair<const Font*, std::uint32_t>, std::vector<Curve>> outlines_;
};

std::vector<Curve> fitted(const Region& region) {
    FitOptions options;
    options.tolerance = flatteningOfLetters;
    std::vector<Curve> curves = fitLoops(region.loops, options);
    std::erase_if(curves, [](const Curve& curve) { return curve.segments.empty(); });
    return curves;
}

} // namespace

LaidLettering layLettering(const Lettering& lettering, const FontSource& fonts) {
    return LetteringLayout(lettering, fonts).laid();
}

namespace {

/// With gaps filled that are narrower than letters which touch may be apart. Grown with sharp corners and
/// shrunk with round ones: outer corners stay sharp, sides that go on from letter to letter become one
/// straight side, and a narrow bay between two letters keeps a bridge at its end.
Region closed(const Region& letters) {
    constexpr double half = weldedGap / 2;
    return offset(offset(letters, half, {CornerForm::sharp, sharpestCorner}), -half, {CornerForm::round});
}

/// Letters that come close, as one outline; those that stand apart keep their own curves.
std::vector<Curve> welded(const std::vector<std::vector<Curve>>& letters, bool keepsCounters) {
    std::vector<Region> regions;
    std::vector<Box> boxes;
    for (const std::vector<Curve>& letter : letters) {
        regions.push_back(enclosed(Region{loopsOf(letter)}, FillRule::nonZero));
        const Box box = bounds(regions.back());
        boxes.push_back(box.isEmpty() ? box : box.grownBy(weldedGap));
    }
    const std::vector<std::size_t> sets = setsOf(boxes);
    std::map<std::size_t, std::vector<std::size_t>> members;
    for (std::size_t i = 0; i < sets.size(); ++i)
        members[sets[i]].push_back(i);
    std::vector<Curve> all;
    for (const auto& [set, letterNumbers] : members) {
        std::vector<Curve> curves;
        if (letterNumbers.size() == 1) {
            curves = letters[letterNumbers.front()];
        } else {
            std::vector<Region> close;
            for (const std::size_t i : letterNumbers)
                close.push_back(std::move(regions[i]));
            const Region whole = closed(uniteSimple(close));
            curves = fitted(keepsCounters ? whole : withoutOpenings(whole));
        }
        all.insert(all.end(), curves.begin(), curves.end());
    }
    return all;
}

} // namespace

std::vector<std::vector<Curve>> letterOutlines(const Lettering& lettering, const LaidLettering& laid) {
    std::vector<std::vector<Curve>> letters;
    for (const LaidLetter& letter : laid.letters) {
        if (lettering.weight == 0 || letter.rims.empty()) {
            letters.push_back(letter.rims);
            continue;
        }
        const Region region = enclosed(Region{loopsOf(letter.rims)}, FillRule::nonZero);
        letters.push_back(fitted(offset(region, lettering.weight, {CornerForm::sharp, 2})));
    }
    if (lettering.isWelded)
        letters = {welded(letters, lettering.keepsCounters)};
    return letters;
}

} // namespace hasami
