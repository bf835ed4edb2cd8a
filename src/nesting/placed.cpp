#include "nesting/placed.h"

#include "nesting/wide.h"

#include <cmath>

namespace hasami::nesting {

Placed::Placed(const std::vector<Loop>& loops, const std::vector<Circle>& poles)
    : poleCount_(std::min(poles.size(), mostPoles)) {
    for (const Loop& loop : loops) {
        starts_.push_back(ownX_.size());
        for (std::size_t i = 0; i <= loop.size(); ++i) {
            const Point p = loop[i % loop.size()];
            reach_ = std::max(reach_, length(p));
            ownX_.push_back(p.x);
            ownY_.push_back(p.y);
        }
    }
    starts_.push_back(ownX_.size());
    x_.resize(ownX_.size());
    y_.resize(ownX_.size());
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
    const std::size_t count = ownX_.size();
    for (std::size_t i = 0; i < count; ++i) {
        x_[i] = c * ownX_[i] - s * ownY_[i];
        y_[i] = s * ownX_[i] + c * ownY_[i];
    }
    double left = 1e300, right = -1e300, top = 1e300, bottom = -1e300;
    for (std::size_t i = 0; i < count; ++i) {
        left = std::min(left, x_[i]);
        right = std::max(right, x_[i]);
        top = std::min(top, y_[i]);
        bottom = std::max(bottom, y_[i]);
    }
    turnedBox_ = {{left, top}, {right, bottom}};
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
            const double ay = y_[i], by = y_[i + 1];
            if ((ay > p.y) != (by > p.y) && p.x < (x_[i + 1] - x_[i]) * (p.y - ay) / (by - ay) + x_[i])
                isInside = !isInside;
        }
    return isInside;
}

bool Placed::sidesMeet(const Placed& other) const {
    struct Side {
        double ax, ay, bx, by;
    };
    thread_local std::vector<Side> own, others;
    const double left = std::max(box_.least.x, other.box_.least.x),
                 right = std::min(box_.most.x, other.box_.most.x);
    const double top = std::max(box_.least.y, other.box_.least.y),
                 bottom = std::min(box_.most.y, other.box_.most.y);
    const auto gather = [&](const Placed& from, std::vector<Side>& into) {
        into.clear();
        const Point at = from.at_;
        for (std::size_t loop = 0; loop + 1 < from.starts_.size(); ++loop) {
            double ax = from.x_[from.starts_[loop]] + at.x, ay = from.y_[from.starts_[loop]] + at.y;
            for (std::size_t i = from.starts_[loop] + 1; i < from.starts_[loop + 1]; ++i) {
                const double bx = from.x_[i] + at.x, by = from.y_[i] + at.y;
                if (std::max(ax, bx) >= left && std::min(ax, bx) <= right && std::max(ay, by) >= top &&
                    std::min(ay, by) <= bottom)
                    into.push_back({ax, ay, bx, by});
                ax = bx;
                ay = by;
            }
        }
    };
    gather(*this, own);
    if (own.empty())
        return false;
    gather(other, others);
    for (const Side& a : own) {
        const double dx = a.bx - a.ax, dy = a.by - a.ay;
        const double lowX = std::min(a.ax, a.bx), highX = std::max(a.ax, a.bx), lowY = std::min(a.ay, a.by),
                     highY = std::max(a.ay, a.by);
        for (const Side& b : others) {
            if (std::max(b.ax, b.bx) < lowX || std::min(b.ax, b.bx) > highX || std::max(b.ay, b.by) < lowY ||
                std::min(b.ay, b.by) > highY)
                continue;
            const double one = dx * (b.ay - a.ay) - dy * (b.ax - a.ax);
            const double two = dx * (b.by - a.ay) - dy * (b.bx - a.ax);
            if (one * two > 0)
                continue;
            const double ex = b.bx - b.ax, ey = b.by - b.ay;
            const double three = ex * (a.ay - b.ay) - ey * (a.ax - b.ax);
            const double four = ex * (a.by - b.ay) - ey * (a.bx - b.ax);
            if (three * four <= 0)
                return true;
        }
    }
    return false;
}

bool Placed::touches(const Placed& other) const {
    if (!isNear(other))
        return false;
    if (sidesMeet(other))
        return true;
    const auto beginsIn = [](const Placed& one, const Placed& within) {
        for (std::size_t loop = 0; loop + 1 < one.starts_.size(); ++loop) {
            const Point p = Point{one.x_[one.starts_[loop]], one.y_[one.starts_[loop]]} + one.at_;
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
