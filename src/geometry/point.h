#pragma once

#include <algorithm>
#include <cmath>
#include <limits>

namespace hasami {

/// A point or a vector, in millimetres unless a name says otherwise.
struct Point {
    double x = 0;
    double y = 0;

    friend bool operator==(const Point&, const Point&) = default;
};

constexpr Point operator+(Point a, Point b) {
    return {a.x + b.x, a.y + b.y};
}
constexpr Point operator-(Point a, Point b) {
    return {a.x - b.x, a.y - b.y};
}
constexpr Point operator*(Point a, double k) {
    return {a.x * k, a.y * k};
}
constexpr double dot(Point a, Point b) {
    return a.x * b.x + a.y * b.y;
}
constexpr double cross(Point a, Point b) {
    return a.x * b.y - a.y * b.x;
}
inline double length(Point a) {
    return std::sqrt(dot(a, a)); // several times as fast as hypot, and no length here overflows
}
inline double distance(Point a, Point b) {
    return length(b - a);
}
constexpr Point between(Point a, Point b, double t) {
    return a + (b - a) * t;
}

/// The vector's direction with length 1; the zero vector stays zero.
inline Point unit(Point a) {
    const double l = length(a);
    return l > 0 ? a * (1 / l) : Point{};
}

/// Distance from `p` to the segment from `a` to `b`.
inline double distanceToSegment(Point p, Point a, Point b) {
    const Point d = b - a;
    const double squared = dot(d, d);
    const double t = squared > 0 ? std::clamp(dot(p - a, d) / squared, 0.0, 1.0) : 0;
    return distance(p, a + d * t);
}

/// An axis-parallel box. A fresh one is empty and grows by what is added.
struct Box {
    Point least{std::numeric_limits<double>::infinity(), std::numeric_limits<double>::infinity()};
    Point most{-std::numeric_limits<double>::infinity(), -std::numeric_limits<double>::infinity()};

    friend bool operator==(const Box&, const Box&) = default;

    bool isEmpty() const { return least.x > most.x || least.y > most.y; }
    double width() const { return isEmpty() ? 0 : most.x - least.x; }
    double height() const { return isEmpty() ? 0 : most.y - least.y; }
    Point centre() const { return between(least, most, 0.5); }

    void add(Point p) {
        least = {std::min(least.x, p.x), std::min(least.y, p.y)};
        most = {std::max(most.x, p.x), std::max(most.y, p.y)};
    }
    void add(const Box& other) {
        if (!other.isEmpty()) {
            add(other.least);
            add(other.most);
        }
    }
    bool meets(const Box& other) const {
        return least.x <= other.most.x && other.least.x <= most.x && least.y <= other.most.y &&
               other.least.y <= most.y;
    }
    bool holds(const Box& other) const {
        return least.x <= other.least.x && least.y <= other.least.y && most.x >= other.most.x &&
               most.y >= other.most.y;
    }
    Box grownBy(double margin) const {
        return {{least.x - margin, least.y - margin}, {most.x + margin, most.y + margin}};
    }
    Box movedBy(Point d) const { return {least + d, most + d}; }
};

} // namespace hasami
