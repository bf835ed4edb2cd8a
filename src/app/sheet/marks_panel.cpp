#include "app/sheet/marks_panel.h"

#include "app/sheet/change_profile.h"
#include "sheet/sheet.h"

#include <QLabel>
#include <QLocale>
#include <QPushButton>

#include <cmath>

namespace hasami {

namespace {

/// mm², of a sheet, or of as much of a roll as is used now.
double usable(SheetPlan plan, const Profile& profile, double usedLength) {
    if (!plan.medium.whole())
        plan.medium.length = std::max(usedLength, 1.0);
    const Box area = workArea(plan, profile);
    return area.isEmpty() ? 0 : area.width() * area.height();
}

} // namespace

MarksPanel::MarksPanel(Document& document, QWidget* parent)
    : ProfilePanel(document, N_("Marks"), parent), close_(new QPushButton(tr("As close as possible"))) {
    addMarkFields(*this);
    text_ = addText();
    text_->setObjectName("Marks text");
    close_->setObjectName("Marks as close as possible");
    close_->setProperty("role", "small");
    close_->setToolTip(tr("Puts the marks where their quiet zones just stay clear of the work"));
    connect(close_, &QPushButton::clicked, this, [this] {
        changeProfile(document_, tr("Marks as close as possible"), [](Profile& profile) {
            profile.marks.distance = std::ceil(leastDistance(profile.marks) * 100) / 100;
        });
    });
    addWide(close_);
    connect(&document, &Document::jobChanged, this, &MarksPanel::showGain);
    connect(&document, &Document::madeChanged, this, &MarksPanel::showGain);
    showJob();
    showGain();
}

void MarksPanel::showGain() {
    const Job& job = document_.job();
    const MarkScheme& marks = job.profile.marks;
    Profile closer = job.profile;
    closer.marks.distance = leastDistance(marks);
    const double used = document_.made()->layout.usedLength();
    const double now = usable(job.plan, job.profile, used), then = usable(job.plan, closer, used);
    const bool canBeCloser = marks.corners > 0 && marks.distance > leastDistance(marks) + 0.005;
    close_->setVisible(canBeCloser);
    if (marks.corners == 0)
        text_->setText(tr("The operator sets the origin: nothing is measured."));
    else if (!canBeCloser)
        text_->setText(tr("The marks stand as close to the work as their quiet zones allow."));
    else
        text_->setText(
            tr("At %1 the marks would be as close as their quiet zones allow: %2 % more could be used.")
                .arg(quantityText(leastDistance(marks), QuantityKind::length, job.unit),
                     QLocale().toString(now > 0 ? (then / now - 1) * 100 : 0, 'f', 1)));
}

} // namespace hasami
