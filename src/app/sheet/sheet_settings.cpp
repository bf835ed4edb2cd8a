#include "app/sheet/sheet_settings.h"

#include "app/controls/design_controls.h"
#include "app/sheet/machine_panel.h"
#include "app/sheet/medium_panel.h"
#include "app/sheet/packing_panel.h"

#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QSignalBlocker>
#include <QVBoxLayout>

namespace hasami {

namespace {

QLabel* heading(const QString& text) {
    auto* label = new QLabel(text);
    label->setProperty("role", "heading");
    return label;
}

QGridLayout* groupLayout(QWidget* group, const QString& name) {
    auto* layout = new QGridLayout(group);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setVerticalSpacing(8);
    layout->addWidget(heading(name), 0, 0, 1, 2);
    layout->setColumnStretch(0, 1);
    return layout;
}

QLabel* addField(QGridLayout* layout, int row, const QString& name, QuantityField* field,
                 const QString& effect) {
    auto* label = new QLabel(name);
    label->setBuddy(field);
    field->setObjectName(name + " field");
    field->setAccessibleName(name);
    field->setToolTip(effect);
    layout->addWidget(label, row, 0);
    layout->addWidget(field, row, 1, Qt::AlignRight);
    return label;
}

} // namespace

SheetSettings::SheetSettings(Document& document, NestRun& nest, QWidget* parent)
    : QFrame(parent), document_(document), medium_(new MediumPanel(document)), box_(new QComboBox),
      marks_(new QLabel) {
    setProperty("role", "panel");
    setFixedWidth(272);
    auto* content = new QWidget;
    layout_ = new QVBoxLayout(content);
    layout_->setContentsMargins(0, 0, 6, 0);
    layout_->setSpacing(24);
    layout_->addWidget(medium_);
    layout_->addWidget(new PackingPanel(document, nest));
    layout_->addWidget(boxGroup());
    layout_->addWidget(marksGroup());
    layout_->addWidget(new MachinePanel(document));
    layout_->addStretch(1);
    auto* scrolled = new QVBoxLayout(this);
    scrolled->setContentsMargins(16, 12, 10, 12);
    scrolled->addWidget(scrolledPage(content));
    connect(&document, &Document::jobChanged, this, &SheetSettings::showJob);
    showJob();
}

QWidget* SheetSettings::boxGroup() {
    auto* group = new QWidget;
    auto* layout = groupLayout(group, "Shared box");
    box_->addItems({"None", "Die cut", "Perforated, with tabs"});
    box_->setObjectName("Shared box kind");
    box_->setAccessibleName("Shared box");
    box_->setToolTip(
        "One line around all stickers of a sheet, so that they come off the machine as one piece");
    layout->addWidget(box_, 1, 0, 1, 2);
    connect(box_, &QComboBox::activated, this, &SheetSettings::chooseBox);
    const auto number = [&](int row, const QString& name, const QString& effect, QuantityField* field,
                            std::function<void(SharedBox&, double)> set) {
        addField(layout, row, name, field, effect);
        connect(field, &QuantityField::entered, this, [this, name, set = std::move(set)](double value) {
            changeBox(name, [&](SharedBox& box) { set(box, value); });
        });
        return field;
    };
    boxMargin_ = number(2, "Box margin", "From the outermost stickers out to the box",
                        new QuantityField(QuantityKind::length, 0, Limits::mostOffset),
                        [](SharedBox& box, double value) { box.margin = value; });
    boxRadius_ = number(3, "Box corners", "How round its corners are",
                        new QuantityField(QuantityKind::length, 0, Limits::mostSize),
                        [](SharedBox& box, double value) { box.radius = value; });
    boxRadius_->setZeroWord("square");
    boxTabs_ = number(4, "Box tabs", "So many tabs hold the box until it is popped out",
                      new QuantityField(QuantityKind::count, leastTabs, Limits::mostTabs),
                      [](SharedBox& box, double value) { box.tabs.count = int(value); });
    boxTab_ = number(5, "Box tab length", "So much is left uncut for each tab",
                     new QuantityField(QuantityKind::length, Limits::leastTab, Limits::longestTab),
                     [](SharedBox& box, double value) { box.tabs.length = value; });
    return group;
}

void SheetSettings::chooseBox(int place) {
    document_.change(place == 0 ? QString("No shared box") : "Shared box: " + box_->itemText(place),
                     [&](Job& job) {
                         if (place == 0)
                             return job.plan.box.reset();
                         if (!job.plan.box)
                             job.plan.box = SharedBox{};
                         job.plan.box->kind = place == 1 ? LineKind::die : LineKind::perforated;
                     });
}

void SheetSettings::changeBox(const QString& label, const std::function<void(SharedBox&)>& change) {
    document_.change(label, [&](Job& job) {
        if (job.plan.box)
            change(*job.plan.box);
    });
}

void SheetSettings::showBox() {
    const std::optional<SharedBox>& box = document_.job().plan.box;
    const bool isPerforated = box && box->kind == LineKind::perforated;
    box_->setCurrentIndex(!box ? 0 : isPerforated ? 2 : 1);
    const auto show = [&](QuantityField* field, bool isShown, double value) {
        field->setUnit(document_.job().unit);
        field->show(value);
        field->setVisible(isShown);
        for (QLabel* label : findChildren<QLabel*>())
            if (label->buddy() == field)
                label->setVisible(isShown);
    };
    const SharedBox shown = box.value_or(SharedBox{});
    show(boxMargin_, box.has_value(), shown.margin);
    show(boxRadius_, box.has_value(), shown.radius);
    show(boxTabs_, isPerforated, shown.tabs.count);
    show(boxTab_, isPerforated, shown.tabs.length);
}

QWidget* SheetSettings::marksGroup() {
    auto* group = new QWidget;
    auto* layout = groupLayout(group, "Marks");
    marks_->setProperty("role", "quiet");
    marks_->setWordWrap(true);
    layout->addWidget(marks_, 1, 0, 1, 2);
    return group;
}

void SheetSettings::showJob() {
    showBox();
    const Profile& profile = document_.job().profile;
    marks_->setText(
        QString("Four dots of %1, their centres %2 outside the work's corners, with %3 kept free around "
                "each, as “%4” needs them.")
            .arg(quantityText(profile.marks.size, QuantityKind::length, document_.job().unit),
                 quantityText(profile.marks.distance, QuantityKind::length, document_.job().unit),
                 quantityText(profile.marks.quiet, QuantityKind::length, document_.job().unit),
                 QString::fromStdString(profile.name)));
}

} // namespace hasami
