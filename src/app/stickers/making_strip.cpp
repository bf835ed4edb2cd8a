#include "app/stickers/making_strip.h"

#include "app/document/step_state.h"
#include "app/kit/quantity_field.h"
#include "app/kit/theme.h"
#include "app/paint/line_names.h"
#include "app/paint/paint_design.h"
#include "app/words/words.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QLabel>

#include <cmath>

namespace hasami {

namespace {

QString effectOf(RecipeStep step) {
    switch (step) {
    case RecipeStep::artwork:
        return tr("What the sticker shows, and how large it is");
    case RecipeStep::edge:
        return tr("Where the artwork ends: the line that all cuts follow");
    case RecipeStep::border:
        return tr("A printed band around the artwork");
    case RecipeStep::cutLines:
        return tr("Where the knife goes, and how far it stays from the edge");
    case RecipeStep::bleed:
        return tr("Ink past the cut line");
    case RecipeStep::inks:
        return tr("White and other inks beside the colours, and what the work is for");
    }
    return {};
}

/// The offset of one line, the count of several.
QString linesInWords(const Design& design, const MadeDesign* made, LengthUnit unit) {
    const Recipe& recipe = design.recipe;
    if (bringsAllLines(design, made))
        return tr("from the file");
    if (recipe.lines.size() > 1)
        return counted(recipe.lines.size(), "%1 line", "%1 lines");
    const double offset = recipe.lines.front().offset;
    if (offset == 0 || (offset < 0 && recipe.border.width > 0))
        return recipe.border.width > 0 ? tr("on the rim") : tr("on the edge");
    return (offset > 0 ? tr("%1 outside") : tr("%1 inside"))
        .arg(quantityText(std::abs(offset), QuantityKind::length, unit));
}

/// The figure, or as much of it as fits: "84.67 mm wide", "84.67 mm", "84.67".
QString fitting(const QString& figure, const QFontMetrics& metrics, double room) {
    for (const int lastWord : {-1, 1, 0})
        if (const QString part = figure.section(' ', 0, lastWord); metrics.horizontalAdvance(part) <= room)
            return part;
    return metrics.elidedText(figure, Qt::ElideRight, int(room));
}

} // namespace

StripFrame::StripFrame(Document& document, RecipeStep step) : document_(document), step_(step) {
    setCheckable(true);
    setText(tr(stepName(step)));
    setObjectName(QString(stepName(step)) + " frame");
    setAccessibleName(tr(stepName(step)));
    setMaximumSize(sizeHint());
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    setFocusPolicy(Qt::StrongFocus);
    connect(&document, &Document::jobChanged, this, &StripFrame::showReport);
    connect(&document, &Document::madeChanged, this, &StripFrame::showReport);
    connect(&document, &Document::selectionChanged, this, &StripFrame::showReport);
    connect(&document.pictures(), &PictureCache::ready, this, qOverload<>(&QWidget::update));
    showReport();
}

StepReport StripFrame::report() const {
    const Design* design = document_.selectedDesign();
    return design ? reportOn(step_, *design, document_.newest(design->id)) : StepReport{};
}

QString StripFrame::figure() const {
    const Design* design = document_.selectedDesign();
    if (!design)
        return {};
    const MadeDesign* made = document_.newest(design->id);
    const LengthUnit unit = document_.job().unit;
    switch (step_) {
    case RecipeStep::artwork:
        return tr("%1 wide").arg(quantityText(bounds(design->artwork).width(), QuantityKind::length, unit));
    case RecipeStep::edge: {
        if (!isMadeFor(step_, *design, made))
            return tr("being found…");
        if (made->sticker->edge.empty())
            return tr("none found");
        std::size_t points = 0;
        for (const Curve& curve : made->sticker->edge)
            points += curve.points();
        return counted(points, "%1 point", "%1 points");
    }
    case RecipeStep::border: {
        const double width = design->recipe.border.width;
        return width > 0 ? tr("%1 wide").arg(quantityText(width, QuantityKind::length, unit)) : tr("none");
    }
    case RecipeStep::cutLines:
        if (isMadeFor(step_, *design, made) && made->sticker->isEmpty())
            return tr("none");
        return linesInWords(*design, made, unit);
    case RecipeStep::bleed:
        if (isMadeFor(step_, *design, made) && !made->sticker->bleed && !made->sticker->border)
            return tr("none needed");
        return design->recipe.bleed.amount > 0
                   ? quantityText(design->recipe.bleed.amount, QuantityKind::length, unit)
                   : tr("none");
    case RecipeStep::inks: {
        QStringList names;
        for (const InkLayer& layer : design->recipe.inks)
            names << nameOf(layer.ink);
        return names.isEmpty() ? tr("none") : names.join(", ");
    }
    }
    return {};
}

void StripFrame::showReport() {
    const StepReport report = this->report();
    const QString words = report.state == StepState::fine      ? tr("Fine")
                          : report.state == StepState::finding ? report.finding
                                                               : tr("Being made");
    setAccessibleDescription(figure() + ". " + words);
    setToolTip(tr("%1 (F6 goes to the next frame)").arg(effectOf(step_)) +
               (report.state == StepState::finding ? "\n▲ " + report.finding : QString()));
    update();
}

/// A tick, a warning triangle, or three dots while the step is on its way.
static void paintSign(QPainter& painter, const QRectF& place, StepState state, const Colours& c) {
    painter.save();
    switch (state) {
    case StepState::fine:
        painter.setPen(QPen(c.quiet, 1.5, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPolyline(QPolygonF{{place.left() + 2, place.center().y()},
                                       {place.left() + 5, place.bottom() - 3},
                                       {place.right() - 1, place.top() + 3}});
        break;
    case StepState::finding:
        painter.setPen(Qt::NoPen);
        painter.setBrush(c.warning);
        painter.drawPolygon(QPolygonF{{place.center().x(), place.top() + 1},
                                      {place.right(), place.bottom() - 1},
                                      {place.left(), place.bottom() - 1}});
        break;
    case StepState::beingMade:
        painter.setPen(Qt::NoPen);
        painter.setBrush(c.indigo);
        for (int i = 0; i < 3; ++i)
            painter.drawEllipse(QPointF(place.left() + 2 + i * 4, place.center().y()), 1.3, 1.3);
        break;
    }
    painter.restore();
}

void StripFrame::paintEvent(QPaintEvent*) {
    const Colours& c = coloursOf(palette());
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const bool chosen = isChecked();
    const QRectF frame = QRectF(rect()).adjusted(1, 1, -1, -1);
    painter.setPen(QPen(chosen ? c.indigo : c.rule, chosen ? 2 : 1));
    painter.setBrush(chosen ? c.tint : underMouse() ? c.ground : c.panel);
    painter.drawRoundedRect(frame, 8, 8);
    if (hasFocus()) {
        painter.setPen(QPen(c.indigo, 1, Qt::DotLine));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(frame.adjusted(3, 3, -3, -3), 6, 6);
    }
    constexpr double narrow = 104; // pixels
    const double margin = frame.width() < narrow ? 6 : 10;
    const QRectF inner = frame.adjusted(margin, 6, -margin, -6);
    QFont bold = font();
    bold.setWeight(QFont::DemiBold);
    painter.setFont(bold);
    painter.setPen(chosen ? c.indigo : c.ink);
    painter.drawText(inner, Qt::AlignTop | Qt::AlignLeft, text());
    constexpr double sign = 12; // pixels: beside the name, or below it where there is no room
    const bool isBeside = painter.fontMetrics().horizontalAdvance(text()) + sign + 4 <= inner.width();
    painter.setFont(font());
    const StepState state = report().state;
    painter.setPen(state == StepState::finding ? c.warning : c.quiet);
    painter.drawText(inner, Qt::AlignBottom | Qt::AlignRight,
                     fitting(figure(), painter.fontMetrics(), inner.width()));
    paintStep(painter, inner.adjusted(0, 22, 0, -22));
    if (document_.selectedDesign())
        paintSign(painter, QRectF(inner.right() - sign, inner.top() + (isBeside ? 3 : 22), sign, sign), state,
                  c);
}

void StripFrame::paintStep(QPainter& painter, const QRectF& room) const {
    const Design* design = document_.selectedDesign();
    if (!design)
        return;
    const Sticker& sticker = stickerOf(document_, design->id);
    Box box = bounds(design->artwork);
    box.add(sticker.footprint);
    const double scale = std::min(room.width() / box.width(), room.height() / box.height()) * 0.96;
    painter.save();
    painter.setClipRect(room.adjusted(-2, -2, 2, 2));
    painter.translate(room.center());
    painter.scale(scale, scale);
    painter.translate(-box.centre().x, -box.centre().y);
    const DesignPainting painting{document_, *design, sticker, scale};
    if (step_ != RecipeStep::cutLines) {
        const hasami::Box paper = bounds(design->artwork);
        painter.fillRect(QRectF(paper.least.x, paper.least.y, paper.width(), paper.height()), colour::paper);
    }
    switch (step_) {
    case RecipeStep::artwork:
        painting.artwork(painter);
        break;
    case RecipeStep::edge:
        painter.setOpacity(0.35);
        painting.artwork(painter);
        painter.setOpacity(1);
        painting.edge(painter);
        break;
    case RecipeStep::border:
        painting.printed(painter);
        break;
    case RecipeStep::cutLines:
        painting.vinyl(painter);
        painting.printed(painter);
        painting.cutLines(painter, 1.5);
        break;
    case RecipeStep::bleed:
        painting.printed(painter);
        painting.cutLines(painter, 1);
        break;
    case RecipeStep::inks:
        if (!design->recipe.inks.empty())
            painting.inks(painter);
        break;
    }
    painter.restore();
}

MakingStrip::MakingStrip(Document& document, QWidget* parent) : QFrame(parent) {
    setProperty("role", "panel");
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(8, 8, 8, 8);
    layout->setSpacing(1);
    auto* group = new QButtonGroup(this);
    for (std::size_t i = 0; i < recipeSteps.size(); ++i) {
        frames_[i] = new StripFrame(document, recipeSteps[i]);
        group->addButton(frames_[i]);
        if (i > 0) {
            auto* arrow = new QLabel;
            arrow->setPixmap(icon("onward").pixmap(12, 12));
            layout->addWidget(arrow);
            arrows_.push_back(arrow);
        }
        layout->addWidget(frames_[i], 100); // up to their own width; the rest stays empty
        connect(frames_[i], &StripFrame::clicked, this, [this, i] { setStep(recipeSteps[i]); });
    }
    layout->addStretch(1);
    setStep(step_);
}

void MakingStrip::resizeEvent(QResizeEvent* event) {
    constexpr int withArrows = 640; // pixels; a narrower strip gives their room to the frames
    for (QLabel* arrow : arrows_)
        arrow->setVisible(width() >= withArrows);
    QFrame::resizeEvent(event);
}

void MakingStrip::setStep(RecipeStep step) {
    step_ = step;
    for (std::size_t i = 0; i < recipeSteps.size(); ++i)
        frames_[i]->setChecked(recipeSteps[i] == step);
    Q_EMIT stepChanged(step);
}

void MakingStrip::walk(int by) {
    const int count = int(recipeSteps.size());
    const int now = int(std::find(recipeSteps.begin(), recipeSteps.end(), step_) - recipeSteps.begin());
    setStep(recipeSteps[std::size_t((now + by + count) % count)]);
}

} // namespace hasami
