#pragma once

#include "app/canvas_view.h"
#include "app/document.h"
#include "app/paint_design.h"
#include "app/route_bar.h"

#include <QPixmap>

#include <map>

namespace hasami {

/// The medium as it lies in the machine, fed from the left: pieces, marks with their quiet zones, and what
/// the machine can't reach, hatched. Further sheets lie to the right.
class SheetView : public CanvasView {
    Q_OBJECT
public:
    explicit SheetView(Document& document, QWidget* parent = nullptr);

    /// Shows the bar's way of the knife while it is on. REQUIRES: the bar outlives the view.
    void showRoute(const RouteBar& bar);

protected:
    QRectF content() const override;
    LengthUnit unit() const override { return document_.job().unit; }
    void paintContent(QPainter& painter, const QRectF& visible) override;
    void paintEmpty(QPainter& painter) override;
    void paintOverlay(QPainter& painter) override;

private:
    /// A design drawn once for the present zoom, to be laid down at each of its pieces.
    struct Stamp {
        std::shared_ptr<const Sticker> sticker;
        double scale = 0;
        QPixmap pixmap;
        LinePaths lines;
        bool withLines = false; ///< they are in the pixmap
    };

    const Stamp& stampOf(const std::string& design);
    void paintPiece(QPainter& painter, const Piece& piece, const Sticker& sticker);
    void paintSheet(QPainter& painter, const Sheet& sheet, const QRectF& visible);
    double lineWidth() const;
    void paintMedium(QPainter& painter, const Sheet& sheet) const;
    void paintMarks(QPainter& painter, const Sheet& sheet) const;

    Document& document_;
    std::map<std::string, Stamp> stamps_;
    const RouteBar* route_ = nullptr;
};

} // namespace hasami
