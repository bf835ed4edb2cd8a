#include "app/run/run_view.h"

#include "app/kit/theme.h"
#include "app/words/words.h"
#include "files/paint_sticker.h"
#include "sticker/printed_area.h"

#include <QMouseEvent>

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr double aroundMedium = 10; // mm of the bed, as much as the printed sheet's picture has
const QColor bedColour(74, 78, 84), backing(0xE9, 0xE4, 0xD6);

QPointF toQt(Point p) {
    return {p.x, p.y};
}

/// A line of points through `map`, but for those that are nearer to the one before than `least`.
template <class Map>
QPolygonF mappedLine(const std::vector<Point>& points, const Map& map, double least) {
    QPolygonF line;
    for (std::size_t i = 0; i < points.size(); ++i) {
        const QPointF at = toQt(map(points[i]));
        if (line.isEmpty() || i + 1 == points.size() || (at - line.back()).manhattanLength() >= least)
            line << at;
    }
    return line;
}

template <class Map>
QPainterPath pathOf(const Region& region, const Map& map, double least) {
    QPainterPath path;
    for (const Loop& loop : region.loops) {
        path.addPolygon(mappedLine(loop, map, least));
        path.closeSubpath();
    }
    return path;
}

/// From right over doubtful to wrong; readable beside each other in grey too.
QColor colourOfError(double millimetres) {
    return millimetres <= 0.1 ? colour::kiss : millimetres <= 0.2 ? QColor(0xC9, 0x9A, 0x1C) : colour::die;
}

/// The part of the path that was cut.
std::vector<Point> begun(const std::vector<Point>& path, double along) {
    std::vector<Point> part{path.front()};
    for (std::size_t i = 1; i < path.size() && along > 0; ++i) {
        const double side = distance(path[i - 1], path[i]);
        part.push_back(along >= side ? path[i] : between(path[i - 1], path[i], along / side));
        along -= side;
    }
    return part;
}

} // namespace

RunView::RunView(GuidedRun& run, QWidget* parent) : CanvasView(parent), run_(run) {
    setObjectName("Bed");
    setAccessibleName(tr("Bed"));
    setAccessibleDescription(tr("The printed sheet on the cutter's bed; a click chooses a sticker"));
    connect(&run, &GuidedRun::changed, this, &RunView::showAgain);
    connect(&run, &GuidedRun::moved, this, qOverload<>(&QWidget::update));
}

RunView::Shown RunView::whatIsShown() const {
    const bool isWeed = run_.step() == RunStep::weed;
    const bool isPlan = !run_.hasPicture() || (run_.step() == RunStep::print && !run_.isDone());
    const bool isWeeded = !isPlan && isWeed && result_ == Result::stickers && run_.trouble().isEmpty();
    return {run_.printed(),
            run_.made(),
            run_.sheetNumber(),
            isPlan,
            isWeeded,
            !isPlan && isWeed && !isWeeded,
            run_.pieces(),
            run_.registration().marks,
            run_.errors().largest};
}

/// Whether lines that are drawn are to be cut again.
bool RunView::hasBeenTakenBack() const {
    return std::ranges::any_of(layer_.isNull() ? shown_ : inLayer_, [&](const auto& drawn) {
        const auto cut = run_.record().find(drawn.first);
        return cut == run_.record().end() || cut->second < drawn.second;
    });
}

/// The content is drawn again where it is another one. Lines that are cut meanwhile come over it.
void RunView::showAgain() {
    update();
    Shown now = whatIsShown();
    if (now == content_ && !hasBeenTakenBack())
        return;
    if (now.made != content_.made)
        peeled_.clear();
    content_ = std::move(now);
    shown_ = run_.record();
    layer_ = {};
    listCuts();
    chooseTurn();
    contentChanged();
    redraw();
}

void RunView::listCuts() {
    cuts_.clear();
    for (const auto& [key, cut] : keyedCuts(run_.program()))
        cuts_.push_back({key, cut, pathLength(*cut)});
}

void RunView::chooseTurn() {
    constexpr double muchWider = 2; // times as wide as long
    const QRectF box = content();
    setTurned(box.height() > muchWider * box.width() && fittingScale(true) > fittingScale(false));
}

void RunView::resizeEvent(QResizeEvent* event) {
    chooseTurn();
    CanvasView::resizeEvent(event);
}

void RunView::setResult(Result result) {
    result_ = result;
    showAgain();
}

void RunView::aim(std::optional<Point> place) {
    aim_ = place;
    update();
}

QRectF RunView::bed() const {
    return content();
}

QRectF RunView::content() const {
    const Sheet* sheet = run_.sheet();
    if (!sheet)
        return {};
    return QRectF(0, 0, sheet->length, run_.job()->plan.medium.width)
        .adjusted(-aroundMedium, -aroundMedium, aroundMedium, aroundMedium);
}

LengthUnit RunView::unit() const {
    return run_.job() ? run_.job()->unit : LengthUnit::millimetre;
}

QPainterPath RunView::onBed(const std::vector<Point>& path) const {
    const QPolygonF line = mappedLine(
        path, [&](Point p) { return run_.registration().map(p); }, nearest());
    QPainterPath mapped;
    mapped.addPolygon(line);
    return mapped;
}

/// Points nearer to each other make no difference on the screen, mm.
double RunView::nearest() const {
    return 1.2 / pixelsPerMillimetre();
}

/// What is peeled of a piece; nothing where its design could not be made.
const Region& RunView::peeledOf(const Piece& piece) {
    static const Region nothing;
    const MadeDesign* made = run_.made()->find(piece.design);
    if (!made)
        return nothing;
    const auto [known, isNew] = peeled_.try_emplace(made->sticker);
    if (isNew)
        known->second = peeledArea(*made->sticker);
    return known->second;
}

/// The same where it was cut.
QPainterPath RunView::peeledOnBed(const Piece& piece) {
    return pathOf(
        peeledOf(piece), [&](Point p) { return run_.registration().map(piece.place(p)); }, nearest());
}

void RunView::paintContent(QPainter& painter, const QRectF& visible) {
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.fillRect(visible, bedColour);
    if (content_.isPlan)
        return paintPlan(painter);
    if (content_.isWeeded)
        return paintWeeded(painter);
    paintSheet(painter, visible);
    if (content_.areErrors)
        return paintErrors(painter);
    paintCuts(painter);
    paintChosen(painter);
}

/// An empty medium with the outlines of what comes.
void RunView::paintPlan(QPainter& painter) {
    const Sheet& sheet = *run_.sheet();
    painter.fillRect(QRectF(0, 0, sheet.length, run_.job()->plan.medium.width), Qt::white);
    painter.setPen(QPen(QColor(0xB8, 0xB2, 0xA4), 1 / pixelsPerMillimetre()));
    for (const Piece& piece : sheet.pieces)
        painter.drawPath(pathOf(peeledOf(piece), piece.place, nearest()));
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(0xB8, 0xB2, 0xA4));
    for (const Mark& mark : sheet.marks)
        painter.drawPath(pathOf(
            flatten(mark.ink, 0.05), [](Point p) { return p; }, nearest()));
}

void RunView::paintSheet(QPainter& painter, const QRectF& part) const {
    const QImage& picture = run_.picture(pixelsPerMillimetre() * devicePixelRatioF());
    const Point first = run_.printed()->placeOf(-0.5, -0.5),
                last = run_.printed()->placeOf(run_.printed()->width() - 0.5, run_.printed()->height() - 0.5);
    const QRectF whole(toQt(first), toQt(last)), seen = whole & part;
    if (seen.isEmpty())
        return;
    const QTransform toPicture =
        QTransform::fromTranslate(-whole.x(), -whole.y()) *
        QTransform::fromScale(picture.width() / whole.width(), picture.height() / whole.height());
    painter.drawImage(seen, picture, toPicture.mapRect(seen));
}

void RunView::paintWeeded(QPainter& painter) {
    const Sheet& sheet = *run_.sheet();
    painter.fillRect(QRectF(0, 0, sheet.length, run_.job()->plan.medium.width), backing);
    painter.setBrush(Qt::NoBrush);
    const QPen rim(QColor(0, 0, 0, 70), 1.2 / pixelsPerMillimetre());
    for (const Piece& piece : sheet.pieces) { // one by one: a clip of all together takes many times as long
        const QPainterPath sticker = peeledOnBed(piece);
        painter.save();
        painter.setClipPath(sticker);
        paintSheet(painter, sticker.boundingRect());
        painter.restore();
        painter.setPen(rim);
        painter.drawPath(sticker);
    }
}

void RunView::paintCuts(QPainter& painter) const {
    for (const SeenCut& seen : cuts_)
        if (const auto found = shown_.find(seen.key); found != shown_.end()) {
            LinePaths line; // one by one: of all together the stroke takes many times as long
            line[std::size_t(seen.key.kind)] = onBed(begun(seen.cut->path, found->second));
            paintCutLines(painter, line, 2);
        }
}

/// What was cut since the content was drawn.
void RunView::paintNewCuts(QPainter& painter) {
    const QSize pixels = size() * devicePixelRatioF();
    if (layer_.size() != pixels || layerPlace_ != painter.transform()) {
        layer_ = QPixmap(pixels);
        layer_.setDevicePixelRatio(devicePixelRatioF());
        layer_.fill(Qt::transparent);
        layerPlace_ = painter.transform();
        inLayer_ = shown_;
    }
    LinePaths finished, underWay;
    for (const SeenCut& seen : cuts_) {
        const auto cut = run_.record().find(seen.key);
        const auto drawn = inLayer_.find(seen.key);
        if (cut == run_.record().end() || (drawn != inLayer_.end() && drawn->second >= cut->second))
            continue;
        constexpr double negligible = 1e-6; // mm
        const bool isFinished = cut->second >= seen.length - negligible;
        if (isFinished)
            inLayer_[seen.key] = cut->second;
        (isFinished ? finished : underWay)[std::size_t(seen.key.kind)].addPath(
            onBed(begun(seen.cut->path, cut->second)));
    }
    QPainter onLayer(&layer_);
    onLayer.setRenderHint(QPainter::Antialiasing);
    onLayer.setTransform(layerPlace_);
    paintCutLines(onLayer, finished, 2);
    onLayer.end();
    painter.save();
    painter.resetTransform();
    painter.drawPixmap(0, 0, layer_);
    painter.restore();
    paintCutLines(painter, underWay, 2);
}

/// The stickers that are cut alone.
void RunView::paintChosen(QPainter& painter) {
    const double pixel = 1 / pixelsPerMillimetre();
    painter.setBrush(QColor(0x26, 0x4E, 0x86, 60));
    painter.setPen(QPen(colour::indigo, 2 * pixel));
    for (const std::size_t chosen : run_.pieces()) {
        if (chosen >= run_.sheet()->pieces.size())
            continue;
        const Piece& piece = run_.sheet()->pieces[chosen];
        painter.drawPath(peeledOnBed(piece));
    }
}

/// Each line in the colour of its error, the worst place ringed.
void RunView::paintErrors(QPainter& painter) const {
    const double pixel = 1 / pixelsPerMillimetre();
    for (const CutStep& step : run_.program()) {
        const Cut* cut = std::get_if<Cut>(&step);
        if (!cut)
            continue;
        const auto& errors = run_.errors().lines;
        const auto error = std::ranges::find_if(errors, [&](const LineError& one) {
            return one.kind == cut->kind && one.piece == cut->piece && one.line == cut->line;
        });
        if (error == errors.end())
            continue;
        const QPainterPath line = onBed(cut->path);
        painter.setPen(QPen(Qt::white, 4 * pixel));
        painter.drawPath(line);
        painter.setPen(QPen(colourOfError(error->largest), 2.4 * pixel));
        painter.drawPath(line);
    }
    const auto worst = std::ranges::max_element(run_.errors().lines, {}, &LineError::largest);
    if (worst == run_.errors().lines.end())
        return;
    const QPointF at = toQt(run_.registration().map(worst->worst));
    for (const auto& [tint, wide] : {std::pair(QColor(Qt::white), 5.0), std::pair(colour::indigo, 2.5)}) {
        painter.setPen(QPen(tint, wide * pixel));
        painter.setBrush(Qt::NoBrush);
        painter.drawEllipse(at, 12 * pixel, 12 * pixel);
    }
}

/// Where each mark was looked for and found.
void RunView::paintMarks(QPainter& painter) const {
    const double pixel = 1 / pixelsPerMillimetre();
    for (const MarkReading& mark : run_.registration().marks) {
        const bool isGood = mark.found && !mark.isDropped;
        const QPointF at = toQt(mark.found ? *mark.found : run_.registration().map(mark.expected));
        const double reach = 13 * pixel;
        for (const auto& [tint, wide] :
             {std::pair(QColor(Qt::white), 4.5), std::pair(isGood ? colour::indigo : colour::die, 2.0)}) {
            painter.setPen(QPen(tint, wide * pixel, isGood ? Qt::SolidLine : Qt::DashLine));
            painter.setBrush(Qt::NoBrush);
            painter.drawEllipse(at, reach, reach);
            if (!isGood)
                continue;
            painter.drawLine(at - QPointF(reach, 0), at + QPointF(reach, 0));
            painter.drawLine(at - QPointF(0, reach), at + QPointF(0, reach));
        }
    }
}

/// Drops that came off clean show the backing, what went too deep is dark.
void RunView::paintTestCut(QPainter& painter) const {
    const double pixel = 1 / pixelsPerMillimetre();
    for (const TestDrop& drop : run_.testCut()->drops) {
        const CutDepth depth = run_.depthOf(drop.force);
        painter.setBrush(depth == CutDepth::right     ? QBrush(backing)
                         : depth == CutDepth::tooDeep ? QBrush(bedColour)
                                                      : QBrush(Qt::NoBrush));
        painter.setPen(QPen(colour::kiss, (depth == CutDepth::tooShallow ? 1 : 2) * pixel,
                            depth == CutDepth::tooShallow ? Qt::DashLine : Qt::SolidLine));
        painter.drawPath(onBed(drop.paths[0]));
        painter.setBrush(Qt::NoBrush);
        painter.drawPath(onBed(drop.paths[1]));
    }
}

void RunView::paintOverlay(QPainter& painter) {
    painter.setRenderHint(QPainter::Antialiasing);
    const double pixel = 1 / pixelsPerMillimetre();
    if (aim_) {
        const QPointF at = toQt(*aim_);
        for (const auto& [tint, wide] : {std::pair(QColor(Qt::white), 4.5), std::pair(colour::die, 2.0)}) {
            painter.setPen(QPen(tint, wide * pixel));
            painter.drawLine(at - QPointF(16 * pixel, 0), at + QPointF(16 * pixel, 0));
            painter.drawLine(at - QPointF(0, 16 * pixel), at + QPointF(0, 16 * pixel));
        }
    }
    if (!run_.sheet() || !run_.hasPicture())
        return;
    if (run_.step() == RunStep::findMarks || run_.step() == RunStep::load)
        paintMarks(painter);
    if (run_.testCut())
        paintTestCut(painter);
    if (const CutHead* head = run_.head(); head && run_.step() != RunStep::weed) {
        paintNewCuts(painter);
        const QPointF at = toQt(run_.registration().map(head->place()));
        const double radius = (head->isDown() ? 6 : 9) * pixel;
        painter.setPen(QPen(Qt::white, 4 * pixel));
        painter.setBrush(head->isDown() ? colour::indigo : Qt::transparent);
        painter.drawEllipse(at, radius, radius);
        painter.setPen(QPen(colour::indigo, 2 * pixel));
        painter.drawEllipse(at, radius, radius);
    }
}

void RunView::paintEmpty(QPainter& painter) {
    painter.setPen(coloursOf(palette()).quiet);
    painter.drawText(rect(), Qt::AlignCenter, tr("Nothing is laid out yet."));
}

void RunView::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton && event->modifiers() == Qt::NoModifier && run_.sheet() &&
        !run_.isMoving() && run_.step() != RunStep::weed) {
        const QPointF at = toMillimetres(event->position());
        for (std::size_t i = 0; i < run_.sheet()->pieces.size(); ++i) {
            const Piece& piece = run_.sheet()->pieces[i];
            if (!peeledOnBed(piece).contains(at))
                continue;
            std::set<std::size_t> pieces = run_.pieces();
            if (!pieces.erase(i))
                pieces.insert(i);
            return run_.choosePieces(pieces);
        }
    }
    CanvasView::mousePressEvent(event);
}

} // namespace hasami
