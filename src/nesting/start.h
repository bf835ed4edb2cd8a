#pragma once

#include "nesting/bed.h"

#include <functional>
#include <optional>
#include <span>
#include <stop_token>

namespace hasami::nesting {

/// All that a search needs to know, and what it may not do.
struct Ground {
    const Problem& problem;
    const std::vector<Item>& items;
    const std::vector<Obstacle>& obstacles;
    Box room;

    bool isRoll() const { return !problem.media.length.has_value(); }
    double fullLength() const { return room.width(); }
};

/// A layout to begin with. Copies that found no place are told; the others' items come in the order of
/// `spots.at`.
struct Start {
    std::vector<std::size_t> copies; ///< items by number
    Spots spots;
    std::vector<NotPlaced> notPlaced;
    bool isDense = false; ///< so that only small steps can make it shorter
};

/// How far a layout reaches, all sheets after each other; less is better.
double reachOf(const Ground& ground, const Spots& spots);

/// Boxes side by side across the medium, row after row, on as many sheets as needed: there at once, always
/// sound. Exact: what just fits, fits. Copies that fit no empty sheet are left out. O(copies).
Start rows(const Ground& ground);

/// Each copy as near to the start as it fits on a raster, the large ones first, each turned as is best; in
/// openings and bays too. Falls back on rows where the raster is too coarse. `cells`: along a middling part.
/// Gives up, with nothing, when `isOver`.
std::optional<Start> bottomLeft(const Ground& ground, const Start& rows, int cells, std::size_t mostTurns,
                                const std::function<bool()>& isOver);

/// Lays some of the start's copies in rows behind what reaches so far into the last sheet, and tells how far
/// all reaches.
void appendRows(const Ground& ground, Start& start, const std::vector<std::size_t>& copies, double reached);

/// Whether no exact shape touches another or what is blocked, and all lie in the room: told by themselves
/// alone, whatever a search believes.
bool isSound(const Ground& ground, std::span<const std::size_t> copies, const Spots& spots);

} // namespace hasami::nesting
