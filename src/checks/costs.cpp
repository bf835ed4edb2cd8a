#include "checks/costs.h"

#include <cmath>

namespace hasami {

namespace {

constexpr double secondsPerLift = 0.3; // up and down again

/// What one piece of a design adds, worked out once.
struct PieceCosts {
    double cutLength = 0, area = 0;
    std::size_t lines = 0;
};

PieceCosts costsOf(const Sticker& sticker) {
    PieceCosts costs;
    for (const CutLine& line : sticker.lines) {
        const Loop loop = flatten(line.curve, flatteningTolerance);
        costs.cutLength += perimeter(loop);
        costs.area += signedArea(loop);
        ++costs.lines;
    }
    return costs;
}

} // namespace

SheetCosts costsOf(const Job& job, const Made& made, std::size_t index) {
    const Sheet& sheet = made.layout.sheets.at(index);
    SheetCosts costs;
    costs.usedLength = sheet.usedLength;
    costs.area = sheet.usedLength * job.plan.medium.width;
    std::map<std::string, PieceCosts> each;
    double covered = 0;
    Point head;
    for (const Piece& piece : sheet.pieces) {
        const Sticker& sticker = *made.find(piece.design)->sticker;
        if (!each.contains(piece.design))
            each[piece.design] = costsOf(sticker);
        const PieceCosts& own = each[piece.design];
        ++costs.stickers[piece.design];
        costs.cutLength += own.cutLength;
        costs.knifeLifts += own.lines;
        covered += own.area;
        for (const CutLine& line : sticker.lines) {
            const Point start = piece.place(line.curve.start);
            costs.travel += distance(head, start);
            head = start;
        }
    }
    costs.density = costs.area > 0 ? covered / costs.area : 0;
    const double speed = job.profile.kiss.speed * 60; // mm a minute
    costs.minutes = (costs.cutLength + costs.travel) / speed + double(costs.knifeLifts) * secondsPerLift / 60;
    return costs;
}

} // namespace hasami
