#pragma once

#include "nesting/shape/prepare.h"

#include <span>
#include <vector>

namespace hasami::nesting {

/// Where a copy's shape lies.
struct Spot {
    int sheet = 0;
    Pose pose; ///< of the shape

    friend bool operator==(const Spot&, const Spot&) = default;
};

/// A layout of copies as the search has it: the copies' items are given once, their spots change.
struct Spots {
    std::vector<Spot> at;
    int sheets = 1;
    double length = 0; ///< of the room on the last sheet
};

/// All that a search needs to know, and what it may not do.
struct Ground {
    const Problem& problem;
    const std::vector<Item>& items;
    const std::vector<Obstacle>& obstacles;
    Box room;

    bool isRoll() const { return !problem.media.length.has_value(); }
    double fullLength() const { return room.width(); }
};

/// A layout to begin with. Copies that found no place are listed; the others' items come in the order of
/// `spots.at`.
struct Start {
    std::vector<std::size_t> copies; ///< items by number
    Spots spots;
    std::vector<NotPlaced> notPlaced;
    bool isDense = false; ///< so that only small steps can make it shorter
};

/// How far a layout reaches, all sheets after each other; less is better.
double reachOf(const Ground& ground, const Spots& spots);

/// What a part of these takes across, on average.
double middlingSize(const Ground& ground, std::span<const std::size_t> copies);

/// Tells the start how many sheets it takes, and how far it reaches on the last one.
void closeOff(const Ground& ground, Start& start);

} // namespace hasami::nesting
