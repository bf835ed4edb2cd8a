#include "app/controls/settings_group.h"

#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>

namespace hasami {

SettingsGroup::SettingsGroup(Document& document, const QString& heading, QWidget* parent)
    : QWidget(parent), document_(document), layout_(new QGridLayout(this)) {
    layout_->setContentsMargins(0, 0, 0, 0);
    layout_->setVerticalSpacing(8);
    layout_->setColumnStretch(0, 1);
    auto* label = new QLabel(heading);
    label->setProperty("role", "heading");
    addWide(label);
}

QuantityField* SettingsGroup::addNumber(const QString& name, const QString& effect, QuantityKind kind,
                                        double least, double most, Set set) {
    auto* field = new QuantityField(kind, least, most);
    auto* label = new QLabel(name);
    label->setBuddy(field);
    label->setWordWrap(true);
    field->setObjectName(name + " field");
    field->setAccessibleName(name);
    field->setToolTip(effect);
    layout_->addWidget(label, rows_, 0);
    layout_->addWidget(field, rows_++, 1, Qt::AlignRight);
    connect(field, &QuantityField::entered, this, [this, name, field, set = std::move(set)](double value) {
        document_.endRun();
        document_.change(name + " " + field->words(value), [&](Job& job) { set(job, value); });
    });
    return field;
}

QCheckBox* SettingsGroup::addCheck(const QString& name, const QString& effect,
                                   std::function<void(Job&, bool)> set) {
    auto* box = new QCheckBox(name);
    box->setObjectName(name);
    box->setToolTip(effect);
    layout_->addWidget(box, rows_++, 0, 1, 2, Qt::AlignLeft);
    connect(box, &QCheckBox::clicked, this, [this, name, set = std::move(set)](bool isOn) {
        document_.endRun();
        document_.change((isOn ? "" : "No ") + name.toLower(), [&](Job& job) { set(job, isOn); });
    });
    return box;
}

QComboBox* SettingsGroup::addChoice(const QString& name, const QString& effect, const QStringList& choices,
                                    std::function<void(int)> chosen) {
    auto* box = new QComboBox;
    box->addItems(choices);
    box->setObjectName(name);
    box->setAccessibleName(name);
    box->setToolTip(effect);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    addWide(box);
    connect(box, &QComboBox::activated, this, std::move(chosen));
    return box;
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

QLabel* SettingsGroup::nameOf(QuantityField* field) const {
    for (auto* label : findChildren<QLabel*>())
        if (label->buddy() == field)
            return label;
    return nullptr;
}

void SettingsGroup::show(QuantityField* field, double value, bool isShown) {
    field->setUnit(document_.job().unit);
    field->show(value);
    field->setVisible(isShown);
    nameOf(field)->setVisible(isShown);
}

void SettingsGroup::rename(QuantityField* field, const QString& name) {
    QLabel* label = nameOf(field);
    label->setText(QFontMetrics(label->font()).elidedText(name, Qt::ElideRight, 140));
}

} // namespace hasami
