#include "app/sheet/nest_bar.h"

#include "app/sheet/nest_curve.h"
#include "app/words/words.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QPushButton>

namespace hasami {

NestBar::NestBar(Document& document, NestRun& nest, QWidget* parent)
    : QFrame(parent), nest_(nest), state_(new QLabel), stop_(new QPushButton(tr("Stop, keep the best"))) {
    setProperty("role", "panel");
    state_->setObjectName("Nest state");
    stop_->setObjectName("Stop nest");
    stop_->setToolTip(tr("End the search; the best layout stays (Ctrl+Shift+N)"));
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(12, 6, 12, 6);
    layout->setSpacing(16);
    layout->addWidget(new NestCurve(nest), 1);
    layout->addWidget(state_);
    layout->addWidget(stop_);
    connect(stop_, &QPushButton::clicked, &nest, &NestRun::stop);
    connect(&nest, &NestRun::changed, this, &NestBar::showNest);
    connect(&document, &Document::jobChanged, this, [this] {
        if (!nest_.isOn())
            hide();
    });
    showNest();
}

void NestBar::showNest() {
    setVisible(nest_.isOn() || !nest_.curve().empty());
    stop_->setVisible(nest_.isOn());
    if (nest_.curve().empty())
        return state_->setText(tr("Beginning…"));
    state_->setText(tr("%1 % covered, %2 s")
                        .arg(QLocale().toString(nest_.density() * 100, 'f', 1))
                        .arg(nest_.isOn() ? nest_.seconds() : nest_.curve().back().seconds, 0, 'f', 0));
}

} // namespace hasami
