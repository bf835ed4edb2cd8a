#include "app/controls/settings_group.h"

#include "app/kit/named.h"
#include "app/words/words.h"

#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>

namespace hasami {

SettingsGroup::SettingsGroup(Document& document, const char* heading, QWidget* parent)
    : QWidget(parent), document_(document), layout_(new QGridLayout(this)) {
    layout_->setContentsMargins(0, 0, 0, 0);
    layout_->setVerticalSpacing(8);
    layout_->setColumnStretch(0, 1);
    auto* label = new QLabel(tr(heading));
    label->setProperty("role", "heading");
    addWide(label);
}

QuantityField* SettingsGroup::addField(const char* name, const char* effect, QuantityKind kind, double least,
                                       double most, std::function<void(const QString&, double)> entered) {
    auto* field = new QuantityField(kind, least, most);
    add(*field, name, effect);
    connect(field, &QuantityField::entered, this, [field, entered = std::move(entered)](double value) {
        entered(tr("%1 %2").arg(field->accessibleName(), field->words(value)), value);
    });
    return field;
}

QuantityField* SettingsGroup::addNumber(const char* name, const char* effect, QuantityKind kind, double least,
                                        double most, Set set) {
    QuantityField* field = addField(name, effect, kind, least, most,
                                    [this, set = std::move(set)](const QString& label, double value) {
                                        document_.endRun();
                                        document_.change(label, [&](Job& job) { set(job, value); });
                                    });
    return field;
}

QCheckBox* SettingsGroup::addCheck(const char* name, const char* effect,
                                   std::function<void(Job&, bool)> set) {
    auto* box = new QCheckBox(tr(name));
    box->setObjectName(name);
    box->setToolTip(tr(effect));
    layout_->addWidget(box, rows_++, 0, 1, 2, Qt::AlignLeft);
    connect(box, &QCheckBox::clicked, this, [this, box, set = std::move(set)](bool isOn) {
        document_.endRun();
        document_.change((isOn ? tr("On: %1") : tr("Off: %1")).arg(box->text()),
                         [&](Job& job) { set(job, isOn); });
    });
    return box;
}

QComboBox* SettingsGroup::addChoice(const char* name, const char* effect, const QStringList& choices,
                                    std::function<void(int)> chosen) {
    auto* box = new QComboBox;
    box->addItems(choices);
    nameControl(*box, name, effect, "");
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    addWide(box);
    connect(box, &QComboBox::activated, this, std::move(chosen));
    return box;
}

QLabel* SettingsGroup::add(QWidget& control, const char* name, const char* effect) {
    QLabel* label = labelOf(control, name, effect, " field");
    layout_->addWidget(label, rows_, 0);
    layout_->addWidget(&control, rows_++, 1, Qt::AlignRight);
    return label;
}

QLabel* SettingsGroup::addText() {
    auto* text = new QLabel;
    text->setProperty("role", "quiet");
    text->setWordWrap(true);
    addWide(text);
    return text;
}

void SettingsGroup::addWide(QWidget* widget) {
    layout_->addWidget(widget, rows_++, 0, 1, 2);
}

QLabel* SettingsGroup::labelBeside(QuantityField* field) const {
    for (auto* label : findChildren<QLabel*>())
        if (label->buddy() == field)
            return label;
    return nullptr;
}

void SettingsGroup::show(QuantityField* field, double value, bool isShown) {
    field->setUnit(document_.job().unit);
    field->show(value);
    field->setVisible(isShown);
    labelBeside(field)->setVisible(isShown);
}

void SettingsGroup::rename(QuantityField* field, const QString& name) {
    QLabel* label = labelBeside(field);
    label->setText(QFontMetrics(label->font()).elidedText(name, Qt::ElideRight, 140));
}

} // namespace hasami
