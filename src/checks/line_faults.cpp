#include "checks/line_faults.h"

#include "base/error.h"
#include "geometry/crossings.h"
#include "geometry/region_operations.h"
#include "geometry/rim_grid.h"
#include "sticker/printed_area.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <optional>

namespace hasami {

namespace {

using Limits = LineFaultLimits;
using Faults = std::vector<LineFault>;

constexpr std::size_t mostSegments = 100'000; // of lines whose crossings are looked for

Region regionOf(const Loop& loop) {
    return {{loop}};
}

bool isOuter(const Loop& loop) {
    return signedArea(loop) > 0;
}

void addCrossings(Faults& faults, const Sticker& sticker) {
    std::vector<Curve> curves;
    std::size_t segments = 0;
    for (const CutLine& line : sticker.lines)
        if (line.kind != LineKind::crease && !line.isOpen) { // folds and slits cross the outline
            curves.push_back(line.curve);
            segments += line.curve.segments.size();
        }
    if (segments > mostSegments)
        return;
    const std::vector<Crossing> crossings = crossingsOf(curves);
    if (!crossings.empty()) {
        const auto [curve, segment] = crossings.front().one;
        faults.push_back({FindingCode::crossingLine, crossings.size(), curves[curve].segments[segment].end});
    }
}

void addShortLines(Faults& faults, const Sticker& sticker) {
    LineFault fault{FindingCode::shortLine, 0, {}};
    for (const CutLine& line : sticker.lines) {
        if (line.isOpen || line.role == LineRole::opening || line.kind == LineKind::crease)
            continue;
        const Loop loop = flatten(line.curve, flatteningTolerance);
        if (perimeter(loop) >= Limits::shortLine)
            continue;
        if (fault.count++ == 0)
            fault.place = bounds(loop).centre();
        fault.amount = std::max(fault.amount, std::abs(signedArea(loop)));
    }
    if (fault.count > 0)
        faults.push_back(fault);
}

/// The first point around which a loop turns back within a length, in one direction; a sliding window.
std::optional<Point> turnsBack(const Loop& loop, double within) {
    const std::size_t count = loop.size();
    if (count < 3)
        return {};
    const auto at = [&](std::size_t i) { return loop[i % count]; };
    const auto turnAt = [&](std::size_t i) {
        const Point in = at(i + count) - at(i + count - 1), out = at(i + 1) - at(i);
        return std::atan2(cross(in, out), dot(in, out));
    };
    double turned = turnAt(0), long_ = 0;
    std::size_t first = 0;
    for (std::size_t last = 0; last < 2 * count; ++last) {
        if (last > 0) {
            turned += turnAt(last);
            long_ += distance(at(last - 1), at(last));
        }
        while (first < last && long_ > within) {
            turned -= turnAt(first);
            long_ -= distance(at(first), at(first + 1));
            ++first;
        }
        if (std::abs(turned) >= Limits::tipTurn * std::numbers::pi / 180)
            return at((first + last) / 2);
        if (last - first >= count)
            return {}; // the whole loop is shorter
    }
    return {};
}

void addTips(Faults& faults, const Region& cut, double blade) {
    const double offset = blade > 0 ? blade : Limits::startBlade;
    LineFault fault{FindingCode::tightCorner, 0, {}, offset};
    for (const Loop& loop : cut.loops)
        if (const auto place = turnsBack(loop, 2 * offset); place && perimeter(loop) >= Limits::shortLine)
            if (fault.count++ == 0)
                fault.place = *place;
    if (fault.count > 0)
        faults.push_back(fault);
}

/// The area of the edge's opening that a cut opening follows from: the smallest around it.
double areaOfOpening(const Sticker& sticker, const Box& box) {
    double least = 0;
    for (const Curve& curve : sticker.edge) {
        const Loop loop = flatten(curve, flatteningTolerance);
        constexpr double air = 0.05; // mm: of lines right on the edge
        if (const double area = -signedArea(loop); area > 0 && bounds(loop).grownBy(air).holds(box))
            least = least == 0 ? area : std::min(least, area);
    }
    return least;
}

void addSmallOpenings(Faults& faults, const Sticker& sticker, const Region& cut) {
    LineFault fault{FindingCode::smallOpening, 0, {}};
    for (const Loop& loop : cut.loops) {
        if (isOuter(loop))
            continue;
        const Loop opening(loop.rbegin(), loop.rend());
        const Box box = bounds(opening);
        if (std::min(box.width(), box.height()) >= Limits::weeding &&
            !offset(regionOf(opening), -Limits::weeding / 2).isEmpty())
            continue;
        if (fault.count++ == 0)
            fault.place = box.centre();
        fault.amount = std::max(fault.amount, areaOfOpening(sticker, box));
    }
    if (fault.count > 0)
        faults.push_back(fault);
}

double gapToRim(const RimGrid& rim, const Loop& loop, double most, Point& place) {
    double gap = most;
    for (const Point p : loop)
        if (const double far = rim.clearance(p, gap); far < gap) {
            gap = far;
            place = p;
        }
    return gap;
}

void addNecks(Faults& faults, const Region& cut, const std::stop_token& stop) {
    LineFault fault{FindingCode::thinNeck, 0, {}, Limits::neck};
    for (const Loop& loop : cut.loops) {
        throwIfStopped(stop);
        if (!isOuter(loop) || signedArea(loop) < 2 * Limits::partArea)
            continue;
        Region part = regionOf(loop);
        for (const Loop& opening : cut.loops)
            if (!isOuter(opening) && contains(loop, opening.front()))
                part.loops.push_back(opening);
        Region thick = offset(part, -Limits::neck / 2);
        std::erase_if(thick.loops,
                      [](const Loop& one) { return isOuter(one) && signedArea(one) < Limits::partArea; });
        std::vector<Loop> outers;
        std::ranges::copy_if(thick.loops, std::back_inserter(outers), isOuter);
        if (outers.size() < 2)
            continue;
        // The rim of what is thick lies half the limit inside of that of the neck: they come as close as the
        // neck's stretch is long. The neck itself is between.
        for (std::size_t i = 0; i < outers.size(); ++i) {
            const RimGrid rim(regionOf(outers[i]));
            for (std::size_t k = i + 1; k < outers.size(); ++k) {
                Point near;
                constexpr double farthest = 10 * Limits::neck;
                if (gapToRim(rim, outers[k], farthest, near) >= farthest)
                    continue;
                const Point toOther = near;
                Point back = outers[i].front();
                for (const Point p : outers[i])
                    if (distance(p, toOther) < distance(back, toOther))
                        back = p;
                const Point middle = between(back, toOther, 0.5);
                const double wide = 2 * RimGrid(part).clearance(middle, Limits::neck);
                if (fault.count++ == 0 || wide < fault.amount)
                    fault.place = middle;
                fault.amount = std::min(fault.amount, wide);
            }
        }
    }
    if (fault.count > 0)
        faults.push_back(fault);
}

/// The longest of the gaps that join all of them: of the shortest tree.
double longestOfTree(const std::vector<Loop>& parts) {
    constexpr std::size_t mostParts = 12;
    constexpr double farthest = 50; // mm
    if (parts.size() > mostParts)
        return 0;
    std::vector<double> toTree(parts.size(), farthest);
    std::vector<char> isIn(parts.size(), false);
    double widest = 0;
    std::size_t newest = 0;
    for (std::size_t round = 1; round < parts.size(); ++round) {
        isIn[newest] = true;
        const RimGrid rim(regionOf(parts[newest]));
        std::size_t nearest = 0;
        double gap = farthest + 1;
        for (std::size_t i = 0; i < parts.size(); ++i) {
            if (isIn[i])
                continue;
            Point place;
            toTree[i] = gapToRim(rim, parts[i], toTree[i], place);
            if (toTree[i] < gap) {
                gap = toTree[i];
                nearest = i;
            }
        }
        widest = std::max(widest, gap);
        newest = nearest;
    }
    return widest;
}

/// Parts that lie together inside a line through the medium, as on a sheet of stickers, are one.
bool isHeldTogether(const Sticker& sticker) {
    return sticker.has(LineKind::kiss) && (sticker.has(LineKind::die) || sticker.has(LineKind::perforated));
}

void addParts(Faults& faults, const Sticker& sticker, const Region& cut) {
    std::vector<Loop> parts;
    std::ranges::copy_if(cut.loops, std::back_inserter(parts), isOuter);
    if (parts.size() < 2 || isHeldTogether(sticker))
        return;
    faults.push_back(
        {FindingCode::severalParts, parts.size(), bounds(parts.front()).centre(), longestOfTree(parts)});
}

} // namespace

std::vector<LineFault> lineFaults(const Sticker& sticker, double blade, const std::stop_token& stop) {
    Faults faults;
    if (sticker.isEmpty())
        return faults;
    const Region cut = peeledArea(sticker);
    throwIfStopped(stop);
    addCrossings(faults, sticker);
    addShortLines(faults, sticker);
    addTips(faults, cut, blade);
    throwIfStopped(stop);
    addSmallOpenings(faults, sticker, cut);
    addNecks(faults, cut, stop);
    addParts(faults, sticker, cut);
    return faults;
}

} // namespace hasami
