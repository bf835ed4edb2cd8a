#include "app/kit/quantity_row.h"

#include "app/kit/named.h"
#include "app/kit/theme.h"
#include "app/words/words.h"

#include <QEvent>
#include <QGridLayout>
#include <QLabel>
#include <QPainter>
#include <QSignalBlocker>
#include <QSlider>
#include <QStyle>
#include <QToolButton>

#include <algorithm>
#include <cmath>

namespace hasami {

QuantityRow::QuantityRow(const Description& description, QWidget* parent)
    : QWidget(parent), description_(description),
      field_(new QuantityField(description.kind, description.least, description.most)),
      slider_(new QSlider(Qt::Horizontal)), reset_(new QToolButton) {
    QLabel* label = labelOf(*field_, description.name, description.effect, " field");
    field_->setZeroWord(*description.zeroWord ? tr(description.zeroWord) : QString());
    nameControl(*slider_, description.name, description.effect, " slider");
    slider_->setRange(int(std::lround(description.sliderLeast / description.step)),
                      int(std::lround(description.sliderMost / description.step)));
    reset_->setIcon(icon("reset"));
    reset_->setAccessibleName(tr("Reset: %1").arg(tr(description.name)));
    reset_->setObjectName(QString::fromUtf8(description.name) + " reset");

    auto* layout = new QGridLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setVerticalSpacing(4);
    layout->addWidget(label, 0, 0);
    layout->addWidget(reset_, 0, 1, Qt::AlignRight);
    layout->addWidget(field_, 0, 2);
    layout->addWidget(slider_, 1, 0, 1, 3);
    layout->setColumnStretch(0, 1);

    const auto chooseOnce = [this](double value) {
        Q_EMIT rested(); // a run of the slider's keys is over
        choose(value);
        Q_EMIT rested();
    };
    connect(field_, &QuantityField::entered, this, chooseOnce);
    connect(slider_, &QSlider::valueChanged, this, [this](int steps) { choose(steps * description_.step); });
    connect(slider_, &QSlider::sliderReleased, this, &QuantityRow::rested);
    connect(reset_, &QToolButton::clicked, this, [this, chooseOnce] { chooseOnce(start_); });
    slider_->installEventFilter(this);
}

bool QuantityRow::eventFilter(QObject* watched, QEvent* event) {
    if (watched == slider_ && event->type() == QEvent::FocusOut)
        Q_EMIT rested(); // a run of key presses ends
    return QWidget::eventFilter(watched, event);
}

void QuantityRow::step(int by) {
    choose(std::clamp((std::round(value_ / description_.step) + by) * description_.step, description_.least,
                      description_.most));
}

void QuantityRow::choose(double value) {
    show(value);
    Q_EMIT chosen(value);
}

void QuantityRow::show(double value) {
    value_ = value;
    field_->show(value);
    const QSignalBlocker quiet(slider_);
    slider_->setValue(int(std::lround(value / description_.step)));
    reset_->setEnabled(std::abs(value_ - start_) > 1e-9);
}

void QuantityRow::limitSlider(double least) {
    const QSignalBlocker quiet(slider_);
    slider_->setMinimum(int(std::ceil(least / description_.step - 1e-9)));
}

void QuantityRow::setUnit(LengthUnit unit) {
    unit_ = unit;
    field_->setUnit(unit);
}

void QuantityRow::showStart(double value) {
    marksStart_ = true;
    setStart(value);
    update();
}

void QuantityRow::paintEvent(QPaintEvent*) {
    if (!marksStart_)
        return;
    constexpr int handle = 16; // pixels: the mark stands where the handle's middle would
    const int along = QStyle::sliderPositionFromValue(slider_->minimum(), slider_->maximum(),
                                                      int(std::lround(start_ / description_.step)),
                                                      slider_->width() - handle) +
                      handle / 2;
    const QPointF tip = slider_->geometry().topLeft() + QPointF(along, 3);
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(coloursOf(palette()).quiet);
    painter.drawPolygon(QPolygonF{tip, tip + QPointF(-4, -5), tip + QPointF(4, -5)});
}

void QuantityRow::setStart(double value) {
    start_ = value;
    reset_->setToolTip(tr("Back to %1").arg(words(value)));
    show(value_);
}

} // namespace hasami
