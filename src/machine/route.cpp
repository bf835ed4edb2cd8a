#include "machine/route.h"

#include "base/error.h"
#include "geometry/curve_place.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace hasami {

namespace {

constexpr double orderingTolerance = 0.01; // mm, for areas and places that only order lines
constexpr double insideTolerance = 0.05;   // mm, for what lies inside what
constexpr int rounds = 2, roundsOfStarts = 4;

Point startOf(const RouteLine& line) {
    return line.runs.front().start;
}

Point endOf(const RouteLine& line) {
    return line.runs.back().isClosed ? line.runs.back().start : line.runs.back().segments.back().end;
}

double areaOf(const RouteLine& line) {
    std::vector<Point> all;
    for (const Subpath& run : line.runs) {
        const std::vector<Point> points = flatten(run, orderingTolerance);
        all.insert(all.end(), points.begin(), points.end());
    }
    return std::abs(signedArea(all));
}

Subpath reversedRun(const Subpath& run) {
    Subpath back{run.segments.back().end, {}, false};
    Point to = run.start;
    std::vector<Point> ends{run.start};
    for (const CurveSegment& s : run.segments)
        ends.push_back(s.end);
    for (std::size_t i = run.segments.size(); i-- > 0;) {
        const CurveSegment& s = run.segments[i];
        to = ends[i];
        back.segments.push_back({s.control2, s.control1, to, s.straight, -s.bulge});
    }
    return back;
}

/// The place, or a node that almost lies there: no piece is left that is too short for a knife.
CurvePlace orNode(const Curve& curve, const CurvePlace& place) {
    constexpr double there = 0.02; // mm
    const Point at = pointAt(curve, place);
    const std::size_t next = (place.segment + 1) % curve.segments.size();
    if (distance(at, startOf(curve, place.segment)) < there)
        return {place.segment, 0};
    return distance(at, startOf(curve, next)) < there ? CurvePlace{next, 0} : place;
}

/// Lets a line as it was given begin as near to the place as it can.
void beginNear(RouteLine& line, Point place) {
    if (line.runs.size() == 1 && line.runs.front().isClosed) {
        const Curve curve{line.runs.front().start, line.runs.front().segments};
        const CurvePlace start = orNode(curve, nearestPlace(curve, place));
        line.runs.front() = {pointAt(curve, start), stretch(curve, start, start), true};
        return;
    }
    if (line.runs.size() == 1) {
        if (distance(endOf(line), place) < distance(startOf(line), place))
            line.runs.front() = reversedRun(line.runs.front());
        return;
    }
    const auto nearest =
        std::min_element(line.runs.begin(), line.runs.end(), [&](const Subpath& a, const Subpath& b) {
            return distance(a.start, place) < distance(b.start, place);
        });
    std::rotate(line.runs.begin(), nearest, line.runs.end());
}

/// A line as it was given, and from where it is cut for now: a start leaves no point behind once another one
/// is chosen.
struct Loose {
    RouteLine given, begun;
};

/// One kind's lines of one piece. Each is cut after those inside of it.
struct Station {
    Station(std::vector<RouteLine> lines, const std::stop_token& stop);

    const RouteLine& first() const { return loose[order.front()].begun; }
    const RouteLine& last() const { return loose[order.back()].begun; }

    /// Along a short way from there.
    void arrange(Point from, const std::stop_token& stop);
    /// Between the two neighbours on the way: a closed line begins nearest to the middle between them, which
    /// makes the detour short.
    void begin(Point before, Point after);

    std::vector<Loose> loose;       ///< by the area that they enclose
    std::vector<std::size_t> order; ///< in which they are cut

private:
    void findInner(const std::stop_token& stop);
    void arrangeWith(std::size_t around, Point& from, const std::stop_token& stop);

    std::vector<std::vector<std::size_t>> inner_;   ///< of each line, and of none of them, right inside it
    std::vector<std::vector<std::size_t>> crossed_; ///< inside a line, but of another one's inner ones
    std::vector<bool> isArranged_;
};

constexpr std::size_t mostSorted = 4000; // lines of a station: each is compared with each

Station::Station(std::vector<RouteLine> lines, const std::stop_token& stop) {
    std::vector<std::pair<double, std::size_t>> bySize;
    for (std::size_t i = 0; i < lines.size(); ++i)
        bySize.emplace_back(areaOf(lines[i]), i);
    std::ranges::sort(bySize);
    for (const auto& [area, i] : bySize) {
        order.push_back(order.size());
        loose.push_back({lines[i], lines[i]});
    }
    if (loose.size() > 1 && loose.size() <= mostSorted)
        findInner(stop);
}

void Station::findInner(const std::stop_token& stop) {
    std::vector<Loop> outlines;
    std::vector<Box> boxes;
    for (const Loose& line : loose) {
        Loop outline;
        for (const Subpath& run : line.given.runs) {
            const std::vector<Point> points = flatten(run, insideTolerance);
            outline.insert(outline.end(), points.begin(), points.end());
        }
        boxes.push_back(bounds(outline));
        outlines.push_back(std::move(outline));
    }
    const auto lies = [&](std::size_t inside, std::size_t around) {
        return boxes[around].holds(boxes[inside]) && contains(outlines[around], outlines[inside].front());
    };
    inner_.resize(loose.size() + 1);
    crossed_.resize(loose.size());
    std::vector<std::vector<bool>> isAround(loose.size()); // of each line, which lie around it
    for (std::size_t i = loose.size(); i-- > 0;) {
        throwIfStopped(stop);
        isAround[i].resize(loose.size());
        std::vector<std::size_t> around; // none of them around another
        for (std::size_t k = i + 1; k < loose.size(); ++k) {
            if (isAround[i][k] || !lies(i, k))
                continue;
            around.push_back(k);
            isAround[i][k] = true;
            for (std::size_t beyond = k + 1; beyond < loose.size(); ++beyond)
                if (isAround[k][beyond])
                    isAround[i][beyond] = true;
        }
        inner_[around.empty() ? loose.size() : around.front()].push_back(i);
        for (std::size_t k = 1; k < around.size(); ++k)
            crossed_[around[k]].push_back(i);
    }
}

void Station::arrange(Point from, const std::stop_token& stop) {
    if (inner_.empty())
        return;
    order.clear();
    isArranged_.assign(loose.size() + 1, false);
    arrangeWith(loose.size(), from, stop);
}

/// Those right inside one line, each after what is inside of it; then the line itself.
void Station::arrangeWith(std::size_t around, Point& from, const std::stop_token& stop) {
    if (isArranged_[around])
        return;
    isArranged_[around] = true;
    std::vector<Point> points{from};
    for (const std::size_t i : inner_[around])
        points.push_back(startOf(loose[i].begun));
    for (const std::size_t place : shortPath(points, stop))
        if (place > 0)
            arrangeWith(inner_[around][place - 1], from, stop);
    if (around == loose.size())
        return;
    for (const std::size_t i : crossed_[around])
        arrangeWith(i, from, stop);
    order.push_back(around);
    from = endOf(loose[around].begun);
}

void Station::begin(Point before, Point after) {
    for (std::size_t k = 0; k < order.size(); ++k) {
        Loose& line = loose[order[k]];
        const Point next = k + 1 < order.size() ? startOf(loose[order[k + 1]].begun) : after;
        line.begun = line.given;
        beginNear(line.begun, between(before, next, 0.5));
        before = endOf(line.begun);
    }
}

void orderStations(std::vector<Station>& stations, Point from, const std::stop_token& stop) {
    std::vector<Point> points{from};
    for (const Station& station : stations)
        points.push_back(startOf(station.first()));
    const std::vector<std::size_t> order = shortPath(points, stop);
    std::vector<Station> sorted;
    for (const std::size_t i : order)
        if (i > 0) {
            sorted.push_back(std::move(stations[i - 1]));
            sorted.back().arrange(from, stop);
            from = endOf(sorted.back().last());
        }
    stations = std::move(sorted);
}

void chooseStarts(std::vector<Station>& stations, Point from) {
    Point before = from;
    for (std::size_t i = 0; i < stations.size(); ++i) {
        stations[i].begin(before, i + 1 < stations.size() ? startOf(stations[i + 1].first()) : before);
        before = endOf(stations[i].last());
    }
}

} // namespace

std::vector<RouteLine> route(std::vector<RouteLine> lines, const std::stop_token& stop) {
    std::map<LineKind, std::map<std::size_t, std::vector<RouteLine>>> byKind;
    for (RouteLine& line : lines)
        byKind[line.kind][line.piece].push_back(std::move(line));
    std::vector<RouteLine> routed;
    Point from;
    for (auto& [kind, byPiece] : byKind) {
        std::vector<Station> stations;
        for (auto& [piece, own] : byPiece)
            stations.emplace_back(std::move(own), stop);
        for (int round = 0; round < rounds; ++round) {
            orderStations(stations, from, stop);
            for (int again = 0; again < roundsOfStarts; ++again)
                chooseStarts(stations, from);
        }
        for (Station& station : stations)
            for (const std::size_t i : station.order) {
                from = endOf(station.loose[i].begun);
                routed.push_back(std::move(station.loose[i].begun));
            }
    }
    return routed;
}

void cutLast(std::vector<RouteLine>& route, RouteLine line) {
    const auto place = std::find_if(route.begin(), route.end(),
                                    [&](const RouteLine& other) { return other.kind > line.kind; });
    beginNear(line, place == route.begin() ? Point{} : endOf(*std::prev(place)));
    route.insert(place, std::move(line));
}

double travelOf(const std::vector<RouteLine>& route) {
    double travel = 0;
    Point at;
    for (const RouteLine& line : route)
        for (const Subpath& run : line.runs) {
            travel += distance(at, run.start);
            at = run.isClosed ? run.start : run.segments.back().end;
        }
    return travel;
}

} // namespace hasami
