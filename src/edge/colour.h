#pragma once

#include "artwork/picture.h"

#include <algorithm>
#include <cmath>

namespace hasami {

/// A colour to reckon with, 0 to 255 each.
struct Colour {
    float red = 0, green = 0, blue = 0;

    Colour() = default;
    Colour(float r, float g, float b) : red(r), green(g), blue(b) {}
    explicit Colour(Rgba p) : red(p.red), green(p.green), blue(p.blue) {}

    friend Colour operator+(Colour a, Colour b) {
        return {a.red + b.red, a.green + b.green, a.blue + b.blue};
    }
    friend Colour operator-(Colour a, Colour b) {
        return {a.red - b.red, a.green - b.green, a.blue - b.blue};
    }
    friend Colour operator*(Colour a, float by) { return {a.red * by, a.green * by, a.blue * by}; }
};

inline float dot(Colour a, Colour b) {
    return a.red * b.red + a.green * b.green + a.blue * b.blue;
}

/// The greatest difference in a channel.
inline float apart(Colour a, Colour b) {
    return std::max({std::abs(a.red - b.red), std::abs(a.green - b.green), std::abs(a.blue - b.blue)});
}

struct Pixel {
    int x = 0, y = 0;
};

template <class T>
bool holds(const Grid<T>& grid, Pixel p) {
    return p.x >= 0 && p.y >= 0 && p.x < grid.width() && p.y < grid.height();
}

} // namespace hasami
