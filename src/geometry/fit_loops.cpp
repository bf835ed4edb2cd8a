#include "geometry/fit_loops.h"

#include "base/error.h"
#include "geometry/course.h"
#include "geometry/crossings.h"
#include "geometry/curve_place.h"
#include "geometry/touching_loops.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>

namespace hasami {

namespace {

constexpr std::array closer{0.5, 0.2, 0.06}; // of tolerance and scatter, each time a stretch is fitted again
constexpr int ownPoints = int(closer.size()) + 1; // at this closeness it goes through its own points
constexpr int mostRounds = 16;
constexpr double samePlace =
    5e-4; // a joint that was put onto an arc lies this near to its point, if not on it

Curve throughOwnPoints(const Chain& chain) {
    const std::span<const Point> points = chain.points;
    Curve curve{points.front(), {}};
    Point from = points.front();
    const Point end = chain.isClosed ? from : points.back();
    for (const Point p : points.subspan(1))
        if (distance(from, p) > 1e-9 && distance(p, end) > 1e-9) {
            curve.segments.push_back(straightSegment(from, p));
            from = p;
        }
    curve.segments.push_back(straightSegment(from, end));
    return curve;
}

/// An open path there and back again.
Loop closedPath(std::span<const Point> path) {
    Loop loop(path.begin(), path.end());
    loop.insert(loop.end(), path.rbegin() + 1, path.rend() - 1);
    return loop;
}

/// Each piece as two.
Curve halved(const Curve& curve) {
    Curve halves{curve.start, {}};
    for (std::size_t i = 0; i < curve.segments.size(); ++i)
        for (const double begin : {0.0, 0.5})
            halves.segments.push_back(partOf(startOf(curve, i), curve.segments[i], begin, begin + 0.5));
    return halves;
}

/// One chain's curve, of which stretches can be fitted again.
class RefinedCurve {
public:
    RefinedCurve(const Chain& chain, const FitOptions& options) : chain_(chain), options_(options) {
        fitWhole(options);
        takeThreePoints();
    }

    const Curve& curve() const { return curve_; }

    void mark(std::size_t segment) {
        isMarked_.resize(curve_.segments.size(), false);
        isMarked_[segment] = true;
    }

    /// Fits what is marked closer than before.
    void refine() {
        if (isMarked_.empty())
            return;
        widen();
        if (std::all_of(isMarked_.begin(), isMarked_.end(), [](bool marked) { return marked; }) ||
            !refineStretches())
            refineWhole();
        takeThreePoints();
        isMarked_.clear();
    }

    void becomeOwnPoints() {
        curve_ = throughOwnPoints(chain_);
        closeness_.assign(curve_.segments.size(), ownPoints);
    }

private:
    std::size_t count() const { return curve_.segments.size(); }

    void refineWhole() {
        if (++closenessOfWhole_ < ownPoints)
            fitWhole(closerBy(closenessOfWhole_));
        else
            becomeOwnPoints();
    }

    FitOptions closerBy(int closeness) const {
        FitOptions fit = options_;
        fit.scatter *= closer[std::size_t(closeness) - 1];
        fit.tolerance *= closer[std::size_t(closeness) - 1];
        return fit;
    }

    void fitWhole(const FitOptions& options) {
        if (chain_.isClosed)
            fitClosed(options);
        else
            curve_ = {chain_.points.front(), fitPath(chain_.points, options)};
        closeness_.assign(curve_.segments.size(), 0);
    }

    void fitClosed(const FitOptions& options) {
        curve_ = fitCurve(chain_.points, options);
        const Box box = bounds(chain_.points);
        const double size = std::min(options.detail, box.width() + box.height());
        if (curve_.segments.size() < 2 || std::abs(signedArea(chain_.points)) <= 1e-3 * size * size)
            curve_.segments.clear();
    }

    void takeThreePoints() {
        while (chain_.isClosed && !curve_.segments.empty() && curve_.segments.size() < 3) {
            curve_ = halved(curve_);
            closeness_.resize(count(), *std::max_element(closeness_.begin(), closeness_.end()));
        }
    }

    /// What was fitted closer before in vain takes its neighbours along: a corner between them goes.
    void widen() {
        std::vector<bool> wide = isMarked_;
        for (std::size_t i = 0; i < count(); ++i)
            if (isMarked_[i] && closeness_[i] > 0) {
                if (chain_.isClosed || i + 1 < count())
                    wide[(i + 1) % count()] = true;
                if (chain_.isClosed || i > 0)
                    wide[(i + count() - 1) % count()] = true;
            }
        isMarked_ = std::move(wide);
    }

    /// False where the stretches are not found again along the chain.
    bool refineStretches() {
        const Course course = chain_.isClosed ? Course(chain_.points) : Course(closedPath(chain_.points));
        const double whole = course.length() / (chain_.isClosed ? 1 : 2);
        const auto places = placesOn(course, whole);
        if (!places)
            return false;
        Curve refined;
        std::vector<int> closeness;
        // A closed one from a piece that stays.
        const std::size_t first =
            chain_.isClosed
                ? std::size_t(std::find(isMarked_.begin(), isMarked_.end(), false) - isMarked_.begin())
                : 0;
        refined.start = startOf(curve_, first);
        for (std::size_t k = 0; k < count();) {
            const std::size_t i = (first + k) % count();
            std::size_t length = 0;
            int close = 0;
            while (k + length < count() && isMarked_[(i + length) % count()]) {
                close = std::max(close, closeness_[(i + length) % count()] + 1);
                ++length;
            }
            if (length == 0) {
                refined.segments.push_back(curve_.segments[i]);
                closeness.push_back(closeness_[i]);
                ++k;
                continue;
            }
            const std::size_t end = (i + length) % count();
            const double to = (*places)[end] + (end <= i ? whole : 0);
            const std::vector<CurveSegment> pieces = stretch(course, i, end, (*places)[i], to, close);
            refined.segments.insert(refined.segments.end(), pieces.begin(), pieces.end());
            closeness.resize(refined.segments.size(), close);
            k += length;
        }
        curve_ = std::move(refined);
        closeness_ = std::move(closeness);
        return true;
    }

    /// From the start of one piece to that of another.
    std::vector<CurveSegment> stretch(const Course& course, std::size_t begin, std::size_t end, double from,
                                      double to, int closeness) const {
        std::vector<Point> points{startOf(curve_, begin)};
        const Point last = curve_.segments[(end + count() - 1) % count()].end;
        for (const Point p : course.pointsBetween(from, to))
            if (distance(p, points.back()) > samePlace && distance(p, last) > samePlace)
                points.push_back(p);
        points.push_back(last);
        std::vector<CurveSegment> pieces;
        if (closeness < ownPoints && points.size() > 2)
            return fitStretch(points, closerBy(closeness), directionAt(begin), directionAt(end));
        for (std::size_t i = 1; i < points.size(); ++i)
            pieces.push_back(straightSegment(points[i - 1], points[i]));
        return pieces;
    }

    /// Of the curve at the start of a piece, unless it has a corner or an end there.
    Point directionAt(std::size_t segment) const {
        if (segment == 0 && !chain_.isClosed)
            return {};
        const Point joint = startOf(curve_, segment);
        const CurveSegment& before = curve_.segments[(segment + count() - 1) % count()];
        const Point in = unit(joint - before.control2), out = unit(curve_.segments[segment].control1 - joint);
        constexpr double smooth = 0.98; // the cosine of 11 degrees
        return dot(in, out) > smooth ? unit(in + out) : Point{};
    }

    /// How far along the chain, which is `whole` long, each piece starts, in ascending order.
    std::optional<std::vector<double>> placesOn(const Course& course, double whole) const {
        std::vector<double> places{chain_.isClosed ? nearestTo(course, curve_.start, 0, whole) : 0};
        Point from = curve_.start;
        for (std::size_t i = 0; i + 1 < count(); ++i) {
            const CurveSegment& s = curve_.segments[i];
            // A piece is about as long as its stretch of the chain; a corner is put back up to two details
            // off.
            const double along = lengthOf(from, {s}), slack = 0.3 * along + 4 * options_.detail;
            const double begin = std::max(places.back(), places.back() + along - slack);
            const double end = places.back() + along + slack;
            places.push_back(nearestTo(course, s.end, begin, chain_.isClosed ? end : std::min(end, whole)));
            from = s.end;
        }
        if (places.back() > places.front() + whole)
            return {};
        return places;
    }

    /// Where between two places the chain comes nearest to a point.
    static double nearestTo(const Course& course, Point p, double from, double to) {
        double best = from, least = distance(course.pointAt(from), p), at = from;
        Point last = course.pointAt(from);
        std::vector<Point> points = course.pointsBetween(from, to);
        points.push_back(course.pointAt(to));
        for (const Point next : points) {
            const double span = distance(last, next);
            const Point way = unit(next - last);
            const double share = std::clamp(dot(p - last, way), 0.0, span);
            if (const double far = distance(last + way * share, p); far < least) {
                least = far;
                best = at + share;
            }
            at += span;
            last = next;
        }
        return best;
    }

    Chain chain_;
    FitOptions options_;
    Curve curve_;
    std::vector<int> closeness_; ///< of each piece: how often it was fitted again
    int closenessOfWhole_ = 0;
    std::vector<bool> isMarked_;
};

} // namespace

std::vector<Curve> fitChains(std::span<const Chain> chains, std::span<const FitOptions> options,
                             const std::stop_token& stop) {
    std::vector<RefinedCurve> refined;
    refined.reserve(chains.size());
    for (const Chain& chain : chains) {
        throwIfStopped(stop);
        refined.emplace_back(chain, options[options.size() > 1 ? refined.size() : 0]);
    }
    const auto curves = [&] {
        std::vector<Curve> all;
        all.reserve(refined.size());
        for (const RefinedCurve& one : refined)
            all.push_back(one.curve());
        return all;
    };
    std::vector<Curve> all = curves();
    for (int round = 0; round < mostRounds; ++round) {
        throwIfStopped(stop);
        const std::vector<Crossing> crossings = crossingsOf(all);
        if (crossings.empty())
            break;
        for (const Crossing& crossing : crossings)
            for (const PieceOfCurve& piece : {crossing.one, crossing.other}) {
                if (round + 1 == mostRounds)
                    refined[piece.curve].becomeOwnPoints();
                else
                    refined[piece.curve].mark(piece.segment);
            }
        for (RefinedCurve& one : refined)
            one.refine();
        all = curves();
    }
    return all;
}

std::vector<Curve> fitLoops(std::span<const Loop> loops, std::span<const FitOptions> options,
                            const std::stop_token& stop) {
    const std::optional<std::vector<Loop>> apart = parted(loops);
    std::vector<Chain> chains;
    chains.reserve(loops.size());
    for (const Loop& loop : apart ? std::span<const Loop>(*apart) : loops)
        chains.push_back({loop, true});
    return fitChains(chains, options, stop);
}

} // namespace hasami
