#include "app/kit/elided_combo.h"

#include <QAbstractItemView>
#include <QStylePainter>

namespace hasami {

void ElidedCombo::paintEvent(QPaintEvent* /*event*/) {
    QStylePainter painter(this);
    QStyleOptionComboBox option;
    initStyleOption(&option);
    const QRect room =
        style()->subControlRect(QStyle::CC_ComboBox, &option, QStyle::SC_ComboBoxEditField, this);
    const int icon = option.currentIcon.isNull() ? 0 : option.iconSize.width() + 4;
    option.currentText = fontMetrics().elidedText(option.currentText, Qt::ElideRight, room.width() - icon);
    painter.drawComplexControl(QStyle::CC_ComboBox, option);
    painter.drawControl(QStyle::CE_ComboBoxLabel, option);
}

void ElidedCombo::showPopup() {
    constexpr int margins = 40;
    view()->setMinimumWidth(view()->sizeHintForColumn(0) + margins);
    QComboBox::showPopup();
}

} // namespace hasami
