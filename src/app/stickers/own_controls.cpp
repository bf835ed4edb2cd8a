#include "app/stickers/own_controls.h"

#include "app/kit/named.h"
#include "app/words/words.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QVBoxLayout>

namespace hasami {

QuantityRow* ownRow(ItemHand& hand, QVBoxLayout* layout, const QuantityRow::Description& description,
                    std::function<void(OwnArtwork&, double)> set) {
    auto* row = new QuantityRow(description);
    QObject::connect(row, &QuantityRow::chosen, &hand,
                     [&hand, row, name = description.name, set = std::move(set)](double value) {
                         hand.editOwn(
                             tr("%1 %2").arg(tr(name), row->words(value)),
                             [&](OwnArtwork& own, Job&) { set(own, value); }, name);
                     });
    QObject::connect(row, &QuantityRow::rested, &hand.document(), &Document::endRun);
    layout->addWidget(row);
    return row;
}

QComboBox* ownChoice(ItemHand& hand, QVBoxLayout* layout, const char* name, const char* effect,
                     const QStringList& names, std::function<void(OwnArtwork&, int)> chosen) {
    auto* box = new QComboBox;
    box->addItems(names);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    auto* pair = new QVBoxLayout;
    pair->setSpacing(4);
    QLabel* label = labelOf(*box, name, effect, " choice");
    label->setObjectName(QString::fromUtf8(name) + " label");
    pair->addWidget(label);
    pair->addWidget(box);
    layout->addLayout(pair);
    QObject::connect(box, &QComboBox::activated, &hand,
                     [&hand, box, name, chosen = std::move(chosen)](int place) {
                         hand.editOwn(tr("%1: %2").arg(tr(name), box->itemText(place)),
                                      [&](OwnArtwork& own, Job&) { chosen(own, place); });
                     });
    return box;
}

QCheckBox* ownCheck(ItemHand& hand, QVBoxLayout* layout, const char* name, const char* effect,
                    std::function<void(OwnArtwork&, bool)> set) {
    auto* box = new QCheckBox(tr(name));
    box->setObjectName(name);
    box->setToolTip(tr(effect));
    layout->addWidget(box, 0, Qt::AlignLeft); // it takes clicks on its text alone
    QObject::connect(box, &QCheckBox::clicked, &hand, [&hand, name, set = std::move(set)](bool isOn) {
        hand.editOwn(isOn ? tr(name) : tr("Without: %1").arg(tr(name)),
                     [&](OwnArtwork& own, Job&) { set(own, isOn); });
    });
    return box;
}

void showBoth(QuantityRow& row, double startValue, double value, LengthUnit unit) {
    row.setUnit(unit);
    row.setStart(startValue);
    row.show(value);
}

} // namespace hasami
