#include "base/error.h"
#include "machine/route.h"

#include <algorithm>
#include <array>
#include <numeric>

namespace hasami {

namespace {

constexpr std::size_t neighbourCount = 10, mostPoints = 4000;
constexpr double leastGain = 1e-7; // mm: no endless turning between ways as long
constexpr int mostRounds = 60;

/// Shortens an open path whose first point stays first.
class OpenPath {
public:
    explicit OpenPath(const std::vector<Point>& points) : points_(points), place_(points.size()) {
        startWithNearest();
        findNeighbours();
    }

    std::vector<std::size_t> shortened(const std::stop_token& stop) {
        for (int round = 0; round < mostRounds; ++round) {
            throwIfStopped(stop);
            bool isShorter = false;
            for (std::size_t point = 0; point < points_.size(); ++point)
                isShorter = turnedAt(point) || movedAt(point) || isShorter;
            if (!isShorter)
                break;
        }
        return order_;
    }

private:
    double apart(std::size_t a, std::size_t b) const { return distance(points_[a], points_[b]); }
    /// Between the points at two places; the path's end leads nowhere.
    double gap(std::size_t a, std::size_t b) const {
        return b >= order_.size() ? 0 : apart(order_[a], order_[b]);
    }

    void startWithNearest() {
        std::vector<std::size_t> left(points_.size() - 1);
        std::iota(left.begin(), left.end(), std::size_t{1});
        order_.push_back(0);
        while (!left.empty()) {
            const auto nearest =
                std::min_element(left.begin(), left.end(), [&](std::size_t a, std::size_t b) {
                    return apart(a, order_.back()) < apart(b, order_.back());
                });
            order_.push_back(*nearest);
            left.erase(nearest);
        }
        number(0, order_.size());
    }

    void findNeighbours() {
        for (std::size_t i = 0; i < points_.size(); ++i) {
            std::vector<std::size_t> others(points_.size());
            std::iota(others.begin(), others.end(), std::size_t{0});
            std::erase(others, i);
            const std::size_t count = std::min(neighbourCount, others.size());
            std::partial_sort(others.begin(), others.begin() + std::ptrdiff_t(count), others.end(),
                              [&](std::size_t a, std::size_t b) { return apart(a, i) < apart(b, i); });
            others.resize(count);
            neighbours_.push_back(std::move(others));
        }
    }

    void number(std::size_t from, std::size_t to) {
        for (std::size_t i = from; i < to; ++i)
            place_[order_[i]] = i;
    }

    /// 2-opt: the stretch behind the point, up to a neighbour, is run the other way.
    bool turnedAt(std::size_t point) {
        for (const std::size_t neighbour : neighbours_[point]) {
            const std::size_t i = std::min(place_[point], place_[neighbour]),
                              j = std::max(place_[point], place_[neighbour]);
            // The edges i, i + 1 and j, j + 1 become i, j and i + 1, j + 1.
            const double gain =
                gap(i, i + 1) + gap(j, j + 1) - gap(i, j) - (j + 1 < order_.size() ? gap(i + 1, j + 1) : 0);
            if (j <= i + 1 || gain <= leastGain)
                continue;
            std::reverse(order_.begin() + std::ptrdiff_t(i) + 1, order_.begin() + std::ptrdiff_t(j) + 1);
            number(i + 1, j + 1);
            return true;
        }
        return false;
    }

    /// Or-opt: one to three points from this one on are put behind or before a neighbour, either way round.
    bool movedAt(std::size_t point) {
        for (std::size_t count = 1; count <= 3; ++count) {
            const std::size_t from = place_[point], end = from + count;
            if (from == 0 || end > order_.size())
                continue;
            const double freed =
                gap(from - 1, from) + gap(end - 1, end) - (end < order_.size() ? gap(from - 1, end) : 0);
            for (const std::size_t neighbour : neighbours_[point])
                for (const bool isBehind : {true, false}) {
                    const std::size_t at = place_[neighbour];
                    if ((at >= from && at < end) || (at == 0 && !isBehind))
                        continue;
                    const std::size_t before = isBehind ? at : at - 1, after = before + 1;
                    if ((before >= from && before < end) || (after > from && after < end) || after == from)
                        continue;
                    if (moveTo(from, end, before, after, freed))
                        return true;
                }
        }
        return false;
    }

    bool moveTo(std::size_t from, std::size_t end, std::size_t before, std::size_t after, double freed) {
        const double opened = after < order_.size() ? gap(before, after) : 0;
        const auto cost = [&](std::size_t first, std::size_t last) {
            return apart(order_[before], order_[first]) +
                   (after < order_.size() ? apart(order_[last], order_[after]) : 0);
        };
        const double asIs = cost(from, end - 1), turned = cost(end - 1, from);
        if (freed + opened - std::min(asIs, turned) <= leastGain)
            return false;
        std::vector<std::size_t> stretch(order_.begin() + std::ptrdiff_t(from),
                                         order_.begin() + std::ptrdiff_t(end));
        if (turned < asIs)
            std::reverse(stretch.begin(), stretch.end());
        order_.erase(order_.begin() + std::ptrdiff_t(from), order_.begin() + std::ptrdiff_t(end));
        const std::size_t to = before < from ? before + 1 : before + 1 - (end - from);
        order_.insert(order_.begin() + std::ptrdiff_t(to), stretch.begin(), stretch.end());
        number(0, order_.size());
        return true;
    }

    const std::vector<Point>& points_;
    std::vector<std::size_t> order_, place_; // the points in order; where each is in it
    std::vector<std::vector<std::size_t>> neighbours_;
};

} // namespace

std::vector<std::size_t> shortPath(const std::vector<Point>& points, const std::stop_token& stop) {
    std::vector<std::size_t> order(points.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    if (points.size() < 3 || points.size() > mostPoints)
        return order;
    return OpenPath(points).shortened(stop);
}

} // namespace hasami
