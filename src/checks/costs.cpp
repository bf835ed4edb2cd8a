#include "checks/costs.h"

#include <cmath>

namespace hasami {

namespace {

/// What one piece of a design adds, worked out once, or the sheet by itself.
struct PieceCosts {
    std::map<LineKind, double> cutLength;
    double area = 0;
    std::size_t lines = 0;
};

PieceCosts costsOf(const std::vector<CutLine>& lines, const Profile& profile) {
    PieceCosts costs;
    for (const CutLine& line : lines) {
        const LineKind kind = line.kind;
        costs.cutLength[kind] += cutLength(line) * profile.style(kind).passes;
        costs.lines += line.cut().size() * std::size_t(profile.style(kind).passes);
    }
    return costs;
}

PieceCosts costsOf(const Sticker& sticker, const Profile& profile) {
    PieceCosts costs = costsOf(sticker.lines, profile);
    for (const CutLine& line : sticker.peeled())
        costs.area += signedArea(flatten(line.curve, flatteningTolerance));
    return costs;
}

} // namespace

SheetCosts costsOf(const Job& job, const Made& made, std::size_t index, const std::vector<RouteLine>& route) {
    const Sheet& sheet = made.layout.sheets.at(index);
    SheetCosts costs;
    costs.usedLength = sheet.usedLength;
    costs.area = sheet.usedLength * job.plan.medium.width;
    std::map<std::string, PieceCosts> each;
    double covered = 0;
    const auto add = [&](const PieceCosts& own) {
        for (const auto& [kind, length] : own.cutLength)
            costs.cutLength[kind] += length;
        costs.knifeLifts += own.lines;
        covered += own.area;
    };
    add(costsOf(sheet.lines, job.profile));
    for (const Piece& piece : sheet.pieces) {
        const Sticker& sticker = *made.find(piece.design)->sticker;
        if (!each.contains(piece.design))
            each[piece.design] = costsOf(sticker, job.profile);
        ++costs.stickers[piece.design];
        add(each[piece.design]);
    }
    costs.travel = travelOf(route);
    costs.density = costs.area > 0 ? covered / costs.area : 0;
    double seconds = costs.travel / job.profile.style(LineKind::kiss).speed;
    for (const auto& [kind, length] : costs.cutLength)
        seconds += length / job.profile.style(kind).speed;
    costs.minutes = (seconds + double(costs.knifeLifts) * secondsPerLift) / 60;
    return costs;
}

} // namespace hasami
