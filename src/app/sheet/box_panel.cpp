#include "app/sheet/box_panel.h"

#include "app/words/words.h"

#include <QComboBox>

namespace hasami {

namespace {

/// Changes the job's box, where there is one.
template <class Set>
auto ofBox(Set set) {
    return [set](Job& job, double value) {
        if (job.plan.box)
            set(*job.plan.box, value);
    };
}

} // namespace

BoxPanel::BoxPanel(Document& document, QWidget* parent)
    : SettingsGroup(document, N_("Shared box"), parent),
      kind_(addChoice(
          N_("Shared box kind"),
          N_("One line around all stickers of a sheet, so that they come off the machine as one piece"),
          {tr("None"), tr("Die cut"), tr("Perforated, with tabs")}, [this](int place) { choose(place); })),
      margin_(addNumber(N_("Box margin"), N_("From the outermost stickers out to the box"),
                        QuantityKind::length, 0, Limits::mostOffset,
                        ofBox([](SharedBox& box, double value) { box.margin = value; }))),
      radius_(addNumber(N_("Box corners"), N_("How round the box's corners are"), QuantityKind::length, 0,
                        Limits::mostSize, ofBox([](SharedBox& box, double value) { box.radius = value; }))),
      tabs_(addNumber(N_("Box tabs"), N_("How many tabs hold the box until it is popped out"),
                      QuantityKind::count, leastTabs, Limits::mostTabs,
                      ofBox([](SharedBox& box, double value) { box.tabs.count = int(value); }))),
      tab_(addNumber(N_("Box tab length"), N_("How much is left uncut at each tab"), QuantityKind::length,
                     Limits::leastTab, Limits::longestTab,
                     ofBox([](SharedBox& box, double value) { box.tabs.length = value; }))) {
    radius_->setZeroWord(tr("square"));
    connect(&document, &Document::jobChanged, this, &BoxPanel::showJob);
    showJob();
}

void BoxPanel::choose(int place) {
    document_.change(place == 0 ? tr("No shared box") : tr("Shared box: %1").arg(kind_->itemText(place)),
                     [&](Job& job) {
                         if (place == 0)
                             return job.plan.box.reset();
                         if (!job.plan.box)
                             job.plan.box = SharedBox{};
                         job.plan.box->kind = place == 1 ? LineKind::die : LineKind::perforated;
                     });
}

void BoxPanel::showJob() {
    const std::optional<SharedBox>& box = document_.job().plan.box;
    const bool isPerforated = box && box->kind == LineKind::perforated;
    kind_->setCurrentIndex(!box ? 0 : isPerforated ? 2 : 1);
    const SharedBox shown = box.value_or(SharedBox{});
    show(margin_, shown.margin, box.has_value());
    show(radius_, shown.radius, box.has_value());
    show(tabs_, shown.tabs.count, isPerforated);
    show(tab_, shown.tabs.length, isPerforated);
}

} // namespace hasami
