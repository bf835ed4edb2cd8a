#pragma once

#include "geometry/loop.h"

#include <cstddef>
#include <optional>
#include <string>
#include <vector>

namespace hasami::nesting {

/// Where a part lies: mirrored (x to −x) first where it is, then turned, then moved, in mm of the sheet.
struct Pose {
    double x = 0, y = 0;
    double rotation = 0; ///< radians, from the x axis towards the y axis
    bool isMirrored = false;

    friend bool operator==(const Pose&, const Pose&) = default;
};

/// A kind of part. Lengths in mm, in a frame of its own.
struct Part {
    std::string id;
    int copies = 1;
    std::optional<std::vector<double>> rotations = {}; ///< radians that it may have; none: any
    bool mayMirror = false;
    Loop outline; ///< in either direction
    std::vector<Loop> openings = {};
};

/// Across is y, from 0 to the width; along is x, from 0.
struct Media {
    double width = 0;
    std::optional<double> length = {}; ///< of each sheet; none: one roll without an end
};

/// No part may reach into it.
struct Blocked {
    int sheet = 0;
    Loop outline;
};

/// A copy that stays where it is.
struct Pinned {
    std::size_t part = 0;
    int sheet = 0;
    Pose pose;
};

struct Problem {
    Media media;
    double margin = 0; ///< least distance from the medium's edges; on a roll from its start and sides
    double gap = 0;    ///< least distance between any two parts, and to what is blocked
    std::vector<Part> parts;
    std::vector<Blocked> blocked = {};
    std::vector<Pinned> pinned = {};

    /// Where copies that are not pinned lie by now: a search may go on from there. Where they can't lie so,
    /// they are taken no notice of.
    std::vector<Pinned> begun = {};
};

struct Placement {
    std::size_t part = 0;
    int copy = 0;
    int sheet = 0;
    Pose pose;

    friend bool operator==(const Placement&, const Placement&) = default;
};

struct NotPlaced {
    std::size_t part = 0;
    int copies = 0;
    std::string reason;
};

/// A layout of all that could be placed.
struct Nest {
    double usedLength = 0; ///< of the last sheet: the largest x of any part, and the margin
    int sheets = 0;
    double density = 0; ///< area of the parts less their openings over that of the sheets used, 0 to 1
    std::vector<Placement> placements;
    std::vector<NotPlaced> notPlaced;
};

/// Bounds that inputs keep.
struct Limits {
    static constexpr double mostCoordinate = 100'000; ///< mm
    static constexpr double leastMedium = 1, mostMedium = 100'000;
    static constexpr double mostGap = 1000, mostMargin = 10'000;
    static constexpr int mostCopies = 20'000; ///< of all parts together
    static constexpr std::size_t mostParts = 20'000, mostPoints = 100'000, mostOpenings = 10'000,
                                 mostRotations = 3600;
    static constexpr int mostSheets = 10'000;
};

} // namespace hasami::nesting
