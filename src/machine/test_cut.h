#pragma once

#include "profile/profile.h"
#include "sheet/sheet.h"

#include <optional>
#include <span>
#include <vector>

namespace hasami {

/// A drop inside a ring, cut with one force: peeled, it shows whether the knife got through.
struct TestDrop {
    Point centre;                          ///< mm of the sheet
    double force = 0;                      ///< g
    std::vector<std::vector<Point>> paths; ///< the drop, then the ring, mm of the sheet
};

/// A row of drops with rising forces, to choose the right one.
struct TestCut {
    static constexpr int count = 5;
    static constexpr double pitch = 12;       ///< mm, from drop to drop across the feed
    static constexpr double usualForce = 100; ///< g, where the profile leaves it to the machine

    std::vector<TestDrop> drops;
};

/// From seven tenths of the kiss cut's force to thirteen, around a place: the row's middle.
TestCut testCutAt(Point centre, const Tool& tool);

/// The room that a row takes around its middle.
Box testCutBox(Point centre);

/// A place for a row where nothing is printed, cut or kept free, as far back on the sheet as there is one.
/// `usable`: what the machine reaches, `taken`: what else keeps it off. mm of the sheet. O(area · boxes).
std::optional<Point> placeForTestCut(const Sheet& sheet, const Box& usable, std::span<const Box> taken);

} // namespace hasami
