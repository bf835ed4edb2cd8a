#pragma once

#include "geometry/affine.h"
#include "nesting/problem.h"

#include <vector>

namespace hasami::nesting {

struct Circle {
    Point centre;
    double radius = 0;
};

/// What a part takes up, in a frame about its middle, half the gap wider than the part: two parts keep the
/// gap where these do not touch.
struct Shape {
    std::vector<Loop> exact; ///< outer ones and openings
    std::vector<Loop> loops; ///< the same with fewer points, never less than that
    std::vector<Circle> poles;
    double radius = 0; ///< of the circle about the middle that holds it all
    double area = 0;   ///< of `loops`
    double spread = 0; ///< root of the area of its hull's box: how large it is, about
    Loop hull;
};

/// A part ready to be laid. Parts of one outline share their shapes.
struct Item {
    std::size_t part = 0;
    Point middle;              ///< of the outline: the shape's frame begins there
    std::vector<Loop> net;     ///< the outline and its openings, in that frame
    std::vector<Shape> shapes; ///< as it is, and mirrored where it may be
    std::vector<double> turns; ///< radians that it may have
    bool turnsFreely = false;  ///< any; `turns` holds good ones to begin with
    double netArea = 0;        ///< of the outline less the openings
    std::size_t type = 0;      ///< the same for those of one outline
    int copies = 0;            ///< that are to be laid; the pinned ones not among them
};

/// The box around a shape that is turned so, where its frame's middle lies in the origin.
Box turnedBox(const Shape& shape, double turn);

/// Whether the part may be turned so, in radians.
bool mayTurn(const Item& item, double turn);

/// The tolerance that shapes are too small by, so that what just fits does: with it and with rounding, gaps
/// hold to 5 µm.
inline constexpr double slack = 0.0015;

/// Cleans, checks and measures the parts. Throws InputError, which names the part, where an outline can't be
/// used.
std::vector<Item> prepared(const Problem& problem);

/// The area that shapes may take up on a sheet; of a roll, as long as rolls may be.
Box room(const Problem& problem);

/// What no shape may touch: blocked areas and pinned parts of each sheet, as large as their gap asks.
/// Throws InputError where a pinned part lies outside of the medium, on another one or on a blocked area.
struct Obstacle {
    int sheet = 0;
    std::vector<Loop> loops;
    std::vector<Circle> poles = {};
};
std::vector<Obstacle> obstacles(const Problem& problem, const std::vector<Item>& items);

/// Turns and moves a shape's frame to the sheet.
Affine toSheet(const Pose& pose);

/// The pose of the part whose shape (mirrored or not) lies so, and back.
Pose poseOfPart(const Item& item, const Pose& ofShape);
Pose poseOfShape(const Item& item, const Pose& ofPart);

} // namespace hasami::nesting
