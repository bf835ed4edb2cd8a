#include "app/kit/colour_choice.h"

#include "app/kit/named.h"
#include "app/kit/theme.h"
#include "app/words/words.h"
#include "artwork/colour_text.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QToolButton>
#include <QVBoxLayout>

namespace hasami {

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

ColourChoice::ColourChoice(const char* name, const char* effect, QWidget* parent)
    : QWidget(parent), field_(new QLineEdit), sample_(new QLabel), chips_(new QHBoxLayout) {
    QLabel* label = labelOf(*field_, name, effect, " field");
    field_->setMaxLength(7);
    field_->setFixedWidth(96);
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
    layout->addLayout(chips_);
}

void ColourChoice::take() {
    QString text = field_->text().trimmed();
    if (!text.startsWith('#'))
        text.prepend('#');
    const auto colour = parseColour(text.toStdString());
    field_->setModified(false);
    if (colour && !(*colour == colour_))
        Q_EMIT chosen(*colour);
    else
        show(colour_, suiting_); // what can't be read goes back to what it was
}

void ColourChoice::show(Rgba colour, const std::vector<Rgba>& suiting) {
    colour_ = colour;
    if (!(field_->hasFocus() && field_->isModified()))
        field_->setText(QString::fromStdString(colourText(colour)));
    sample_->setPixmap(chipOf(colour, {28, 20}, coloursOf(palette()).rule));
    if (suiting != suiting_) {
        suiting_ = suiting;
        showChips();
    }
}

void ColourChoice::showChips() {
    while (QLayoutItem* item = chips_->takeAt(0)) {
        if (item->widget())
            item->widget()->deleteLater();
        delete item;
    }
    for (const Rgba colour : suiting_) {
        const QString text = QString::fromStdString(colourText(colour));
        auto* button = new QToolButton;
        button->setIconSize({18, 18});
        button->setIcon(chipOf(colour, {18, 18}, coloursOf(palette()).rule));
        button->setObjectName("Take " + text);
        button->setAccessibleName(tr("Take %1").arg(text));
        button->setToolTip(tr("Take %1").arg(text));
        connect(button, &QToolButton::clicked, this, [this, colour] { Q_EMIT chosen(colour); });
        chips_->addWidget(button);
    }
    chips_->addStretch(1);
}

} // namespace hasami
