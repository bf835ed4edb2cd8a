#include "app/proof/finished_scene.h"

#include "app/kit/theme.h"
#include "app/paint/paint_design.h"
#include "base/error.h"
#include "files/paint_sticker.h"
#include "sticker/tabs.h"

#include <QRandomGenerator>

#include <cmath>
#include <utility>

namespace hasami {

namespace {

/// A pattern's tile as wide as this on every ground, in mm.
constexpr double tileWidth = 24;
constexpr int tileSide = 192; // pixels

QImage blackCloth() {
    QImage tile(tileSide, tileSide, QImage::Format_RGB32);
    QRandomGenerator random(7);
    for (int y = 0; y < tileSide; ++y)
        for (int x = 0; x < tileSide; ++x) {
            const bool isWarp = (x / 2 + y / 2) % 2 == 0; // threads over and under each other
            const int light = 26 + (isWarp ? 10 : 0) + int(random.bounded(7));
            tile.setPixel(x, y, qRgb(light, light, light + 2));
        }
    return tile;
}

QImage kraft() {
    QImage tile(tileSide, tileSide, QImage::Format_RGB32);
    tile.fill(QColor(0xB9, 0x93, 0x66));
    QRandomGenerator random(11);
    QPainter painter(&tile);
    painter.setRenderHint(QPainter::Antialiasing);
    for (int i = 0; i < 700; ++i) { // fibres
        const double x = random.bounded(double(tileSide)), y = random.bounded(double(tileSide));
        const double turn = random.bounded(2 * M_PI), far = 2 + random.bounded(7.0);
        painter.setPen(
            QPen(random.bounded(2) ? QColor(0x8A, 0x66, 0x40, 70) : QColor(0xE0, 0xC4, 0x98, 70), 0.7));
        for (const int dx : {-tileSide, 0, tileSide})
            for (const int dy : {-tileSide, 0, tileSide})
                painter.drawLine(QPointF(x + dx, y + dy),
                                 QPointF(x + dx + far * std::cos(turn), y + dy + far * std::sin(turn)));
    }
    return tile;
}

void paintTiles(QPainter& painter, const QRectF& area, const QImage& tile) {
    QBrush brush(tile);
    brush.setTransform(QTransform::fromScale(tileWidth / tileSide, tileWidth / tileSide));
    painter.fillRect(area, brush);
}

/// Upright on the screen, however the sheet lies: `draw` is given the whole ground, in pixels.
template <class Draw>
void paintUpright(QPainter& painter, const QRectF& area, const QRectF& whole, const Draw& draw) {
    painter.save();
    painter.setClipRect(area, Qt::IntersectClip);
    const QRectF onScreen = painter.worldTransform().mapRect(whole);
    painter.resetTransform();
    draw(onScreen);
    painter.restore();
}

/// A window pane: a hazy field with hills behind it, and light on the glass.
void paintGlass(QPainter& painter, const QRectF& whole) {
    QLinearGradient sky(whole.topLeft(), whole.bottomLeft());
    sky.setColorAt(0, QColor(0xA9, 0xC8, 0xDE));
    sky.setColorAt(0.55, QColor(0xE4, 0xEC, 0xE4));
    sky.setColorAt(1, QColor(0xC9, 0xD8, 0xB8));
    painter.fillRect(whole, sky);
    painter.setPen(Qt::NoPen);
    const double w = whole.width(), h = whole.height();
    const QColor hills[] = {QColor(0x9D, 0xB4, 0xB0), QColor(0x8F, 0xA8, 0x86),
                            QColor(0x7B, 0x68, 0x8E, 160)};
    for (int i = 0; i < 3; ++i) { // the farthest first, heather in front
        QPainterPath hill(QPointF(whole.left(), whole.bottom()));
        for (int k = 0; k <= 40; ++k) {
            const double x = whole.left() + w * k / 40.0;
            const double up = std::sin(k * 0.17 + i * 2.1) * 0.07 + std::sin(k * 0.41 + i) * 0.025;
            hill.lineTo(x, whole.top() + h * (0.58 + 0.14 * i - up));
        }
        hill.lineTo(whole.bottomRight());
        painter.fillPath(hill, hills[i]);
    }
    QLinearGradient light(whole.topLeft(), whole.bottomRight());
    light.setColorAt(0.2, QColor(255, 255, 255, 0));
    light.setColorAt(0.32, QColor(255, 255, 255, 70));
    light.setColorAt(0.4, QColor(255, 255, 255, 10));
    light.setColorAt(0.46, QColor(255, 255, 255, 45));
    light.setColorAt(0.5, QColor(255, 255, 255, 0));
    painter.fillRect(whole, light);
}

void paintCovering(QPainter& painter, const QRectF& whole, const QImage& picture) {
    const double scale = std::max(whole.width() / picture.width(), whole.height() / picture.height());
    const QSizeF size(picture.width() * scale, picture.height() * scale);
    painter.drawImage(QRectF(whole.center() - QPointF(size.width(), size.height()) / 2, size), picture);
}

QImage canvasFor(const QRect& pixels) {
    QImage canvas(pixels.size(), QImage::Format_ARGB32_Premultiplied);
    canvas.fill(Qt::transparent);
    return canvas;
}

/// A painter on a part of another one's device, in the same millimetres. `pixels`: of the device.
void standLike(QPainter& painter, const QTransform& transform, const QRect& pixels) {
    painter.setTransform(transform * QTransform::fromTranslate(-pixels.x(), -pixels.y()));
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
}

/// An image of a part of the painter's device, in its place.
void layDown(QPainter& painter, QImage image, const QRect& pixels) {
    const double ratio = painter.device()->devicePixelRatioF();
    image.setDevicePixelRatio(ratio);
    painter.resetTransform();
    painter.drawImage(QPointF(pixels.topLeft()) / ratio, image);
}

double scaleOf(const QTransform& transform) {
    return std::hypot(transform.m11(), transform.m12());
}

} // namespace

void Ground::paint(QPainter& painter, const QRectF& area, const QRectF& whole) const {
    static const QImage cloth = blackCloth(), paper = kraft();
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    switch (backdrop) {
    case Backdrop::white:
        return painter.fillRect(area, QColor(0xFA, 0xFA, 0xF8));
    case Backdrop::blackCloth:
        return paintTiles(painter, area, cloth);
    case Backdrop::kraft:
        return paintTiles(painter, area, paper);
    case Backdrop::glass:
        return paintUpright(painter, area, whole,
                            [&](const QRectF& onScreen) { paintGlass(painter, onScreen); });
    case Backdrop::colour:
        return painter.fillRect(area, colour);
    case Backdrop::picture:
        if (picture.isNull())
            return painter.fillRect(area, Qt::white);
        return paintUpright(painter, area, whole,
                            [&](const QRectF& onScreen) { paintCovering(painter, onScreen, picture); });
    }
}

QColor FinishedScene::medium() const {
    const auto& colour = document_.job().plan.medium.colour;
    return colour ? QColor(colour->red, colour->green, colour->blue) : QColor(Qt::white);
}

bool FinishedScene::isTinted() const {
    return document_.job().plan.medium.isClear || medium() != QColor(Qt::white);
}

void FinishedScene::show(std::optional<std::string> design, std::size_t sheet) {
    pieces_.clear();
    area_ = {};
    const Made& made = *document_.made();
    const auto add = [&](const std::string& id, const Affine& place) {
        const MadeDesign* found = made.find(id);
        if (!found || found->sticker->isEmpty() || !document_.job().find(id))
            return;
        constexpr double aside = 6; // mm that a cut may be off
        pieces_.push_back(
            {id, place, toRect(boundsOfMapped(found->sticker->footprint.grownBy(aside), place))});
    };
    if (design) {
        add(*design, {});
        if (!pieces_.empty()) {
            const hasami::Box box = made.find(*design)->sticker->footprint;
            centre_ = box.centre();
            area_ = toRect(box.grownBy(0.06 * std::max(box.width(), box.height()) + 2));
        }
    } else if (sheet < made.layout.sheets.size()) {
        const Sheet& shown = made.layout.sheets[sheet];
        for (const Piece& piece : shown.pieces)
            add(piece.design, piece.place);
        centre_ = shown.work.isEmpty() ? Point{} : shown.work.centre();
        area_ = QRectF(0, 0, shown.length, document_.job().plan.medium.width);
    }
    forget();
}

void FinishedScene::forget() {
    stamps_.clear();
    printed_ = before_ = {};
    const Made& made = *document_.made();
    std::erase_if(paths_, [&](const auto& paths) {
        const MadeDesign* found = made.find(paths.first);
        return !found || found->sticker != paths.second.sticker;
    });
}

const FinishedScene::Paths& FinishedScene::pathsOf(const std::string& design, const MadeDesign& made) {
    Paths& paths = paths_[design];
    if (paths.sticker == made.sticker)
        return paths;
    const std::vector<CutLine> peeled = made.sticker->peeled();
    paths = {made.sticker, painterPath(peeled), {}, {}};
    for (const CutLine& line : peeled)
        if (line.kind == LineKind::perforated)
            for (const Subpath& tab : tabStretches(line.curve, line.tabs))
                paths.stubs.addPath(painterPath(tab));
    for (const CutLine& line : made.sticker->lines)
        if (line.kind == LineKind::crease)
            paths.folds.addPath(painterPath(line.whole()));
    return paths;
}

const FinishedScene::Stamp* FinishedScene::stampOf(const Design& design, const MadeDesign& made,
                                                   double scale) {
    constexpr double mostPixels = 6e6;
    const hasami::Box& box = made.sticker->footprint;
    if (box.width() * box.height() * scale * scale > mostPixels)
        return nullptr;
    Stamp& stamp = stamps_[design.id];
    if (stamp.scale == scale)
        return &stamp;
    stamp = {scale, {}, {}, {}, QPointF(box.least.x, box.least.y)};
    const QSize size(int(std::ceil(box.width() * scale)) + 1, int(std::ceil(box.height() * scale)) + 1);
    const auto drawn = [&](const auto& draw) {
        QImage image(size, QImage::Format_ARGB32_Premultiplied);
        image.fill(Qt::transparent);
        QPainter painter(&image);
        painter.scale(scale, scale);
        painter.translate(-stamp.origin);
        draw(painter);
        return image;
    };
    const DesignPainting painting{document_, design, *made.sticker, scale, true, &made};
    stamp.colours = drawn([&](QPainter& painter) { painting.printed(painter); });
    for (const auto& ink : made.inks)
        if (ink->ink != InkKind::primer)
            (ink->ink == InkKind::white ? stamp.whites : stamp.gloss) =
                drawn([&](QPainter& painter) { painting.ink(painter, *ink, Qt::white); });
    return &stamp;
}

template <class Act>
void FinishedScene::eachSeen(const QRectF& visible, const Act& act) {
    const Made& made = *document_.made();
    const MadeDesign* found = nullptr;
    const Design* design = nullptr;
    for (const Shown& piece : pieces_) {
        if (!piece.box.intersects(visible))
            continue;
        if (!found || found->design != piece.design) {
            found = made.find(piece.design);
            design = document_.job().find(piece.design);
        }
        if (found && design)
            act(piece, *found, *design);
    }
}

/// One layer of what is printed on a part of the device.
QImage FinishedScene::layerOf(QPainter& like, const QRect& pixels, const QRectF& visible, Layer layer) {
    QImage image = canvasFor(pixels);
    QPainter painter(&image);
    standLike(painter, like.deviceTransform(), pixels);
    const double scale = scaleOf(like.deviceTransform());
    eachSeen(visible, [&](const Shown& piece, const MadeDesign& made, const Design& design) {
        painter.save();
        painter.setTransform(toQt(piece.place), true);
        if (const Stamp* stamp = stampOf(design, made, scale)) {
            if (const QImage& drawn = stamp->*layer; !drawn.isNull()) {
                painter.translate(stamp->origin);
                painter.scale(1 / scale, 1 / scale);
                painter.drawImage(QPointF(0, 0), drawn);
            }
        } else {
            const DesignPainting painting{document_, design, *made.sticker, scale, true, &made};
            if (layer == &Stamp::colours)
                painting.printed(painter);
            for (const auto& ink : made.inks)
                if (layer == (ink->ink == InkKind::white ? &Stamp::whites : &Stamp::gloss) &&
                    ink->ink != InkKind::primer)
                    painting.ink(painter, *ink, Qt::white);
        }
        painter.restore();
    });
    return image;
}

std::optional<QString> FinishedScene::setColours(ProofColours colours) {
    try {
        proof_.reset();
        if (colours != ProofColours::artwork)
            proof_ = std::make_shared<const SoftProof>(
                *document_.job().assets->at(document_.job().outputs.colours));
        colours_ = colours;
    } catch (const InputError& error) {
        colours_ = ProofColours::artwork;
        printed_ = before_ = {};
        return QString::fromStdString(error.what());
    }
    printed_ = before_ = {};
    return {};
}

/// What the printer can't show has stripes.
QImage FinishedScene::proofed(QImage colours) const {
    if (!proof_)
        return colours;
    QImage shown = proof_->shown(colours);
    if (colours_ == ProofColours::beyond) {
        const QImage mask = proof_->beyond(colours);
        constexpr int wide = 3; // pixels
        for (int y = 0; y < shown.height(); ++y) {
            auto* row = reinterpret_cast<QRgb*>(shown.scanLine(y));
            const uchar* marked = mask.constScanLine(y);
            for (int x = 0; x < shown.width(); ++x)
                if (marked[x] && (x + y) / wide % 2 == 0)
                    row[x] = (x + y) / (2 * wide) % 2 ? qRgb(255, 255, 255) : colour::die.rgb();
        }
    }
    return shown;
}

const FinishedScene::Printed& FinishedScene::printed(QPainter& painter, const QRect& pixels,
                                                     const QRectF& visible) {
    if (printed_.isDrawn && printed_.transform == painter.deviceTransform() && printed_.pixels == pixels)
        return printed_;
    printed_ = {painter.deviceTransform(),
                pixels,
                proofed(layerOf(painter, pixels, visible, &Stamp::colours)),
                {},
                {},
                true};
    bool hasWhite = false, hasGloss = false;
    eachSeen(visible, [&](const Shown&, const MadeDesign& made, const Design&) {
        for (const auto& ink : made.inks) {
            hasWhite |= ink->ink == InkKind::white;
            hasGloss |= ink->ink == InkKind::gloss;
        }
    });
    if (hasWhite && (isTinted() || document_.job().profile.printer.inkOrder.white() != WhitePlace::under))
        printed_.whites = layerOf(painter, pixels, visible, &Stamp::whites);
    if (hasGloss)
        printed_.gloss = layerOf(painter, pixels, visible, &Stamp::gloss);
    return printed_;
}

QImage FinishedScene::cutShapes(const QTransform& transform, const QRect& pixels, const QRectF& visible,
                                const Affine& cut) {
    QImage cutOut = canvasFor(pixels);
    QPainter shapes(&cutOut);
    standLike(shapes, transform, pixels);
    eachSeen(visible, [&](const Shown& piece, const MadeDesign& made, const Design&) {
        const Paths& paths = pathsOf(piece.design, made);
        shapes.save();
        shapes.setTransform(toQt(cut * piece.place), true);
        shapes.fillPath(paths.peeled, medium());
        constexpr double stub = 0.3; // mm that tabs stand out where they tore
        if (!paths.stubs.isEmpty())
            shapes.strokePath(paths.stubs, QPen(medium(), 2 * stub, Qt::SolidLine, Qt::FlatCap));
        shapes.restore();
    });
    return cutOut;
}

/// What is printed within the cut shapes, pass by pass.
void FinishedScene::printOn(QImage& finished, const Printed& print, const QImage& cutOut,
                            bool throughMedium) const {
    const InkOrder& order = document_.job().profile.printer.inkOrder;
    QPainter over(&finished);
    bool isOnWhite = !isTinted();
    for (const InkOrder::Pass& pass : order.seen(throughMedium)) {
        over.setCompositionMode(QPainter::CompositionMode_SourceAtop);
        if (!pass) {
            if (!std::exchange(isOnWhite, false))
                over.setCompositionMode(QPainter::CompositionMode_Multiply);
            over.drawImage(0, 0, print.colours);
        } else if (*pass == InkKind::white && !print.whites.isNull()) {
            over.drawImage(0, 0, print.whites);
        } else if (*pass == InkKind::gloss && !print.gloss.isNull() && !throughMedium) {
            over.setOpacity(0.28);
            over.drawImage(0, 0, print.gloss);
            over.setOpacity(1);
        }
    }
    over.setCompositionMode(QPainter::CompositionMode_DestinationIn); // what was multiplied beside them
    if (isTinted() || order.printsColoursTwice())
        over.drawImage(0, 0, cutOut);
}

void FinishedScene::paintRims(QPainter& painter, const QRectF& visible, const Affine& cut) {
    eachSeen(visible, [&](const Shown& piece, const MadeDesign& made, const Design&) {
        const Paths& paths = pathsOf(piece.design, made);
        painter.save();
        painter.setTransform(toQt(cut * piece.place), true);
        painter.strokePath(paths.peeled, QPen(QColor(0, 0, 0, 40), 0.2)); // the medium's own thickness
        painter.strokePath(paths.folds, QPen(QColor(0, 0, 0, 46), 1.2, Qt::SolidLine, Qt::FlatCap));
        painter.strokePath(paths.folds, QPen(QColor(0, 0, 0, 60), 0.3, Qt::SolidLine, Qt::FlatCap));
        painter.restore();
    });
}

void FinishedScene::paintFinished(QPainter& painter, const QRectF& visible, const Affine& cut,
                                  const Ground& ground, bool throughMedium) {
    const QTransform transform = painter.deviceTransform();
    const QRect pixels = transform.mapRect(visible).toAlignedRect();
    ground.paint(painter, visible, area_);
    if (pixels.isEmpty() || pieces_.empty())
        return;
    const QImage cutOut = cutShapes(transform, pixels, visible, cut);
    QImage finished = cutOut;
    if (document_.job().plan.medium.isClear) {
        QPainter behind(&finished);
        behind.setCompositionMode(QPainter::CompositionMode_Multiply);
        QImage seen = canvasFor(pixels);
        QPainter on(&seen);
        standLike(on, transform, pixels);
        ground.paint(on, visible, area_);
        on.end();
        behind.drawImage(0, 0, seen);
        behind.setCompositionMode(QPainter::CompositionMode_DestinationIn);
        behind.drawImage(0, 0, cutOut);
    }
    printOn(finished, printed(painter, pixels, visible), cutOut, throughMedium);
    QPainter over(&finished);
    over.setCompositionMode(QPainter::CompositionMode_SourceAtop);
    standLike(over, transform, pixels);
    paintRims(over, visible, cut);
    over.end();
    painter.save();
    layDown(painter, finished, pixels);
    painter.restore();
}

void FinishedScene::paintPrinted(QPainter& painter, const QRectF& visible, const Affine& cut) {
    const QTransform transform = painter.deviceTransform();
    const QRect pixels = transform.mapRect(visible).toAlignedRect();
    painter.fillRect(area_, medium());
    if (pixels.isEmpty() || pieces_.empty())
        return;
    // Drawn by itself: what paintFinished has kept is of another place.
    std::swap(printed_, before_);
    const QImage& colours = printed(painter, pixels, visible).colours;
    painter.save();
    painter.setCompositionMode(QPainter::CompositionMode_Multiply);
    layDown(painter, colours, pixels);
    painter.restore();
    std::swap(printed_, before_);
    const double width = 1.6;
    eachSeen(visible, [&](const Shown& piece, const MadeDesign& made, const Design&) {
        painter.save();
        painter.setTransform(toQt(cut * piece.place), true);
        paintCutLines(painter, linePaths(made.sticker->lines), width);
        painter.restore();
    });
}

} // namespace hasami
