#include "app/run/run_view.h"

#include "app/kit/theme.h"
#include "app/words/words.h"
#include "files/paint_sticker.h"
#include "sticker/printed_area.h"

#include <QMouseEvent>

#include <algorithm>
#include <cmath>
#include <tuple>
#include <utility>

namespace hasami {

namespace {

constexpr double aroundMedium = 10; // mm of the bed, as much as the printed sheet's picture has
const QColor bedColour(74, 78, 84), backing(0xE9, 0xE4, 0xD6), planned(0xB8, 0xB2, 0xA4);

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
std::vector<Point> firstPart(const std::vector<Point>& path, double along) {
    std::vector<Point> part{path.front()};
    for (std::size_t i = 1; i < path.size() && along > 0; ++i) {
        const double side = distance(path[i - 1], path[i]);
        part.push_back(along >= side ? path[i] : between(path[i - 1], path[i], along / side));
        along -= side;
    }
    return part;
}

} // namespace

RunView::RunView(RunControl& run, QWidget* parent) : CanvasView(parent), run_(run) {
    setObjectName("Bed");
    setAccessibleName(tr("Bed"));
    setAccessibleDescription(tr("The printed sheet on the cutter's bed; a click chooses a sticker"));
    connect(&run, &RunControl::changed, this, &RunView::showAgain);
    connect(&run, &RunControl::moved, this, &RunView::addNews);
}

RunView::Shown RunView::whatIsShown() const {
    const RunModel& model = run_.model();
    const bool isWeed = model.task() == RunTask::weed && model.isDone();
    const BedPicture* bed = run_.machine().bed();
    const bool isPlan = !bed || (model.task() == RunTask::print && !model.isDone());
    const bool isWeeded = !isPlan && isWeed && result_ == Result::stickers && run_.trouble().isEmpty();
    return {bed ? bed->printed() : nullptr,
            run_.made(),
            model.cutLines(),
            run_.sheetNumber(),
            isPlan,
            isWeeded,
            !isPlan && isWeed && !isWeeded,
            model.pieces(),
            model.registration().marks,
            model.errors().largest};
}

/// The content is drawn again where it is another one.
void RunView::showAgain() {
    update();
    Shown now = whatIsShown();
    const bool isTakenBack = std::exchange(takenBack_, run_.model().takenBack()) != run_.model().takenBack();
    if (now == content_) {
        if (isTakenBack)
            layer_.clear();
        return;
    }
    if (now.made != content_.made)
        peeled_.clear();
    content_ = std::move(now);
    layer_.clear();
    listErrors();
    chooseTurn();
    contentChanged();
    redraw();
}

/// What is cut: as one sees it on the sheet.
const CutRecord& RunView::lines() const {
    const CutRecord* knife = run_.machine().knife();
    return knife ? *knife : run_.model().record();
}

/// Lines that were cut since the last time.
void RunView::addNews(const CutLengths& news) {
    update();
    if (content_.areErrors)
        return;
    if (!content_.lines || content_.isWeeded)
        return;
    for (const auto& [key, along] : news)
        if (const auto found = content_.lines->find(key))
            addToLayer(*found, along);
}

void RunView::addToLayer(std::size_t cut, double along) {
    constexpr double negligible = 1e-6; // mm
    if (along < (*content_.lines)[cut].length - negligible) {
        underWay_[cut] = along;
        return;
    }
    underWay_.erase(cut);
    layer_.add({piecesInLayer() + cut, along});
}

void RunView::listErrors() {
    errors_.clear();
    if (!content_.areErrors)
        return;
    std::map<std::tuple<LineKind, std::size_t, std::size_t>, double> errors;
    for (const LineError& error : run_.model().errors().lines)
        errors[{error.kind, error.piece, error.line}] = error.largest;
    for (const CutLines::Line& line : content_.lines->all()) {
        const auto error = errors.find({line.key.kind, line.key.piece, line.key.line});
        errors_.push_back(error == errors.end() ? std::nullopt : std::optional(error->second));
    }
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

/// Where a place of the sheet is shown: on the print as it lies, or on the plan.
Point RunView::bedOf(Point sheet) const {
    return run_.machine().bed() ? run_.model().registration().map(sheet) : sheet;
}

QPainterPath RunView::onBed(const std::vector<Point>& path) const {
    const QPolygonF line = mappedLine(
        path, [&](Point p) { return bedOf(p); }, nearest());
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
        peeledOf(piece), [&](Point p) { return bedOf(piece.place(p)); }, nearest());
}

void RunView::paintContent(QPainter& painter, const QRectF& visible) {
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.fillRect(visible, bedColour);
    const Sheet& sheet = *run_.sheet();
    const QRectF medium(0, 0, sheet.length, run_.job()->plan.medium.width);
    if (content_.isWeeded)
        painter.fillRect(medium, backing);
    else if (content_.isPlan)
        paintPlan(painter, medium);
    else
        paintSheet(painter, visible);
    if (!content_.areErrors && !content_.isWeeded)
        paintChosen(painter);
}

/// An empty medium; over it come the outlines of what is to be.
void RunView::paintPlan(QPainter& painter, const QRectF& medium) const {
    painter.fillRect(medium, Qt::white);
    painter.setPen(Qt::NoPen);
    painter.setBrush(planned);
    for (const Mark& mark : run_.sheet()->marks)
        painter.drawPath(pathOf(
            flatten(mark.ink, 0.05), [](Point p) { return p; }, nearest()));
}

void RunView::paintSheet(QPainter& painter, const QRectF& part) const {
    const BedPicture& bed = *run_.machine().bed();
    const PrintedSheet& printed = *bed.printed();
    const QImage& picture = bed.at(pixelsPerMillimetre() * devicePixelRatioF());
    const Point first = printed.placeOf(-0.5, -0.5),
                last = printed.placeOf(printed.width() - 0.5, printed.height() - 0.5);
    const QRectF whole(toQt(first), toQt(last)), seen = whole & part;
    if (seen.isEmpty())
        return;
    const QTransform toPicture =
        QTransform::fromTranslate(-whole.x(), -whole.y()) *
        QTransform::fromScale(picture.width() / whole.width(), picture.height() / whole.height());
    painter.drawImage(seen, picture, toPicture.mapRect(seen));
}

/// How many pieces come in the layer before its lines.
std::size_t RunView::piecesInLayer() const {
    return content_.isPlan || content_.isWeeded ? run_.sheet()->pieces.size() : 0;
}

void RunView::fillLayer() {
    underWay_.clear();
    for (std::size_t piece = 0; piece < piecesInLayer(); ++piece)
        layer_.add({piece, 0});
    if (!content_.lines || content_.isWeeded)
        return;
    if (content_.areErrors) {
        for (std::size_t cut = 0; cut < errors_.size(); ++cut)
            if (errors_[cut])
                addToLayer(cut, (*content_.lines)[cut].length);
        return;
    }
    for (const auto& [key, along] : lines())
        if (const auto found = content_.lines->find(key))
            addToLayer(*found, along);
}

/// The pieces, and the lines that were cut, or each line in the colour of its error.
void RunView::paintLines(QPainter& painter) {
    const QSize pixels = size() * devicePixelRatioF();
    if (!layer_.fits(pixels, painter.transform())) {
        layer_.begin(pixels, devicePixelRatioF(), painter.transform());
        fillLayer();
    }
    const auto draw = [this](QPainter& onLayer, const LineLayer::Part& part) { drawPart(onLayer, part); };
    if (!layer_.paint(painter, draw))
        update();
    for (const auto& [cut, along] : underWay_)
        drawCut(painter, {cut, along});
    if (content_.areErrors)
        paintWorst(painter);
}

void RunView::drawPart(QPainter& painter, const LineLayer::Part& part) {
    const std::size_t pieces = piecesInLayer();
    if (part.line < pieces)
        drawPiece(painter, run_.sheet()->pieces[part.line]);
    else
        drawCut(painter, {part.line - pieces, part.along});
}

bool RunView::isSeen(const QPainter& painter, const QRectF& box) const {
    return painter.transform().mapRect(box).intersects(
        QRectF(QPointF(), QSizeF(size() * devicePixelRatioF())));
}

/// The outline of what comes, or a sticker as it is weeded.
void RunView::drawPiece(QPainter& painter, const Piece& piece) {
    const QPainterPath sticker = peeledOnBed(piece);
    if (!isSeen(painter, sticker.boundingRect()))
        return;
    painter.setBrush(Qt::NoBrush);
    if (content_.isPlan) {
        painter.setPen(QPen(planned, 1 / pixelsPerMillimetre()));
        return painter.drawPath(sticker);
    }
    painter.save();
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.setClipPath(sticker);
    paintSheet(painter, sticker.boundingRect());
    painter.restore();
    painter.setPen(QPen(QColor(0, 0, 0, 70), 1.2 / pixelsPerMillimetre()));
    painter.drawPath(sticker);
}

void RunView::drawCut(QPainter& painter, const LineLayer::Part& part) const {
    const Cut& cut = *(*content_.lines)[part.line].cut;
    const double pixel = 1 / pixelsPerMillimetre();
    const QPainterPath line = onBed(firstPart(cut.path, part.along));
    const double reach = 4 * pixel; // the line's width
    if (!isSeen(painter, line.boundingRect().adjusted(-reach, -reach, reach, reach)))
        return;
    if (!content_.areErrors) {
        LinePaths lines;
        lines[std::size_t(cut.kind)] = line;
        return paintCutLines(painter, lines, 2);
    }
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(Qt::white, 4 * pixel));
    painter.drawPath(line);
    painter.setPen(QPen(colourOfError(*errors_[part.line]), 2.4 * pixel));
    painter.drawPath(line);
}

/// The stickers that are cut alone.
void RunView::paintChosen(QPainter& painter) {
    const double pixel = 1 / pixelsPerMillimetre();
    painter.setBrush(QColor(0x26, 0x4E, 0x86, 60));
    painter.setPen(QPen(colour::indigo, 2 * pixel));
    for (const std::size_t chosen : run_.model().pieces()) {
        if (chosen >= run_.sheet()->pieces.size())
            continue;
        const Piece& piece = run_.sheet()->pieces[chosen];
        painter.drawPath(peeledOnBed(piece));
    }
}

/// The place that lies most off the print, ringed.
void RunView::paintWorst(QPainter& painter) const {
    const double pixel = 1 / pixelsPerMillimetre();
    const auto worst = std::ranges::max_element(run_.model().errors().lines, {}, &LineError::largest);
    if (worst == run_.model().errors().lines.end())
        return;
    const QPointF at = toQt(bedOf(worst->worst));
    for (const auto& [tint, wide] : {std::pair(QColor(Qt::white), 5.0), std::pair(colour::indigo, 2.5)}) {
        painter.setPen(QPen(tint, wide * pixel));
        painter.setBrush(Qt::NoBrush);
        painter.drawEllipse(at, 12 * pixel, 12 * pixel);
    }
}

/// Where each mark was looked for and found.
void RunView::paintMarks(QPainter& painter) const {
    const double pixel = 1 / pixelsPerMillimetre();
    for (const MarkReading& mark : run_.model().registration().marks) {
        const bool isGood = mark.found && !mark.isDropped;
        const QPointF at = toQt(mark.found ? *mark.found : run_.model().registration().map(mark.expected));
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
    for (const TestDrop& drop : run_.model().testCut()->drops) {
        const auto seen = run_.machine().depthOf(drop.force);
        const CutDepth depth = seen.value_or(CutDepth::tooShallow);
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
    const RunModel& model = run_.model();
    if (!run_.sheet())
        return;
    if (run_.machine().bed() && (model.task() == RunTask::findMarks || model.task() == RunTask::load))
        paintMarks(painter);
    if (run_.model().testCut())
        paintTestCut(painter);
    paintLines(painter);
    if (const CutHead* head = run_.machine().head()) {
        const QPointF at = toQt(bedOf(head->place()));
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
        !run_.model().isCutting() && run_.model().task() != RunTask::weed) {
        const QPointF at = toMillimetres(event->position());
        for (std::size_t i = 0; i < run_.sheet()->pieces.size(); ++i) {
            const Piece& piece = run_.sheet()->pieces[i];
            if (!peeledOnBed(piece).contains(at))
                continue;
            std::set<std::size_t> pieces = run_.model().pieces();
            if (!pieces.erase(i))
                pieces.insert(i);
            return run_.choosePieces(pieces);
        }
    }
    CanvasView::mousePressEvent(event);
}

} // namespace hasami
