#include "sheet/marks_between.h"

#include "raster/cell_runs.h"
#include "raster/grid.h"

#include <Eigen/Dense>

#include <algorithm>
#include <cmath>
#include <optional>

namespace hasami {

namespace {

using Terms = Eigen::Matrix<double, 6, 1>;
using Normal = Eigen::Matrix<double, 6, 6>;

constexpr double leastKnown = 1e-6; // of each term before the first mark, so that fewer than six marks differ

/// Of the drift's terms at a place of the frame.
Terms termsAt(Point p, const Box& frame) {
    const double x = 2 * (p.x - frame.centre().x) / std::max(frame.width(), 1e-9),
                 y = 2 * (p.y - frame.centre().y) / std::max(frame.height(), 1e-9);
    return {1, x, y, x * y, x * x, y * y};
}

/// Places that are free as far as a grid shows, a few thousand of them spread over all.
class FreePlaces {
public:
    explicit FreePlaces(const MarkRoom& room) : box_(room.within) {
        constexpr double mostCells = 1e6;
        cell_ = std::max({room.clearance / 4, std::sqrt(box_.width() * box_.height() / mostCells), 1e-3});
        taken_ = Grid<std::uint8_t>(int(box_.width() / cell_) + 1, int(box_.height() / cell_) + 1);
        for (const Body& body : room.taken)
            take(body, room.clearance);
    }

    /// Of each block of cells the one farthest from the middle: far apart measures best.
    std::vector<Point> spread() const {
        constexpr int blocksEachWay = 48;
        const Point middle = box_.centre();
        const int size = std::max({1, taken_.width() / blocksEachWay, taken_.height() / blocksEachWay});
        std::vector<Point> places;
        for (int top = 0; top < taken_.height(); top += size)
            for (int left = 0; left < taken_.width(); left += size) {
                std::optional<Point> best;
                for (int row = top; row < std::min(top + size, taken_.height()); ++row)
                    for (int column = left; column < std::min(left + size, taken_.width()); ++column)
                        if (const Point p = at(column, row);
                            !taken_.at(column, row) &&
                            (!best || distance(p, middle) > distance(*best, middle)))
                            best = p;
                if (best)
                    places.push_back(*best);
            }
        return places;
    }

private:
    Point at(int column, int row) const { return box_.least + Point{column * cell_, row * cell_}; }

    /// What is nearer than the clearance to a cell that the body covers. Parts between the cells are missed:
    /// chosen places are compared with the bodies themselves.
    void take(const Body& body, double clearance) {
        if (!body.box.grownBy(clearance).meets(box_))
            return;
        Region inCells = body.outline;
        for (Loop& loop : inCells.loops)
            for (Point& p : loop)
                p = (p - box_.least) * (1 / cell_) + Point{0.5, 0.5};
        const CellRuns runs = cellsIn(inCells);
        const int reach = int(clearance / cell_);
        for (std::size_t i = 0; i < runs.rows.size(); ++i)
            for (int away = -reach; away <= reach; ++away) {
                const int row = runs.top + int(i) + away;
                if (row < 0 || row >= taken_.height())
                    continue;
                const double square = clearance * clearance / (cell_ * cell_) - away * away;
                const int wide = int(std::sqrt(std::max(square, 0.0)));
                for (const CellRuns::Run& run : runs.rows[i]) {
                    const int from = std::clamp(run.from - wide, 0, taken_.width());
                    const int to = std::clamp(run.to + wide, from, taken_.width());
                    std::fill(taken_.row(row).begin() + from, taken_.row(row).begin() + to, std::uint8_t{1});
                }
            }
    }

    Box box_;
    double cell_;
    Grid<std::uint8_t> taken_;
};

/// Chooses places by how much each adds to what is known.
class Choice {
public:
    Choice(const MarkRoom& room, std::span<const Point> standing)
        : room_(room), standing_(standing), frame_(room.within), candidates_(FreePlaces(room).spread()) {
        for (const Point p : standing)
            frame_.add(p);
        for (const Point p : candidates_)
            terms_.push_back(termsAt(p, frame_));
    }

    std::vector<Point> choose(int count) {
        while (int(chosen_.size()) < count) {
            const auto next = best();
            if (!next)
                break;
            chosen_.push_back(*next);
        }
        constexpr int rounds = 4;
        for (int round = 0; round < rounds && exchange(); ++round) {
        }
        std::vector<Point> places;
        for (const std::size_t i : chosen_)
            places.push_back(candidates_[i]);
        std::sort(places.begin(), places.end(),
                  [](Point a, Point b) { return a.x != b.x ? a.x < b.x : a.y < b.y; });
        return places;
    }

private:
    Normal known() const {
        Normal normal = Normal::Identity() * leastKnown;
        for (const Point p : standing_) {
            const Terms terms = termsAt(p, frame_);
            normal += terms * terms.transpose();
        }
        for (const std::size_t i : chosen_)
            normal += terms_[i] * terms_[i].transpose();
        return normal;
    }

    /// What adds most to the determinant, and is free.
    std::optional<std::size_t> best() {
        const Normal inverse = known().inverse();
        std::vector<std::pair<double, std::size_t>> gains;
        for (std::size_t i = 0; i < candidates_.size(); ++i)
            if (!refused(i) && isApart(i))
                gains.emplace_back(terms_[i].dot(inverse * terms_[i]), i);
        while (!gains.empty()) {
            const auto most = std::max_element(gains.begin(), gains.end(), [](const auto& a, const auto& b) {
                return a.first != b.first ? a.first < b.first : a.second > b.second;
            });
            if (isFree(most->second))
                return most->second;
            gains.erase(most);
        }
        return {};
    }

    /// Each place in turn for the best one; false where none was any better.
    bool exchange() {
        bool isBetter = false;
        for (std::size_t i = 0; i < chosen_.size(); ++i) {
            const std::size_t before = chosen_[i];
            chosen_.erase(chosen_.begin() + std::ptrdiff_t(i));
            const std::size_t next = best().value_or(before);
            chosen_.insert(chosen_.begin() + std::ptrdiff_t(i), next);
            isBetter = isBetter || next != before;
        }
        return isBetter;
    }

    bool isApart(std::size_t i) const {
        const auto isNear = [&](Point p) { return distance(p, candidates_[i]) < room_.apart; };
        return std::none_of(standing_.begin(), standing_.end(), isNear) &&
               std::none_of(chosen_.begin(), chosen_.end(),
                            [&](std::size_t other) { return isNear(candidates_[other]); });
    }

    bool refused(std::size_t i) const { return std::binary_search(refused_.begin(), refused_.end(), i); }

    /// By the bodies themselves; remembered where not.
    bool isFree(std::size_t i) {
        const Point p = candidates_[i];
        constexpr double least = 1e-3; // mm
        const Body mark(Region{{{p + Point{-least, -least}, p + Point{least, -least}, p + Point{least, least},
                                 p + Point{-least, least}}}});
        const bool isTaken = std::any_of(room_.taken.begin(), room_.taken.end(), [&](const Body& body) {
            return body.box.grownBy(room_.clearance).meets(mark.box) &&
                   comesTooClose(body, mark, room_.clearance + conflictTolerance);
        });
        if (isTaken)
            refused_.insert(std::lower_bound(refused_.begin(), refused_.end(), i), i);
        return !isTaken;
    }

    const MarkRoom& room_;
    std::span<const Point> standing_;
    Box frame_;
    std::vector<Point> candidates_;
    std::vector<Terms> terms_;
    std::vector<std::size_t> chosen_, refused_;
};

} // namespace

std::vector<Point> placesBetween(const MarkRoom& room, std::span<const Point> standing, int count) {
    if (count <= 0 || room.within.isEmpty())
        return {};
    return Choice(room, standing).choose(count);
}

double conditioning(std::span<const Point> places, const Box& frame) {
    Normal normal = Normal::Identity() * leastKnown;
    for (const Point p : places) {
        const Terms terms = termsAt(p, frame);
        normal += terms * terms.transpose();
    }
    return std::log(normal.determinant());
}

} // namespace hasami
