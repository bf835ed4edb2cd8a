#include "app/making_strip.h"

#include "app/paint_design.h"
#include "app/quantity_field.h"
#include "app/theme.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QLabel>

#include <cmath>

namespace hasami {

namespace {

const char* effectOf(RecipeStep step) {
    switch (step) {
    case RecipeStep::artwork:
        return "What the sticker shows, and how large it is";
    case RecipeStep::edge:
        return "Where the artwork ends: the line that all cuts follow";
    case RecipeStep::cutLines:
        return "Where the knife goes, and how far it stays from the edge";
    }
    return "";
}

} // namespace

StripFrame::StripFrame(Document& document, RecipeStep step) : document_(document), step_(step) {
    setCheckable(true);
    setText(stepName(step));
    setObjectName(QString(stepName(step)) + " frame");
    setAccessibleName(stepName(step));
    setToolTip(QString("%1 (F6 goes to the next frame)").arg(effectOf(step)));
    setFixedSize(sizeHint());
    setFocusPolicy(Qt::StrongFocus);
    const auto refresh = [this] {
        setAccessibleDescription(figure());
        update();
    };
    connect(&document, &Document::jobChanged, this, refresh);
    connect(&document, &Document::madeChanged, this, refresh);
    connect(&document, &Document::selectionChanged, this, refresh);
}

QString StripFrame::figure() const {
    const Design* design = document_.selectedDesign();
    if (!design)
        return {};
    const MadeDesign* made = document_.made()->find(design->id);
    switch (step_) {
    case RecipeStep::artwork: {
        const hasami::Box box = bounds(design->artwork);
        return QString("%1 wide").arg(quantityText(box.width(), QuantityKind::length, document_.job().unit));
    }
    case RecipeStep::edge: {
        if (!document_.isMade() || !made)
            return "being made…";
        if (made->sticker->edge.empty())
            return "▲ none found";
        std::size_t points = 0;
        for (const Curve& curve : made->sticker->edge)
            points += curve.points();
        return QString("%1 points").arg(points);
    }
    case RecipeStep::cutLines: {
        if (!document_.isMade() || !made)
            return "being made…";
        if (!made->trouble.empty())
            return "▲ none";
        const double offset = design->recipe.kissOffset;
        if (offset == 0)
            return "on the edge";
        return quantityText(std::abs(offset), QuantityKind::length, document_.job().unit) +
               (offset > 0 ? " outside" : " inside");
    }
    }
    return {};
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
    const QRectF inner = frame.adjusted(10, 6, -10, -6);
    QFont bold = font();
    bold.setWeight(QFont::DemiBold);
    painter.setFont(bold);
    painter.setPen(chosen ? c.indigo : c.ink);
    painter.drawText(inner, Qt::AlignTop | Qt::AlignLeft, text());
    painter.setFont(font());
    const QString below = figure();
    painter.setPen(below.startsWith(QChar(u'▲')) ? c.warning : c.quiet);
    painter.drawText(inner, Qt::AlignBottom | Qt::AlignRight, below);
    paintStep(painter, inner.adjusted(0, 22, 0, -22));
}

void StripFrame::paintStep(QPainter& painter, const QRectF& room) const {
    const Design* design = document_.selectedDesign();
    if (!design)
        return;
    const Sticker& sticker = stickerOf(*document_.made(), design->id);
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
    case RecipeStep::cutLines:
        painting.vinyl(painter);
        painting.artwork(painter);
        painting.kissLines(painter, 1.5);
        break;
    }
    painter.restore();
}

MakingStrip::MakingStrip(Document& document, QWidget* parent) : QFrame(parent) {
    setProperty("role", "panel");
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(8, 8, 8, 8);
    layout->setSpacing(4);
    auto* group = new QButtonGroup(this);
    for (std::size_t i = 0; i < recipeSteps.size(); ++i) {
        frames_[i] = new StripFrame(document, recipeSteps[i]);
        group->addButton(frames_[i]);
        if (i > 0) {
            auto* arrow = new QLabel;
            arrow->setPixmap(icon("onward").pixmap(16, 16));
            layout->addWidget(arrow);
        }
        layout->addWidget(frames_[i]);
        connect(frames_[i], &StripFrame::clicked, this, [this, i] { setStep(recipeSteps[i]); });
    }
    layout->addStretch(1);
    setStep(step_);
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
