#include "app/sheet/sheet_view.h"

#include "app/kit/theme.h"
#include "app/paint/paint_design.h"
#include "app/sheet/paint_route.h"
#include "app/sheet/sheet_ground.h"
#include "app/words/words.h"
#include "files/paint_sticker.h"

#include <QContextMenuEvent>
#include <QKeyEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QPushButton>
#include <QToolTip>

#include <algorithm>
#include <array>
#include <map>
#include <set>

namespace hasami {

namespace {

constexpr double betweenSheets = 40; // mm

/// Over a piece that lies where it can't.
void paintHatched(QPainter& painter, const QPainterPath& outline, double pixelsPerMillimetre) {
    QBrush hatch(colour::die, Qt::FDiagPattern);
    hatch.setTransform(QTransform::fromScale(1 / pixelsPerMillimetre, 1 / pixelsPerMillimetre));
    QPen rim(colour::die, 2);
    rim.setCosmetic(true);
    painter.setPen(rim);
    painter.setBrush(hatch);
    painter.drawPath(outline);
}

/// A drawing pin, in the screen's size.
void paintPin(QPainter& painter, QPointF at, double pixelsPerMillimetre) {
    painter.save();
    painter.translate(at);
    painter.scale(1 / pixelsPerMillimetre, 1 / pixelsPerMillimetre);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(Qt::white, 4.5, Qt::SolidLine, Qt::RoundCap));
    painter.drawLine(QPointF(0, 0), QPointF(5, 9));
    painter.setPen(QPen(colour::ink, 1.5, Qt::SolidLine, Qt::RoundCap));
    painter.drawLine(QPointF(0, 0), QPointF(5, 9));
    painter.setPen(QPen(Qt::white, 1.5));
    painter.setBrush(colour::indigo);
    painter.drawEllipse(QPointF(0, 0), 5, 5);
    painter.restore();
}

} // namespace

SheetView::SheetView(Document& document, NestRun& nest, PieceHand& hand, QWidget* parent)
    : CanvasView(parent), document_(document), nest_(nest), hand_(hand),
      gesture_(hand, [this](int sheet) { return along(sheet); }), stamps_(document),
      turn_(new QPushButton(this)) {
    setObjectName("Sheet view");
    setAccessibleName(tr("Sheet"));
    setAccessibleDescription(tr("The medium with all stickers and marks"));
    setMouseTracking(true);
    turn_->setObjectName("Turn view");
    turn_->setAccessibleName(tr("Turn the view"));
    turn_->setToolTip(tr("Turns the view by a quarter; the arrow shows which way the medium is fed"));
    turn_->setProperty("role", "small");
    connect(turn_, &QPushButton::clicked, this, [this] {
        isTurnedByHand_ = !isTurned();
        chooseTurn();
    });
    connect(&hand, &PieceHand::changed, this, &SheetView::hideMoving);
    connect(&document, &Document::madeChanged, this, [this] {
        stamps_.forgetDeleted();
        showLayout();
    });
    connect(&nest, &NestRun::changed, this, [this] {
        if (shown_ != nest_.best()) {
            shown_ = nest_.best();
            showLayout();
        }
    });
    connect(&document.pictures(), &PictureCache::ready, this, [this] {
        stamps_.forgetUnfinished();
        redraw();
    });
}

void SheetView::showLayout() {
    chooseTurn();
    contentChanged();
}

/// Turned where the medium is much wider than it is long, and so seen larger; back where it is not: a little
/// more or less of it turns nothing.
void SheetView::chooseTurn() {
    constexpr double muchWider = 2, stillWider = 1.5; // times as wide as long
    if (!hand_.isDragging()) {
        const QRectF box = content();
        const bool isWide = box.height() > (isTurned() ? stillWider : muchWider) * box.width();
        setTurned(isTurnedByHand_.value_or(isWide && fittingScale(true) > fittingScale(false)));
        stamps_.setTurned(isTurned());
    }
    placeTurnButton();
}

void SheetView::placeTurnButton() {
    constexpr int inset = 8; // pixels
    turn_->setText(isTurned() ? tr("↓ Feed") : tr("→ Feed"));
    turn_->adjustSize();
    turn_->move(width() - turn_->width() - inset, height() - turn_->height() - inset);
    turn_->setVisible(!layout().sheets.empty());
}

void SheetView::resizeEvent(QResizeEvent* event) {
    chooseTurn();
    CanvasView::resizeEvent(event);
}

/// At the leading edge, in the screen's size.
void SheetView::paintFeed(QPainter& painter) const {
    const double pixel = 1 / pixelsPerMillimetre(), middle = document_.job().plan.medium.width / 2;
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(coloursOf(palette()).quiet);
    painter.drawPolygon(QPolygonF{
        {-18 * pixel, middle - 7 * pixel}, {-6 * pixel, middle}, {-18 * pixel, middle + 7 * pixel}});
}

const Layout& SheetView::layout() const {
    return nest_.best() ? *nest_.best() : document_.made()->layout;
}

QRectF SheetView::content() const {
    const auto& sheets = layout().sheets;
    if (sheets.empty())
        return {};
    double length = betweenSheets * double(sheets.size() - 1);
    for (const Sheet& sheet : sheets)
        length += sheet.length;
    return {0, 0, length, document_.job().plan.medium.width};
}

double SheetView::along(int sheet) const {
    const auto& sheets = layout().sheets;
    double at = 0;
    for (std::size_t i = 0; i < std::min(std::size_t(std::max(sheet, 0)), sheets.size()); ++i)
        at += sheets[i].length + betweenSheets;
    return at;
}

int SheetView::sheetAt(double x) const {
    const int sheets = int(layout().sheets.size());
    int sheet = 0;
    while (sheet + 1 < sheets && x > along(sheet + 1) - betweenSheets / 2)
        ++sheet;
    return sheet;
}

Point SheetView::placeOf(QPointF screen) const {
    const QPointF at = toMillimetres(screen);
    return {at.x(), at.y()};
}

void SheetView::paintContent(QPainter& painter, const QRectF& visible) {
    for (std::size_t i = 0; i < layout().sheets.size(); ++i) {
        const double at = along(int(i));
        painter.save();
        painter.translate(at, 0);
        paintSheet(painter, i, visible.translated(-at, 0));
        painter.restore();
    }
}

bool SheetView::prepareContent(const QRectF& visible, const QDeadlineTimer& until) {
    for (std::size_t i = 0; i < layout().sheets.size(); ++i) {
        const bool isReady = eachSeen(i, visible.translated(-along(int(i)), 0), [&](const Seen& seen) {
            if (until.hasExpired())
                return false;
            stamps_.prepare(seen.made, seen.piece.place, pixelsPerMillimetre(), devicePixelRatioF());
            return true;
        });
        if (!isReady)
            return false;
    }
    return true;
}

bool SheetView::eachSeen(std::size_t number, const QRectF& visible,
                         const std::function<bool(const Seen&)>& act) const {
    const auto& sheets = layout().sheets;
    std::size_t first = 0;
    for (std::size_t i = 0; i < number; ++i)
        first += sheets[i].pieces.size();
    const hasami::Box seen{{visible.left(), visible.top()}, {visible.right(), visible.bottom()}};
    std::map<std::string_view, const MadeDesign*> byDesign;
    for (const MadeDesign& made : document_.made()->designs)
        byDesign[made.design] = &made;
    const MadeDesign* made = nullptr; // of the last piece: many of one design follow each other
    for (std::size_t i = 0; i < sheets[number].pieces.size(); ++i) {
        const Piece& piece = sheets[number].pieces[i];
        if (!made || made->design != piece.design)
            made = byDesign.at(piece.design);
        const hasami::Box box = boundsOfMapped(made->sticker->footprint, piece.place);
        if (seen.meets(box) && !std::binary_search(hidden_.begin(), hidden_.end(), first + i) &&
            !act({piece, *made, box}))
            return false;
    }
    return true;
}

void SheetView::paintSheet(QPainter& painter, std::size_t number, const QRectF& visible) {
    const Sheet& sheet = layout().sheets[number];
    const double width = document_.job().plan.medium.width;
    if (!visible.intersects(QRectF(0, 0, sheet.length, width)))
        return;
    const SheetGround ground(document_.job(), sheet, int(number));
    ground.paint(painter, pixelsPerMillimetre());
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    std::vector<QPointF> pins;
    eachSeen(number, visible, [&](const Seen& seen) {
        stamps_.paint(painter, seen.made, seen.piece.place, pixelsPerMillimetre());
        if (seen.piece.isPinned)
            pins.emplace_back(seen.box.centre().x, seen.box.centre().y);
        return true;
    });
    paintCutLines(painter, linePaths(sheet.lines), SheetStamps::lineWidth(pixelsPerMillimetre()));
    ground.paintMarks(painter);
    if (hidden_.empty() && !nest_.best())
        paintConflicts(painter, number);
    for (const QPointF& at : pins)
        paintPin(painter, at, pixelsPerMillimetre());
}

QPainterPath SheetView::outlineOf(const std::string& design, const Affine& place) const {
    QPainterPath path;
    path.setFillRule(Qt::OddEvenFill);
    if (const MadeDesign* made = document_.made()->find(design); made && made->outline)
        for (const Loop& loop : made->outline->loops) {
            QPolygonF polygon;
            for (const Point p : loop) {
                const Point at = place(p);
                polygon << QPointF(at.x, at.y);
            }
            path.addPolygon(polygon);
            path.closeSubpath();
        }
    return path;
}

/// The pieces that lie where they can't, hatched.
void SheetView::paintConflicts(QPainter& painter, std::size_t sheet) const {
    const Layout& shown = layout();
    std::set<std::size_t> pieces;
    for (const Conflict& conflict : shown.conflicts)
        if (conflict.sheet == sheet) {
            pieces.insert(conflict.piece);
            if (conflict.with == Conflict::With::piece)
                pieces.insert(conflict.other);
        }
    for (const std::size_t i : pieces) {
        const Piece& piece = shown.sheets[sheet].pieces[i];
        paintHatched(painter, outlineOf(piece.design, piece.place), pixelsPerMillimetre());
    }
}

Affine SheetView::placeOf(const LaidPiece& piece) const {
    const MadeDesign* made = document_.made()->find(piece.design);
    Copies copies{piece.design, made ? made->sticker->footprint : Box{}, 1};
    const Design* design = document_.job().find(piece.design);
    copies.isMirrored = design && design->recipe.isMirrored;
    return hasami::placeOf(copies, piece.centre, piece.turn);
}

/// What is dragged, on top of all; it and what it comes too close to are hatched.
void SheetView::paintMoving(QPainter& painter) {
    painter.setRenderHint(QPainter::Antialiasing);
    for (const std::size_t number : hand_.hindering()) {
        const LaidPiece& piece = hand_.laid()[number];
        paintHatched(painter, outlineOf(piece.design, placeOf(piece)).translated(along(piece.sheet), 0),
                     pixelsPerMillimetre());
    }
    for (const PieceHand::Shown& shown : hand_.moving()) {
        const MadeDesign* made = document_.made()->find(shown.piece.design);
        if (!made || made->sticker->isEmpty())
            continue;
        const Affine place = placeOf(shown.piece);
        painter.save();
        painter.translate(along(shown.piece.sheet), 0);
        painter.setRenderHint(QPainter::SmoothPixmapTransform);
        stamps_.paint(painter, *made, place, pixelsPerMillimetre());
        if (shown.collides)
            paintHatched(painter, outlineOf(shown.piece.design, place), pixelsPerMillimetre());
        painter.restore();
    }
}

/// Each by its outline, where they are few enough to be seen apart.
void SheetView::paintHeld(QPainter& painter) {
    constexpr std::size_t most = 200;
    if (hand_.laid().empty() || hand_.isDragging() || hand_.held().size() > most)
        return;
    QPen rim(colour::indigo, 2);
    rim.setCosmetic(true);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(rim);
    painter.setBrush(Qt::NoBrush);
    for (const std::size_t number : hand_.held()) {
        const LaidPiece& piece = hand_.laid()[number];
        painter.drawPath(outlineOf(piece.design, placeOf(piece)).translated(along(piece.sheet), 0));
    }
}

void SheetView::hideMoving() {
    std::vector<std::size_t> hidden;
    for (const PieceHand::Shown& shown : hand_.moving())
        hidden.push_back(shown.number);
    std::sort(hidden.begin(), hidden.end());
    if (hidden != hidden_) {
        hidden_ = std::move(hidden);
        redraw();
    }
    if (hand_.isDragging())
        keepInPlace();
    update();
}

void SheetView::showRoute(const RouteBar& bar) {
    route_ = &bar;
    connect(&bar, &RouteBar::changed, this, qOverload<>(&QWidget::update));
}

void SheetView::paintOverlay(QPainter& painter) {
    paintFeed(painter);
    if (route_ && route_->isOn())
        return paintRoute(
            painter, *route_, [this](std::size_t sheet) { return along(int(sheet)); }, content(),
            pixelsPerMillimetre());
    if (!hand_.laid().empty())
        paintMoving(painter);
    paintHeld(painter);
    gesture_.paint(painter, pixelsPerMillimetre());
    if (usedDrawn_) {
        painter.setPen(QPen(colour::indigo, 0, Qt::DashLine));
        painter.setBrush(QColor(0x8A, 0x84, 0x74, 60));
        painter.drawRect(usedDrawn_->normalized());
    }
}

void SheetView::drawUsedAreas(bool isOn) {
    drawsUsed_ = isOn;
    usedDrawn_.reset();
    setCursor(isOn ? Qt::CrossCursor : Qt::ArrowCursor);
    update();
}

namespace {

PieceGesture::Keys keysOf(const QMouseEvent& event) {
    return {bool(event.modifiers() & (Qt::ControlModifier | Qt::ShiftModifier)),
            bool(event.modifiers() & Qt::ShiftModifier)};
}

/// The arrow that goes the same way on the medium as this one does on a view that is turned.
int unturned(int key) {
    switch (key) {
    case Qt::Key_Right:
        return Qt::Key_Up;
    case Qt::Key_Down:
        return Qt::Key_Right;
    case Qt::Key_Left:
        return Qt::Key_Down;
    case Qt::Key_Up:
        return Qt::Key_Left;
    default:
        return key;
    }
}

bool isPlainLeft(const QMouseEvent& event) {
    return event.button() == Qt::LeftButton && !(event.modifiers() & Qt::AltModifier);
}

} // namespace

/// The keys for stickers come before those of the menus while some are held.
bool SheetView::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride && !hand_.held().empty())
        if (const auto* key = static_cast<QKeyEvent*>(event);
            key->key() == Qt::Key_D && key->modifiers() == Qt::ControlModifier)
            event->accept();
    if (event->type() == QEvent::ToolTip && explain(static_cast<QHelpEvent*>(event)->pos()))
        return true;
    return CanvasView::event(event);
}

/// Why nothing can lie at a place, where that is so.
bool SheetView::explain(const QPoint& screen) {
    if (layout().sheets.empty())
        return false;
    const Point at = placeOf(screen);
    const int sheet = sheetAt(at.x);
    const QString why = SheetGround(document_.job(), layout().sheets[std::size_t(sheet)], sheet)
                            .whyUnusable(at - Point{along(sheet), 0});
    if (why.isEmpty())
        QToolTip::hideText();
    else
        QToolTip::showText(mapToGlobal(screen), why, this);
    return true;
}

void SheetView::mousePressEvent(QMouseEvent* event) {
    if (pressRuler(*event))
        return;
    if (!isPlainLeft(*event) || layout().sheets.empty() || (route_ && route_->isOn()))
        return CanvasView::mousePressEvent(event);
    setFocus();
    const Point at = placeOf(event->position());
    if (drawsUsed_)
        usedDrawn_ = QRectF(at.x, at.y, 0, 0);
    else if (nest_.isOn())
        nest_.stop(); // what is taken in hand stays where it is
    else
        gesture_.press(at, sheetAt(at.x), reach(), keysOf(*event));
    update();
}

void SheetView::mouseMoveEvent(QMouseEvent* event) {
    if (moveOnRuler(*event))
        return;
    const Point at = placeOf(event->position());
    if (usedDrawn_) {
        usedDrawn_->setBottomRight({at.x, at.y});
        update();
    } else if (event->buttons() & Qt::LeftButton) {
        gesture_.move(at, sheetAt(at.x), reach(), keysOf(*event));
        if (gesture_.isDragging())
            update();
    } else if (!drawsUsed_ && event->buttons() == Qt::NoButton && !layout().sheets.empty()) {
        setCursor(gesture_.cursor(at, sheetAt(at.x), reach()));
    }
    CanvasView::mouseMoveEvent(event);
}

void SheetView::mouseReleaseEvent(QMouseEvent* event) {
    if (releaseRuler(*event))
        return;
    if (event->button() != Qt::LeftButton)
        return CanvasView::mouseReleaseEvent(event);
    if (usedDrawn_) {
        takeUsedArea();
    } else {
        gesture_.release(keysOf(*event));
    }
    update();
    CanvasView::mouseReleaseEvent(event);
}

/// A drag draws one, a click takes one away.
void SheetView::takeUsedArea() {
    const int sheet = sheetAt(usedDrawn_->left());
    const Medium& medium = document_.job().plan.medium;
    const QRectF whole(0, 0, medium.length.value_or(Limits::mostMedium), medium.width);
    const QPointF pressed = usedDrawn_->topLeft() - QPointF(along(sheet), 0);
    const QRectF box = usedDrawn_->normalized().translated(-along(sheet), 0).intersected(whole);
    usedDrawn_.reset();
    constexpr double least = 1; // mm
    if (box.width() > least && box.height() > least)
        return document_.change(tr("Used area"), [&](Job& job) {
            job.plan.medium.used.push_back({sheet, {{box.left(), box.top()}, {box.right(), box.bottom()}}});
        });
    document_.change(tr("Forget a used area"), [&](Job& job) {
        std::erase_if(job.plan.medium.used, [&](const UsedArea& used) {
            return used.sheet == sheet && toRect(used.box).contains(pressed);
        });
    });
}

void SheetView::mouseDoubleClickEvent(QMouseEvent* event) {
    if (event->position().x() < canvas().left() && event->position().y() < canvas().top())
        CanvasView::mouseDoubleClickEvent(event);
    else
        mousePressEvent(event);
}

void SheetView::keyPressEvent(QKeyEvent* event) {
    const int key = isTurned() ? unturned(event->key()) : event->key();
    if (!gesture_.key(key, event->modifiers()))
        CanvasView::keyPressEvent(event);
}

void SheetView::contextMenuEvent(QContextMenuEvent* event) {
    const Point at = placeOf(event->pos());
    const int sheet = sheetAt(at.x);
    const auto piece = hand_.pieceAt(sheet, at - Point{along(sheet), 0});
    if (!piece)
        return;
    if (!hand_.isHeld(*piece))
        hand_.hold({*piece});
    QMenu menu(this);
    QAction* pin = menu.addAction(tr("Pin"), this, [this] { hand_.pin(!hand_.arePinned()); });
    pin->setCheckable(true);
    pin->setChecked(hand_.arePinned());
    menu.addAction(tr("Turn by a quarter"), this, [this] { hand_.turnBy(90); });
    menu.addAction(tr("Duplicate"), this, [this] { hand_.duplicate(); });
    menu.addAction(tr("Take out"), this, [this] { hand_.remove(); });
    menu.exec(event->globalPos());
}

void SheetView::paintEmpty(QPainter& painter) {
    painter.setPen(coloursOf(palette()).quiet);
    painter.drawText(rect(), Qt::AlignCenter, tr("No stickers to lay out yet"));
}

} // namespace hasami
