#include "geometry/stroke.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>
#include <utility>

namespace hasami {

namespace {

constexpr double mostDashes = 100'000;

/// A flattened run. Between true nodes the line bends smoothly, whatever its joins are.
struct Polyline {
    std::vector<Point> points;
    std::vector<bool> isNode;
    bool isClosed = false;

    void add(Point p, bool node) {
        if (!points.empty() && points.back() == p) {
            isNode.back() = isNode.back() || node;
            return;
        }
        points.push_back(p);
        isNode.push_back(node);
    }
};

Polyline polylineOf(const Subpath& run, double tolerance) {
    Polyline line;
    line.add(run.start, true);
    Point from = run.start;
    for (const CurveSegment& s : run.segments) {
        const Loop inner = flatten(Curve{from, {s}}, tolerance);
        for (std::size_t i = 1; i < inner.size(); ++i)
            line.add(inner[i], false);
        line.add(s.end, true);
        from = s.end;
    }
    line.isClosed = run.isClosed;
    if (run.isClosed && line.points.size() > 1 && line.points.front() == line.points.back()) {
        line.points.pop_back();
        line.isNode.pop_back();
    }
    return line;
}

Point leftOf(Point direction) {
    return {direction.y, -direction.x};
}

/// Lays the outline of polylines: along one side and back along the other. At bends, the inner side goes by
/// way of the node itself, so the outline is the sum of its pieces' outlines and none of them takes away from
/// another.
class Outliner {
public:
    Outliner(const StrokeStyle& style, double tolerance)
        : style_(style), half_(style.width / 2),
          step_(2 * std::acos(std::clamp(1 - tolerance / half_, -1.0, 1.0))) {}

    void outline(const Polyline& line, std::vector<Loop>& out) const {
        if (line.points.size() < 2) {
            dot(line.points.front(), out);
            return;
        }
        if (line.isClosed && line.points.size() > 2) {
            Loop left, right;
            side(line, false, left);
            side(line, true, right);
            out.push_back(std::move(left));
            out.push_back(std::move(right));
            return;
        }
        Loop loop;
        side(line, false, loop);
        cap(line.points[line.points.size() - 2], line.points.back(), loop);
        side(line, true, loop);
        cap(line.points[1], line.points[0], loop);
        out.push_back(std::move(loop));
    }

private:
    /// What a run of no length leaves: its caps alone.
    void dot(Point at, std::vector<Loop>& out) const {
        Loop loop;
        if (style_.cap == LineCap::round) {
            arc(at, {0, -1}, {0, 1}, loop);
            arc(at, {0, 1}, {0, -1}, loop);
        } else if (style_.cap == LineCap::square) {
            for (const Point p : {Point{-1, -1}, Point{1, -1}, Point{1, 1}, Point{-1, 1}})
                loop.push_back(at + p * half_);
        }
        if (!loop.empty())
            out.push_back(std::move(loop));
    }

    void side(const Polyline& line, bool backwards, Loop& loop) const {
        const std::size_t n = line.points.size();
        const auto index = [&](std::size_t i) { return backwards ? (2 * n - 1 - i) % n : i % n; };
        const std::size_t pieces = line.isClosed && n > 2 ? n : n - 1;
        for (std::size_t i = 0; i < pieces; ++i) {
            const Point from = line.points[index(i)], to = line.points[index(i + 1)];
            const Point direction = unit(to - from), out = leftOf(direction) * half_;
            loop.push_back(from + out);
            loop.push_back(to + out);
            const bool isLast = i + 1 == pieces;
            if (isLast && !(line.isClosed && n > 2))
                break;
            const Point next = unit(line.points[index(i + 2)] - to);
            join(to, direction, next, line.isNode[index(i + 1)], loop);
        }
    }

    void join(Point at, Point direction, Point next, bool isNode, Loop& loop) const {
        if (hasami::dot(leftOf(direction), next) > 0) { // the inner side of the bend
            loop.push_back(at);
            return;
        }
        if (!isNode || style_.join == LineJoin::round) {
            arc(at, leftOf(direction), leftOf(next), loop);
            return;
        }
        if (style_.join == LineJoin::bevel)
            return;
        // The miter's length over the width is 1 / sin(inner angle / 2) = 1 / cos(turn / 2).
        const double cosineOfHalf = std::sqrt(std::max(0.0, (1 + hasami::dot(direction, next)) / 2));
        if (cosineOfHalf * style_.miterLimit < 1 || cosineOfHalf < 1e-6)
            return;
        loop.push_back(at + unit(leftOf(direction) + leftOf(next)) * (half_ / cosineOfHalf));
    }

    void cap(Point from, Point end, Loop& loop) const {
        const Point direction = unit(end - from), left = leftOf(direction);
        if (style_.cap == LineCap::round) {
            arc(end, left, direction, loop);
            arc(end, direction, left * -1, loop);
        } else if (style_.cap == LineCap::square) {
            loop.push_back(end + (left + direction) * half_);
            loop.push_back(end + (direction - left) * half_);
        }
    }

    /// Points between two directions from the middle, the short way.
    void arc(Point middle, Point from, Point to, Loop& loop) const {
        double sweep = std::atan2(cross(from, to), hasami::dot(from, to));
        if (sweep < -std::numbers::pi + 1e-9) // right back: by the outer side, as all other arcs run
            sweep = std::numbers::pi;
        const int steps = int(std::ceil(std::abs(sweep) / step_));
        loop.push_back(middle + from * half_);
        for (int i = 1; i < steps; ++i) {
            const Affine turn = Affine::rotation(sweep * i / steps);
            loop.push_back(middle + turn(from) * half_);
        }
        loop.push_back(middle + to * half_);
    }

    const StrokeStyle& style_;
    double half_, step_;
};

/// The painted dashes of a run, each a run of its own.
class Dasher {
public:
    explicit Dasher(const StrokeStyle& style) : style_(style) {
        // An odd pattern is painted the other way round on every second turn.
        pattern_ = style.dashes;
        if (pattern_.size() % 2 == 1)
            pattern_.insert(pattern_.end(), style.dashes.begin(), style.dashes.end());
        total_ = std::accumulate(pattern_.begin(), pattern_.end(), 0.0);
    }

    bool applies(const Polyline& line) const {
        if (total_ <= 0)
            return false;
        double length = 0;
        for (std::size_t i = 1; i < line.points.size(); ++i)
            length += distance(line.points[i - 1], line.points[i]);
        return length / total_ * double(pattern_.size()) <= mostDashes;
    }

    std::vector<Polyline> dashes(const Polyline& line) const {
        std::vector<Polyline> all;
        std::size_t at = 0;
        double left = std::fmod(style_.dashPhase, total_);
        if (left < 0)
            left += total_;
        while (left >= pattern_[at] && left > 0) {
            left -= pattern_[at];
            at = (at + 1) % pattern_.size();
        }
        left = pattern_[at] - left; // of the dash or gap under way
        Polyline dash;
        const auto end = [&] {
            if (at % 2 == 0 && !dash.points.empty())
                all.push_back(std::exchange(dash, {}));
        };
        const std::size_t n = line.points.size();
        for (std::size_t i = 0; i + (line.isClosed ? 0 : 1) < n; ++i) {
            const Point from = line.points[i], to = line.points[(i + 1) % n];
            const double length = distance(from, to);
            double done = 0;
            if (at % 2 == 0)
                dash.add(from, line.isNode[i]);
            while (length - done > left) {
                done += left;
                const Point here = between(from, to, done / length);
                if (at % 2 == 0)
                    dash.add(here, true);
                end();
                at = (at + 1) % pattern_.size();
                left = pattern_[at];
                if (at % 2 == 0)
                    dash.add(here, true);
            }
            left -= length - done;
            if (at % 2 == 0)
                dash.add(to, line.isNode[(i + 1) % n]);
        }
        end();
        return all;
    }

private:
    const StrokeStyle& style_;
    std::vector<double> pattern_;
    double total_ = 0;
};

} // namespace

std::vector<Loop> strokeLoops(const Path& path, const StrokeStyle& style, double tolerance) {
    std::vector<Loop> loops;
    if (style.width <= 0)
        return loops;
    const Outliner outliner(style, tolerance);
    const Dasher dasher(style);
    for (const Subpath& run : path) {
        const Polyline line = polylineOf(run, tolerance);
        if (line.points.size() > 1 && dasher.applies(line))
            for (const Polyline& dash : dasher.dashes(line))
                outliner.outline(dash, loops);
        else
            outliner.outline(line, loops);
    }
    return loops;
}

} // namespace hasami
