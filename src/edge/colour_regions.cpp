#include "edge/colour_regions.h"

#include "base/error.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numeric>

namespace hasami {

namespace {

constexpr int evenChange = 20;        // levels between neighbours on an even area
constexpr double plainlyApart = 0.13; // in Oklab: two colours that anyone would name differently
constexpr double leastShare = 0.002;  // of the picture, for a colour of its own
constexpr double seenApart = 0.07;    // in Oklab: for a colour that no others lead to
constexpr double seenShare = 0.005;
constexpr int halfCovered = 128;
constexpr std::uint8_t unknown = 255;

/// A colour in Oklab (B. Ottosson, "A perceptual color space for image processing", 2020), where distances
/// are alike to the eye.
struct Seen {
    double l = 0, a = 0, b = 0;
};

double squaredDistance(const Seen& p, const Seen& q) {
    return (p.l - q.l) * (p.l - q.l) + (p.a - q.a) * (p.a - q.a) + (p.b - q.b) * (p.b - q.b);
}

Seen seenOf(double red, double green, double blue) {
    const auto linear = [](double c) {
        c /= 255;
        return c <= 0.04045 ? c / 12.92 : std::pow((c + 0.055) / 1.055, 2.4);
    };
    const double r = linear(red), g = linear(green), b = linear(blue);
    const double l = std::cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
    const double m = std::cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
    const double s = std::cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
    return {0.2104542553 * l + 0.7936177850 * m - 0.0040720468 * s,
            1.9779984951 * l - 2.4285922050 * m + 0.4505937099 * s,
            0.0259040371 * l + 0.7827717662 * m - 0.8086757660 * s};
}

/// Pixels of nearly one colour: a cell of the colour cube.
struct Bin {
    double weight = 0;
    std::array<double, 3> sum{};
    Seen seen;

    Rgba mean() const {
        const auto part = [&](std::size_t i) {
            return static_cast<std::uint8_t>(std::lround(sum[i] / weight));
        };
        return {part(0), part(1), part(2), 255};
    }
};

constexpr std::size_t cells = 1 << 15;

std::size_t cellOf(Rgba p) {
    return std::size_t(p.red >> 3) << 10 | std::size_t(p.green >> 3) << 5 | std::size_t(p.blue >> 3);
}

bool isEven(const Grid<Rgba>& pixels, int x, int y) {
    const Rgba p = pixels.at(x, y);
    const auto alike = [&](int nx, int ny) {
        if (nx < 0 || ny < 0 || nx >= pixels.width() || ny >= pixels.height())
            return true;
        const Rgba q = pixels.at(nx, ny);
        return q.coverage >= halfCovered && std::abs(p.red - q.red) <= evenChange &&
               std::abs(p.green - q.green) <= evenChange && std::abs(p.blue - q.blue) <= evenChange;
    };
    return alike(x - 1, y) && alike(x + 1, y) && alike(x, y - 1) && alike(x, y + 1);
}

std::vector<Bin> binsOf(const Grid<Rgba>& pixels, bool evenOnly) {
    std::vector<Bin> all(cells);
    for (int y = 0; y < pixels.height(); ++y)
        for (int x = 0; x < pixels.width(); ++x) {
            const Rgba p = pixels.at(x, y);
            if (p.coverage < halfCovered || (evenOnly && !isEven(pixels, x, y)))
                continue;
            Bin& bin = all[cellOf(p)];
            ++bin.weight;
            bin.sum[0] += p.red;
            bin.sum[1] += p.green;
            bin.sum[2] += p.blue;
        }
    std::erase_if(all, [](const Bin& bin) { return bin.weight == 0; });
    constexpr std::size_t most = 2048; // the rest weighs next to nothing
    std::sort(all.begin(), all.end(), [](const Bin& a, const Bin& b) { return a.weight > b.weight; });
    all.resize(std::min(all.size(), most));
    for (Bin& bin : all)
        bin.seen = seenOf(bin.sum[0] / bin.weight, bin.sum[1] / bin.weight, bin.sum[2] / bin.weight);
    return all;
}

std::size_t nearest(const std::vector<Seen>& colours, const Seen& to) {
    std::size_t best = 0;
    for (std::size_t i = 1; i < colours.size(); ++i)
        if (squaredDistance(colours[i], to) < squaredDistance(colours[best], to))
            best = i;
    return best;
}

/// The means of the bins around each colour, some rounds of them (S. Lloyd, 1982).
void settle(std::vector<Seen>& colours, const std::vector<Bin>& bins) {
    for (int round = 0; round < 12; ++round) {
        std::vector<Seen> sums(colours.size());
        std::vector<double> weights(colours.size());
        for (const Bin& bin : bins) {
            const std::size_t i = nearest(colours, bin.seen);
            weights[i] += bin.weight;
            sums[i].l += bin.weight * bin.seen.l;
            sums[i].a += bin.weight * bin.seen.a;
            sums[i].b += bin.weight * bin.seen.b;
        }
        for (std::size_t i = 0; i < colours.size(); ++i)
            if (weights[i] > 0)
                colours[i] = {sums[i].l / weights[i], sums[i].a / weights[i], sums[i].b / weights[i]};
    }
}

/// Whether next to nothing lies between two colours: a cheek on a face, not a shade of it.
bool isSeparate(const std::vector<Bin>& bins, const Seen& one, const Seen& other, double weight) {
    constexpr double most = 0.1; // of the weight
    const double reach = 0.15 * 0.15 * squaredDistance(one, other);
    for (const double t : {0.35, 0.5, 0.65}) {
        const Seen middle{one.l + (other.l - one.l) * t, one.a + (other.a - one.a) * t,
                          one.b + (other.b - one.b) * t};
        double between = 0;
        for (const Bin& bin : bins)
            if (squaredDistance(bin.seen, middle) <= reach)
                between += bin.weight;
        if (between > most * weight)
            return false;
    }
    return true;
}

/// Colours one after the other, each where the most pixels are the farthest from those chosen.
std::vector<Seen> chooseColours(const std::vector<Bin>& bins, int count) {
    if (bins.empty())
        return {};
    const double all = std::accumulate(bins.begin(), bins.end(), 0.0,
                                       [](double sum, const Bin& bin) { return sum + bin.weight; });
    std::vector<double> near; // how much lies close around each
    near.reserve(bins.size());
    for (const Bin& bin : bins)
        near.push_back(std::accumulate(bins.begin(), bins.end(), 0.0, [&](double sum, const Bin& other) {
            constexpr double close = plainlyApart * plainlyApart / 9;
            return squaredDistance(other.seen, bin.seen) < close ? sum + other.weight : sum;
        }));
    std::vector<Seen> colours{bins.front().seen}; // the heaviest
    const std::size_t most = count > 0 ? std::size_t(count) : std::size_t{12};
    while (colours.size() < most) {
        const Bin* best = nullptr;
        double bestGain = 0;
        for (std::size_t i = 0; i < bins.size(); ++i) {
            const Seen& next = colours[nearest(colours, bins[i].seen)];
            const double apart = squaredDistance(next, bins[i].seen), gain = near[i] * apart;
            if (gain <= bestGain)
                continue;
            const bool isPlain = apart >= plainlyApart * plainlyApart && near[i] >= leastShare * all;
            if (count > 0 || isPlain ||
                (apart >= seenApart * seenApart && near[i] >= seenShare * all &&
                 isSeparate(bins, next, bins[i].seen, near[i]))) {
                bestGain = gain;
                best = &bins[i];
            }
        }
        if (!best)
            break;
        colours.push_back(best->seen);
        settle(colours, bins);
    }
    return colours;
}

/// Labels even areas by the nearest colour, and lets them grow over the pixels between, a ring at a time:
/// each pixel takes of the labels it touches the one whose colour is nearest to its own.
class Labelling {
public:
    Labelling(const Grid<Rgba>& pixels, const std::vector<Seen>& colours, const std::stop_token& stop)
        : pixels_(pixels), colours_(colours), stop_(stop), labels_(pixels.width(), pixels.height()) {}

    Grid<std::uint8_t> make(bool evenOnly) {
        std::vector<std::uint8_t> labelOf(cells, unknown);
        std::vector<int> open;
        for (int y = 0; y < pixels_.height(); ++y) {
            throwIfStopped(stop_);
            for (int x = 0; x < pixels_.width(); ++x) {
                const Rgba p = pixels_.at(x, y);
                std::uint8_t& label = labels_.at(x, y);
                if (p.coverage < halfCovered) {
                    label = 0;
                } else if (evenOnly && !isEven(pixels_, x, y)) {
                    label = unknown;
                    open.push_back(y * pixels_.width() + x);
                } else {
                    std::uint8_t& known = labelOf[cellOf(p)];
                    if (known == unknown)
                        known =
                            static_cast<std::uint8_t>(1 + nearest(colours_, seenOf(p.red, p.green, p.blue)));
                    label = known;
                }
            }
        }
        grow(std::move(open));
        for (int round = 0; round < 8; ++round)
            evenOut();
        return std::move(labels_);
    }

private:
    void grow(std::vector<int> open) {
        while (!open.empty()) {
            throwIfStopped(stop_);
            std::vector<std::pair<int, std::uint8_t>> taken;
            std::vector<int> left;
            for (const int at : open) {
                if (const std::uint8_t label = bestTouching(at % pixels_.width(), at / pixels_.width());
                    label != unknown)
                    taken.emplace_back(at, label);
                else
                    left.push_back(at);
            }
            if (taken.empty()) { // no even area to grow from
                for (const int at : left) {
                    const Rgba p = pixels_.cells()[std::size_t(at)];
                    labels_.cells()[std::size_t(at)] =
                        static_cast<std::uint8_t>(1 + nearest(colours_, seenOf(p.red, p.green, p.blue)));
                }
                return;
            }
            for (const auto& [at, label] : taken)
                labels_.cells()[std::size_t(at)] = label;
            open = std::move(left);
        }
    }

    /// In a gradient, where one colour passes into the next is a matter of noise. There a pixel takes the
    /// label that most have around it, if its own colour lies between both; at a true edge no pixel does.
    void evenOut() {
        throwIfStopped(stop_);
        std::vector<std::pair<int, std::uint8_t>> changes;
        for (int y = 1; y + 1 < labels_.height(); ++y)
            for (int x = 1; x + 1 < labels_.width(); ++x) {
                const std::uint8_t own = labels_.at(x, y);
                const bool isAtBorder = labels_.at(x - 1, y) != own || labels_.at(x + 1, y) != own ||
                                        labels_.at(x, y - 1) != own || labels_.at(x, y + 1) != own;
                if (!isAtBorder || own == 0 || !isEven(pixels_, x, y))
                    continue;
                const std::uint8_t most = mostAround(x, y);
                if (most != own && most != 0 && liesBetween(pixels_.at(x, y), own, most))
                    changes.emplace_back(y * labels_.width() + x, most);
            }
        for (const auto& [at, label] : changes)
            labels_.cells()[std::size_t(at)] = label;
    }

    std::uint8_t mostAround(int x, int y) const {
        constexpr int reach = 4;
        std::array<int, 256> counts{};
        for (int ny = std::max(0, y - reach); ny <= std::min(labels_.height() - 1, y + reach); ++ny)
            for (int nx = std::max(0, x - reach); nx <= std::min(labels_.width() - 1, x + reach); ++nx)
                ++counts[labels_.at(nx, ny)];
        return static_cast<std::uint8_t>(std::max_element(counts.begin(), counts.end()) - counts.begin());
    }

    bool liesBetween(Rgba p, std::uint8_t own, std::uint8_t other) const {
        constexpr double least = 0.15; // of the way from its own label's colour to the other's
        const Seen seen = seenOf(p.red, p.green, p.blue);
        const Seen &from = colours_[own - 1u], &to = colours_[other - 1u];
        const double along = (seen.l - from.l) * (to.l - from.l) + (seen.a - from.a) * (to.a - from.a) +
                             (seen.b - from.b) * (to.b - from.b);
        return along > least * squaredDistance(from, to);
    }

    std::uint8_t bestTouching(int x, int y) const {
        const Rgba p = pixels_.at(x, y);
        const Seen own = seenOf(p.red, p.green, p.blue);
        std::uint8_t best = unknown;
        double least = std::numeric_limits<double>::infinity();
        for (int ny = std::max(0, y - 1); ny <= std::min(pixels_.height() - 1, y + 1); ++ny)
            for (int nx = std::max(0, x - 1); nx <= std::min(pixels_.width() - 1, x + 1); ++nx) {
                const std::uint8_t label = labels_.at(nx, ny);
                if (label == unknown || label == 0 || label == best)
                    continue;
                if (const double d = squaredDistance(colours_[label - 1u], own); d < least) {
                    least = d;
                    best = label;
                }
            }
        return best;
    }

    const Grid<Rgba>& pixels_;
    const std::vector<Seen>& colours_;
    const std::stop_token& stop_;
    Grid<std::uint8_t> labels_;
};

/// The label that most of the rim has, if it has more than half.
std::uint8_t rimLabel(const Grid<std::uint8_t>& labels) {
    std::array<std::size_t, 256> counts{};
    std::size_t all = 0;
    const auto add = [&](int x, int y) {
        ++counts[labels.at(x, y)];
        ++all;
    };
    for (int x = 0; x < labels.width(); ++x) {
        add(x, 0);
        add(x, labels.height() - 1);
    }
    for (int y = 0; y < labels.height(); ++y) {
        add(0, y);
        add(labels.width() - 1, y);
    }
    const auto most = std::max_element(counts.begin(), counts.end());
    return *most * 2 > all ? static_cast<std::uint8_t>(most - counts.begin()) : std::uint8_t{0};
}

/// All of a label that hangs together with the rim becomes nothing.
void clearFromRim(Grid<std::uint8_t>& labels, std::uint8_t label) {
    std::vector<std::pair<int, int>> open;
    const auto visit = [&](int x, int y) {
        if (x >= 0 && y >= 0 && x < labels.width() && y < labels.height() && labels.at(x, y) == label) {
            labels.at(x, y) = 0;
            open.emplace_back(x, y);
        }
    };
    for (int x = 0; x < labels.width(); ++x) {
        visit(x, 0);
        visit(x, labels.height() - 1);
    }
    for (int y = 0; y < labels.height(); ++y) {
        visit(0, y);
        visit(labels.width() - 1, y);
    }
    while (!open.empty()) {
        const auto [x, y] = open.back();
        open.pop_back();
        visit(x - 1, y);
        visit(x + 1, y);
        visit(x, y - 1);
        visit(x, y + 1);
    }
}

std::vector<Rgba> meansOf(const Grid<Rgba>& pixels, const Grid<std::uint8_t>& labels, std::size_t colours) {
    std::vector<Bin> sums(colours + 1);
    for (int y = 0; y < pixels.height(); ++y)
        for (int x = 0; x < pixels.width(); ++x) {
            if (!isEven(pixels, x, y))
                continue;
            Bin& bin = sums[labels.at(x, y)];
            const Rgba p = pixels.at(x, y);
            ++bin.weight;
            bin.sum[0] += p.red;
            bin.sum[1] += p.green;
            bin.sum[2] += p.blue;
        }
    std::vector<Rgba> means(sums.size());
    for (std::size_t i = 0; i < sums.size(); ++i)
        if (sums[i].weight > 0)
            means[i] = sums[i].mean();
    return means;
}

} // namespace

ColourRegions findColours(const Picture& picture, int count, const std::stop_token& stop) {
    const Grid<Rgba>& pixels = picture.pixels;
    bool evenOnly = true;
    std::vector<Bin> bins = binsOf(pixels, true);
    if (bins.empty()) {
        evenOnly = false;
        bins = binsOf(pixels, false);
    }
    const std::vector<Seen> colours = chooseColours(bins, count);
    throwIfStopped(stop);
    ColourRegions regions{Labelling(pixels, colours, stop).make(evenOnly), {}};
    const auto all = pixels.cells();
    const bool hasHoles =
        std::any_of(all.begin(), all.end(), [](Rgba p) { return p.coverage < halfCovered; });
    std::uint8_t backdrop = 0;
    if (!hasHoles && colours.size() > 1)
        backdrop = rimLabel(regions.labels);
    regions.colours = meansOf(pixels, regions.labels, colours.size());
    regions.colours.front() = backdrop > 0 ? regions.colours[backdrop] : Rgba{};
    if (backdrop > 0)
        clearFromRim(regions.labels, backdrop);
    return regions;
}

void mergeSpecks(Grid<std::uint8_t>& labels, double leastPixels, const std::stop_token& stop) {
    if (leastPixels <= 1)
        return;
    const int width = labels.width(), height = labels.height();
    constexpr int rounds = 3; // specks in specks
    for (int round = 0; round < rounds; ++round) {
        throwIfStopped(stop);
        // Areas of one label, by a flood of each that is not seen yet; those too small go to a neighbour.
        std::vector<bool> seen(labels.cells().size(), false);
        bool merged = false;
        std::vector<int> area, open;
        for (int start = 0; start < width * height; ++start) {
            if (seen[std::size_t(start)])
                continue;
            const std::uint8_t label = labels.cells()[std::size_t(start)];
            area.clear();
            open.assign(1, start);
            seen[std::size_t(start)] = true;
            std::array<std::size_t, 256> borders{};
            while (!open.empty()) {
                const int at = open.back();
                open.pop_back();
                if (double(area.size()) < leastPixels)
                    area.push_back(at);
                const int x = at % width, y = at / width;
                const auto visit = [&](int nx, int ny) {
                    if (nx < 0 || ny < 0 || nx >= width || ny >= height) {
                        ++borders[0];
                        return;
                    }
                    const auto next = std::size_t(ny) * std::size_t(width) + std::size_t(nx);
                    if (labels.cells()[next] != label) {
                        ++borders[labels.cells()[next]];
                    } else if (!seen[next]) {
                        seen[next] = true;
                        open.push_back(int(next));
                    }
                };
                visit(x - 1, y);
                visit(x + 1, y);
                visit(x, y - 1);
                visit(x, y + 1);
            }
            if (double(area.size()) >= leastPixels)
                continue;
            const auto most = std::max_element(borders.begin(), borders.end());
            for (const int at : area)
                labels.cells()[std::size_t(at)] = static_cast<std::uint8_t>(most - borders.begin());
            merged = true;
        }
        if (!merged)
            return;
    }
}

} // namespace hasami
