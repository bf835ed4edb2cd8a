#pragma once

#include "base/error.h"
#include "edge/colour.h"

#include <cstdint>
#include <stop_token>

namespace hasami {

/// How deep each pixel lies within the subject, in thirds of a pixel: positive inside, negative outside; near
/// the boundary within some percent (chamfer distances of 3 and 4, after G. Borgefors, "Distance
/// transformations in digital images", 1986). Capped at `most` pixels.
/// REQUIRES: at most 42, three of which fit a byte.
Grid<std::int8_t> depths(const Grid<std::uint8_t>& isSubject, int most);

/// Tells each pixel's part near the boundary from the colours on both sides.
struct Band {
    int half;      ///< pixels to either side that are estimated; beyond, all or nothing
    int near, far; ///< from where to where, in pixels from the boundary, the sides' colours are taken
    int stride = 1;
};

class Matting {
public:
    Matting(const Grid<Rgba>& pixels, const Grid<std::uint8_t>& isSubject, const Band& band,
            const std::stop_token& stop)
        : pixels_(pixels), band_(band), depth_(depths(isSubject, band.far + 2)), stop_(stop) {}

    Grid<std::uint8_t> run() {
        Grid<std::uint8_t> coverage(pixels_.width(), pixels_.height());
        for (int y = 0; y < pixels_.height(); ++y) {
            if (y % 64 == 0)
                throwIfStopped(stop_);
            for (int x = 0; x < pixels_.width(); ++x) {
                const std::int8_t depth = depth_.at(x, y);
                coverage.at(x, y) = depth > 3 * band_.half    ? 255
                                    : depth < -3 * band_.half ? 0
                                                              : partAt(x, y, depth > 0);
            }
        }
        return coverage;
    }

    double meanContrast() const { return told_ > 0 ? contrast_ / double(told_) : 0; }

private:
    struct Sides {
        Colour backdrop, subject;
        int backdropCount = 0, subjectCount = 0;
    };

    Sides sidesAround(int x, int y, int reach) const {
        Sides sides;
        for (int dy = -reach; dy <= reach; dy += band_.stride)
            for (int dx = -reach; dx <= reach; dx += band_.stride) {
                const Pixel q{x + dx, y + dy};
                if (!holds(pixels_, q))
                    continue;
                const std::int8_t depth = depth_.at(q.x, q.y);
                const int away = std::abs(depth);
                if (away < 3 * band_.near || away > 3 * band_.far)
                    continue;
                const Colour c(pixels_.at(q.x, q.y));
                if (depth > 0) {
                    sides.subject = sides.subject + c;
                    ++sides.subjectCount;
                } else {
                    sides.backdrop = sides.backdrop + c;
                    ++sides.backdropCount;
                }
            }
        if (sides.subjectCount > 0)
            sides.subject = sides.subject * (1 / float(sides.subjectCount));
        if (sides.backdropCount > 0)
            sides.backdrop = sides.backdrop * (1 / float(sides.backdropCount));
        return sides;
    }

    /// In the midst of what is too thin to have an inside: the colour least like the backdrop.
    Colour farthestFrom(Colour backdrop, int x, int y) const {
        Colour farthest = backdrop;
        for (int dy = -2; dy <= 2; ++dy)
            for (int dx = -2; dx <= 2; ++dx)
                if (const Pixel q{x + dx, y + dy}; holds(pixels_, q)) {
                    const Colour c(pixels_.at(q.x, q.y));
                    if (apart(c, backdrop) > apart(farthest, backdrop))
                        farthest = c;
                }
        return farthest;
    }

    std::uint8_t partAt(int x, int y, bool isSubject) {
        constexpr float leastContrast = 10; // levels; less shows nothing
        Sides sides = sidesAround(x, y, band_.far);
        const std::uint8_t unknown = isSubject ? 255 : 0;
        if (sides.backdropCount == 0)
            return unknown;
        if (sides.subjectCount == 0)
            sides.subject = farthestFrom(sides.backdrop, x, y);
        const Colour way = sides.subject - sides.backdrop;
        const float square = dot(way, way);
        if (square < leastContrast * leastContrast)
            return unknown;
        contrast_ += std::sqrt(square);
        ++told_;
        const float part = dot(Colour(pixels_.at(x, y)) - sides.backdrop, way) / square;
        return static_cast<std::uint8_t>(std::lround(255 * std::clamp(part, 0.0F, 1.0F)));
    }

    const Grid<Rgba>& pixels_;
    Band band_;
    Grid<std::int8_t> depth_;
    std::stop_token stop_;
    double contrast_ = 0;
    std::size_t told_ = 0;
};

} // namespace hasami
