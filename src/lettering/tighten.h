#pragma once

#include "geometry/loop.h"

#include <cstdint>
#include <optional>
#include <span>
#include <vector>

namespace hasami {

/// The sides of a letter that face its neighbours: its outline's edges by height.
class LetterSides {
public:
    LetterSides() = default;
    explicit LetterSides(std::span<const Loop> loops);

    const Box& box() const { return box_; }
    bool isEmpty() const { return edges_.empty(); }

    /// The farthest point to the right at a height, or to the left; nothing where there is no outline.
    std::optional<double> rightAt(double y) const;
    std::optional<double> leftAt(double y) const;
    const std::vector<double>& heights() const { return heights_; } ///< of its corners

private:
    struct Edge {
        Point top, bottom;
    };
    /// Edges that may cross a height.
    std::span<const std::uint32_t> at(double y) const;

    Box box_;
    std::vector<Edge> edges_;
    std::vector<double> heights_;
    std::vector<std::uint32_t> byBand_, begins_;
};

/// How far `right` has to move along x until it touches `left` from the right, both as they stand; negative:
/// to the left. Where they pass each other at all heights, until their boxes do. Exact for polygons: the
/// distance at one height is least at a corner of either. REQUIRES: neither is empty.
double moveUntilTouching(const LetterSides& left, const LetterSides& right);

} // namespace hasami
