#include "app/kit/wheel_guard.h"

#include <QAbstractScrollArea>
#include <QAbstractSlider>
#include <QAbstractSpinBox>
#include <QApplication>
#include <QComboBox>
#include <QEvent>
#include <QScrollBar>
#include <QTabBar>

namespace hasami {

namespace {

bool isChangedByWheel(const QWidget& widget) {
    return qobject_cast<const QComboBox*>(&widget) || qobject_cast<const QAbstractSpinBox*>(&widget) ||
           qobject_cast<const QTabBar*>(&widget) ||
           (qobject_cast<const QAbstractSlider*>(&widget) && !qobject_cast<const QScrollBar*>(&widget));
}

} // namespace

WheelGuard::WheelGuard(QObject* parent) : QObject(parent) {
    qApp->installEventFilter(this);
}

bool WheelGuard::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() != QEvent::Polish && event->type() != QEvent::Wheel)
        return false;
    auto* widget = qobject_cast<QWidget*>(watched);
    if (!widget || !isChangedByWheel(*widget))
        return false;
    if (event->type() == QEvent::Polish) {
        if (widget->focusPolicy() == Qt::WheelFocus)
            widget->setFocusPolicy(Qt::StrongFocus);
        return false;
    }
    if (widget->hasFocus())
        return false;
    event->ignore();
    for (QWidget* around = widget->parentWidget(); around; around = around->parentWidget())
        if (auto* area = qobject_cast<QAbstractScrollArea*>(around)) {
            QApplication::sendEvent(area->viewport(), event);
            break;
        }
    return true;
}

} // namespace hasami
