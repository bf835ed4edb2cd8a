#pragma once

#include "app/document/document.h"

#include <QPoint>
#include <QRectF>

namespace hasami {

/// Which lines of a design's edge the user means, and switching them. Lines are known by their number among
/// all those found in the design, the largest first.
class LoopPicker {
public:
    explicit LoopPicker(Document& document) : document_(document) {}

    struct Entry {
        const EdgeLoop* loop; ///< in the frame of the item that it was found in
        bool isCut;
        const Item* item; ///< of the design made
        int number;       ///< of that item

        Box box() const { return boundsOfMapped(loop->facts.box, item->toDesign()); } ///< in the design
        Curve curve() const { return map(loop->curve, item->toDesign()); }
    };

    /// All lines of the selected design, while they hold; none of a plain shape.
    std::vector<Entry> lines() const;

    /// Whether the lines are those of the present recipe, but for which of them are cut.
    bool linesHold() const;

    /// The lines at a place, the smallest first: those it lies in, and those that it misses by no more than
    /// `reach`, in mm.
    std::vector<std::size_t> linesAt(Point place, double reach) const;

    /// The lines that lie in the box with all they are.
    std::vector<std::size_t> linesWithin(const Box& box) const;

    /// Lets the lines around all areas of one line's colour be cut, and no others.
    void cutColourOf(std::size_t line);

    /// Lets the lines be cut, or not.
    void setCut(const std::vector<std::size_t>& lines, bool isCut);

private:
    Document& document_;
};

} // namespace hasami
