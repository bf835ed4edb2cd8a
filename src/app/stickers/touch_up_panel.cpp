#include "app/stickers/touch_up_panel.h"

#include "app/controls/design_controls.h"
#include "app/kit/quantity_field.h"
#include "app/words/words.h"

#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace hasami {

TouchUpPanel::TouchUpPanel(TouchUpHand& hand, QWidget* parent)
    : QWidget(parent), hand_(hand), held_(new QLabel),
      corner_(addButton(N_("Corner"), N_("The line turns sharply at the points held"),
                        &TouchUpHand::makeCorners)),
      smooth_(addButton(N_("Smooth"), N_("The line runs smoothly through the points held"),
                        &TouchUpHand::makeSmooth)),
      remove_(addButton(N_("Remove points"), N_("The line runs on without the points held (Delete)"),
                        &TouchUpHand::remove)),
      straighten_(addButton(N_("Straighten"), N_("The shorter way between two points held becomes straight"),
                            &TouchUpHand::straighten)),
      span_(addButton(N_("Span a gap"),
                      N_("The shorter way between two points held is replaced by one bow that goes "
                         "on smoothly at both ends"),
                      &TouchUpHand::span)),
      putBack_(addButton(N_("Put back here"), N_("The stretch with the points held is again as it was found"),
                         &TouchUpHand::putBack)),
      putBackAll_(addButton(N_("Put all back"), N_("All lines of this design are again as they were found"),
                            &TouchUpHand::putBackAll)) {
    auto* help = quietText();
    help->setText(
        tr("Drag points and handles. Draw from the line to the line for another course. Double click "
           "adds a point; Shift holds several. Arrow keys nudge, Page Up and Down walk."));
    auto* grid = new QGridLayout;
    grid->setSpacing(6);
    QPushButton* const order[] = {corner_, smooth_, straighten_, span_, remove_, putBack_};
    for (int i = 0; i < 6; ++i)
        grid->addWidget(order[i], i / 2, i % 2);
    grid->addWidget(putBackAll_, 3, 0, 1, 2);
    auto* layout = pageLayout(this);
    layout->addWidget(help);
    layout->addWidget(held_);
    layout->addLayout(grid);
    layout->addStretch(1);
    held_->setObjectName("Points held");
    connect(&hand, &TouchUpHand::changed, this, &TouchUpPanel::showHand);
    showHand();
}

QPushButton* TouchUpPanel::addButton(const char* name, const char* effect, void (TouchUpHand::*act)()) {
    auto* button = new QPushButton(tr(name));
    button->setObjectName(name);
    button->setProperty("role", "small");
    button->setToolTip(tr(effect));
    connect(button, &QPushButton::clicked, &hand_, act);
    return button;
}

void TouchUpPanel::showHand() {
    const std::size_t count = hand_.nodes().size();
    held_->setText(count > 0 ? counted(count, "%1 point held", "%1 points held") : tr("No point is held"));
    for (QPushButton* button : {corner_, smooth_, remove_})
        button->setEnabled(count > 0);
    straighten_->setEnabled(count == 2);
    span_->setEnabled(count == 2);
    putBack_->setEnabled(hand_.canPutBack());
    putBackAll_->setEnabled(hand_.hasTouchUps());
}

} // namespace hasami
