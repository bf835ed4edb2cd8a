#include "edge/coverage.h"

#include "edge/backdrop.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <numeric>

namespace hasami {

namespace {

int brightnessOf(Rgba p) { // ITU-R BT.601 weights, in 1/256
    return (77 * p.red + 150 * p.green + 29 * p.blue) >> 8;
}

bool hasTransparency(const Picture& picture) {
    const auto cells = picture.pixels.cells();
    return picture.hasCoverage &&
           std::any_of(cells.begin(), cells.end(), [](Rgba p) { return p.coverage < 128; });
}

/// Nearly all pixels are grey, and nearly all of those either light or dark.
bool isLineArt(const Picture& picture) {
    constexpr int mostColour = 28, nearWhite = 225, nearBlack = 70;
    std::size_t coloured = 0, light = 0, dark = 0;
    for (const Rgba p : picture.pixels.cells()) {
        const auto [least, most] = std::minmax({p.red, p.green, p.blue});
        coloured += most - least > mostColour;
        light += least >= nearWhite;
        dark += most <= nearBlack;
    }
    const auto all = double(picture.pixels.cells().size());
    return double(coloured)<0.005 * all&& double(light + dark)> 0.93 * all && dark > 0 && light > dark;
}

/// The brightness below which the part lies, 0 to 255.
int quantile(const std::array<std::size_t, 256>& counts, double part) {
    std::size_t all = 0, sum = 0;
    for (const std::size_t count : counts)
        all += count;
    for (int value = 0; value < 256; ++value)
        if (double(sum += counts[std::size_t(value)]) >= part * double(all))
            return value;
    return 255;
}

/// Ink on paper: the brighter of rim and rest is the paper; from the paper's to the ink's brightness the
/// coverage rises evenly.
Grid<std::uint8_t> byBrightness(const Picture& picture) {
    const auto& pixels = picture.pixels;
    std::array<std::size_t, 256> all{}, rim{};
    for (int y = 0; y < pixels.height(); ++y)
        for (int x = 0; x < pixels.width(); ++x) {
            const int brightness = brightnessOf(pixels.at(x, y));
            ++all[std::size_t(brightness)];
            if (x == 0 || y == 0 || x == pixels.width() - 1 || y == pixels.height() - 1)
                ++rim[std::size_t(brightness)];
        }
    const int dark = quantile(all, 0.01), light = quantile(all, 0.99);
    const int middle = quantile(rim, 0.5);
    const bool onLight = middle >= (dark + light) / 2;
    const double paper =
        onLight ? std::max(middle, quantile(all, 0.75)) : std::min(middle, quantile(all, 0.25));
    const double ink = onLight ? dark : light;
    Grid<std::uint8_t> coverage(pixels.width(), pixels.height());
    if (std::abs(ink - paper) < 8)
        return coverage; // nothing stands out
    std::transform(pixels.cells().begin(), pixels.cells().end(), coverage.cells().begin(), [&](Rgba p) {
        const double part = (brightnessOf(p) - paper) / (ink - paper);
        return static_cast<std::uint8_t>(std::lround(255 * std::clamp(part, 0.0, 1.0)));
    });
    return coverage;
}

/// A picture cut out with no pixels between all and nothing has steps of a whole pixel.
bool isHardEdged(const Grid<std::uint8_t>& coverage) {
    std::size_t partly = 0, steps = 0;
    for (int y = 0; y < coverage.height(); ++y)
        for (int x = 1; x < coverage.width(); ++x) {
            const int a = coverage.at(x - 1, y), b = coverage.at(x, y);
            steps += std::abs(a - b) > 250;
            partly += b > 5 && b < 250;
        }
    return steps > 0 && partly * 20 < steps;
}

/// What few steps of coverage cost: drawn with 4 x 4 samples a pixel, a nearly level edge moves in steps of a
/// quarter of a pixel.
double scatterOfSteps(const Grid<std::uint8_t>& coverage) {
    constexpr double sixteenSteps = 0.08, sixtyFourSteps = 0.04, smooth = 0.02; // pixels
    std::array<std::size_t, 256> counts{};
    for (const std::uint8_t cell : coverage.cells())
        ++counts[cell];
    counts.front() = counts.back() = 0;
    const std::size_t all = std::accumulate(counts.begin(), counts.end(), std::size_t{0});
    std::sort(counts.begin(), counts.end(), std::greater<>());
    std::size_t steps = 0;
    for (std::size_t sum = 0; steps < counts.size() && sum * 20 < all * 19; ++steps)
        sum += counts[steps];
    return steps <= 20 ? sixteenSteps : steps <= 70 ? sixtyFourSteps : smooth;
}

} // namespace

EdgeWay chooseWay(const Picture& picture) {
    return hasTransparency(picture) ? EdgeWay::transparency
           : isLineArt(picture)     ? EdgeWay::brightness
                                    : EdgeWay::backdrop;
}

double crispestLevel(const Grid<std::uint8_t>& coverage) {
    // For each level: how many neighbours lie on both sides of it, and how far apart they are in all.
    std::array<double, 257> count{}, contrast{};
    const auto add = [&](int a, int b) {
        if (a > b)
            std::swap(a, b);
        if (b - a < 2)
            return;
        count[std::size_t(a)] += 1;
        count[std::size_t(b)] -= 1;
        contrast[std::size_t(a)] += b - a;
        contrast[std::size_t(b)] -= b - a;
    };
    for (int y = 0; y < coverage.height(); ++y)
        for (int x = 0; x < coverage.width(); ++x) {
            if (x > 0)
                add(coverage.at(x - 1, y), coverage.at(x, y));
            if (y > 0)
                add(coverage.at(x, y - 1), coverage.at(x, y));
        }
    std::array<double, 256> mean{};
    double best = 0, crossing = 0, apart = 0;
    for (std::size_t level = 0; level < 255; ++level) {
        crossing += count[level];
        apart += contrast[level];
        mean[level] = crossing > 0.5 ? apart / crossing : 0;
        if (level >= 12 && level < 243)
            best = std::max(best, mean[level]);
    }
    int chosen = 127;
    for (int away = 0; away <= 115; ++away)
        for (const int level : {127 + away, 127 - away})
            if (mean[std::size_t(level)] >= 0.92 * best) {
                chosen = level;
                away = 256;
                break;
            }
    return chosen == 127 ? 50 : std::round((chosen + 0.5) / 2.55);
}

double levelThatKeeps(const Grid<std::uint8_t>& coverage, double level) {
    constexpr int plain = 64;         // a quarter
    constexpr std::size_t fewest = 4; // pixels; fewer are specks
    // Rows, and how far across in them: 0.3 mm at 150 dots to an inch, as the line passes outside of a
    // pixel's middle. In pixels, so that the level stays as it is when the artwork's size changes.
    constexpr std::array<std::array<int, 2>, 5> reach{{{-2, 1}, {-1, 2}, {0, 2}, {1, 2}, {2, 1}}};
    const int crispest = int(std::floor(level * 2.55));
    std::array<std::size_t, 256> lost{}; // pixels, by the highest level that passes near them
    for (int y = 0; y < coverage.height(); ++y)
        for (int x = 0; x < coverage.width(); ++x) {
            const int here = coverage.at(x, y);
            if (here <= plain || here >= crispest)
                continue;
            int most = here;
            for (const auto& [down, across] : reach)
                if (const int row = y + down; row >= 0 && row < coverage.height())
                    for (int i = std::max(0, x - across); i <= std::min(coverage.width() - 1, x + across);
                         ++i)
                        most = std::max(most, int(coverage.at(i, row)));
            ++lost[std::size_t(most)];
        }
    std::size_t sum = 0;
    for (int most = plain + 1; most < crispest; ++most)
        if ((sum += lost[std::size_t(most)]) >= fewest)
            return std::max(25.0,
                            std::floor((most / 2.55 + 25) / 2)); // halfway: faint lines as wide as drawn
    return level;
}

Coverage findCoverage(const Picture& picture, EdgeWay way, double shadow, const std::stop_token& stop) {
    constexpr double hardEdgeScatter = 0.29; // of a step of one pixel, 1/sqrt(12)
    Coverage found;
    found.way = way == EdgeWay::automatic ? chooseWay(picture) : way;
    if (found.way == EdgeWay::backdrop) {
        BackdropCoverage apart = apartFromBackdrop(picture.pixels, shadow, stop);
        const auto cells = apart.cells.cells();
        const bool standsOut =
            std::any_of(cells.begin(), cells.end(), [](std::uint8_t c) { return c > 127; });
        if (standsOut || way == EdgeWay::backdrop) {
            found.cells = std::move(apart.cells);
            found.scatter = apart.scatter;
            return found;
        }
        found.way = EdgeWay::transparency; // all of one piece: the picture's own rim is its edge
    }
    found.cells = found.way == EdgeWay::brightness ? byBrightness(picture) : coverageOf(picture);
    found.level = crispestLevel(found.cells);
    if (found.way == EdgeWay::transparency)
        found.level = levelThatKeeps(found.cells, found.level);
    if (isHardEdged(found.cells))
        found.scatter = hardEdgeScatter;
    else
        found.scatter = std::max(scatterOfSteps(found.cells),
                                 found.way == EdgeWay::brightness ? 0.06 : 0.0); // paper is never quite even
    return found;
}

} // namespace hasami
