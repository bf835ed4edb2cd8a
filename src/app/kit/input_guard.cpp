#include "app/kit/input_guard.h"

#include <QAbstractScrollArea>
#include <QAbstractSlider>
#include <QAbstractSpinBox>
#include <QApplication>
#include <QComboBox>
#include <QKeyEvent>
#include <QScrollBar>
#include <QTabBar>

namespace hasami {

namespace {

bool isChangedByWheel(const QWidget& widget) {
    return qobject_cast<const QComboBox*>(&widget) || qobject_cast<const QAbstractSpinBox*>(&widget) ||
           qobject_cast<const QTabBar*>(&widget) ||
           (qobject_cast<const QAbstractSlider*>(&widget) && !qobject_cast<const QScrollBar*>(&widget));
}

bool opensChoice(QObject* watched, QKeyEvent& key) {
    const bool isSo = (key.key() == Qt::Key_Down || key.key() == Qt::Key_Up) &&
                      key.modifiers() == Qt::AltModifier && qobject_cast<QComboBox*>(watched);
    if (isSo)
        key.accept();
    return isSo;
}

} // namespace

InputGuard::InputGuard(QObject* parent) : QObject(parent) {
    qApp->installEventFilter(this);
}

bool InputGuard::eventFilter(QObject* watched, QEvent* event) {
    switch (event->type()) {
    case QEvent::ShortcutOverride:
        return opensChoice(watched, static_cast<QKeyEvent&>(*event));
    case QEvent::Polish:
    case QEvent::Wheel:
        break;
    default:
        return false;
    }
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
