#include "app/sheet/sheet_ground.h"

#include "app/kit/marking.h"
#include "app/kit/theme.h"
#include "app/words/words.h"
#include "files/paint_sticker.h"
#include "sheet/usable.h"

namespace hasami {

namespace {

QBrush hatchOf(const QColor& colour, double pixelsPerMillimetre) {
    QBrush hatch(colour, Qt::BDiagPattern);
    hatch.setTransform(QTransform::fromScale(1 / pixelsPerMillimetre, 1 / pixelsPerMillimetre));
    return hatch;
}

} // namespace

QRectF SheetGround::medium() const {
    return {0, 0, sheet_.length, job_.plan.medium.width};
}

QRectF SheetGround::usable() const {
    Box area = workArea(job_.plan, job_.profile);
    area.most.x = std::min(area.most.x, sheet_.length - job_.profile.cutter.reach.trailing -
                                            roomForMarks(job_.profile.marks));
    return area.isEmpty() ? QRectF() : toRect(area);
}

void SheetGround::paint(QPainter& painter, double pixelsPerMillimetre) const {
    painter.setRenderHint(QPainter::Antialiasing, false);
    const double shade = 3 / pixelsPerMillimetre;
    painter.fillRect(medium().translated(shade, shade), QColor(0, 0, 0, 28));
    const auto& colour = job_.plan.medium.colour;
    painter.fillRect(medium(), colour ? QColor(colour->red, colour->green, colour->blue) : QColor(Qt::white));
    paintUsable(painter);
    paintReach(painter, pixelsPerMillimetre);
    painter.setPen(QPen(colour::rule, 0));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(medium());
    if (sheet_.usedLength < sheet_.length) {
        painter.setPen(cosmetic(colour::indigo, 1.5, Qt::DashLine));
        painter.drawLine(QPointF(sheet_.usedLength, 0), QPointF(sheet_.usedLength, medium().height()));
    }
    paintKeptFree(painter, pixelsPerMillimetre);
    paintSections(painter);
}

/// What can't be used lies in a light shade.
void SheetGround::paintUsable(QPainter& painter) const {
    QPainterPath rest;
    rest.setFillRule(Qt::OddEvenFill);
    rest.addRect(medium());
    rest.addRect(usable().intersected(medium()));
    painter.fillPath(rest, QColor(0x8A, 0x84, 0x74, 26));
    painter.setPen(QPen(colour::rule, 0));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(usable().intersected(medium()));
}

void SheetGround::paintReach(QPainter& painter, double pixelsPerMillimetre) const {
    const Cutter::Reach& reach = job_.profile.cutter.reach;
    const QBrush hatch = hatchOf({0xC9, 0xC3, 0xB4}, pixelsPerMillimetre);
    const QRectF all = medium();
    const QRectF reachable = all.adjusted(reach.leading, reach.sides, -reach.trailing, -reach.sides);
    const QRectF strips[] = {
        {all.topLeft(), QPointF(reachable.left(), all.bottom())},
        {QPointF(reachable.right(), all.top()), all.bottomRight()},
        {QPointF(reachable.left(), all.top()), QPointF(reachable.right(), reachable.top())},
        {QPointF(reachable.left(), reachable.bottom()), QPointF(reachable.right(), all.bottom())}};
    for (const QRectF& strip : strips)
        painter.fillRect(strip, hatch);
}

void SheetGround::paintKeptFree(QPainter& painter, double pixelsPerMillimetre) const {
    const Medium& m = job_.plan.medium;
    const QBrush hatch = hatchOf({0x8A, 0x84, 0x74}, pixelsPerMillimetre);
    const QRectF all = medium();
    for (const QRectF& strip : {QRectF(0, 0, m.start, m.width), QRectF(0, 0, all.width(), m.firstSide),
                                QRectF(0, m.width - m.lastSide, all.width(), m.lastSide)})
        if (!strip.isEmpty())
            painter.fillRect(strip.intersected(all), hatch);
    painter.setPen(QPen(colour::quiet, 0));
    Profile unsectioned = job_.profile;
    unsectioned.marks.inSections = false;
    for (const Box& box : keptFree(job_.plan, unsectioned, number_)) {
        const QRectF kept = toRect(box).intersected(all);
        painter.fillRect(kept, hatch);
        painter.setBrush(Qt::NoBrush);
        if (!kept.isEmpty())
            painter.drawRect(kept);
    }
}

/// Between the pairs of marks, up to the last one.
void SheetGround::paintSections(QPainter& painter) const {
    if (!cutsInSections(job_.profile.marks) || sheet_.marks.empty())
        return;
    const double begin = workArea(job_.plan, job_.profile).least.x;
    painter.setPen(cosmetic(colour::quiet, 1, Qt::DashLine));
    for (const double line : sectionLines(begin, sheet_.work.most.x, job_.profile.marks))
        painter.drawLine(QPointF(line, 0), QPointF(line, medium().height()));
}

void SheetGround::paintMarks(QPainter& painter) const {
    painter.setRenderHint(QPainter::Antialiasing);
    const Rgba shown = job_.profile.marks.colour.shown;
    const QColor ink(shown.red, shown.green, shown.blue);
    for (const Mark& mark : sheet_.marks) {
        painter.setPen(cosmetic(colour::quiet, 1, Qt::DotLine));
        painter.setBrush(job_.profile.marks.isOnWhite ? QBrush(Qt::white) : QBrush(Qt::NoBrush));
        painter.drawPath(painterPath(mark.quiet));
        painter.setPen(Qt::NoPen);
        painter.setBrush(ink);
        painter.drawPath(painterPath(mark.ink));
    }
    painter.setPen(Qt::NoPen);
    painter.setBrush(ink);
    for (const LeadMark& mark : sheet_.lead)
        painter.drawPath(painterPath(mark.ink));
}

QString SheetGround::whyUnusable(Point at) const {
    if (!medium().contains(at.x, at.y))
        return {};
    const char* sentence = sentenceOn(hasami::whyUnusable(job_.plan, job_.profile, sheet_, number_, at));
    return sentence ? tr(sentence) : QString();
}

} // namespace hasami
