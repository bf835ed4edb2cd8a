#pragma once

#include "app/document/guided_run.h"
#include "app/kit/canvas_view.h"
#include "app/paint/paint_design.h"

#include <QPainterPath>

#include <optional>

namespace hasami {

/// The cutter's bed with the printed sheet as it lies there, what the sensor found, the lines that were cut,
/// and the head. A click on a sticker chooses it to be cut alone.
class RunView : public CanvasView {
    Q_OBJECT
public:
    explicit RunView(GuidedRun& run, QWidget* parent = nullptr);

    /// Shows the stickers alone, as they are weeded, or where each line lies off the print.
    enum class Result { stickers, errors };
    void setResult(Result result);

    /// A mark that is being placed by hand.
    void aim(std::optional<Point> place);

protected:
    QRectF content() const override;
    LengthUnit unit() const override;
    void paintContent(QPainter& painter, const QRectF& visible) override;
    void paintOverlay(QPainter& painter) override;
    void paintEmpty(QPainter& painter) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    void showAgain();
    void chooseTurn();
    void resizeEvent(QResizeEvent* event) override;
    QRectF bed() const;
    QPainterPath onBed(const std::vector<Point>& path) const;
    QPainterPath peeled() const;
    void paintPlan(QPainter& painter) const;
    void paintSheet(QPainter& painter) const;
    void paintWeeded(QPainter& painter) const;
    /// What was cut, but for lines that are drawn already.
    void paintCut(QPainter& painter, const CutRecord& drawn = {}) const;
    void paintChosen(QPainter& painter) const;
    void paintErrors(QPainter& painter) const;
    void paintMarks(QPainter& painter) const;
    void paintTestCut(QPainter& painter) const;

    GuidedRun& run_;
    Result result_ = Result::stickers;
    std::optional<Point> aim_;
    CutRecord shown_; ///< what was cut, as the content has it
};

} // namespace hasami
