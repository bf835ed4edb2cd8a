#pragma once

#include "machine/print_map.h"
#include "machine/print_pixels.h"

#include <array>
#include <cstdint>
#include <memory>
#include <vector>

namespace hasami {

/// A sheet's print as its file has it: columns along the feed from the leading edge, rows across it.
struct SheetPicture {
    PrintPixels pixels;
    double pixelsPerMillimetre = 300 / 25.4;
    Point origin =
        {}; ///< where the first pixel's outer corner lies, mm of the sheet: pages are no whole pixels
};

/// What paper and printer add to a print.
struct PaperLook {
    Rgb paper{251, 249, 244};
    double noise = 2;   ///< grain: the standard deviation of a pixel, percent of full contrast
    double banding = 1; ///< faint stripes across the feed, percent
};

/// What has happened to a place of a print, mm of the bed.
struct Blemish {
    enum class Kind { smudge, torn };
    Point at;
    double radius = 0;
    Kind kind = Kind::smudge;
};

/// The simulated printer: a sheet as it lies printed on the cutter's bed, a picture of the same resolution as
/// the print file's, with its error, paper and blemishes. Pixels are computed when they are asked for, from
/// their place and the seed alone: the same sheet always looks the same. Immutable; for any thread.
class PrintedSheet {
public:
    /// `around`: how much of the bed is seen around the medium, mm.
    PrintedSheet(std::shared_ptr<const SheetPicture> print, const PrintMap& map, PaperLook look,
                 std::vector<Blemish> blemishes, std::uint32_t seed, double around = 10);

    int width() const { return width_; }
    int height() const { return height_; }
    double pixelsPerMillimetre() const { return print_->pixelsPerMillimetre; }
    /// The middle of a pixel, mm of the bed.
    Point placeOf(double column, double row) const;
    /// The column and row, with fractions, of which `placeOf` gives the place.
    Point pixelOf(Point bed) const;

    /// REQUIRES: 0 <= column < width(), 0 <= row < height().
    Rgb at(int column, int row) const;

private:
    std::array<double, 3> printed(Point sheet) const;
    double grain(int column, int row) const;

    std::shared_ptr<const SheetPicture> print_;
    PrintMap map_;
    PaperLook look_;
    std::vector<Blemish> blemishes_;
    std::uint32_t seed_;
    double around_;
    int width_, height_;
    Point size_; ///< of the medium, mm
};

} // namespace hasami
