#pragma once

#include "app/document/document.h"
#include "app/document/nest_run.h"
#include "app/kit/canvas_view.h"
#include "app/paint/sheet_stamps.h"
#include "app/sheet/piece_gesture.h"
#include "app/sheet/route_bar.h"

class QPushButton;

namespace hasami {

/// The medium as it lies in the machine, fed from the left: pieces, marks with their quiet zones, and what
/// the machine can't reach, hatched. Further sheets lie to the right. A medium that is much wider than what
/// is used of it is long is shown turned, fed from above, so that it fills the view; a button turns it back.
class SheetView : public CanvasView {
    Q_OBJECT
public:
    SheetView(Document& document, NestRun& nest, PieceHand& hand, QWidget* parent = nullptr);

    /// Shows the bar's cutting order while it is on. REQUIRES: the bar outlives the view.
    void showRoute(const RouteBar& bar);

    /// While on, drags draw boxes over what is used up already.
    void drawUsedAreas(bool isOn);

protected:
    QRectF content() const override;
    LengthUnit unit() const override { return document_.job().unit; }
    bool prepareContent(const QRectF& visible, const QDeadlineTimer& until) override;
    void paintContent(QPainter& painter, const QRectF& visible) override;
    void paintEmpty(QPainter& painter) override;
    void paintOverlay(QPainter& painter) override;
    bool event(QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;

private:
    /// A piece that is seen, and does not lie elsewhere while it is moved.
    struct Seen {
        const Piece& piece;
        const MadeDesign& made;
        hasami::Box box;
    };
    /// In the sheet's mm. Stops where `act` gives false, and gives that back.
    bool eachSeen(std::size_t sheet, const QRectF& visible,
                  const std::function<bool(const Seen&)>& act) const;
    void paintSheet(QPainter& painter, std::size_t sheet, const QRectF& visible);
    void paintConflicts(QPainter& painter, std::size_t sheet) const;
    void paintMoving(QPainter& painter);
    void paintHeld(QPainter& painter);
    QPainterPath outlineOf(const std::string& design, const Affine& place) const;
    Affine placeOf(const LaidPiece& piece) const;
    double along(int sheet) const; ///< where it begins in the view, mm
    int sheetAt(double x) const;   ///< the nearest
    Point placeOf(QPointF screen) const;
    double reach() const { return 9 / pixelsPerMillimetre(); }
    void hideMoving();
    void showLayout();
    void chooseTurn();
    void placeTurnButton();
    void paintFeed(QPainter& painter) const;
    void takeUsedArea();
    bool explain(const QPoint& screen);

    /// What a nest that is under way has found, else what is made.
    const Layout& layout() const;

    Document& document_;
    NestRun& nest_;
    PieceHand& hand_;
    PieceGesture gesture_;
    std::vector<std::size_t> hidden_; ///< shown where they are moved to, not where they lay
    bool drawsUsed_ = false;
    std::optional<QRectF> usedDrawn_;
    const Layout* shown_ = nullptr; ///< of the nest, to notice when there is a better one
    SheetStamps stamps_;
    const RouteBar* route_ = nullptr;
    QPushButton* turn_;
    std::optional<bool> isTurnedByHand_;
};

} // namespace hasami
