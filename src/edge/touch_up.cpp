#include "edge/touch_up.h"

#include "edge/lines_by_hand.h"
#include "geometry/fit_loops.h"
#include "geometry/region_operations.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr double mostChange = 0.02;      // of the artwork's longer side
constexpr std::size_t placesBeneath = 8; // that describe the course of the line as found

Affine fromParts(const Box& artwork) {
    const double whole = std::max({artwork.width(), artwork.height(), 1e-9});
    return Affine::translation(artwork.least) * Affine::scaling(whole, whole);
}

Affine toParts(const Box& artwork) {
    const double whole = std::max({artwork.width(), artwork.height(), 1e-9});
    return Affine::scaling(1 / whole, 1 / whole) * Affine::translation(artwork.least * -1);
}

std::vector<CurveSegment> mapped(const std::vector<CurveSegment>& pieces, const Affine& by) {
    return map(Curve{{}, pieces}, by).segments;
}

/// The path with its ends moved to other places; what is between moves by a mix of both.
std::vector<CurveSegment> withEndsAt(Point from, std::vector<CurveSegment> path, Point newFrom, Point newTo) {
    const Point atStart = newFrom - from, atEnd = newTo - path.back().end;
    const double whole = std::max(lengthOf(from, path), 1e-9);
    double passed = 0;
    Point start = from;
    for (CurveSegment& s : path) {
        const CurveSegment old = s;
        const double own = lengthOf(start, {old});
        const auto shift = [&](double part) {
            return between(atStart, atEnd, (passed + own * part) / whole);
        };
        s.control1 = old.control1 + shift(1.0 / 3);
        s.control2 = old.control2 + shift(2.0 / 3);
        s.end = old.end + shift(1);
        passed += own;
        start = old.end;
    }
    path.back().end = newTo;
    Point at = newFrom;
    for (CurveSegment& s : path) {
        if (s.straight)
            s = straightSegment(at, s.end);
        at = s.end;
    }
    return path;
}

/// Lays a touch-up on a line, if that runs where it ran.
std::optional<Laid> layOn(const Curve& line, const TouchUp& touchUp, const Box& artwork, double& worst) {
    const Affine toMillimetres = fromParts(artwork);
    const Point from = toMillimetres(touchUp.from), to = toMillimetres(touchUp.to);
    const bool isWhole = touchUp.from == touchUp.to;
    Laid laid;
    laid.from = nearestPlace(line, from);
    laid.to = isWhole ? laid.from : nearestPlace(line, to);
    const Point newFrom = pointAt(line, laid.from), newTo = pointAt(line, laid.to);
    worst = isWhole ? 0 : std::max(distance(from, newFrom), distance(to, newTo));
    const auto now = pointsAlong(newFrom, stretch(line, laid.from, laid.to), touchUp.beneath.size());
    for (std::size_t i = 0; i < now.size(); ++i)
        worst = std::max(worst, distance(now[i], toMillimetres(touchUp.beneath[i])));
    if (worst > mostChange * std::max(artwork.width(), artwork.height()))
        return {};
    laid.path = mapped(touchUp.path, toMillimetres);
    if (!isWhole)
        laid.path = withEndsAt(from, std::move(laid.path), newFrom, newTo);
    return laid;
}

bool overlap(const Laid& a, const Laid& b) {
    // Along the line from a's begin on, b has to begin behind a's end and to end before a's begin.
    const auto ahead = [&](const CurvePlace& p) {
        const double way = orderOf(p) - orderOf(a.from);
        return way < 0 ? way + 1e6 : way;
    };
    constexpr double slack = 1e-6;
    if (a.from == a.to || b.from == b.to)
        return true;
    return ahead(b.from) < ahead(a.to) - slack ||
           (ahead(b.to) > slack && ahead(b.to) < ahead(b.from) - slack);
}

} // namespace

TouchedLines applyTouchUps(std::span<const EdgeLoop> found, const std::vector<TouchUp>& touchUps,
                           const Box& artwork) {
    TouchedLines touched{{found.begin(), found.end()}, {}};
    std::vector<std::vector<Laid>> onLoop(found.size());
    const double reach = mostChange * std::max(artwork.width(), artwork.height());
    for (const TouchUp& touchUp : touchUps) {
        const Point from = fromParts(artwork)(touchUp.from);
        std::optional<std::size_t> best;
        std::optional<Laid> bestLaid;
        double least = reach;
        for (std::size_t i = 0; i < found.size(); ++i) {
            double worst = 0;
            const bool isNear = found[i].facts.box.grownBy(2 * reach).meets({from, from});
            if (!isNear && !(touchUp.from == touchUp.to))
                continue;
            if (auto laid = layOn(found[i].curve, touchUp, artwork, worst); laid && worst <= least) {
                least = worst;
                best = i;
                bestLaid = std::move(laid);
            }
        }
        if (best && std::any_of(onLoop[*best].begin(), onLoop[*best].end(), [&](const Laid& other) {
                return overlap(other, *bestLaid) || overlap(*bestLaid, other);
            }))
            best.reset();
        touched.loopOf.push_back(best);
        if (best)
            onLoop[*best].push_back(std::move(*bestLaid));
    }
    for (std::size_t i = 0; i < found.size(); ++i) {
        if (onLoop[i].empty())
            continue;
        std::sort(onLoop[i].begin(), onLoop[i].end(),
                  [](const Laid& a, const Laid& b) { return orderOf(a.from) < orderOf(b.from); });
        touched.loops[i] = replaced(found[i], onLoop[i]);
    }
    return touched;
}

std::vector<TouchUp> touchUpsOf(const EdgeLoop& found, const EdgeLoop& touched, const Box& artwork) {
    const Affine parts = toParts(artwork);
    const std::size_t n = touched.curve.segments.size();
    std::vector<TouchUp> touchUps;
    if (n == 0)
        return touchUps;
    for (const Run& run : runsByHand(touched)) {
        const Point from = startOf(touched.curve, run.first);
        std::vector<CurveSegment> path;
        for (std::size_t k = 0; k < run.count; ++k)
            path.push_back(touched.curve.segments[(run.first + k) % n]);
        const CurvePlace begin = nearestPlace(found.curve, from);
        const CurvePlace end = run.count == n ? begin : nearestPlace(found.curve, path.back().end);
        TouchUp touchUp;
        touchUp.from = parts(from);
        touchUp.to = run.count == n ? touchUp.from : parts(path.back().end);
        for (const Point p :
             pointsAlong(pointAt(found.curve, begin), stretch(found.curve, begin, end), placesBeneath))
            touchUp.beneath.push_back(parts(p));
        touchUp.path = mapped(path, parts);
        for (CurveSegment& s : touchUp.path)
            s.bulge = 0;
        touchUps.push_back(std::move(touchUp));
    }
    return touchUps;
}

std::vector<Curve> untangled(const Curve& curve, double tolerance) {
    const Loop loop = flatten(curve, flatteningTolerance);
    const double area = signedArea(loop);
    const Region region = unite(std::vector<Region>{{{loop}}});
    if (region.loops.size() == 1 &&
        std::abs(std::abs(signedArea(region.loops.front())) - std::abs(area)) < 1e-3 * std::abs(area))
        return {curve};
    std::vector<Curve> curves;
    for (const Curve& fitted : fitLoops(region.loops, {tolerance, 0, 2 * tolerance}))
        if (!fitted.segments.empty())
            curves.push_back(area < 0 ? reversed(fitted) : fitted);
    return curves;
}

} // namespace hasami
