#include "app/sheet/piece_panel.h"

#include "app/kit/named.h"
#include "app/words/words.h"

#include <QGridLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>

namespace hasami {

PiecePanel::PiecePanel(PieceHand& hand, QWidget* parent)
    : QWidget(parent), hand_(hand), heading_(new QLabel), numbers_(new QWidget),
      pin_(new QPushButton(tr("Pin"))) {
    heading_->setProperty("role", "heading");
    heading_->setObjectName("Held stickers");
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(8);
    layout->addWidget(heading_);
    auto* fields = new QGridLayout(numbers_);
    fields->setContentsMargins(0, 0, 0, 0);
    fields->setVerticalSpacing(8);
    fields->setColumnStretch(0, 1);
    along_ = addField(fields, N_("Middle along"), N_("Where its middle lies, from the leading edge on"),
                      QuantityKind::length, 0, Limits::farthestLaid, [this](double value) {
                          const Point now = hand_.laid().at(hand_.held().front()).centre;
                          hand_.setCentre({value, now.y});
                      });
    across_ = addField(fields, N_("Middle across"),
                       N_("Where its middle lies, from the side where the ruler begins"),
                       QuantityKind::length, 0, Limits::farthestLaid, [this](double value) {
                           const Point now = hand_.laid().at(hand_.held().front()).centre;
                           hand_.setCentre({now.x, value});
                       });
    turn_ = addField(fields, N_("Turned by"), N_("Clockwise on the screen (comma and full stop turn it too)"),
                     QuantityKind::angle, -360, 360, [this](double value) { hand_.setTurn(value); });
    layout->addWidget(numbers_);

    const auto add = [](QGridLayout* to, int place, QPushButton* button, const char* name,
                        const char* effect) {
        button->setText(tr(name));
        nameControl(*button, name, effect, " stickers");
        button->setProperty("role", "small");
        to->addWidget(button, place / 2, place % 2);
        return button;
    };
    auto* buttons = new QGridLayout;
    buttons->setSpacing(4);
    add(buttons, 0, pin_, N_("Pin"), N_("A nest leaves it where it is (P)"));
    pin_->setCheckable(true);
    connect(pin_, &QPushButton::clicked, this, [this](bool isOn) { hand_.pin(isOn); });
    auto* align = add(buttons, 1, new QPushButton, N_("Align"),
                      N_("Aligns several stickers with each other, one with the usable area"));
    auto* menu = new QMenu(align);
    const std::pair<const char*, Alignment> all[] = {
        {N_("Towards the leading edge"), Alignment::left}, {N_("Middles, along"), Alignment::middle},
        {N_("Towards the end"), Alignment::right},         {N_("Towards the first side"), Alignment::top},
        {N_("Middles, across"), Alignment::centre},        {N_("Towards the last side"), Alignment::bottom}};
    for (const auto& [name, alignment] : all)
        menu->addAction(tr(name), this, [this, alignment = alignment] { hand_.align(alignment); });
    align->setMenu(menu);
    connect(add(buttons, 2, new QPushButton, N_("Duplicate"),
                N_("One more of each, in the nearest free place (Ctrl+D)")),
            &QPushButton::clicked, &hand, &PieceHand::duplicate);
    connect(add(buttons, 3, new QPushButton, N_("Take out"),
                N_("Takes them off the sheet and lowers the count (Delete)")),
            &QPushButton::clicked, &hand, &PieceHand::remove);
    layout->addLayout(buttons);
    connect(&hand, &PieceHand::changed, this, &PiecePanel::showHeld);
    showHeld();
}

QuantityField* PiecePanel::addField(QGridLayout* layout, const char* name, const char* effect,
                                    QuantityKind kind, double least, double most,
                                    std::function<void(double)> set) {
    auto* field = new QuantityField(kind, least, most);
    QLabel* label = labelOf(*field, name, effect, " field");
    const int row = layout->rowCount();
    layout->addWidget(label, row, 0);
    layout->addWidget(field, row, 1, Qt::AlignRight);
    connect(field, &QuantityField::entered, this, [this, set = std::move(set)](double value) {
        if (hand_.held().size() == 1 && !hand_.laid().empty())
            set(value);
    });
    return field;
}

void PiecePanel::showHeld() {
    const auto& held = hand_.held();
    setVisible(!held.empty());
    if (held.empty() || hand_.laid().empty())
        return;
    const LaidPiece& first = hand_.laid()[held.front()];
    const Job& job = hand_.document().job();
    const Design* design = job.find(first.design);
    heading_->setText(
        held.size() > 1 || !design
            ? counted(held.size(), "%1 sticker held", "%1 stickers held")
            : QFontMetrics(heading_->font())
                  .elidedText(tr("One %1").arg(QString::fromStdString(design->name)), Qt::ElideRight, 220));
    numbers_->setVisible(held.size() == 1);
    along_->setUnit(job.unit);
    across_->setUnit(job.unit);
    along_->show(first.centre.x);
    across_->show(first.centre.y);
    turn_->show(first.turn);
    pin_->setChecked(hand_.arePinned());
}

} // namespace hasami
