#include "app/kit/field_group.h"

#include "app/kit/named.h"

#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>

namespace hasami {

FieldGroup::FieldGroup(const char* heading, QWidget* parent)
    : QWidget(parent), layout_(new QGridLayout(this)) {
    layout_->setContentsMargins(0, 0, 0, 0);
    layout_->setVerticalSpacing(8);
    layout_->setColumnStretch(0, 1);
    if (!heading)
        return;
    auto* label = new QLabel(tr(heading));
    label->setProperty("role", "heading");
    addWide(label);
}

QuantityField* FieldGroup::addField(const char* name, const char* effect, QuantityKind kind, double least,
                                    double most, std::function<void(const QString&, double)> entered) {
    auto* field = new QuantityField(kind, least, most);
    add(*field, name, effect);
    connect(field, &QuantityField::entered, this, [field, entered = std::move(entered)](double value) {
        entered(tr("%1 %2").arg(field->accessibleName(), field->words(value)), value);
    });
    return field;
}

QCheckBox* FieldGroup::addCheck(const char* name, const char* effect,
                                std::function<void(const QString&, bool)> clicked) {
    auto* box = new QCheckBox(tr(name));
    box->setObjectName(name);
    box->setToolTip(tr(effect));
    layout_->addWidget(box, rows_++, 0, 1, 2, Qt::AlignLeft);
    connect(box, &QCheckBox::clicked, this, [box, clicked = std::move(clicked)](bool isOn) {
        clicked((isOn ? tr("On: %1") : tr("Off: %1")).arg(box->text()), isOn);
    });
    return box;
}

QComboBox* FieldGroup::addChoice(const char* name, const char* effect, const QStringList& choices,
                                 std::function<void(int)> chosen) {
    auto* box = new QComboBox;
    box->addItems(choices);
    nameControl(*box, name, effect, "");
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    addWide(box);
    connect(box, &QComboBox::activated, this, std::move(chosen));
    return box;
}

QLabel* FieldGroup::add(QWidget& control, const char* name, const char* effect) {
    QLabel* label = labelOf(control, name, effect, " field");
    layout_->addWidget(label, rows_, 0);
    layout_->addWidget(&control, rows_++, 1, Qt::AlignRight);
    return label;
}

QLabel* FieldGroup::addText() {
    auto* text = new QLabel;
    text->setProperty("role", "quiet");
    text->setWordWrap(true);
    addWide(text);
    return text;
}

void FieldGroup::addWide(QWidget* widget) {
    layout_->addWidget(widget, rows_++, 0, 1, 2);
}

QLabel* FieldGroup::labelBeside(const QWidget* control) const {
    for (auto* label : findChildren<QLabel*>())
        if (label->buddy() == control)
            return label;
    return nullptr;
}

void FieldGroup::show(QuantityField* field, double value, LengthUnit unit, bool isShown) {
    field->setUnit(unit);
    field->show(value);
    field->setVisible(isShown);
    labelBeside(field)->setVisible(isShown);
}

void FieldGroup::rename(QuantityField* field, const QString& name) {
    QLabel* label = labelBeside(field);
    label->setText(QFontMetrics(label->font()).elidedText(name, Qt::ElideRight, 140));
}

} // namespace hasami
