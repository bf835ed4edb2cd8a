#include "nesting/shape/placed.h"

#include "nesting/shape/wide.h"

#include <algorithm>
#include <cmath>
#include <cstring>

namespace hasami::nesting {

namespace {

using Pair = double __attribute__((vector_size(16)));

HASAMI_WIDE void turnPoints(const std::vector<Point>& from, double c, double s, std::vector<Point>& to) {
    const Pair cosine{c, c}, sine{-s, s};
    for (std::size_t i = 0; i < from.size(); ++i) {
        const Pair p = cosine * Pair{from[i].x, from[i].y} + sine * Pair{from[i].y, from[i].x};
        to[i] = {p[0], p[1]};
    }
}

Box boxOf(const Point* first, const Point* end) {
    Pair least{first->x, first->y}, most = least;
    for (const Point* p = first + 1; p != end; ++p) {
        const Pair here{p->x, p->y};
        least = here < least ? here : least;
        most = here > most ? here : most;
    }
    return {{least[0], least[1]}, {most[0], most[1]}};
}

/// Tells whether a side from a to b and one from c to e have a point in common; of one side or of many at
/// once.
template <class Many, class Answer>
[[gnu::always_inline]] inline void tellCrossing(Point a, Point b, const Many& cx, const Many& cy,
                                                const Many& ex, const Many& ey, Answer& answer) {
    const Many left = cx < ex ? cx : ex, right = cx < ex ? ex : cx;
    const Many top = cy < ey ? cy : ey, bottom = cy < ey ? ey : cy;
    const Point d = b - a;
    const Many x = ex - cx, y = ey - cy;
    const Many one = d.x * (cy - a.y) - d.y * (cx - a.x), two = d.x * (ey - a.y) - d.y * (ex - a.x);
    const Many three = x * (a.y - cy) - y * (a.x - cx), four = x * (b.y - cy) - y * (b.x - cx);
    const auto [fromX, toX] = std::minmax(a.x, b.x);
    const auto [fromY, toY] = std::minmax(a.y, b.y);
    answer = (right >= fromX) & (left <= toX) & (bottom >= fromY) & (top <= toY) & (one * two <= 0) &
             (three * four <= 0);
}

} // namespace

/// Sides from (ax, ay) to (bx, by), in groups of four; what is left of the last group lies nowhere.
class Placed::Sides {
public:
    void clear(std::size_t most) {
        count_ = 0;
        const std::size_t room = most + width;
        if (ends_.size() < room) {
            for (std::vector<double>* all : {&ax_, &ay_, &bx_, &by_})
                all->resize(room);
            ends_.resize(room);
        }
    }
    bool isEmpty() const { return count_ == 0; }
    void addIf(bool isWanted, Point a, Point b, std::size_t end) {
        ax_[count_] = a.x;
        ay_[count_] = a.y;
        bx_[count_] = b.x;
        by_[count_] = b.y;
        ends_[count_] = std::uint32_t(end);
        count_ += isWanted ? 1 : 0;
    }
    Box box() const {
        double left = 1e300, right = -1e300, top = 1e300, bottom = -1e300;
        for (std::size_t i = 0; i < count_; ++i) {
            left = std::min({left, ax_[i], bx_[i]});
            right = std::max({right, ax_[i], bx_[i]});
            top = std::min({top, ay_[i], by_[i]});
            bottom = std::max({bottom, ay_[i], by_[i]});
        }
        return {{left, top}, {right, bottom}};
    }
    void fillUp() {
        constexpr double nowhere = 1e300;
        for (std::size_t i = count_; i < count_ + width; ++i)
            ax_[i] = ay_[i] = bx_[i] = by_[i] = nowhere;
    }

    bool meet(const Sides& others, Hint& hint) const;

private:
    static constexpr std::size_t width = 4;
    std::vector<double> ax_, ay_, bx_, by_;
    std::vector<std::uint32_t> ends_; // by number, of the shape's points
    std::size_t count_ = 0;
};

HASAMI_WIDE bool Placed::Sides::meet(const Sides& others, Hint& hint) const {
    using Four = double __attribute__((vector_size(32)));
    for (std::size_t i = 0; i < count_; ++i) {
        const Point a{ax_[i], ay_[i]}, b{bx_[i], by_[i]};
        for (std::size_t j = 0; j < others.count_; j += width) {
            Four cx, cy, ex, ey;
            std::memcpy(&cx, &others.ax_[j], sizeof cx);
            std::memcpy(&cy, &others.ay_[j], sizeof cy);
            std::memcpy(&ex, &others.bx_[j], sizeof ex);
            std::memcpy(&ey, &others.by_[j], sizeof ey);
            decltype(cx < ex) cross{};
            tellCrossing(a, b, cx, cy, ex, ey, cross);
            for (std::size_t k = 0; k < width; ++k)
                if (cross[k] != 0) {
                    hint = {ends_[i], others.ends_[j + k]};
                    return true;
                }
        }
    }
    return false;
}

Placed::Placed(const std::vector<Loop>& loops, const std::vector<Circle>& poles)
    : poleCount_(std::min(poles.size(), mostPoles)) {
    for (const Loop& loop : loops) {
        const std::size_t start = own_.size();
        starts_.push_back(start);
        for (std::size_t i = 0; i <= loop.size(); ++i) {
            own_.push_back(loop[i % loop.size()]);
            reach_ = std::max(reach_, length(own_.back()));
        }
        for (std::size_t i = 0; i < loop.size(); i += mostSidesOfStretch)
            stretches_.push_back({start + i, start + std::min(i + mostSidesOfStretch, loop.size()), {}});
    }
    starts_.push_back(own_.size());
    points_ = own_;
    for (std::size_t i = 0; i < mostPoles; ++i) {
        constexpr float nowhere = 1e7F; // of no size, they count for nothing
        set(ownPoles_.x, i, i < poleCount_ ? float(poles[i].centre.x) : nowhere);
        set(ownPoles_.y, i, i < poleCount_ ? float(poles[i].centre.y) : nowhere);
        set(ownPoles_.radius, i, i < poleCount_ ? float(poles[i].radius) : 0);
    }
    poles_ = ownPoles_;
    groups_ = (poleCount_ + lanes - 1) / lanes;
}

void Placed::turn(double rotation) {
    const double c = std::cos(rotation), s = std::sin(rotation);
    turnPoints(own_, c, s, points_);
    turnedBox_ = {};
    for (Stretch& stretch : stretches_) {
        stretch.box = boxOf(points_.data() + stretch.from, points_.data() + stretch.to + 1);
        turnedBox_.add(stretch.box.least);
        turnedBox_.add(stretch.box.most);
    }
    const auto cosine = float(c), sine = float(s);
    for (std::size_t i = 0; i < std::size(ownPoles_.x); ++i) {
        poles_.x[i] = cosine * ownPoles_.x[i] - sine * ownPoles_.y[i];
        poles_.y[i] = sine * ownPoles_.x[i] + cosine * ownPoles_.y[i];
    }
}

HASAMI_WIDE bool Placed::polesMeet(const Placed& other) const {
    const auto dx = float(at_.x - other.at_.x), dy = float(at_.y - other.at_.y);
    auto meets = Lanes{} > Lanes{};
    for (std::size_t i = 0; i < poleCount_; ++i) {
        const float px = get(poles_.x, i) + dx, py = get(poles_.y, i) + dy;
        const float radius = get(poles_.radius, i);
        for (std::size_t j = 0; j < other.groups_; ++j) {
            const Lanes x = px - other.poles_.x[j], y = py - other.poles_.y[j];
            const Lanes sum = radius + other.poles_.radius[j];
            meets |= sum * sum > x * x + y * y;
        }
    }
    int any = 0;
    for (std::size_t k = 0; k < lanes; ++k)
        any |= meets[k];
    return any != 0;
}

HASAMI_WIDE double Placed::depth(const Placed& other, double shallowLength) const {
    const auto dx = float(at_.x - other.at_.x), dy = float(at_.y - other.at_.y);
    const auto shallow = float(shallowLength);
    Lanes sum{};
    for (std::size_t i = 0; i < poleCount_; ++i) {
        const float px = get(poles_.x, i) + dx, py = get(poles_.y, i) + dy;
        const float radius = get(poles_.radius, i);
        for (std::size_t j = 0; j < other.groups_; ++j) {
            const Lanes x = px - other.poles_.x[j], y = py - other.poles_.y[j],
                        there = other.poles_.radius[j];
            Lanes apart = x * x + y * y;
            for (std::size_t k = 0; k < lanes; ++k)
                apart[k] = std::sqrt(apart[k]);
            const Lanes depth = radius + there - apart;
            const Lanes away =
                shallow * shallow / (2 * shallow - (depth < shallow ? depth : Lanes{} + shallow));
            sum += (depth < shallow ? away : depth) * (there < radius ? there : Lanes{} + radius);
        }
    }
    double all = 0;
    for (std::size_t k = 0; k < lanes; ++k)
        all += double(sum[k]);
    return all;
}

bool Placed::contains(Point p) const {
    p = p - at_;
    bool isInside = false;
    for (std::size_t loop = 0; loop + 1 < starts_.size(); ++loop)
        for (std::size_t i = starts_[loop]; i + 1 < starts_[loop + 1]; ++i) {
            const Point a = points_[i], b = points_[i + 1];
            if ((a.y > p.y) != (b.y > p.y) && p.x < (b.x - a.x) * (p.y - a.y) / (b.y - a.y) + a.x)
                isInside = !isInside;
        }
    return isInside;
}

/// Those whose boxes meet it. All is compared where it lies, so that sides along each other are not missed by
/// rounding.
void Placed::gatherSides(const Box& within, Sides& sides) const {
    sides.clear(own_.size());
    for (const Stretch& stretch : stretches_) {
        if (!stretch.box.movedBy(at_).meets(within))
            continue;
        Point a = points_[stretch.from] + at_;
        for (std::size_t i = stretch.from + 1; i <= stretch.to; ++i) {
            const Point b = points_[i] + at_;
            const bool isWanted =
                int(std::max(a.x, b.x) >= within.least.x) & int(std::min(a.x, b.x) <= within.most.x) &
                int(std::max(a.y, b.y) >= within.least.y) & int(std::min(a.y, b.y) <= within.most.y);
            sides.addIf(isWanted, a, b, i);
            a = b;
        }
    }
    sides.fillUp();
}

/// Whether a side ends at the point.
bool Placed::isSide(std::size_t end) const {
    return end < points_.size() && std::find(starts_.begin(), starts_.end(), end) == starts_.end();
}

bool Placed::touchesAt(const Placed& other, const Hint& hint) const {
    if (!isSide(hint.own) || !other.isSide(hint.other))
        return false;
    const Point a = points_[hint.own - 1] + at_, b = points_[hint.own] + at_;
    const Point c = other.points_[hint.other - 1] + other.at_, e = other.points_[hint.other] + other.at_;
    bool isCrossing = false;
    tellCrossing(a, b, c.x, c.y, e.x, e.y, isCrossing);
    return isCrossing;
}

bool Placed::sidesMeet(const Placed& other, Hint& hint) const {
    thread_local Sides own, others;
    const auto common = [](const Box& a, const Box& b) {
        return Box{{std::max(a.least.x, b.least.x), std::max(a.least.y, b.least.y)},
                   {std::min(a.most.x, b.most.x), std::min(a.most.y, b.most.y)}};
    };
    const Box both = common(box_, other.box_);
    gatherSides(both, own);
    if (own.isEmpty())
        return false;
    other.gatherSides(common(both, own.box()), others);
    return own.meet(others, hint);
}

bool Placed::touches(const Placed& other, Hint& hint) const {
    if (!isNear(other))
        return false;
    if (sidesMeet(other, hint))
        return true;
    const auto beginsIn = [](const Placed& one, const Placed& within) {
        for (std::size_t loop = 0; loop + 1 < one.starts_.size(); ++loop) {
            const Point p = one.points_[one.starts_[loop]] + one.at_;
            const Box& box = within.box_;
            if (p.x >= box.least.x && p.x <= box.most.x && p.y >= box.least.y && p.y <= box.most.y &&
                within.contains(p))
                return true;
        }
        return false;
    };
    return beginsIn(*this, other) || beginsIn(other, *this);
}

} // namespace hasami::nesting
