#pragma once

#include "artwork/artwork.h"

#include <optional>
#include <vector>

namespace hasami {

/// Changes of an item's place. Each gives the item as it is afterwards; lengths in mm of the design.

Item movedBy(Item item, Point by);

/// Clockwise on screen, about a point of the design. The turn is kept within (-180, 180].
Item turnedBy(Item item, double degrees, Point about);

/// As seen in a mirror that stands upright at x = `at`.
Item mirroredAt(Item item, double at);

/// Evenly, about a point of the design. REQUIRES: factor > 0.
Item scaledBy(Item item, double factor, Point about);

/// Stretched or squeezed about the middle of what is shown, until the box around that is as wide (or as high)
/// as wanted, along the side of the item that lies closest to that direction. Nothing if no stretch gives it.
std::optional<Item> stretchedToWidth(const Item& item, double width);
std::optional<Item> stretchedToHeight(const Item& item, double height);

/// With another part shown; nothing moves. The whole picture is no crop.
Item cropped(Item item, const PixelBox& part);

/// The part of a picture that lies in a box of the design, as seen before it is turned back: whole pixels
/// that the box covers by half, within the part shown. Nothing if there are less than 4 x 4.
std::optional<PixelBox> partIn(const Item& item, const Box& box);

/// Where an item is laid within a box.
enum class Alignment { left, middle, right, top, centre, bottom };

/// The move that brings one box to its place in another.
Point alignmentMove(const Box& box, const Box& within, Alignment alignment);

/// A line of a design that artwork is laid against: upright at x = `at`, or level at y = `at`.
struct Guide {
    bool isUpright = false;
    double at = 0;

    friend bool operator==(const Guide&, const Guide&) = default;
};

/// What is left of a move after it snapped, and where.
struct Snap {
    Point move;
    std::optional<double> x, y; ///< the lines that were met
};

/// A move of a box, bent by no more than `reach` so that its sides or its middle meet those of other boxes or
/// a guide.
Snap snapped(const Box& box, Point move, const std::vector<Box>& others, const std::vector<Guide>& guides,
             double reach);

} // namespace hasami
