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
    /// What the content depends on, beside how far the lines are cut.
    struct Shown {
        std::shared_ptr<const PrintedSheet> printed;
        std::shared_ptr<const Made> made;
        std::size_t sheet = 0;
        bool isPlan = true, isWeeded = false, areErrors = false;
        std::set<std::size_t> pieces;
        std::vector<MarkReading> marks;
        double largestError = 0;

        friend bool operator==(const Shown&, const Shown&) = default;
    };
    Shown whatIsShown() const;
    bool hasBeenTakenBack() const;
    void showAgain();
    void chooseTurn();
    void resizeEvent(QResizeEvent* event) override;
    QRectF bed() const;
    QPainterPath onBed(const std::vector<Point>& path) const;
    double nearest() const;
    const Region& peeledOf(const Piece& piece);
    QPainterPath peeledOnBed(const Piece& piece);
    void paintPlan(QPainter& painter);
    void paintSheet(QPainter& painter, const QRectF& part) const;
    void paintWeeded(QPainter& painter);
    void listCuts();
    void paintCuts(QPainter& painter) const;
    void paintNewCuts(QPainter& painter);
    void paintChosen(QPainter& painter);
    void paintErrors(QPainter& painter) const;
    void paintMarks(QPainter& painter) const;
    void paintTestCut(QPainter& painter) const;

    GuidedRun& run_;
    Result result_ = Result::stickers;
    std::optional<Point> aim_;
    /// A cut of the program.
    struct SeenCut {
        CutKey key;
        const Cut* cut;
        double length; ///< mm
    };
    std::vector<SeenCut> cuts_;
    Shown content_;
    CutRecord shown_; ///< what was cut, as the content has it
    /// Cuts that were finished since then, each drawn once; what else is drawn over it each time.
    QPixmap layer_;
    QTransform layerPlace_;                                   ///< that it was drawn with
    CutRecord inLayer_;                                       ///< and in the content
    std::map<std::shared_ptr<const Sticker>, Region> peeled_; ///< of what was made
};

} // namespace hasami
