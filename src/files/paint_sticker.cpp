#include "files/paint_sticker.h"

#include <QBuffer>
#include <QPainter>

#include <algorithm>
#include <cstring>
#include <map>

namespace hasami {

namespace {

void add(QPainterPath& path, const Subpath& run) {
    path.moveTo(run.start.x, run.start.y);
    for (const CurveSegment& s : run.segments) {
        if (s.straight)
            path.lineTo(s.end.x, s.end.y);
        else
            path.cubicTo(s.control1.x, s.control1.y, s.control2.x, s.control2.y, s.end.x, s.end.y);
    }
    if (run.isClosed)
        path.closeSubpath();
}

QByteArray toPng(const QImage& image) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    image.save(&buffer, "PNG");
    return bytes;
}

QImage scaled(const QImage& image, const QSize& size) {
    return image.scaled(size, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
}

/// Each pixel the average of `by` times as many, both ways. In bands, since Qt scales a copy.
QImage reduced(const QImage& image, int by) {
    constexpr int rowsOfBand = 64; // of the smaller picture
    const QSize size((image.width() + by - 1) / by, (image.height() + by - 1) / by);
    QImage small(size, QImage::Format_ARGB32_Premultiplied);
    for (int row = 0; row < size.height(); row += rowsOfBand) {
        const int rows = std::min(rowsOfBand, size.height() - row),
                  stored = std::min(rows * by, image.height() - row * by);
        const QImage band(image.constScanLine(row * by), image.width(), stored, image.bytesPerLine(),
                          image.format());
        const QImage drawn = scaled(band, {size.width(), rows}).convertToFormat(small.format());
        for (int y = 0; y < rows; ++y)
            std::memcpy(small.scanLine(row + y), drawn.constScanLine(y), std::size_t(drawn.width()) * 4);
    }
    return small;
}

} // namespace

QImage scaledFor(const QImage& image, double pixelsWide, double pixelsHigh) {
    const QSize size(std::max(1, int(std::ceil(pixelsWide))), std::max(1, int(std::ceil(pixelsHigh))));
    if (size.width() >= image.width() || size.height() >= image.height())
        return image;
    const int by = std::min(image.width() / size.width(), image.height() / size.height()) / 2;
    return scaled(by > 1 ? reduced(image, by) : image, size);
}

QPainterPath painterPath(const std::vector<Curve>& curves) {
    QPainterPath path;
    for (const Curve& curve : curves)
        add(path, {curve.start, curve.segments, true});
    return path;
}

QPainterPath painterPath(const std::vector<CutLine>& lines) {
    QPainterPath path;
    for (const CutLine& line : lines)
        add(path, line.whole());
    return path;
}

QPainterPath painterPath(const Subpath& run) {
    QPainterPath path;
    add(path, run);
    return path;
}

void fillArea(QPainter& painter, const std::vector<Curve>& area, Rgba colour) {
    painter.fillPath(painterPath(area), QColor(colour.red, colour.green, colour.blue));
}

QTransform toQt(const Affine& m) {
    return {m.a, m.b, m.c, m.d, m.e, m.f};
}

QImage toImage(std::shared_ptr<const Picture> picture) {
    const auto cells = picture->pixels.cells();
    const int width = picture->pixels.width(), height = picture->pixels.height();
    auto* kept =
        new std::shared_ptr<const Picture>(std::move(picture)); // owned by the image, freed by its clean-up
    return QImage(
        reinterpret_cast<const uchar*>(cells.data()), width, height, qsizetype(width) * 4,
        QImage::Format_RGBA8888,
        [](void* held) { delete static_cast<std::shared_ptr<const Picture>*>(held); }, kept);
}

void paintItem(QPainter& painter, const Item& item, const QImage& whole) {
    const Box shown = item.shownBox();
    const double across = whole.width() / item.place.width, down = whole.height() / item.place.height;
    painter.save();
    painter.setTransform(toQt(item.toDesign()), true);
    painter.drawImage(
        QRectF(shown.least.x, shown.least.y, shown.width(), shown.height()), whole,
        QRectF(shown.least.x * across, shown.least.y * down, shown.width() * across, shown.height() * down));
    painter.restore();
}

Affine fromPixelsOf(const BleedPicture& bleed, QSize size) {
    const Grid<Rgba>& pixels = bleed.picture.pixels;
    return bleed.fromPixels *
           Affine::scaling(double(pixels.width()) / size.width(), double(pixels.height()) / size.height());
}

void clipWithin(QPainter& painter, const Sticker& sticker) {
    if (!sticker.within.empty())
        painter.setClipPath(painterPath(sticker.within), Qt::IntersectClip);
}

void paintBleed(QPainter& painter, const Sticker& sticker, const BleedRecipe& recipe, const QImage& colours,
                const Affine& fromPixels) {
    if (recipe.colour)
        return fillArea(painter, sticker.bleed->area, recipe.colour->shown);
    if (colours.isNull())
        return;
    // As a brush, so that the area has soft edges.
    QBrush brush(colours);
    brush.setTransform(toQt(fromPixels));
    painter.fillPath(painterPath(sticker.bleed->area), brush);
}

namespace {

void paintBleed(QPainter& painter, const MadeDesign& made, double scale) {
    QImage colours;
    if (made.bleed) {
        const Grid<Rgba>& pixels = made.bleed->picture.pixels;
        const double wide = std::hypot(made.bleed->fromPixels.a, made.bleed->fromPixels.b) * scale;
        colours = scaledFor(toImage({made.bleed, &made.bleed->picture}), pixels.width() * wide,
                            pixels.height() * wide);
    }
    paintBleed(painter, *made.sticker, made.recipe.bleed, colours,
               colours.isNull() ? Affine{} : fromPixelsOf(*made.bleed, colours.size()));
}

} // namespace

QImage stickerImage(const Design& design, const Job& job, const MadeDesign& made,
                    const PictureSource& pictures, int side, StickerLook look) {
    const Sticker& sticker = *made.sticker;
    if (sticker.isEmpty() || sticker.footprint.isEmpty())
        return {};
    const Box box = sticker.footprint;
    const double scale = side / std::max(box.width(), box.height());
    QImage image(std::max(1, int(std::lround(box.width() * scale))),
                 std::max(1, int(std::lround(box.height() * scale))), QImage::Format_ARGB32_Premultiplied);
    image.fill(Qt::transparent);
    QPainter painter(&image);
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    painter.scale(scale, scale);
    painter.translate(-box.least.x, -box.least.y);
    const QPainterPath cut = painterPath(sticker.peeled());
    if (look == StickerLook::peeled)
        painter.fillPath(cut, Qt::white);
    if (sticker.border)
        fillArea(painter, sticker.border->under, sticker.border->colour.shown);
    if (sticker.bleed && !sticker.bleed->isOver)
        paintBleed(painter, made, scale);
    painter.save();
    clipWithin(painter, sticker);
    for (const Item& item : design.artwork.items) {
        const QImage picture =
            toImage(pictures(*assetOf(job, item),
                             {item.page(), item.isVector() ? made.leftOut : std::set<std::string>()}, {}));
        paintItem(painter, item, scaledFor(picture, item.place.width * scale, item.place.height * scale));
    }
    painter.restore();
    if (sticker.bleed && sticker.bleed->isOver)
        paintBleed(painter, made, scale);
    if (sticker.border)
        fillArea(painter, sticker.border->over, sticker.border->colour.shown);
    if (look == StickerLook::peeled) {
        // Cut after printing: what lies outside the line is gone.
        QPainterPath outside;
        outside.addRect(QRectF(box.least.x - 1, box.least.y - 1, box.width() + 2, box.height() + 2));
        painter.setCompositionMode(QPainter::CompositionMode_Clear);
        painter.fillPath(outside.subtracted(cut), Qt::transparent);
    }
    return image;
}

std::string previewPng(const Job& job, const Made& made, const PictureSource& pictures) {
    constexpr int side = 512;
    if (made.layout.sheets.empty())
        return {};
    const Sheet& sheet = made.layout.sheets.front();
    const double scale = side / std::max(sheet.length, job.plan.medium.width);
    QImage image(std::max(1, int(sheet.length * scale)), std::max(1, int(job.plan.medium.width * scale)),
                 QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    painter.scale(scale, scale);
    std::map<std::string, QImage> images;
    for (const Piece& piece : sheet.pieces) {
        const MadeDesign& madeDesign = *made.find(piece.design);
        const Sticker& sticker = *madeDesign.sticker;
        if (!images.contains(piece.design)) {
            const double longest = std::max(sticker.footprint.width(), sticker.footprint.height());
            images[piece.design] =
                stickerImage(*job.find(piece.design), job, madeDesign, pictures,
                             std::max(1, int(std::ceil(longest * scale))), StickerLook::printed);
        }
        painter.save();
        painter.setTransform(toQt(piece.place), true);
        const Box& f = sticker.footprint;
        painter.drawImage(QRectF(f.least.x, f.least.y, f.width(), f.height()), images[piece.design]);
        painter.restore();
    }
    painter.setBrush(Qt::black);
    painter.setPen(Qt::NoPen);
    for (const Mark& mark : sheet.marks)
        painter.drawPath(painterPath(mark.ink));
    painter.end();
    return toPng(image).toStdString();
}

} // namespace hasami
