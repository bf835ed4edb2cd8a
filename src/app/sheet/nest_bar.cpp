#include "app/sheet/nest_bar.h"

#include "app/kit/named.h"
#include "app/kit/quantity_field.h"
#include "app/sheet/nest_curve.h"
#include "app/words/words.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QPushButton>

namespace hasami {

NestBar::NestBar(Document& document, NestRun& nest, QWidget* parent)
    : QFrame(parent), document_(document), nest_(nest), curve_(new NestCurve(nest)), state_(new QLabel),
      seconds_(new QuantityField(QuantityKind::count, 1, 24 * 3600)), search_(new QPushButton) {
    setProperty("role", "panel");
    state_->setObjectName("Nest state");
    nameControl(*seconds_, N_("Seconds to search"),
                N_("How long the search goes on by itself; it can be stopped, and begun again"), " field");
    seconds_->show(nest.length());
    seconds_->setFixedWidth(64);
    auto* name = new QLabel(seconds_->accessibleName());
    name->setToolTip(seconds_->toolTip());
    name->setBuddy(seconds_);
    search_->setObjectName("Search for a nest");
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(12, 6, 12, 6);
    layout->setSpacing(12);
    layout->addWidget(curve_, 1);
    layout->addWidget(state_);
    layout->addStretch();
    layout->addWidget(name);
    layout->addWidget(seconds_);
    layout->addWidget(search_);
    connect(seconds_, &QuantityField::entered, &nest, &NestRun::setLength);
    connect(search_, &QPushButton::clicked, &nest, [&nest] { nest.isOn() ? nest.stop() : nest.start(); });
    connect(&nest, &NestRun::changed, this, [this] {
        isCurveOld_ = false;
        showNest();
    });
    connect(&document, &Document::jobChanged, this, [this] {
        isCurveOld_ = !nest_.isOn();
        showNest();
    });
    showNest();
}

void NestBar::showNest() {
    const Job& job = document_.job();
    setVisible(nest_.isOn() || (job.plan.packing == Packing::nest && !job.designs.empty()));
    search_->setText(nest_.isOn() ? tr("Stop") : job.plan.laid->empty() ? tr("Search") : tr("Search on"));
    search_->setToolTip(nest_.isOn() ? tr("End the search; the best layout stays (Ctrl+Shift+N)")
                                     : tr("Search for the layout that takes the least of the medium; pinned "
                                          "stickers stay where they are (Ctrl+Shift+N)"));
    showSearch();
}

void NestBar::showSearch() {
    const bool isKnown = !nest_.curve().empty() && !isCurveOld_;
    curve_->setVisible(isKnown);
    state_->setVisible(isKnown || nest_.isOn());
    if (!isKnown)
        return state_->setText(tr("Beginning…"));
    state_->setText(tr("%1 % covered, %2 s")
                        .arg(QLocale().toString(nest_.density() * 100, 'f', 1))
                        .arg(nest_.isOn() ? nest_.seconds() : nest_.curve().back().seconds, 0, 'f', 0));
}

} // namespace hasami
