#pragma once

#include "artwork/artwork.h"
#include "artwork/fine_colours.h"
#include "artwork/rgba.h"
#include "geometry/affine.h"
#include "raster/grid.h"

#include <compare>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <optional>
#include <set>
#include <string>
#include <vector>

namespace hasami {

/// How a JPEG file holds its picture, for those who pass its bytes on.
struct JpegCoding {
    int width = 0, height = 0; ///< as stored
    int components = 3;        ///< 1 grey, 3 colour, 4 CMYK
    bool isInverted = false;   ///< CMYK stored as what is left of the paper
    int orientation = 1;       ///< how it is turned for the eye, as in EXIF, 1 to 8
};

/// Of one picture.
inline constexpr int mostSpotPlates = 8;
inline constexpr std::size_t longestSpotPlateName = 255; ///< bytes

/// How much of a spot colour each pixel has, 0 to 255.
struct SpotPlate {
    std::string name;
    Grid<std::uint8_t> amounts;
};

/// From the unit square of the stored picture to that of the picture as one sees it, y down in both.
Affine orientationMap(int orientation);

struct Picture;

/// Turns a picture in stored order as one sees it.
void turnUpright(Picture& picture, int orientation);

/// Which picture of a file: of vector art, a page (counted from 1) without what is drawn in some spot
/// colours, or on layers of their names where it has no such colour, and with its inks as fine colours where
/// it is in CMYK.
struct PictureWish {
    int page = 1;
    std::set<std::string> leftOut = {};
    bool withInks = false;
    std::string onlyLayer = {}; ///< all else is left out; empty: nothing is

    friend auto operator<=>(const PictureWish&,
                            const PictureWish&) = default; // NOLINT(modernize-use-nullptr)
};

struct VectorPage;

/// A decoded picture and what its file says of it.
struct Picture {
    Grid<Rgba> pixels;
    double pixelsPerMillimetre = 0; ///< 0: the file does not say
    bool hasCoverage = false;       ///< the file holds transparency
    bool isGrey = false;            ///< the file's colours are greys
    std::vector<std::byte> iccProfile;
    std::optional<JpegCoding> jpeg; ///< of a JPEG file
    int pages = 1;                  ///< that the file has; this is one of them
    std::optional<FineColours> fine =
        {}; ///< as printed, where the pixels, which show it, would lose something

    /// Of a picture's channels of spot colours; of vector art, where its inks are asked for.
    std::vector<SpotPlate> spotPlates = {};

    std::shared_ptr<const VectorPage> page = {}; ///< of vector art, for which the pixels stand
};

/// Refuses (InputError) pictures of less than 4 x 4 or more than 100 million pixels. `name` of the file.
void checkSize(const std::string& name, std::int64_t width, std::int64_t height);
/// Why a picture of that many pixels is not opened, in English: "%1" is its name, "%2" and "%3" its size.
/// nullptr where it is.
const char* faultOfSize(std::int64_t width, std::int64_t height);

/// The resolution, or 0 if it is a mistake in the file: less than 1 or more than 20,000 dots an inch.
double plausibleResolution(double pixelsPerMillimetre);

/// Resolution taken for a picture whose file does not say its own: 300 dots an inch.
inline constexpr double usualPixelsPerMillimetre = 300 / 25.4;

/// A part of a picture, for finding edges and colours in. REQUIRES: it lies in the picture.
Picture partOf(const Picture& picture, const PixelBox& box);

/// How much of each pixel is covered, 0 to 255.
Grid<std::uint8_t> coverageOf(const Picture& picture);

} // namespace hasami
