#pragma once

#include "geometry/point.h"

#include <cmath>

namespace hasami {

/// An affine map: (x, y) becomes (a·x + c·y + e, b·x + d·y + f), the order of numbers that PDF and SVG use.
struct Affine {
    double a = 1, b = 0, c = 0, d = 1, e = 0, f = 0;

    friend bool operator==(const Affine&, const Affine&) = default;

    constexpr Point operator()(Point p) const { return {a * p.x + c * p.y + e, b * p.x + d * p.y + f}; }
    constexpr double determinant() const { return a * d - b * c; }

    static constexpr Affine translation(Point by) { return {1, 0, 0, 1, by.x, by.y}; }
    static constexpr Affine scaling(double x, double y) { return {x, 0, 0, y, 0, 0}; }

    /// Turns from the x axis towards the y axis: clockwise on screen, where y runs down.
    static Affine rotation(double radians) {
        const double cosine = std::cos(radians), sine = std::sin(radians);
        return {cosine, sine, -sine, cosine, 0, 0};
    }
};

/// The map that does `inner` first, then `outer`.
constexpr Affine operator*(const Affine& outer, const Affine& inner) {
    return {outer.a * inner.a + outer.c * inner.b,           outer.b * inner.a + outer.d * inner.b,
            outer.a * inner.c + outer.c * inner.d,           outer.b * inner.c + outer.d * inner.d,
            outer.a * inner.e + outer.c * inner.f + outer.e, outer.b * inner.e + outer.d * inner.f + outer.f};
}

/// The map back. REQUIRES: the determinant is not 0.
constexpr Affine inverse(const Affine& m) {
    const double n = 1 / m.determinant();
    return {m.d * n, -m.b * n, -m.c * n, m.a * n, (m.c * m.f - m.d * m.e) * n, (m.b * m.e - m.a * m.f) * n};
}

/// The box around the mapped box. REQUIRES: the box is not empty.
inline Box boundsOfMapped(const Box& box, const Affine& by) {
    const Point centre = by(box.centre());
    const Point half{(std::abs(by.a) * box.width() + std::abs(by.c) * box.height()) / 2,
                     (std::abs(by.b) * box.width() + std::abs(by.d) * box.height()) / 2};
    return {centre - half, centre + half};
}

} // namespace hasami
