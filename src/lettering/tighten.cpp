#include "lettering/tighten.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace hasami {

namespace {

constexpr int bands = 64; // a letter's height is divided into, so that few edges are looked at

int bandOf(const Box& box, double y) {
    const double high = box.height();
    return high > 0 ? std::clamp(int((y - box.least.y) / high * bands), 0, bands - 1) : 0;
}

} // namespace

LetterSides::LetterSides(std::span<const Loop> loops) {
    for (const Loop& loop : loops) {
        box_.add(bounds(loop));
        for (std::size_t i = 0; i < loop.size(); ++i) {
            Point a = loop[i], b = loop[(i + 1) % loop.size()];
            heights_.push_back(a.y);
            if (b.y < a.y)
                std::swap(a, b);
            edges_.push_back({a, b});
        }
    }
    std::sort(heights_.begin(), heights_.end());
    heights_.erase(std::unique(heights_.begin(), heights_.end()), heights_.end());
    std::vector<std::vector<std::uint32_t>> inBand(bands);
    for (std::uint32_t i = 0; i < edges_.size(); ++i)
        for (int band = bandOf(box_, edges_[i].top.y); band <= bandOf(box_, edges_[i].bottom.y); ++band)
            inBand[std::size_t(band)].push_back(i);
    begins_.push_back(0);
    for (const auto& band : inBand) {
        byBand_.insert(byBand_.end(), band.begin(), band.end());
        begins_.push_back(std::uint32_t(byBand_.size()));
    }
}

std::span<const std::uint32_t> LetterSides::at(double y) const {
    if (y < box_.least.y || y > box_.most.y)
        return {};
    const auto band = std::size_t(bandOf(box_, y));
    return std::span(byBand_).subspan(begins_[band], begins_[band + 1] - begins_[band]);
}

std::optional<double> LetterSides::rightAt(double y) const {
    std::optional<double> farthest;
    for (const std::uint32_t i : at(y)) {
        const auto& [top, bottom] = edges_[i];
        if (y < top.y || y > bottom.y)
            continue;
        const double x = top.y == bottom.y ? std::max(top.x, bottom.x)
                                           : top.x + (bottom.x - top.x) * (y - top.y) / (bottom.y - top.y);
        farthest = std::max(farthest.value_or(x), x);
    }
    return farthest;
}

std::optional<double> LetterSides::leftAt(double y) const {
    std::optional<double> farthest;
    for (const std::uint32_t i : at(y)) {
        const auto& [top, bottom] = edges_[i];
        if (y < top.y || y > bottom.y)
            continue;
        const double x = top.y == bottom.y ? std::min(top.x, bottom.x)
                                           : top.x + (bottom.x - top.x) * (y - top.y) / (bottom.y - top.y);
        farthest = std::min(farthest.value_or(x), x);
    }
    return farthest;
}

double moveUntilTouching(const LetterSides& left, const LetterSides& right) {
    double closest = std::numeric_limits<double>::infinity();
    for (const LetterSides* side : {&left, &right})
        for (const double y : side->heights())
            if (const auto from = left.rightAt(y), to = right.leftAt(y); from && to)
                closest = std::min(closest, *to - *from);
    return -(std::isfinite(closest) ? closest : right.box().least.x - left.box().most.x);
}

} // namespace hasami
