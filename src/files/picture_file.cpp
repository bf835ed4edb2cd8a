#include "files/picture_file.h"

#include "artwork/vector_page.h"
#include "base/error.h"
#include "files/drawing_file.h"
#include "files/gif_header.h"
#include "files/jpeg_header.h"
#include "files/jpeg_inks.h"
#include "files/png_header.h"
#include "files/read_file.h"
#include "files/reader_process.h"
#include "files/shown_inks.h"
#include "files/vector_file.h"
#include "sticker/brought_lines.h"
#include "workshop/cache_keys.h"

#include <QBuffer>
#include <QColorSpace>
#include <QImage>
#include <QImageReader>

#include <algorithm>
#include <cmath>
#include <cstring>
#include <optional>

namespace hasami {

namespace {

void check(const Asset& asset, const PngHeader& header) {
    if (header.width == 0 || header.height == 0)
        refuse(asset, "%1 is a PNG file without a picture in it");
    checkSize(asset.name, header.width, header.height);
    if (!header.isWhole)
        refuse(asset, "%1 is cut short: the end of the picture is missing");
    if (!header.isIntact)
        refuse(asset, "%1 is a damaged PNG picture");
}

void check(const Asset& asset, const JpegHeader& header) {
    if (header.width == 0 || header.height == 0)
        refuse(asset, "%1 is a JPEG file without a picture that can be read");
    checkSize(asset.name, header.width, header.height);
    if (!header.isWhole)
        refuse(asset, "%1 is cut short: the end of the picture is missing");
    if (header.components != 1 && header.components != 3 && header.components != 4)
        refuse(asset, "%1 is a JPEG picture of a kind that can't be read");
}

void check(const Asset& asset, const GifHeader& header) {
    checkSize(asset.name, header.width, header.height);
    if (!header.isWhole)
        refuse(asset, "%1 is cut short: the end of the picture is missing");
}

QByteArray bytesOf(const Asset& asset) {
    return QByteArray::fromRawData(reinterpret_cast<const char*>(asset.bytes.data()),
                                   qsizetype(asset.bytes.size()));
}

/// Bytes for Qt to decode, which end as soon as a stop is requested. (Of a QBuffer, Qt's JPEG reader takes
/// the memory itself and never comes back for more.)
class StoppableBytes : public QIODevice {
public:
    StoppableBytes(QByteArrayView bytes, std::stop_token stop) : bytes_(bytes), stop_(std::move(stop)) {
        open(QIODevice::ReadOnly | QIODevice::Unbuffered);
    }

    qint64 size() const override { return bytes_.size(); }
    bool seek(qint64 to) override {
        at_ = to;
        return QIODevice::seek(to);
    }

protected:
    qint64 readData(char* to, qint64 most) override {
        if (stop_.stop_requested())
            return -1;
        const qint64 count = std::clamp(qint64(bytes_.size()) - at_, qint64(0), most);
        std::memcpy(to, bytes_.data() + at_, std::size_t(count));
        at_ += count;
        return count;
    }
    qint64 writeData(const char*, qint64) override { return -1; }

private:
    QByteArrayView bytes_;
    std::stop_token stop_;
    qint64 at_ = 0;
};

QImage decode(const Asset& asset, const char* format, const std::stop_token& stop) {
    // A 16-bit picture of mostPixels takes 800 MB; the size was checked before.
    QImageReader::setAllocationLimit(1024);
    const QByteArray bytes = bytesOf(asset);
    StoppableBytes device(bytes, stop);
    QImageReader reader(&device, format);
    reader.setAutoTransform(true);
    QImage image = reader.read();
    throwIfStopped(stop);
    if (image.isNull())
        refuse(asset, "%1 is a damaged %2 picture", QString(format).toUpper().toStdString());
    return image;
}

void takePixels(Picture& picture, QImage image) {
    image.convertTo(QImage::Format_RGBA8888);
    picture.pixels = Grid<Rgba>(image.width(), image.height());
    for (int row = 0; row < image.height(); ++row)
        std::memcpy(picture.pixels.row(row).data(), image.constScanLine(row), std::size_t(image.width()) * 4);
}

void takeProfile(Picture& picture, const QImage& image) {
    if (!image.colorSpace().isValid())
        return;
    const QByteArray profile = image.colorSpace().iccProfile();
    picture.iccProfile.resize(std::size_t(profile.size()));
    std::memcpy(picture.iccProfile.data(), profile.constData(), picture.iccProfile.size());
}

/// Keeps 16 bits of each colour.
void takeFine(Picture& picture, const QImage& image) {
    const bool isGrey = picture.isGrey;
    const QImage wide = image.convertToFormat(QImage::Format_RGBA64);
    FineColours fine(isGrey ? 1 : 3, 16, wide.width(), wide.height());
    for (int row = 0; row < wide.height(); ++row) {
        const auto* from = reinterpret_cast<const QRgba64*>(wide.constScanLine(row));
        for (int column = 0; column < wide.width(); ++column, ++from)
            fine.set(column, row, {from->red(), from->green(), from->blue(), 0});
    }
    picture.fine = std::move(fine);
}

/// Whether a profile is one of as many channels as the picture has (ICC.1, 7.2.6).
bool isProfileOf(const Picture& picture) {
    constexpr std::size_t at = 16;
    const int channels = picture.fine ? picture.fine->channels() : picture.isGrey ? 1 : 3;
    const std::string_view wanted = channels == 1 ? "GRAY" : channels == 4 ? "CMYK" : "RGB ";
    return picture.iccProfile.size() >= at + wanted.size() &&
           std::memcmp(picture.iccProfile.data() + at, wanted.data(), wanted.size()) == 0;
}

/// Refuses one that shows nothing; leaves out a profile of other colours than the picture's.
Picture checked(const Asset& asset, Picture picture) {
    if (!isProfileOf(picture))
        picture.iccProfile.clear();
    const auto cells = picture.pixels.cells();
    if (std::none_of(cells.begin(), cells.end(), [](Rgba pixel) { return pixel.coverage > 0; }))
        refuse(asset, "%1 shows nothing: every pixel of it is transparent");
    return picture;
}

/// Whether a file says by its gamma and primaries alone that its numbers are not those of sRGB.
bool hasOwnGamma(const QImage& image) {
    constexpr double usual = 2.2, alike = 0.05;
    const QColorSpace space = image.colorSpace();
    return space.isValid() && space.transferFunction() == QColorSpace::TransferFunction::Gamma &&
           (std::abs(double(space.gamma()) - usual) > alike ||
            space.primaries() != QColorSpace::Primaries::SRgb);
}

Picture readPng(const Asset& asset, const PngHeader& header, const std::stop_token& stop) {
    check(asset, header);
    QImage image = decode(asset, "png", stop);
    Picture picture;
    picture.hasCoverage = image.hasAlphaChannel();
    picture.isGrey = header.colourType == 0 || header.colourType == 4;
    picture.pixelsPerMillimetre = plausibleResolution(header.pixelsPerMillimetre);
    if (header.hasProfile)
        takeProfile(picture, image);
    else if (hasOwnGamma(image))
        image.convertToColorSpace(QColorSpace::SRgb);
    if (header.bits == 16)
        takeFine(picture, image);
    takePixels(picture, std::move(image));
    return checked(asset, std::move(picture));
}

Picture readJpeg(const Asset& asset, const JpegHeader& header, const std::stop_token& stop) {
    check(asset, header);
    QImage image = decode(asset, "jpeg", stop);
    Picture picture;
    picture.isGrey = header.components == 1;
    picture.pixelsPerMillimetre = plausibleResolution(header.pixelsPerMillimetre);
    picture.jpeg = JpegCoding{header.width, header.height, header.components,
                              header.components == 4 && header.storesInverted, header.orientation};
    if (header.components != 4) // a CMYK profile is no profile of the RGB picture that is shown
        takeProfile(picture, image);
    else
        picture.fine = readJpegInks(asset.bytes, *picture.jpeg);
    takePixels(picture, std::move(image));
    if (picture.fine && header.components == 4)
        if (std::vector<std::byte> profile = profileOfJpeg(asset.bytes); !profile.empty()) {
            showInksBy(picture, profile);
            picture.iccProfile = std::move(profile);
        }
    if (!isProfileOf(picture))
        picture.iccProfile.clear();
    return picture;
}

/// By the reader.
Picture readTiff(const Asset& asset, int page, const std::stop_token& stop) {
    Picture picture = askReaderForPicture(asset, "tiff", page, bytesOf(asset), stop);
    if (picture.fine && picture.fine->channels() == 4 && !picture.iccProfile.empty())
        showInksBy(picture, picture.iccProfile);
    return picture;
}

} // namespace

Picture readPicture(const Asset& asset, const PictureWish& wish, const std::stop_token& stop) {
    throwIfStopped(stop);
    if (asset.drawing)
        return readDrawing(
            asset, wish,
            [](const Asset& inside, const PictureWish& asked, const std::stop_token& token) {
                return std::make_shared<const Picture>(readPicture(inside, asked, token));
            },
            stop);
    if (asset.bytes.empty())
        refuse(asset, "%1 is empty");
    const FileKind kind = kindOf(asset.bytes);
    if (isVector(kind))
        return readVector(asset, kind, wish, stop);
    if (kind == FileKind::tiff)
        return checked(asset, readTiff(asset, wish.page, stop));
    if (wish.page != 1)
        refuse(asset, "%1 has no page %2: it is one picture", std::to_string(wish.page));
    switch (kind) {
    case FileKind::png:
        return readPng(asset, *readPngHeader(asset.bytes), stop);
    case FileKind::jpeg:
        if (const auto jpeg = readJpegHeader(asset.bytes))
            return readJpeg(asset, *jpeg, stop);
        refuse(asset, "%1 is a JPEG file without a picture that can be read");
    case FileKind::webp:
        return checked(asset, askReaderForPicture(asset, "webp", 1, bytesOf(asset), stop));
    case FileKind::gif:
        check(asset, readGifHeader(asset.bytes));
        return checked(asset, askReaderForPicture(asset, "gif", 1, bytesOf(asset), stop));
    default:
        refuse(
            asset,
            "%1 is not artwork that Hasami reads: PNG, JPEG, TIFF, WebP, GIF, SVG, PDF, EPS or PostScript");
    }
}

std::shared_ptr<const Picture> PictureStore::get(const Asset& asset, const PictureWish& wish,
                                                 const std::stop_token& stop) {
    CacheKey key("picture");
    key << asset.sha256 << double(wish.page) << double(wish.withInks) << wish.onlyLayer;
    for (const std::string& spot : wish.leftOut)
        key << spot;
    return kept_.findOrMake<Picture>(
        key,
        [&] {
            if (!asset.drawing)
                return readPicture(asset, wish, stop);
            return readDrawing(
                asset, wish,
                [this](const Asset& inside, const PictureWish& asked, const std::stop_token& token) {
                    return get(inside, asked, token);
                },
                stop);
        },
        [](const Picture& picture) { return bytesOf(picture); }, stop);
}

NewPicture openPage(const std::shared_ptr<const Asset>& asset, PictureStore& pictures, int page,
                    const std::stop_token& stop) {
    const auto picture = pictures.get(*asset, {page}, stop);
    NewPicture opened{asset, picture->pixels.width(), picture->pixels.height(), picture->pixelsPerMillimetre,
                      page};
    for (const SpotPlate& spot : picture->spotPlates)
        opened.spots.push_back(spot.name);
    if (picture->page) {
        const PaintList& paint = picture->page->paint;
        opened.vector = NewPicture::Vector{paint.width, paint.height, strokeSpots(paint)};
        for (const auto* names : {&picture->page->mixedSpots, &picture->page->layers})
            opened.spots.insert(opened.spots.end(), names->begin(), names->end());
        for (const PaintItem& painted : paint.items)
            if (!painted.spot.empty())
                opened.spots.push_back(painted.spot);
    }
    return opened;
}

NewPicture openArtwork(const std::filesystem::path& path, PictureStore& pictures, int page,
                       const std::stop_token& stop) {
    return openPage(readAsset(path), pictures, page, stop);
}

} // namespace hasami
