#include "reader/tiff_picture.h"

#include "artwork/channel_names.h"
#include "base/error.h"
#include "reader/refusal.h"
#include "reader/square_pixels.h"

#include <algorithm>
#include <cstring>
#include <memory>
#include <tiffio.h>
#include <vector>

namespace hasami {

namespace {

/// A TIFF file in memory, as libtiff wants to go through it.
struct Source {
    std::span<const std::byte> bytes;
    toff_t at = 0;
};

tmsize_t readSome(thandle_t handle, void* to, tmsize_t count) {
    auto& source = *static_cast<Source*>(handle);
    const toff_t size = source.bytes.size();
    const auto some = std::min<toff_t>(toff_t(count), source.at < size ? size - source.at : 0);
    std::memcpy(to, source.bytes.data() + source.at, some);
    source.at += some;
    return tmsize_t(some);
}

tmsize_t writeNone(thandle_t, void*, tmsize_t) {
    return 0;
}

toff_t seek(thandle_t handle, toff_t by, int from) {
    auto& source = *static_cast<Source*>(handle);
    source.at = by + (from == SEEK_CUR ? source.at : from == SEEK_END ? source.bytes.size() : 0);
    return source.at;
}

int closeNone(thandle_t) {
    return 0;
}

toff_t sizeOf(thandle_t handle) {
    return static_cast<Source*>(handle)->bytes.size();
}

struct CloseTiff {
    void operator()(TIFF* file) const { TIFFClose(file); }
};

template <class Value>
Value tag(TIFF* file, std::uint32_t which, Value otherwise) {
    Value value{};
    return TIFFGetFieldDefaulted(file, which, &value) ? value : otherwise;
}

/// `direction`: TIFFTAG_XRESOLUTION or TIFFTAG_YRESOLUTION, of the picture as it is stored.
double resolutionOf(TIFF* file, std::uint32_t direction) {
    const auto perUnit = tag<float>(file, direction, 0);
    switch (tag<std::uint16_t>(file, TIFFTAG_RESOLUTIONUNIT, RESUNIT_INCH)) {
    case RESUNIT_INCH:
        return plausibleResolution(double(perUnit) / 25.4);
    case RESUNIT_CENTIMETER:
        return plausibleResolution(double(perUnit) / 10);
    default:
        return 0;
    }
}

/// What a TIFF page says of itself.
struct Head {
    std::uint32_t width, height;
    std::uint16_t photometric, bits, samples, orientation;
    bool hasCoverage = false, isMultiplied = false;
    std::vector<std::size_t> inks = {}; ///< samples beside the colours and the coverage, from 0

    explicit Head(TIFF* file)
        : width(tag<std::uint32_t>(file, TIFFTAG_IMAGEWIDTH, 0)),
          height(tag<std::uint32_t>(file, TIFFTAG_IMAGELENGTH, 0)),
          photometric(tag<std::uint16_t>(file, TIFFTAG_PHOTOMETRIC, 0)),
          bits(tag<std::uint16_t>(file, TIFFTAG_BITSPERSAMPLE, 1)),
          samples(tag<std::uint16_t>(file, TIFFTAG_SAMPLESPERPIXEL, 1)),
          orientation(tag<std::uint16_t>(file, TIFFTAG_ORIENTATION, ORIENTATION_TOPLEFT)) {
        std::uint16_t extras = 0;
        const std::uint16_t* kinds = nullptr;
        if (TIFFGetField(file, TIFFTAG_EXTRASAMPLES, &extras, &kinds) && extras > 0) {
            // What is not said to be anything else is taken for coverage behind colours, as most programs
            // write it.
            isMultiplied = kinds[0] == EXTRASAMPLE_ASSOCALPHA;
            hasCoverage = isMultiplied || kinds[0] == EXTRASAMPLE_UNASSALPHA || !isCmyk();
            for (std::uint16_t i = hasCoverage ? 1 : 0; i < extras && colours() + i < samples; ++i)
                if (kinds[i] == EXTRASAMPLE_UNSPECIFIED)
                    inks.push_back(std::size_t(i));
        }
    }

    bool isCmyk() const { return photometric == PHOTOMETRIC_SEPARATED; }
    bool isGrey() const {
        return photometric == PHOTOMETRIC_MINISWHITE || photometric == PHOTOMETRIC_MINISBLACK;
    }
    int colours() const { return isCmyk() ? 4 : isGrey() ? 1 : 3; }
};

[[noreturn]] void refuseTiff() {
    refuse("%1 is a damaged TIFF picture, or of a kind that can't be read");
}

/// The colours as libtiff shows them, in stored order, coverage no longer multiplied in.
Grid<Rgba> shownPixels(TIFF* file, const Head& head) {
    Grid<Rgba> pixels(int(head.width), int(head.height));
    std::vector<std::uint32_t> raster(pixels.cells().size());
    if (!TIFFReadRGBAImageOriented(file, head.width, head.height, raster.data(), head.orientation, 1))
        refuseTiff();
    const auto part = [](std::uint32_t value, unsigned coverage) {
        return coverage == 0 ? std::uint8_t(0)
                             : std::uint8_t(std::min(255U, (value * 255 + coverage / 2) / coverage));
    };
    std::transform(raster.begin(), raster.end(), pixels.cells().begin(), [&](std::uint32_t p) {
        const unsigned a = TIFFGetA(p);
        return Rgba{part(TIFFGetR(p), a), part(TIFFGetG(p), a), part(TIFFGetB(p), a), std::uint8_t(a)};
    });
    return pixels;
}

/// All samples of a page, pixel by pixel in stored order, as the file holds them (16 bits in this machine's
/// order).
class Samples {
public:
    Samples(TIFF* file, const Head& head)
        : head_(head), bytes_(head.bits / 8),
          all_(std::size_t(head.width) * head.height * head.samples * bytes_) {
        const bool isApart =
            tag<std::uint16_t>(file, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG) == PLANARCONFIG_SEPARATE;
        const std::uint16_t planes = isApart ? head.samples : 1;
        for (std::uint16_t plane = 0; plane < planes; ++plane) {
            plane_ = isApart ? plane : -1;
            TIFFIsTiled(file) ? readTiles(file, plane) : readRows(file, plane);
        }
    }

    std::uint16_t at(std::size_t pixel, std::size_t sample) const {
        const std::uint8_t* from = &all_[(pixel * head_.samples + sample) * bytes_];
        if (bytes_ == 1)
            return *from;
        std::uint16_t value = 0;
        std::memcpy(&value, from, 2);
        return value;
    }

    /// In eight bits.
    std::uint8_t eighth(std::size_t pixel, std::size_t sample) const {
        return std::uint8_t(bytes_ == 1 ? at(pixel, sample) : (at(pixel, sample) + 128) / 257);
    }

    /// REQUIRES: nothing is asked for afterwards.
    std::vector<std::uint8_t> take() { return std::move(all_); }

private:
    std::size_t blockPixel() const { return (plane_ < 0 ? head_.samples : 1) * bytes_; }

    /// Lays a row of a block, which begins at a pixel, among all samples.
    void lay(const std::uint8_t* row, std::uint32_t x, std::uint32_t y, std::size_t count) {
        std::uint8_t* to = &all_[(std::size_t(y) * head_.width + x) * head_.samples * bytes_];
        if (plane_ < 0)
            std::memcpy(to, row, count * blockPixel());
        else
            for (std::size_t i = 0; i < count; ++i)
                std::memcpy(to + (i * head_.samples + std::size_t(plane_)) * bytes_, row + i * bytes_,
                            bytes_);
    }

    void readRows(TIFF* file, std::uint16_t plane) {
        std::vector<std::uint8_t> row(std::size_t(std::max<tmsize_t>(0, TIFFScanlineSize(file))));
        if (row.size() < head_.width * blockPixel())
            refuseTiff();
        for (std::uint32_t y = 0; y < head_.height; ++y) {
            if (TIFFReadScanline(file, row.data(), y, plane) < 0)
                refuseTiff();
            lay(row.data(), 0, y, head_.width);
        }
    }

    void readTiles(TIFF* file, std::uint16_t plane) {
        const auto width = tag<std::uint32_t>(file, TIFFTAG_TILEWIDTH, 0);
        const auto height = tag<std::uint32_t>(file, TIFFTAG_TILELENGTH, 0);
        const std::size_t rowBytes = width * blockPixel();
        std::vector<std::uint8_t> tile(std::size_t(std::max<tmsize_t>(0, TIFFTileSize(file))));
        if (width == 0 || height == 0 || tile.size() < height * rowBytes)
            refuseTiff();
        for (std::uint32_t y = 0; y < head_.height; y += height)
            for (std::uint32_t x = 0; x < head_.width; x += width) {
                if (TIFFReadTile(file, tile.data(), x, y, 0, plane) < 0)
                    refuseTiff();
                for (std::uint32_t row = 0; row < std::min(height, head_.height - y); ++row)
                    lay(&tile[row * rowBytes], x, y + row, std::min(width, head_.width - x));
            }
    }

    const Head& head_;
    std::size_t bytes_;
    int plane_ = -1; ///< the one that is read, or all side by side
    std::vector<std::uint8_t> all_;
};

/// Whether eight bits of red, green and blue would lose what the page holds.
bool needsFine(TIFF* file, const Head& head) {
    const auto format = tag<std::uint16_t>(file, TIFFTAG_SAMPLEFORMAT, SAMPLEFORMAT_UINT);
    if (format != SAMPLEFORMAT_UINT || head.samples < head.colours() + (head.hasCoverage ? 1 : 0))
        return false;
    if (head.isCmyk())
        return (head.bits == 8 || head.bits == 16) &&
               tag<std::uint16_t>(file, TIFFTAG_INKSET, INKSET_CMYK) == INKSET_CMYK;
    return head.bits == 16 && (head.photometric == PHOTOMETRIC_RGB || head.isGrey());
}

/// The colours with all their bits, in stored order, coverage no longer multiplied in.
FineColours fineColours(Samples& samples, const Head& head) {
    if (head.colours() == head.samples && head.photometric != PHOTOMETRIC_MINISWHITE)
        return {head.colours(), head.bits, int(head.width), int(head.height), samples.take()};
    const auto colours = std::size_t(head.colours());
    const std::uint32_t full = head.bits == 16 ? 0xffff : 0xff;
    FineColours fine(head.colours(), head.bits, int(head.width), int(head.height));
    FineCell cell{};
    for (std::size_t pixel = 0; pixel < fine.pixels(); ++pixel) {
        for (std::size_t i = 0; i < colours; ++i) {
            std::uint32_t value = samples.at(pixel, i);
            if (head.photometric == PHOTOMETRIC_MINISWHITE)
                value = full - value;
            if (head.isMultiplied)
                if (const std::uint32_t coverage = samples.at(pixel, colours))
                    value = std::min(full, (value * full + coverage / 2) / coverage);
            cell[i] = std::uint16_t(value);
        }
        fine.set(pixel, cell);
    }
    return fine;
}

/// What the eye is shown of fine colours.
Grid<Rgba> pixelsOf(const FineColours& fine, const Samples& samples, const Head& head) {
    Grid<Rgba> pixels(int(head.width), int(head.height));
    for (std::size_t i = 0; i < pixels.cells().size(); ++i) {
        Rgba& pixel = pixels.cells()[i];
        pixel = fine.shown(i);
        if (head.hasCoverage)
            pixel.coverage = samples.eighth(i, std::size_t(head.colours()));
    }
    return pixels;
}

/// The channels of spot colours, by their names where the file has them, in eight bits.
void takeSpotPlates(TIFF* file, const Head& head, const Samples& samples, Picture& picture) {
    constexpr std::uint32_t imageResources = 34377; // a field of blocks, as PSD files have them
    std::uint32_t size = 0;
    const std::byte* resources = nullptr;
    std::vector<ExtraChannel> named;
    if (TIFFGetField(file, imageResources, &size, &resources) && resources)
        named = extraChannels({resources, size});
    for (const std::size_t extra : head.inks) {
        if (picture.spotPlates.size() >= std::size_t(mostSpotPlates) ||
            (extra < named.size() && !named[extra].isInk))
            continue;
        SpotPlate& spot = picture.spotPlates.emplace_back();
        spot.name = extra < named.size() ? named[extra].name : std::string();
        spot.amounts = Grid<std::uint8_t>(int(head.width), int(head.height));
        for (std::size_t pixel = 0; pixel < spot.amounts.cells().size(); ++pixel)
            spot.amounts.cells()[pixel] = samples.eighth(pixel, std::size_t(head.colours()) + extra);
    }
}

void takeProfile(TIFF* file, Picture& picture) {
    std::uint32_t size = 0;
    const std::byte* profile = nullptr;
    if (TIFFGetField(file, TIFFTAG_ICCPROFILE, &size, &profile) && profile)
        picture.iccProfile.assign(profile, profile + size);
}

} // namespace

Picture readTiff(std::span<const std::byte> bytes, int page) {
    TIFFSetErrorHandler(nullptr);
    TIFFSetWarningHandler(nullptr);
    Source source{bytes};
    const std::unique_ptr<TIFF, CloseTiff> file(TIFFClientOpen("picture", "rm", &source, readSome, writeNone,
                                                               seek, closeNone, sizeOf, nullptr, nullptr));
    if (!file)
        refuse("%1 is a damaged TIFF picture");
    Picture picture;
    picture.pages = std::max(1, int(TIFFNumberOfDirectories(file.get())));
    if (page > picture.pages || !TIFFSetDirectory(file.get(), tdir_t(page - 1)))
        refuse("%1 has no page %2: it has %3", std::to_string(page), std::to_string(picture.pages));
    const Head head(file.get());
    checkSize(head.width, head.height);
    picture.isGrey = head.isGrey();
    picture.hasCoverage = head.hasCoverage;
    picture.pixelsPerMillimetre = resolutionOf(file.get(), TIFFTAG_XRESOLUTION);
    if (needsFine(file.get(), head)) {
        Samples samples(file.get(), head);
        takeSpotPlates(file.get(), head, samples, picture);
        picture.fine = fineColours(samples, head);
        picture.pixels = pixelsOf(*picture.fine, samples, head);
    } else {
        picture.pixels = shownPixels(file.get(), head);
    }
    if (!head.isCmyk() || picture.fine) // a CMYK profile is no profile of RGB
        takeProfile(file.get(), picture);
    squarePixels(picture, picture.pixelsPerMillimetre, resolutionOf(file.get(), TIFFTAG_YRESOLUTION));
    turnUpright(picture, head.orientation);
    return picture;
}

} // namespace hasami
