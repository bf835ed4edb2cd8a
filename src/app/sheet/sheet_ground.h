#pragma once

#include "job/job.h"

#include <QPainter>

namespace hasami {

/// What lies under and between a sheet's pieces: the medium, what of it can be used, marks and what is
/// printed at the leading edge. Painted in mm of the sheet.
class SheetGround {
public:
    SheetGround(const Job& job, const Sheet& sheet, int number) : job_(job), sheet_(sheet), number_(number) {}

    void paint(QPainter& painter, double pixelsPerMillimetre) const;
    void paintMarks(QPainter& painter) const;

    /// Why nothing can lie at a place: a sentence, or nothing where it can.
    QString whyUnusable(Point at) const;

private:
    QRectF medium() const;
    /// The area for work, as far as the sheet reaches.
    QRectF usable() const;
    void paintReach(QPainter& painter, double pixelsPerMillimetre) const;
    void paintKeptFree(QPainter& painter, double pixelsPerMillimetre) const;
    void paintUsable(QPainter& painter) const;
    void paintSections(QPainter& painter) const;

    const Job& job_;
    const Sheet& sheet_;
    int number_;
};

} // namespace hasami
