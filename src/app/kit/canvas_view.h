#pragma once

#include "geometry/length_text.h"

#include <QDeadlineTimer>
#include <QPainter>
#include <QPixmap>
#include <QWidget>

#include <vector>

namespace hasami {

/// A view in millimetres with rulers. The wheel zooms to the pointer; the middle button or Alt with the left
/// one, a touchpad, and the arrow keys move; Ctrl+0 fits. The rulers' zero is dragged from their corner; a
/// double click there puts it back. Until someone zooms or moves, what is shown stays fitted. What was drawn
/// is kept: while it moves, only what comes into view is drawn.
class CanvasView : public QWidget {
    Q_OBJECT
public:
    explicit CanvasView(QWidget* parent = nullptr);

    void fit();
    void trueSize();
    void zoomBy(double factor); ///< about the middle

    double pixelsPerMillimetre() const { return scale_; }
    QPointF toScreen(QPointF millimetres) const {
        return origin_ + turnedBy(isTurned_, millimetres) * scale_;
    }
    QPointF toMillimetres(QPointF screen) const { return turnedBack((screen - origin_) / scale_); }
    QPointF zero() const { return zero_; } ///< of the rulers, mm

    /// Whether what was painted last is what there is, and not what was seen before, for the time it takes to
    /// prepare the new.
    bool isUpToDate() const { return isUpToDate_; }

protected:
    /// The box that is shown when fitted, in mm; empty if there is nothing.
    virtual QRectF content() const = 0;
    /// Makes ready what paintContent needs for that part (mm). False if the time did not suffice: it is
    /// called again, and what was seen before is shown meanwhile.
    virtual bool prepareContent(const QRectF& /*visible*/, const QDeadlineTimer& /*until*/) { return true; }
    /// Draws in mm; the painter is set up for it. Only what lies in `visible` (mm) is needed.
    virtual void paintContent(QPainter& painter, const QRectF& visible) = 0;
    /// Draws in mm what comes and goes (what the pointer is over), on top of the content.
    virtual void paintOverlay(QPainter&) {}
    /// The unit of the rulers.
    virtual LengthUnit unit() const = 0;
    /// Where a ruler's zero and guides snap, in mm: x of upright lines, y of level ones.
    struct SnapLines {
        std::vector<double> x, y;
    };
    virtual SnapLines snapLines() const { return {}; }
    /// Whether guides can be drawn out of the rulers, and what is done with one.
    virtual bool takesGuides() const { return false; }
    virtual void addGuide(Qt::Orientation, double) {}
    /// Draws in pixels where there is no content.
    virtual void paintEmpty(QPainter& painter) = 0;

    /// To be called when content() may have changed.
    void contentChanged();
    /// What was fitted stays where it is while something in it is dragged, and afterwards, until its extent
    /// has become quite another.
    void keepInPlace() { following_ = following_ == Following::no ? Following::no : Following::roughly; }
    /// Shows the content turned by a quarter, clockwise: x runs down, y to the left.
    void setTurned(bool isTurned);
    bool isTurned() const { return isTurned_; }
    /// How many pixels a mm would have if it were fitted, turned or not.
    double fittingScale(bool isTurned) const;
    /// To be called when what is drawn has changed, but not its extent.
    void redraw();

    /// Dragging the rulers' zero from their corner, and guides out of them. True if the event was about that.
    bool pressRuler(const QMouseEvent& event);
    bool moveOnRuler(const QMouseEvent& event);
    bool releaseRuler(const QMouseEvent& event);

    bool event(QEvent* event) override;
    void changeEvent(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

    /// The part that the rulers leave.
    QRectF canvas() const;

private:
    static QPointF turnedBy(bool isTurned, QPointF p) { return isTurned ? QPointF(-p.y(), p.x()) : p; }
    QPointF turnedBack(QPointF p) const { return isTurned_ ? QPointF(p.y(), -p.x()) : p; }
    QRectF turnedContent(bool isTurned) const;
    QRectF roomForContent() const;
    /// Sets a painter up that stands at the origin in the screen's pixels.
    void toContent(QPainter& painter) const;
    void zoomAt(QPointF screen, double factor);
    /// Moves by whole pixels of the screen, and gives back by how much.
    QPointF moveBy(QPointF pixels);
    /// False while the content is not ready.
    bool bringDrawnUpToDate();
    void drawPart(const QRect& devicePixels);
    void paintDrawn(QPainter& painter) const;
    QRectF seenWith(const QRectF& part) const;
    /// A part of the canvas that lies together in what is drawn, both in the screen's pixels.
    struct Patch {
        QRect seen;
        QPoint kept;
    };
    std::vector<Patch> patchesOf(const QRect& part) const;
    /// A ruler as drawn last, and all that it depends on: moving along the other one leaves it as it is.
    struct Ruler {
        double zero = 0, scale = 0, length = 0; // pixels; pixels a mm, below 0 where numbers fall
        LengthUnit unit = LengthUnit::millimetre;
        qint64 palette = 0;
        double ratio = 0;
        QPixmap picture;

        bool showsSameAs(const Ruler& o) const {
            return zero == o.zero && scale == o.scale && length == o.length && unit == o.unit &&
                   palette == o.palette && ratio == o.ratio;
        }
    };

    void paintRulers(QPainter& painter);
    void paintRulerDrag(QPainter& painter) const;
    void bringUpToDate(Ruler& ruler, Qt::Orientation orientation);
    void drawRuler(QPainter& painter, const Ruler& ruler, Qt::Orientation orientation) const;

    double scale_ = 4; // pixels a mm
    QPointF origin_;   // where 0, 0 is on screen
    bool isTurned_ = false;
    enum class Following { exactly, roughly, no };
    Following following_ = Following::exactly; // whether what is shown is fitted to the content

    enum class RulerDrag { none, zero, upright, level };
    RulerDrag rulerDrag_ = RulerDrag::none;
    QPointF rulerAt_; // mm, of what is dragged
    QPointF zero_;    // of the rulers, mm

    // The canvas as drawn last, for this place. It wraps round: what has moved out of sight on one side is
    // drawn over with what comes into sight on the other, so that nothing is copied.
    QPixmap drawn_;
    double drawnScale_ = 0; // 0: not drawn
    bool isStale_ = false;  // the content has changed since
    bool isUpToDate_ = true;
    QPointF drawnOrigin_;
    QPoint
        drawnStart_; // where the canvas's top left corner is in it, in the screen's pixels, not yet wrapped

    Ruler across_, down_;
    bool panning_ = false;
    QPointF panFrom_;
};

} // namespace hasami
