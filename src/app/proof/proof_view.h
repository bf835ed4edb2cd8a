#pragma once

#include "app/document/findings_watch.h"
#include "app/kit/canvas_view.h"
#include "app/proof/finished_scene.h"

#include <QTimer>
#include <QVariantAnimation>

namespace hasami {

/// A sheet or one sticker as it comes out: printed, cut with the error shown, weeded, on a chosen ground.
/// Beside it, where asked for, the print as it comes with its cut lines.
class ProofView : public CanvasView {
    Q_OBJECT
public:
    explicit ProofView(Document& document, QWidget* parent = nullptr);

    /// A sheet, or one design.
    void showSheet(std::size_t sheet);
    void showDesign(const std::string& design);
    using CanvasView::isTurned; ///< a sheet that is much wider than long is shown fed from above
    const std::optional<std::string>& design() const { return design_; }
    std::size_t sheet() const { return sheet_; }

    void setDrift(const CutDrift& drift);
    const CutDrift& drift() const { return drift_; }
    void setGround(const Ground& ground);
    const Ground& ground() const { return ground_; }
    /// Gives a sentence where the job's colour profile can't be used.
    std::optional<QString> setColours(ProofColours colours);
    void showBefore(bool isShown);
    /// From behind, through the medium, or from the printed side. A mirrored design alone is shown from
    /// behind until it is chosen.
    void showFromBehind(bool isFromBehind);
    bool isFromBehind() const;
    bool isLeftToRight() const; ///< whether what is shown lies left to right of the sheet or the design

    /// Marks a place, of the sheet or of the design that is shown, with a pulse; nothing takes it away.
    void pointAt(std::optional<Point> place);
    /// Marks the spot at which the error shown, or a little more, does harm first.
    void showWeakest(std::optional<Point> place);

    /// A picture of the finished stickers on their background, in that many pixels per mm.
    QImage picture(double pixelsPerMillimetre);

Q_SIGNALS:
    void turned(bool isTurned);

protected:
    QRectF content() const override;
    LengthUnit unit() const override { return document_.job().unit; }
    void paintContent(QPainter& painter, const QRectF& visible) override;
    void paintEmpty(QPainter& painter) override;
    void resizeEvent(QResizeEvent* event) override;
    void paintOverlay(QPainter& painter) override;

private:
    void showAgain();
    void chooseTurn();
    Affine cut() const { return drift_.about(scene_.centre()); }
    bool isOfMirrored() const; ///< whether a design that is printed mirrored is shown alone
    QPointF shownAt(Point place) const;
    double before() const; ///< how far what comes out lies to the right of the print before it, mm
    void paintFinished(QPainter& painter, const QRectF& visible);

    Document& document_;
    FinishedScene scene_;
    std::optional<std::string> design_;
    std::size_t sheet_ = 0;
    CutDrift drift_;
    Ground ground_;
    bool showsBefore_ = false;
    std::optional<bool> isFromBehind_; ///< none: as the design is seen
    std::optional<Point> pointed_, weakest_;
    QVariantAnimation pulse_;
};

} // namespace hasami
