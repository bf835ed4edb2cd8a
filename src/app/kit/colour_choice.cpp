#include "app/kit/colour_choice.h"

#include "app/kit/named.h"
#include "app/kit/theme.h"
#include "app/words/words.h"
#include "artwork/colour_text.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QToolButton>
#include <QVBoxLayout>

#include <cmath>

namespace hasami {

namespace {

enum Kind { inRgb, inInks, inSpot };

Kind kindOf(const PaintColour& colour) {
    return !colour.spot.empty() ? inSpot : colour.inks ? inInks : inRgb;
}

/// Without the spot colour's name.
QString processText(PaintColour colour) {
    colour.spot.clear();
    return QString::fromStdString(paintColourText(colour));
}

/// The inks that look like the colour, in whole percent.
PaintColour inInksOf(const PaintColour& colour) {
    Inks inks = inksOf(colour);
    if (!colour.inks)
        for (double& ink : inks)
            ink = std::round(ink * 100) / 100;
    return colourOfInks(inks);
}

} // namespace

QPixmap chipOf(Rgba colour, QSize size, const QColor& rim) {
    QPixmap picture(size);
    picture.fill(Qt::transparent);
    QPainter painter(&picture);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(rim);
    painter.setBrush(QColor(colour.red, colour.green, colour.blue));
    painter.drawRoundedRect(QRectF(picture.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4);
    return picture;
}

ColourChoice::ColourChoice(const char* name, const char* effect, Colours colours, QWidget* parent)
    : QWidget(parent), field_(new QLineEdit), sample_(new QLabel), chips_(new QHBoxLayout) {
    QLabel* label = labelOf(*field_, name, effect, " field");
    field_->setFixedWidth(110);
    field_->setPlaceholderText(colours == Colours::printed ? tr("#RRGGBB or C M Y K") : tr("#RRGGBB"));
    connect(field_, &QLineEdit::editingFinished, this, &ColourChoice::take);
    auto* row = new QHBoxLayout;
    row->addWidget(label);
    row->addStretch(1);
    row->addWidget(sample_);
    row->addWidget(field_);
    chips_->setSpacing(2);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(6);
    layout->addLayout(row);
    if (colours == Colours::printed)
        addKind(name);
    layout->addLayout(chips_);
}

void ColourChoice::addKind(const char* name) {
    kind_ = new QComboBox;
    kind_->addItems({tr("RGB"), tr("CMYK"), tr("Spot colour")});
    nameControl(
        *kind_, name,
        N_("What it is printed in: red, green and blue, which the printer mixes; the inks as given; or "
           "a spot colour"),
        " kind");
    kind_->setAccessibleName(tr("%1: printed in").arg(tr(name)));
    spot_ = new QLineEdit;
    nameControl(*spot_, name,
                N_("The exact name under which the printer's software knows the colour; the colour above is "
                   "what shows it"),
                " spot");
    spot_->setAccessibleName(tr("%1: name of the spot colour").arg(tr(name)));
    spot_->setPlaceholderText(tr("Its name"));
    spot_->setMaxLength(int(longestSpotName));
    connect(kind_, &QComboBox::activated, this, &ColourChoice::takeKind);
    connect(spot_, &QLineEdit::editingFinished, this, &ColourChoice::takeName);
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    row->addWidget(kind_);
    row->addWidget(spot_, 1);
    row->addStretch(0);
    static_cast<QVBoxLayout*>(layout())->addLayout(row);
}

void ColourChoice::choose(const PaintColour& colour) {
    isNaming_ = false;
    if (colour == colour_)
        show(colour_, suiting_); // what is as it was, or can't be read, is shown as it was
    else
        Q_EMIT chosen(colour);
}

void ColourChoice::take() {
    if (!field_->isModified())
        return; // it is left as it is shown, rounded
    field_->setModified(false);
    const QString text = field_->text().trimmed();
    auto colour = parsePaintColour(text.toStdString());
    if (!colour)
        colour = parsePaintColour(("#" + text).toStdString());
    if (!colour || (!kind_ && *colour != PaintColour{colour->shown}))
        return choose(colour_);
    if (colour->spot.empty())
        colour->spot = colour_.spot;
    choose(*colour);
}

void ColourChoice::takeKind(int kind) {
    PaintColour colour = colour_;
    colour.spot.clear();
    if (kind == inRgb) {
        choose({colour.shown});
    } else if (kind == inInks) {
        choose(inInksOf(colour));
    } else if (colour_.spot.empty()) {
        isNaming_ = true;
        showKind();
        spot_->setFocus();
    }
}

void ColourChoice::takeName() {
    if (!spot_->isModified())
        return;
    spot_->setModified(false);
    PaintColour colour = colour_;
    colour.spot = spot_->text().trimmed().toStdString();
    choose(colour.spot.empty() || isSpotName(colour.spot) ? colour : colour_);
}

void ColourChoice::show(const PaintColour& colour, const std::vector<PaintColour>& suiting) {
    if (colour != colour_)
        isNaming_ = false;
    colour_ = colour;
    if (!(field_->hasFocus() && field_->isModified())) {
        field_->setText(processText(colour));
        field_->setCursorPosition(0);
    }
    sample_->setPixmap(chipOf(colour.shown, {28, 20}, coloursOf(palette()).rule));
    if (kind_)
        showKind();
    if (suiting != suiting_) {
        suiting_ = suiting;
        showChips();
    }
}

void ColourChoice::showKind() {
    kind_->setCurrentIndex(isNaming_ ? inSpot : kindOf(colour_));
    spot_->setVisible(isNaming_ || !colour_.spot.empty());
    if (!(spot_->hasFocus() && spot_->isModified()))
        spot_->setText(QString::fromStdString(colour_.spot));
}

void ColourChoice::showChips() {
    while (QLayoutItem* item = chips_->takeAt(0)) {
        if (item->widget())
            item->widget()->deleteLater();
        delete item;
    }
    for (const PaintColour& colour : suiting_) {
        const QString text = QString::fromStdString(paintColourText(colour));
        auto* button = new QToolButton;
        button->setIconSize({18, 18});
        button->setIcon(chipOf(colour.shown, {18, 18}, coloursOf(palette()).rule));
        button->setObjectName("Take " + text);
        button->setAccessibleName(tr("Take %1").arg(text));
        button->setToolTip(tr("Take %1").arg(text));
        connect(button, &QToolButton::clicked, this, [this, colour] { choose(colour); });
        chips_->addWidget(button);
    }
    chips_->addStretch(1);
}

} // namespace hasami
