#pragma once

#include "app/document/document.h"
#include "files/soft_proof.h"
#include "geometry/affine.h"

#include <QColor>
#include <QImage>
#include <QPainter>
#include <QPainterPath>

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace hasami {

/// What stickers are seen on once they are peeled. What is drawn is ours.
enum class Backdrop { white, blackCloth, kraft, glass, colour, picture };

/// A ground to lay stickers on, in mm.
struct Ground {
    Backdrop backdrop = Backdrop::white;
    QColor colour = QColor(0x30, 0x50, 0x40); ///< of `colour`
    QImage picture = {};                      ///< of `picture`

    /// Covers `area` (mm): patterns go on at their true size, a picture is as large as covers `whole`.
    void paint(QPainter& painter, const QRectF& area, const QRectF& whole) const;
};

/// Which colours the print is shown in.
enum class ProofColours {
    artwork, ///< as the artwork has them
    printer, ///< as the job's colour profile says that they come out
    beyond,  ///< the same, with those marked that the printer has not
};

/// Stickers as they come out of the machine, when the cut lies off the print by a map: weeded, with nothing
/// outside of the lines. A sheet's pieces, or a design alone.
class FinishedScene {
public:
    explicit FinishedScene(Document& document) : document_(document) {}

    /// A sheet, or a design alone. Forgets what was drawn.
    void show(std::optional<std::string> design, std::size_t sheet);
    void forget(); ///< what was drawn: something else was made, or a picture was read

    /// Gives a sentence where the job's profile can't be used. REQUIRES: but for `artwork`, the job has one.
    std::optional<QString> setColours(ProofColours colours);

    bool isEmpty() const { return pieces_.empty(); }
    QRectF area() const { return area_; }    ///< of the sheet, or around the design, mm
    Point centre() const { return centre_; } ///< that the cut is turned and stretched about

    /// The stickers on a ground, as seen from the printed side or through the medium. `painter` stands in mm.
    void paintFinished(QPainter& painter, const QRectF& visible, const Affine& cut, const Ground& ground,
                       bool throughMedium);
    /// The print as it comes, with the lines that are cut into it.
    void paintPrinted(QPainter& painter, const QRectF& visible, const Affine& cut);

private:
    struct Shown {
        std::string design;
        Affine place;
        QRectF box;
    };
    /// A design drawn once for a scale.
    struct Stamp {
        double scale = 0; ///< pixels a mm; 0: not drawn
        QImage colours, whites, gloss;
        QPointF origin; ///< of the images, mm of the design
    };
    struct Paths {
        std::shared_ptr<const Sticker> sticker;
        QPainterPath peeled, stubs, folds;
    };

    using Layer = QImage Stamp::*;
    const Paths& pathsOf(const std::string& design, const MadeDesign& made);
    const Stamp* stampOf(const Design& design, const MadeDesign& made, double scale);
    QImage layerOf(QPainter& like, const QRect& pixels, const QRectF& visible, Layer layer);
    template <class Act>
    void eachSeen(const QRectF& visible, const Act& act);
    QColor medium() const;
    bool isTinted() const; ///< whether white ink is seen on it
    /// Where the cut shapes are, in the medium's colour.
    QImage cutShapes(const QTransform& transform, const QRect& pixels, const QRectF& visible,
                     const Affine& cut);
    struct Printed;
    void printOn(QImage& finished, const Printed& print, const QImage& cutOut, bool throughMedium) const;
    void paintRims(QPainter& painter, const QRectF& visible, const Affine& cut);

    /// What is printed on the part drawn last: as long as only the cut moves it stays.
    struct Printed {
        QTransform transform;
        QRect pixels;
        QImage colours, whites, gloss;
        bool isDrawn = false;
    };
    QImage proofed(QImage colours) const;
    const Printed& printed(QPainter& painter, const QRect& pixels, const QRectF& visible);

    Document& document_;
    ProofColours colours_ = ProofColours::artwork;
    std::shared_ptr<const SoftProof> proof_;
    std::vector<Shown> pieces_;
    QRectF area_;
    Point centre_;
    std::map<std::string, Paths> paths_;
    std::map<std::string, Stamp> stamps_;
    Printed printed_, before_;
};

} // namespace hasami
