#include "checks/drift.h"

#include "base/error.h"
#include "geometry/region_operations.h"
#include "sticker/printed_area.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace hasami {

namespace {

/// Outlines are fitted and flattened: within this of each other, rims are the same.
constexpr double hair = 0.02; // mm

/// What is printed comes this close to a line that it reaches, apart from bleed, which ends beside it too.
constexpr double reaching = 0.06; // mm

/// Artwork with less of a margin lies at the line.
constexpr double leastMargin = 0.05; // mm

constexpr double betweenPlaces = 0.05; // mm, of the places that are looked at
constexpr std::size_t mostPlaces = 20'000;

/// Evenly spaced places; corners are missed by half of that at most.
std::vector<Point> alongRims(const Region& region) {
    double around = 0;
    for (const Loop& loop : region.loops)
        around += perimeter(loop);
    const double step = std::max(betweenPlaces, around / double(mostPlaces));
    std::vector<Point> places;
    for (const Loop& loop : region.loops) {
        double next = 0; // along the side, to the next place
        for (std::size_t i = 0; i < loop.size(); ++i) {
            const Point from = loop[i], to = loop[(i + 1) % loop.size()];
            const double side = distance(from, to);
            while (next < side) {
                places.push_back(between(from, to, next / side));
                next += step;
            }
            next -= side;
        }
    }
    return places;
}

/// The parts of the line that have no ink under them, as loops without an area.
Region bareStretches(const Region& cut, const RimGrid& printed) {
    Region bare;
    for (const Loop& loop : cut.loops) {
        const std::vector<Point> places = alongRims({{loop}});
        for (std::size_t i = 0; i < places.size(); ++i) {
            const Point from = places[i], to = places[(i + 1) % places.size()];
            if (!printed.holds(from) && !printed.holds(to))
                bare.loops.push_back({from, to});
        }
    }
    return bare;
}

/// Loops of the artwork that lie inside the cut line as a whole, with a margin.
Region insideOf(const Region& artwork, const RimGrid& cut) {
    Region inside;
    for (const Loop& loop : artwork.loops)
        if (!loop.empty() && cut.holds(loop.front()) &&
            std::ranges::all_of(alongRims({{loop}}),
                                [&](Point p) { return cut.clearance(p, 1) > leastMargin; }))
            inside.loops.push_back(loop);
    return inside;
}

Point mapped(const Affine& by, Point vector) {
    return {by.a * vector.x + by.c * vector.y, by.b * vector.x + by.d * vector.y};
}

} // namespace

Affine CutDrift::about(Point centre) const {
    return Affine::translation(centre + shift) * Affine::rotation(turn * std::numbers::pi / 180) *
           Affine::scaling(1 + stretchAlong, 1 + stretchAcross) * Affine::translation(centre * -1);
}

Point SafeDrift::direction(std::size_t number) {
    const double angle = 2 * std::numbers::pi * double(number) / double(directions);
    return {std::cos(angle), std::sin(angle)};
}

const DriftLimit& SafeDrift::least() const {
    return *std::ranges::min_element(limits, {}, &DriftLimit::reach);
}

double SafeDrift::reachTowards(Point shift) const {
    if (shift == Point{})
        return least().reach;
    const double turns = std::atan2(shift.y, shift.x) / (2 * std::numbers::pi);
    const auto first =
        std::size_t(std::floor((turns < 0 ? turns + 1 : turns) * double(directions))) % directions;
    const std::size_t second = (first + 1) % directions;
    const Point a = direction(first) * limits[first].reach, b = direction(second) * limits[second].reach;
    const Point towards = unit(shift);
    const double across = cross(towards, b - a);
    return std::abs(across) < 1e-12 ? std::min(limits[first].reach, limits[second].reach)
                                    : cross(a, b - a) / across;
}

DriftRims::DriftRims(const Sticker& sticker, const std::stop_token& stop) {
    const Region cut = peeledArea(sticker);
    if (cut.isEmpty())
        return;
    const RimGrid cutRim(cut);
    throwIfStopped(stop);
    const Region printed = offset(printedArea(sticker), hair);
    throwIfStopped(stop);
    Sticker withoutBleed = sticker;
    withoutBleed.bleed.reset();
    const RimGrid reached(offset(printedArea(withoutBleed), reaching));
    throwIfStopped(stop);
    Side white{RimGrid(printed), {}, DriftFault::whiteShows, false};
    white.shown = cutRim;
    white.bare = RimGrid(bareStretches(cut, reached));
    std::vector<Point> inked = alongRims(cut);
    std::erase_if(inked, [&](Point place) { return !reached.holds(place); });
    watch(white, inked, stop);
    Side art{RimGrid(offset(cut, hair)), {}, DriftFault::artworkCut, true};
    watch(art, alongRims(insideOf(enclosed(sticker.edge, FillRule::nonZero), cutRim)), stop);
    sides_.push_back(std::move(white));
    sides_.push_back(std::move(art));
}

/// White that is seen without an error, or at the line where it runs on to the bare medium.
bool DriftRims::isMeant(const Side& side, Point beyond) {
    constexpr double atLine = 0.15; // mm
    return side.shown && (side.shown->holds(beyond) || side.bare->clearance(beyond, 1) < atLine);
}

void DriftRims::watch(Side& side, const std::vector<Point>& places, const std::stop_token& stop) {
    constexpr double farthest = SafeDrift::most + 1;
    double clearance = 0; // of the place before
    bool isInside = false;
    for (std::size_t i = 0; i < places.size(); ++i) {
        if (i % 256 == 0)
            throwIfStopped(stop);
        const double moved = i > 0 ? distance(places[i - 1], places[i]) : clearance;
        const bool isFar = moved >= clearance; // the rim may lie between
        clearance =
            side.rim.clearance(places[i], farthest, isFar ? 0 : std::min(clearance + moved, farthest));
        if (isFar)
            isInside = side.rim.holds(places[i]);
        if (isInside)
            side.watched.push_back({places[i], clearance});
    }
    std::ranges::sort(side.watched, {}, &Watched::clearance);
}

/// `inDesign`: where the drift without its shift takes the design; `fromSheet`: turns the sheet's directions
/// into the design's.
void DriftRims::lower(const Side& side, SafeDrift& limits, const Affine& inDesign, const Affine& fromSheet,
                      std::size_t piece) {
    const Affine moves = side.movesBack ? inverse(inDesign) : inDesign;
    // No place moves farther before the shift than those at the corners of the box around them all.
    Box around;
    for (const Watched& watched : side.watched)
        around.add(watched.place);
    double before = 0;
    for (const Point corner : {around.least, around.most, Point{around.least.x, around.most.y},
                               Point{around.most.x, around.least.y}})
        before = std::max(before, around.isEmpty() ? 0 : distance(corner, moves(corner)));
    std::vector<Point> starts; // of the places, as far as some direction has asked for them
    std::vector<char> isLost;
    for (std::size_t number = 0; number < SafeDrift::directions; ++number) {
        DriftLimit& limit = limits.limits[number];
        const Point towards = mapped(fromSheet, SafeDrift::direction(number));
        const Point ray = unit(side.movesBack ? mapped(moves, towards) * -1 : towards);
        for (std::size_t i = 0; i < side.watched.size(); ++i) {
            const Watched& watched = side.watched[i];
            if (watched.clearance - before >= limit.reach + hair)
                break; // neither can those behind it
            if (i == starts.size()) {
                starts.push_back(moves(watched.place));
                isLost.push_back(distance(watched.place, starts[i]) >= watched.clearance &&
                                 side.rim.crosses(watched.place, starts[i]));
            }
            const auto hit =
                isLost[i] ? std::optional(0.0) : side.rim.firstHit(starts[i], ray, limit.reach + hair);
            if (const double reach = hit ? std::max(0.0, *hit - hair) : limit.reach;
                reach < limit.reach && !isMeant(side, starts[i] + ray * (*hit + 2 * hair)))
                limit = {reach, side.fault, watched.place, piece};
        }
    }
}

void DriftRims::lower(SafeDrift& limits, const Affine& place, const Affine& drift, std::size_t piece) const {
    const Affine back = inverse(place);
    for (const Side& side : sides_)
        lower(side, limits, back * drift * place, back, piece);
}

std::optional<DriftLimit> DriftRims::faultOf(const Affine& place, const Affine& drift) const {
    const Affine inDesign = inverse(place) * drift * place;
    for (const Side& side : sides_) {
        const Affine moves = side.movesBack ? inverse(inDesign) : inDesign;
        for (const Watched& watched : side.watched) {
            const Point to = moves(watched.place);
            if (const double by = distance(watched.place, to);
                by > watched.clearance && side.rim.crosses(watched.place, to))
                return DriftLimit{by, side.fault, watched.place, 0};
        }
    }
    return {};
}

namespace {

SafeDrift unlimited() {
    SafeDrift drift;
    for (DriftLimit& limit : drift.limits)
        limit.reach = SafeDrift::most;
    return drift;
}

} // namespace

SafeDrift safeDrift(const DriftRims& rims) {
    SafeDrift drift = unlimited();
    rims.lower(drift, {}, {}, 0);
    return drift;
}

SafeDrift safeDrift(const Sheet& sheet, const std::map<std::string, std::shared_ptr<const DriftRims>>& rims,
                    const CutDrift& drift, const std::stop_token& stop) {
    SafeDrift safe = unlimited();
    const Affine before =
        CutDrift{{}, drift.turn, drift.stretchAlong, drift.stretchAcross}.about(sheet.work.centre());
    std::vector<std::size_t> farthestFirst(sheet.pieces.size());
    for (std::size_t i = 0; i < farthestFirst.size(); ++i)
        farthestFirst[i] = i;
    const auto moved = [&](std::size_t i) {
        const Point at{sheet.pieces[i].place.e, sheet.pieces[i].place.f};
        return distance(at, before(at));
    };
    std::ranges::sort(farthestFirst, std::greater<>(), moved);
    std::map<std::string, std::vector<Affine>>
        seen; // without turn and stretch, pieces that lie alike are alike
    for (const std::size_t i : farthestFirst) {
        throwIfStopped(stop);
        const Piece& piece = sheet.pieces[i];
        const auto found = rims.find(piece.design);
        if (found == rims.end() || !found->second)
            continue;
        Affine alike = piece.place;
        alike.e = alike.f = 0;
        auto& ofDesign = seen[piece.design];
        if (before == Affine{} && std::ranges::find(ofDesign, alike) != ofDesign.end())
            continue;
        ofDesign.push_back(alike);
        found->second->lower(safe, piece.place, before, i);
    }
    return safe;
}

} // namespace hasami
