#include "app/sheet/sheet_settings.h"

#include "app/controls/design_controls.h"
#include "app/sheet/box_panel.h"
#include "app/sheet/machine_panel.h"
#include "app/sheet/marks_panel.h"
#include "app/sheet/medium_panel.h"
#include "app/sheet/packing_panel.h"

#include <QVBoxLayout>

namespace hasami {

SheetSettings::SheetSettings(Document& document, NestRun& nest, QWidget* parent)
    : QFrame(parent), medium_(new MediumPanel(document)), machine_(new MachinePanel(document)) {
    setProperty("role", "panel");
    setFixedWidth(272);
    auto* content = new QWidget;
    layout_ = new QVBoxLayout(content);
    layout_->setContentsMargins(0, 0, 6, 0);
    layout_->setSpacing(24);
    layout_->addWidget(medium_);
    layout_->addWidget(new PackingPanel(document, nest));
    layout_->addWidget(new BoxPanel(document));
    layout_->addWidget(new MarksPanel(document));
    auto* lead = new ProfilePanel(document, N_("Leading edge"));
    addLeadFields(*lead);
    lead->showJob();
    layout_->addWidget(lead);
    layout_->addWidget(machine_);
    layout_->addStretch(1);
    auto* scrolled = new QVBoxLayout(this);
    scrolled->setContentsMargins(16, 12, 10, 12);
    scrolled->addWidget(scrolledPage(content));
}

} // namespace hasami
