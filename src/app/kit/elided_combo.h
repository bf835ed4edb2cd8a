#pragma once

#include <QComboBox>

namespace hasami {

/// A choice in little room: what is chosen is shortened where it does not fit, and whole in its list.
class ElidedCombo : public QComboBox {
    Q_OBJECT
public:
    using QComboBox::QComboBox;

protected:
    void paintEvent(QPaintEvent* event) override;
    void showPopup() override;
};

} // namespace hasami
