#include "sheet/nest_sheet.h"

#include "base/error.h"
#include "base/translation.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace hasami {

namespace {

constexpr double radiansInDegree = std::numbers::pi / 180;

std::optional<std::vector<double>> rotationsOf(const Turning& turning) {
    if (turning.kind == Turning::Kind::free)
        return {};
    std::vector<double> rotations{0};
    if (turning.kind == Turning::Kind::steps)
        for (int i = 1; i * turning.step < 360 - 1e-6; ++i)
            rotations.push_back(i * turning.step * radiansInDegree);
    return rotations;
}

Loop loopOf(const Box& b) {
    return {b.least, {b.most.x, b.least.y}, b.most, {b.least.x, b.most.y}};
}

std::size_t outerLoops(const Region& region) {
    return std::size_t(std::count_if(region.loops.begin(), region.loops.end(),
                                     [](const Loop& loop) { return signedArea(loop) > 0; }));
}

/// As one part: where a sticker comes off in several, what lies between them belongs to it.
Region inOnePart(Region region) {
    const Box box = bounds(region);
    const double farthest = 2 * (box.width() + box.height());
    for (double width = 1; outerLoops(region) > 1 && width < farthest; width *= 2)
        region = bridged(region, width);
    if (outerLoops(region) != 1)
        region.loops = {loopOf(box)};
    return region;
}

} // namespace

SheetNest::SheetNest(const std::vector<Copies>& copies, const Layout& present, const SheetPlan& plan,
                     const Profile& profile, const std::stop_token& stop)
    : isBegun_(plan.packing == Packing::nest && !plan.laid->empty()) {
    const Box area = workArea(plan, profile).grownBy(plan.box ? -plan.box->margin : 0);
    if (area.isEmpty() || present.sheets.empty()) {
        trouble_ = present.unplaced.empty()
                       ? translated("There is nothing to nest: no design has a cut line and copies")
                       : sentence("There is nothing to nest: %1", present.unplaced.front().reason);
        return;
    }
    for (const Copies& c : copies)
        if (!c.footprint.isEmpty() && (c.count > 0 || c.fills))
            copies_.push_back(c);
    origin_ = area.least;
    problem_.media.width = area.height();
    if (plan.medium.whole())
        problem_.media.length = area.width();
    problem_.gap = plan.gap;
    addParts(present, plan, stop);
    std::size_t pieces = 0;
    for (const nesting::Part& part : problem_.parts)
        pieces += std::size_t(part.copies);
    if (pieces > std::size_t(nesting::Limits::mostCopies)) {
        trouble_ = sentence("There are %1 stickers, and at most %2 can be nested", std::to_string(pieces),
                            std::to_string(nesting::Limits::mostCopies));
        return;
    }
    addKeptFree(plan, profile, int(present.sheets.size()) + 1);
    addPlaces(present);
}

void SheetNest::addParts(const Layout& present, const SheetPlan& plan, const std::stop_token& stop) {
    std::map<std::string_view, int> there;
    for (const Sheet& sheet : present.sheets)
        for (const Piece& piece : sheet.pieces)
            ++there[piece.design];
    double counted = 0, filling = 0; // areas, mm²
    for (const Copies& c : copies_) {
        throwIfStopped(stop);
        nesting::Part part;
        part.id = c.name.empty() ? c.design : c.name;
        part.rotations = rotationsOf(c.turning);
        const Region region = inOnePart(outlineOf(c, placeOf(c, {}, 0)));
        for (const Loop& loop : region.loops)
            if (signedArea(loop) > 0)
                part.outline = loop;
            else
                part.openings.push_back(loop);
        part.copies = there[c.design]; // what found no place in rows finds none here
        (c.fills ? filling : counted) += area(region) * part.copies;
        problem_.parts.push_back(std::move(part));
    }
    fills_ = filling > 0 && !plan.medium.isRoll();
    if (!fills_)
        return;
    // As many as would cover the sheet without a gap, in the shares that they have in rows.
    const double all = problem_.media.width * *problem_.media.length;
    const double share = std::max(1.0, (all - counted) / filling);
    constexpr double mostTried = 3000;
    for (std::size_t i = 0; i < copies_.size(); ++i)
        if (int& copies = problem_.parts[i].copies; copies_[i].fills)
            copies = std::max(copies, int(std::min(mostTried, std::ceil(copies * share))));
}

void SheetNest::addKeptFree(const SheetPlan& plan, const Profile& profile, int sheets) {
    for (int sheet = 0; sheet < (plan.medium.whole() ? sheets : 1); ++sheet)
        for (const Box& box : keptFree(plan, profile, sheet))
            problem_.blocked.push_back({sheet, loopOf(box.movedBy(Point{} - origin_))});
}

nesting::Pose SheetNest::poseOf(const LaidPiece& piece) const {
    return {piece.centre.x - origin_.x, piece.centre.y - origin_.y, piece.turn * radiansInDegree, false};
}

void SheetNest::addPlaces(const Layout& present) {
    for (const LaidPiece& piece : laidOf(present, copies_)) {
        const auto of = std::find_if(copies_.begin(), copies_.end(),
                                     [&](const Copies& c) { return c.design == piece.design; });
        const auto number = std::size_t(of - copies_.begin());
        if (piece.isPinned) {
            problem_.pinned.push_back({number, piece.sheet, poseOf(piece)});
            pinnedCopies_.push_back(piece.copy);
        } else if (isBegun_)
            problem_.begun.push_back({number, piece.sheet, poseOf(piece)});
    }
}

std::vector<LaidPiece> SheetNest::laid(const nesting::Nest& nest) const {
    const auto pinnedCopy = [&](const nesting::Placement& placement) { // 0: it is not pinned
        for (std::size_t i = 0; i < problem_.pinned.size(); ++i)
            if (const nesting::Pinned& p = problem_.pinned[i];
                p.part == placement.part && p.sheet == placement.sheet && p.pose == placement.pose)
                return pinnedCopies_[i];
        return 0;
    };
    std::map<int, int> held;
    for (const nesting::Placement& placement : nest.placements)
        ++held[placement.sheet];
    const auto fullest = std::max_element(held.begin(), held.end(),
                                          [](const auto& a, const auto& b) { return a.second < b.second; });
    std::vector<LaidPiece> laid;
    for (const nesting::Placement& placement : nest.placements) {
        const bool isFilling = copies_[placement.part].fills && fills_;
        if (isFilling && placement.sheet != fullest->first)
            continue;
        const nesting::Pose& pose = placement.pose;
        const int copy = pinnedCopy(placement);
        laid.push_back({copies_[placement.part].design, placement.sheet, Point{pose.x, pose.y} + origin_,
                        std::remainder(pose.rotation / radiansInDegree, 360), copy > 0, copy});
    }
    numberCopies(laid);
    return laid;
}

} // namespace hasami
