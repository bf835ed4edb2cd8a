#pragma once

#include "app/kit/canvas_view.h"
#include "app/paint/paint_design.h"
#include "app/run/line_layer.h"
#include "app/runs/run_control.h"

#include <QPainterPath>

#include <optional>

namespace hasami {

/// The cutter's bed with the printed sheet as it lies there, what the sensor found, the lines that were cut,
/// and the head. A click on a sticker chooses it to be cut alone.
class RunView : public CanvasView {
    Q_OBJECT
public:
    explicit RunView(RunControl& run, QWidget* parent = nullptr);

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
    /// What the content depends on; the lines that are cut lie over it.
    struct Shown {
        std::shared_ptr<const PrintedSheet> printed;
        std::shared_ptr<const Made> made;
        std::shared_ptr<const CutLines> lines;
        std::size_t sheet = 0;
        bool isPlan = true, isWeeded = false, areErrors = false;
        std::set<std::size_t> pieces;
        std::vector<MarkReading> marks;
        double largestError = 0;

        friend bool operator==(const Shown&, const Shown&) = default;
    };
    Shown whatIsShown() const;
    const CutRecord& lines() const;
    void addNews(const CutLengths& news);
    void addToLayer(std::size_t cut, double along);
    void showAgain();
    void chooseTurn();
    void resizeEvent(QResizeEvent* event) override;
    QRectF bed() const;
    Point bedOf(Point sheet) const;
    QPainterPath onBed(const std::vector<Point>& path) const;
    double nearest() const;
    const Region& peeledOf(const Piece& piece);
    QPainterPath peeledOnBed(const Piece& piece);
    void paintPlan(QPainter& painter, const QRectF& medium) const;
    void paintSheet(QPainter& painter, const QRectF& part) const;
    void listErrors();
    void fillLayer();
    void paintLines(QPainter& painter);
    void drawPart(QPainter& painter, const LineLayer::Part& part);
    void drawPiece(QPainter& painter, const Piece& piece);
    void drawCut(QPainter& painter, const LineLayer::Part& part) const;
    std::size_t piecesInLayer() const;
    bool isSeen(const QPainter& painter, const QRectF& box) const;
    void paintChosen(QPainter& painter);
    void paintWorst(QPainter& painter) const;
    void paintMarks(QPainter& painter) const;
    void paintTestCut(QPainter& painter) const;

    RunControl& run_;
    Result result_ = Result::stickers;
    std::optional<Point> aim_;
    /// Of each line that is cut, how far off the print it is at most, mm; empty: it is not shown.
    std::vector<std::optional<double>> errors_;
    Shown content_;
    std::uint64_t takenBack_ = 0; ///< by the model, when the layer was begun
    LineLayer layer_; ///< pieces (before they are printed, or weeded), then cuts that are finished,
    std::map<std::size_t, double> underWay_; ///< and those that are not, with how far they came
    std::map<std::shared_ptr<const Sticker>, Region> peeled_; ///< of what was made
};

} // namespace hasami
