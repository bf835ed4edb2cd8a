#include "checks/costs.h"

#include <cmath>

namespace hasami {

namespace {

constexpr double secondsPerLift = 0.3; // up and down again

/// What one piece of a design adds, worked out once.
struct PieceCosts {
    std::map<LineKind, double> cutLength;
    double area = 0;
    std::size_t lines = 0;
};

PieceCosts costsOf(const Sticker& sticker, const Profile& profile) {
    PieceCosts costs;
    for (const CutLine& line : sticker.lines) {
        const LineKind kind = line.kind;
        costs.cutLength[kind] += cutLength(line) * profile.style(kind).passes;
        costs.lines += line.cut().size() * std::size_t(profile.style(kind).passes);
    }
    for (const CutLine& line : sticker.peeled())
        costs.area += signedArea(flatten(line.curve, flatteningTolerance));
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
            each[piece.design] = costsOf(sticker, job.profile);
        const PieceCosts& own = each[piece.design];
        ++costs.stickers[piece.design];
        for (const auto& [kind, length] : own.cutLength)
            costs.cutLength[kind] += length;
        costs.knifeLifts += own.lines;
        covered += own.area;
        for (const CutLine& line : sticker.lines) {
            const Point start = piece.place(line.curve.start);
            costs.travel += distance(head, start);
            head = start;
        }
    }
    costs.density = costs.area > 0 ? covered / costs.area : 0;
    double seconds = costs.travel / job.profile.style(LineKind::kiss).speed;
    for (const auto& [kind, length] : costs.cutLength)
        seconds += length / job.profile.style(kind).speed;
    costs.minutes = (seconds + double(costs.knifeLifts) * secondsPerLift) / 60;
    return costs;
}

} // namespace hasami
