#include "machine/route.h"

#include "geometry/curve_place.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace hasami {

namespace {

constexpr double orderingTolerance = 0.01; // mm, for areas and places that only order lines
constexpr int roundsOfStarts = 4;

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

/// Lets the line begin as near to the place as it can.
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

/// One kind's lines of one piece, the inner ones first.
using Station = std::vector<RouteLine>;

/// Between the two neighbours on the way, for a closed line: the place nearest to the middle between them
/// makes the detour short.
void beginBetween(Station& station, Point before, Point after) {
    Point from = before;
    for (RouteLine& line : station) {
        const bool isOnly = station.size() == 1;
        beginNear(line, isOnly ? between(before, after, 0.5) : from);
        from = endOf(line);
    }
}

void orderStations(std::vector<Station>& stations, Point from, const std::stop_token& stop) {
    std::vector<Point> points{from};
    for (const Station& station : stations)
        points.push_back(startOf(station.front()));
    const std::vector<std::size_t> order = shortPath(points, stop);
    std::vector<Station> sorted;
    for (const std::size_t i : order)
        if (i > 0)
            sorted.push_back(std::move(stations[i - 1]));
    stations = std::move(sorted);
}

void chooseStarts(std::vector<Station>& stations, Point from) {
    Point before = from;
    for (std::size_t i = 0; i < stations.size(); ++i) {
        const Point after = i + 1 < stations.size() ? startOf(stations[i + 1].front()) : before;
        beginBetween(stations[i], before, after);
        before = endOf(stations[i].back());
    }
}

} // namespace

std::vector<RouteLine> route(std::vector<RouteLine> lines, const std::stop_token& stop) {
    std::map<LineKind, std::map<std::size_t, Station>> byKind;
    for (RouteLine& line : lines)
        byKind[line.kind][line.piece].push_back(std::move(line));
    std::vector<RouteLine> routed;
    Point from;
    for (auto& [kind, byPiece] : byKind) {
        std::vector<Station> stations;
        for (auto& [piece, station] : byPiece) {
            std::vector<std::pair<double, std::size_t>> bySize;
            for (std::size_t i = 0; i < station.size(); ++i)
                bySize.emplace_back(areaOf(station[i]), i);
            std::sort(bySize.begin(), bySize.end());
            Station sorted;
            for (const auto& [area, i] : bySize)
                sorted.push_back(std::move(station[i]));
            stations.push_back(std::move(sorted));
        }
        orderStations(stations, from, stop);
        for (int round = 0; round < roundsOfStarts; ++round)
            chooseStarts(stations, from);
        orderStations(stations, from, stop);
        chooseStarts(stations, from);
        for (Station& station : stations)
            for (RouteLine& line : station) {
                from = endOf(line);
                routed.push_back(std::move(line));
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
