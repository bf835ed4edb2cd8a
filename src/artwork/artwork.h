#pragma once

#include "artwork/own_artwork.h"
#include "artwork/placement.h"

#include <optional>
#include <string>
#include <utility>
#include <variant>
#include <vector>

namespace hasami {

/// A part of a picture, in whole pixels of it.
struct PixelBox {
    int left = 0, top = 0, width = 0, height = 0;

    friend bool operator==(const PixelBox&, const PixelBox&) = default;
};

/// A picture.
struct FilePicture : FileContent {};

/// A page of vector art.
struct FilePage : FileContent {};

/// One thing in a design's artwork: where it lies, which part of it is shown, and what it is.
struct Item {
    std::string name;
    /// Of the whole picture, or of the one that stands for vector art.
    int pixelWidth = 0, pixelHeight = 0;
    Placement place;                   ///< of the whole picture
    std::optional<PixelBox> crop = {}; ///< the part that is shown; none: all of it
    std::variant<FilePicture, FilePage, OwnArtwork> content = {};
    int group = 0;             ///< items of the same number above 0 are held together
    bool isBackground = false; ///< printed as far as the bleed reaches, and no part of the edge
    bool isLocked = false;     ///< on the bench it is not picked up and does not move by itself

    /// Drawn at any size, not made of pixels.
    bool isVector() const { return !std::holds_alternative<FilePicture>(content); }

    /// Made in the program; nullptr where it is a file's.
    const OwnArtwork* own() const { return std::get_if<OwnArtwork>(&content); }
    OwnArtwork* own() { return std::get_if<OwnArtwork>(&content); }
    /// From a file; nullptr where it is made in the program.
    const FileContent* file() const;
    FileContent* file() { return const_cast<FileContent*>(std::as_const(*this).file()); }

    /// What its picture is made of: the asset's id, and which page of it.
    const std::string& source() const;
    int page() const { return file() ? file()->page : 1; }

    friend bool operator==(const Item&, const Item&) = default;

    PixelBox shown() const { return crop.value_or(PixelBox{0, 0, pixelWidth, pixelHeight}); }

    /// The item as it is before it is moved, turned and mirrored: in its own frame, with the whole picture's
    /// top left corner at 0, 0.
    Item upright() const;

    /// From mm of its own frame to mm of the design: moves, turns and mirrors.
    Affine toDesign() const { return place.toDesign(); }

    /// From pixels of the part shown (pixel (i, j) covers [i, i + 1] x [j, j + 1]) to mm of the design.
    Affine fromPixels() const;

    /// From the unit square of the whole picture to mm of the design.
    Affine fromUnitSquare() const { return toDesign() * Affine::scaling(place.width, place.height); }

    /// The whole picture, and the part shown, in mm of its own frame.
    Box wholeBox() const { return {{0, 0}, {place.width, place.height}}; }
    Box shownBox() const;
};

/// What a sticker shows: items from behind to front.
struct Artwork {
    std::vector<Item> items;

    friend bool operator==(const Artwork&, const Artwork&) = default;
};

/// Without background; all of it where there is nothing else.
Artwork foregroundOf(const Artwork& artwork);

/// The box around what is shown of an item, in mm of the design.
Box bounds(const Item& item);

/// The box around all items; empty without any.
Box bounds(const Artwork& artwork);

/// The artwork scaled evenly about its top left corner, so that its box is `width` wide.
/// REQUIRES: at least one item, width > 0.
Artwork scaledToWidth(const Artwork& artwork, double width);

/// The lowest resolution of any picture at its size, in dots an inch; 0 without pictures.
double dotsPerInch(const Artwork& artwork);

} // namespace hasami
