#include "machine/test_cut.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace hasami {

namespace {

constexpr double ringRadius = 5, dropRadius = 2.2, tip = 4.4; // mm, the tip from the drop's middle
constexpr int sides = 48;

std::vector<Point> arc(Point centre, double radius, double from, double to) {
    std::vector<Point> path;
    for (int i = 0; i <= sides; ++i) {
        const double angle = std::lerp(from, to, double(i) / sides);
        path.push_back(centre + Point{std::cos(angle), std::sin(angle)} * radius);
    }
    return path;
}

/// A circle with the two lines that touch it from its tip.
std::vector<Point> dropAt(Point centre) {
    const double open = std::acos(dropRadius / tip);
    const Point point = centre + Point{tip, 0};
    std::vector<Point> path = arc(centre, dropRadius, open, 2 * std::numbers::pi - open);
    path.insert(path.begin(), point);
    path.push_back(point);
    return path;
}

} // namespace

TestCut testCutAt(Point centre, const Tool& tool) {
    TestCut cut;
    const double force = tool.force.value_or(TestCut::usualForce);
    for (int i = 0; i < TestCut::count; ++i) {
        const double share = 0.7 + 0.15 * i, off = (i - (TestCut::count - 1) / 2.0) * TestCut::pitch;
        const Point at = centre + Point{0, off};
        cut.drops.push_back({at,
                             std::round(force * share),
                             {dropAt(at - Point{1, 0}), arc(at, ringRadius, 0, 2 * std::numbers::pi)}});
    }
    return cut;
}

Box testCutBox(Point centre) {
    const Point half{ringRadius + 1, (TestCut::count - 1) / 2.0 * TestCut::pitch + ringRadius + 1};
    return {centre - half, centre + half};
}

std::optional<Point> placeForTestCut(const Sheet& sheet, const Box& usable, std::span<const Box> taken) {
    constexpr double step = 2; // mm
    const Box room = testCutBox({});
    std::vector<Box> all(taken.begin(), taken.end());
    for (const Mark& mark : sheet.marks)
        all.push_back(bounds(flatten(mark.quiet, flatteningTolerance)));
    for (const LeadMark& mark : sheet.lead)
        all.push_back(mark.box);
    const Box middles{usable.least - room.least,
                      Point{std::min(usable.most.x, sheet.length), usable.most.y} - room.most};
    const int rows = int(std::floor(middles.width() / step)),
              columns = int(std::floor(middles.height() / step));
    for (int i = 0; i <= rows; ++i)
        for (int j = 0; j <= columns; ++j) {
            const Point place{middles.most.x - i * step, middles.least.y + j * step};
            if (std::ranges::none_of(all, [&](const Box& box) { return box.meets(room.movedBy(place)); }))
                return place;
        }
    return {};
}

} // namespace hasami
