#include "app/kit/scale_dialog.h"

#include "app/kit/settings.h"
#include "app/kit/theme.h"
#include "app/words/words.h"

#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

namespace hasami {

namespace {

constexpr int barLength = 400; // pixels: long enough to read a ruler well, short enough for small screens

/// A bar between two end strokes, to hold a ruler against.
class MeasuredBar : public QWidget {
public:
    MeasuredBar() { setFixedSize(barLength + 2, 40); }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.setPen(QPen(coloursOf(palette()).ink, 1));
        painter.drawLine(0, 4, 0, 36);
        painter.drawLine(barLength, 4, barLength, 36);
        painter.fillRect(QRect(0, 16, barLength, 8), coloursOf(palette()).indigo);
    }
};

} // namespace

ScaleDialog::ScaleDialog(QScreen& screen, LengthUnit unit, QWidget* parent)
    : QDialog(parent), screen_(screen), length_(new QuantityField(QuantityKind::length, 20, 800)) {
    setWindowTitle(tr("Calibrate true size"));
    auto* words = new QLabel(tr("Hold a ruler against the bar and type how long it is from end to end."));
    words->setWordWrap(true);
    auto* label = new QLabel(tr("Length of the bar"));
    label->setBuddy(length_);
    length_->setObjectName("Bar length field");
    length_->setAccessibleName(tr("Length of the bar"));
    length_->setToolTip(
        tr("What the ruler shows; true size then shows stickers as large as they will be cut"));
    length_->setUnit(unit);
    length_->show(barLength / Settings::screenScale(screen));
    auto* own = new QPushButton(tr("Use the screen's own scale"));
    own->setObjectName("Screen's own scale");
    own->setToolTip(tr("Forget the measured length and use the size that the screen reports"));
    own->setAutoDefault(false);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    auto* row = new QHBoxLayout;
    row->addWidget(label);
    row->addWidget(length_);
    row->addStretch(1);
    row->addWidget(own);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(20, 16, 20, 16);
    layout->setSpacing(12);
    layout->addWidget(words);
    layout->addWidget(new MeasuredBar, 0, Qt::AlignHCenter);
    layout->addLayout(row);
    layout->addWidget(buttons);
    connect(own, &QPushButton::clicked, this, &ScaleDialog::showToldLength);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(buttons, &QDialogButtonBox::accepted, this, [this] {
        if (!length_->typed())
            return length_->setFocus(); // nonsense, marked as such
        keep();
        accept();
    });
    length_->setFocus();
    length_->selectAll();
}

void ScaleDialog::keep() {
    const double told = Settings::screenScaleTold(screen_);
    // What is shown has fewer digits than what it stands for.
    const double length = length_->isModified() ? *length_->typed() : length_->value();
    Settings::setScreenScale(screen_,
                             length == barLength / told ? std::nullopt : std::optional(barLength / length));
}

void ScaleDialog::showToldLength() {
    length_->setModified(false);
    length_->show(barLength / Settings::screenScaleTold(screen_));
}

} // namespace hasami
