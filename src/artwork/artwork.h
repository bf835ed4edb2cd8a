#pragma once

#include "geometry/affine.h"
#include "geometry/point.h"

#include <cstddef>
#include <string>
#include <vector>

namespace hasami {

/// A file that a job was given, byte for byte.
struct Asset {
    std::string sha256; ///< of the bytes, 64 lower-case hexadecimal digits
    std::string name;   ///< the file's name, without its folder
    std::vector<std::byte> bytes;
};

/// A picture's place in a design: its top left corner and size, in mm of the design (x right, y down).
struct Placement {
    Point at;
    double width = 0;
    double height = 0;

    friend bool operator==(const Placement&, const Placement&) = default;
};

/// One thing in a design's artwork: a picture from a file, or a page of vector art.
struct Item {
    std::string asset; ///< its SHA-256
    std::string name;
    int pixelWidth = 0, pixelHeight = 0; ///< of the picture, or of the one that stands for the page
    Placement place;
    bool isVector = false;
    int page = 1; ///< of the file, counted from 1

    friend bool operator==(const Item&, const Item&) = default;

    /// From pixels (pixel (i, j) covers [i, i + 1] x [j, j + 1]) to mm of the design.
    Affine fromPixels() const {
        return Affine::translation(place.at) *
               Affine::scaling(place.width / pixelWidth, place.height / pixelHeight);
    }
};

/// What a sticker shows: items from behind to front.
struct Artwork {
    std::vector<Item> items;

    friend bool operator==(const Artwork&, const Artwork&) = default;
};

/// The box around all items; empty without any.
Box bounds(const Artwork& artwork);

/// The artwork scaled evenly about its top left corner, so that its box is `width` wide.
/// REQUIRES: at least one item, width > 0.
Artwork scaledToWidth(const Artwork& artwork, double width);

/// The lowest resolution of any picture at its size, in dots an inch; 0 without pictures.
double dotsPerInch(const Artwork& artwork);

} // namespace hasami
