#pragma once

#include "app/stickers/touch_up_hand.h"

#include <QWidget>

class QLabel;
class QPushButton;

namespace hasami {

/// What can be done with the points of the edge that are held on the bench.
class TouchUpPanel : public QWidget {
    Q_OBJECT
public:
    explicit TouchUpPanel(TouchUpHand& hand, QWidget* parent = nullptr);

private:
    QPushButton* addButton(const char* name, const char* effect, void (TouchUpHand::*act)());
    void showHand();

    TouchUpHand& hand_;
    QLabel* held_;
    QPushButton *corner_, *smooth_, *remove_, *straighten_, *span_, *putBack_, *putBackAll_;
};

} // namespace hasami
