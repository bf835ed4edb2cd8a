#include "files/drawing_file.h"

#include "artwork/vector_page.h"
#include "base/error.h"
#include "drawing/drawing_paint.h"
#include "files/paint_sticker.h"
#include "files/pdf_colours.h"
#include "files/pdf_shading.h"
#include "files/vector_file.h"

#include <QPainter>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>
#include <string>

namespace hasami {

namespace {

/// Where a gradient's colours are at their purest, in mm of the frame.
struct GradientCourse {
    Point from, to;    ///< of a linear one
    double radius = 0; ///< of a radial one, about the middle
};

GradientCourse courseOf(const Gradient& gradient, const Drawing& drawing) {
    const Point middle{drawing.width / 2, drawing.height / 2};
    if (gradient.isRadial)
        return {middle, middle, length(middle)};
    const double angle = gradient.angle * std::numbers::pi / 180;
    const Point way{std::cos(angle), std::sin(angle)};
    const double half = (std::abs(way.x) * drawing.width + std::abs(way.y) * drawing.height) / 2;
    return {middle - way * half, middle + way * half, 0};
}

QPainterPath windingPath(const std::vector<Curve>& rims) {
    QPainterPath path = painterPath(rims);
    path.setFillRule(Qt::WindingFill);
    return path;
}

QColor shown(const PaintColour& colour) {
    return {colour.shown.red, colour.shown.green, colour.shown.blue};
}

QBrush brushOf(const Gradient& gradient, const Drawing& drawing) {
    const GradientCourse course = courseOf(gradient, drawing);
    const auto coloured = [&](QGradient& q) {
        q.setColorAt(0, shown(gradient.from));
        q.setColorAt(1, shown(gradient.to));
        return QBrush(q);
    };
    if (gradient.isRadial) {
        QRadialGradient radial(course.from.x, course.from.y, course.radius);
        return coloured(radial);
    }
    QLinearGradient linear(course.from.x, course.from.y, course.to.x, course.to.y);
    return coloured(linear);
}

const Asset& pictureIn(const Drawing& drawing, const PictureFill& fill) {
    return **std::ranges::find_if(drawing.pictures,
                                  [&](const auto& asset) { return asset->sha256 == fill.file.asset; });
}

/// Writes a drawing's page.
class DrawingPage {
public:
    DrawingPage(const Drawing& drawing, const std::string& title, const PictureSource& pictures,
                std::stop_token stop)
        : drawing_(drawing), pictures_(pictures), stop_(std::move(stop)), pdf_(title) {}

    std::string bytes() {
        content_.matrix({1, 0, 0, -1, 0, drawing_.height});
        for (const DrawnArea& area : drawing_.areas)
            std::visit([&](const auto& fill) { paint(area, fill); }, area.fill);
        const Box page{{0, 0}, {drawing_.width, drawing_.height}};
        pdf_.addPage(page, page, content_, resources_);
        return pdf_.bytes();
    }

private:
    void paint(const DrawnArea& /*area*/, std::monostate) {}

    void paint(const DrawnArea& area, const PaintColour& colour) {
        content_.op("q");
        colours_.fillIn(colour, content_, resources_);
        rims(area);
        content_.op("f").op("Q");
    }

    void paint(const DrawnArea& area, const Gradient& gradient) {
        const GradientCourse course = courseOf(gradient, drawing_);
        const std::string name = nextName("/Gradient");
        resources_.push_back(
            {"/Shading", name, pdf_.addShading(gradient, course.from, course.to, course.radius)});
        content_.op("q");
        rims(area);
        content_.op("W n").op(name + " sh").op("Q");
    }

    void paint(const DrawnArea& area, const PictureFill& fill) {
        const Asset& asset = pictureIn(drawing_, fill);
        const auto picture = pictures_(asset, {fill.file.page}, stop_);
        const std::string name = nextName("/Picture");
        Affine toUnitSquare{1, 0, 0, -1, 0, 1};
        QPDFObjectHandle object;
        if (picture->page) {
            const auto page = pdf_.addPageOf(std::make_unique<PdfPage>(picture->page->pdf, fill.file.page));
            object = page.form;
            toUnitSquare = page.toUnitSquare;
        } else if (picture->jpeg) {
            object = pdf_.addJpeg(*picture, asset.bytes);
            toUnitSquare = orientationMap(picture->jpeg->orientation) * toUnitSquare;
        } else {
            object = pdf_.addPicture(picture);
        }
        resources_.push_back({"/XObject", name, object});
        content_.op("q");
        rims(area);
        content_.op("W n")
            .matrix(fill.place.toDesign() * Affine::scaling(fill.place.width, fill.place.height) *
                    toUnitSquare)
            .op(name + " Do")
            .op("Q");
    }

    void rims(const DrawnArea& area) {
        for (const Curve& rim : area.rims)
            content_.curve(rim);
    }

    std::string nextName(const std::string& kind) { return kind + std::to_string(++names_); }

    const Drawing& drawing_;
    const PictureSource& pictures_;
    std::stop_token stop_;
    PdfDocument pdf_;
    PdfColours colours_{pdf_};
    PdfContent content_;
    std::vector<PdfDocument::Resource> resources_;
    int names_ = 0;
};

/// Drawn as large as a page of vector art would be.
Grid<Rgba> pixelsOf(const Drawing& drawing, const PictureSource& pictures, const std::stop_token& stop) {
    const auto [width, height] = pagePixels(drawing.width, drawing.height);
    QImage image(width, height, QImage::Format_RGBA8888_Premultiplied);
    image.fill(Qt::transparent);
    QPainter painter(&image);
    painter.scale(width / drawing.width, height / drawing.height);
    paintDrawing(painter, drawing, [&](const Asset& asset, const PictureFill& fill) {
        return toImage(pictures(asset, {fill.file.page}, stop));
    });
    painter.end();
    image = image.convertToFormat(QImage::Format_RGBA8888);
    Grid<Rgba> cells(width, height);
    for (int y = 0; y < height; ++y) {
        const uchar* row = image.constScanLine(y);
        for (int x = 0; x < width; ++x, row += 4)
            cells.at(x, y) = {row[0], row[1], row[2], row[3]};
    }
    return cells;
}

/// Also those of gradients, which no paint tells, and of pages that are shown inside.
std::set<std::string> spotsOf(const Drawing& drawing, const PictureSource& pictures,
                              const std::stop_token& stop) {
    std::set<std::string> spots;
    for (const DrawnArea& area : drawing.areas) {
        for (const std::string& spot : hasami::spotsOf(area.fill))
            spots.insert(spot);
        if (const auto* fill = std::get_if<PictureFill>(&area.fill)) {
            const auto shown = pictures(pictureIn(drawing, *fill), {fill->file.page}, stop);
            if (shown->page)
                spots.insert(shown->page->spots.begin(), shown->page->spots.end());
        }
    }
    return spots;
}

/// What is in one of the spot colours and nothing else.
Drawing without(Drawing drawing, const std::set<std::string>& leftOut) {
    std::erase_if(drawing.areas, [&](const DrawnArea& area) {
        const auto* colour = std::get_if<PaintColour>(&area.fill);
        return colour && !colour->spot.empty() && leftOut.contains(colour->spot);
    });
    return drawing;
}

} // namespace

void paintDrawing(QPainter& painter, const Drawing& drawing, const FillPictures& pictures) {
    painter.save();
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    for (const DrawnArea& area : drawing.areas) {
        const QPainterPath path = windingPath(area.rims);
        if (const auto* colour = std::get_if<PaintColour>(&area.fill))
            painter.fillPath(path, shown(*colour));
        else if (const auto* gradient = std::get_if<Gradient>(&area.fill))
            painter.fillPath(path, brushOf(*gradient, drawing));
        else if (const auto* fill = std::get_if<PictureFill>(&area.fill)) {
            const double scale = std::sqrt(std::abs(painter.worldTransform().determinant()));
            const QImage whole = pictures(pictureIn(drawing, *fill), *fill);
            if (whole.isNull())
                continue;
            const QImage image = scaledFor(whole, fill->place.width * scale, fill->place.height * scale);
            QBrush brush(image); // so that the area has soft edges
            brush.setTransform(
                toQt(fill->place.toDesign() * Affine::scaling(fill->place.width / image.width(),
                                                              fill->place.height / image.height())));
            // What lies beside the picture stays empty.
            QPainterPath within;
            within.addPolygon(brush.transform().map(QPolygonF(QRectF(image.rect()))));
            const bool isCovered = within.boundingRect().contains(path.boundingRect());
            painter.fillPath(isCovered ? path : path.intersected(within), brush);
        }
    }
    painter.restore();
}

std::string drawingPdf(const Drawing& drawing, const std::string& title, const PictureSource& pictures,
                       const std::stop_token& stop) {
    return DrawingPage(drawing, title, pictures, stop).bytes();
}

Picture readDrawing(const Asset& asset, const PictureWish& wish, const PictureSource& pictures,
                    const std::stop_token& stop) {
    throwIfStopped(stop);
    const Drawing drawing = without(*asset.drawing, wish.leftOut);
    Picture picture;
    picture.hasCoverage = true;
    picture.pixels = pixelsOf(drawing, pictures, stop);
    auto page = std::make_shared<VectorPage>();
    page->paint = paintListOf(drawing);
    page->spots = spotsOf(drawing, pictures, stop);
    page->pdf = std::make_shared<const std::string>(drawingPdf(drawing, asset.name, pictures, stop));
    picture.page = std::move(page);
    if (wish.withInks)
        addOwnColours(asset, picture, stop);
    return picture;
}

} // namespace hasami
