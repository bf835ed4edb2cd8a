#pragma once

#include <QAbstractButton>
#include <QAction>
#include <QComboBox>
#include <QFontMetrics>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMainWindow>
#include <QMenu>
#include <QScrollArea>
#include <QStyleOptionComboBox>

#include <functional>

namespace hasami::test {

/// Calls `see(where, text)` for each text of a window that people see, hear or find under the pointer.
inline void eachText(QWidget& window, const std::function<void(const QString&, const QString&)>& see) {
    for (QWidget* widget : window.findChildren<QWidget*>()) {
        const QString where =
            QString("%1 \"%2\"").arg(widget->metaObject()->className(), widget->objectName());
        see(where + " tooltip", widget->toolTip());
        see(where + " name", widget->accessibleName());
        see(where + " description", widget->accessibleDescription());
        if (const auto* label = qobject_cast<QLabel*>(widget))
            see(where, label->text());
        if (const auto* button = qobject_cast<QAbstractButton*>(widget))
            see(where, button->text());
        if (const auto* field = qobject_cast<QLineEdit*>(widget))
            see(where + " hint", field->placeholderText());
        if (const auto* box = qobject_cast<QComboBox*>(widget))
            for (int i = 0; i < box->count(); ++i)
                see(where + " entry", box->itemText(i));
        if (const auto* list = qobject_cast<QListWidget*>(widget))
            for (int i = 0; i < list->count(); ++i)
                see(where + " entry", list->item(i)->text());
        if (const auto* menu = qobject_cast<QMenu*>(widget))
            see(where, menu->title());
    }
    for (const QAction* action : window.findChildren<QAction*>())
        see("action \"" + action->objectName() + '"', action->text());
}

/// What of the texts that are shown now does not fit its place: labels that are wider or higher than their
/// rectangle, buttons and chosen entries that are cut, widgets that reach out of their parents.
inline QStringList cutOff(QWidget& window) {
    constexpr int textMargin = 4; // pixels beside a text within its frame, at least
    QStringList found;
    const auto tell = [&](const QWidget& widget, const QString& text) {
        found << QString("%1 \"%2\" %3x%4: %5")
                     .arg(widget.metaObject()->className(), widget.objectName())
                     .arg(widget.width())
                     .arg(widget.height())
                     .arg(text);
    };
    for (QWidget* widget : window.findChildren<QWidget*>()) {
        if (!widget->isVisible() || widget->visibleRegion().isEmpty())
            continue;
        if (const auto* label = qobject_cast<QLabel*>(widget); label && !label->text().isEmpty()) {
            if (label->wordWrap() ? label->heightForWidth(label->width()) > label->height() + 1
                                  : label->sizeHint().width() > label->width() + 1)
                tell(*label, QString("%1 (hint %2, least %3, for its width %4)")
                                 .arg(label->text())
                                 .arg(label->sizeHint().height())
                                 .arg(label->minimumSizeHint().height())
                                 .arg(label->heightForWidth(label->width())));
        }
        if (const auto* button = qobject_cast<QAbstractButton*>(widget); button && !button->text().isEmpty())
            if (const int room = button->width() - 2 * textMargin;
                button->fontMetrics().horizontalAdvance(QString(button->text()).remove('&')) > room)
                tell(*button, button->text());
        if (auto* box = qobject_cast<QComboBox*>(widget)) {
            QStyleOptionComboBox option;
            option.initFrom(box);
            option.editable = box->isEditable();
            const QRect room =
                box->style()->subControlRect(QStyle::CC_ComboBox, &option, QStyle::SC_ComboBoxEditField, box);
            const int icon = box->itemIcon(box->currentIndex()).isNull() ? 0 : box->iconSize().width() + 4;
            if (box->fontMetrics().horizontalAdvance(box->currentText()) > room.width() - icon)
                tell(*box, box->currentText());
        }
        if (const auto* field = qobject_cast<QLineEdit*>(widget); field && field->isReadOnly() == false)
            if (field->fontMetrics().horizontalAdvance(field->text()) > field->width() - textMargin &&
                field->maxLength() > 200) // numbers; names may be as long as people like
                tell(*field, field->text());
        if (const auto* area = qobject_cast<QScrollArea*>(widget);
            area && area->horizontalScrollBarPolicy() == Qt::ScrollBarAlwaysOff && area->widget() &&
            area->widget()->minimumSizeHint().width() > area->viewport()->width()) {
            QString widest;
            for (const QWidget* inner : area->widget()->findChildren<QWidget*>())
                if (inner->isVisible() && inner->minimumSizeHint().width() > area->viewport()->width() - 24)
                    widest += QString(" %1 \"%2\" %3")
                                  .arg(inner->metaObject()->className(), inner->objectName())
                                  .arg(inner->minimumSizeHint().width());
            tell(*area, "its content is wider:" + widest);
        }
        const QWidget* parent = widget->parentWidget();
        if (parent && !widget->isWindow() && widget->geometry().right() > parent->rect().right() + 1 &&
            parent->objectName() != "qt_scrollarea_viewport")
            tell(*widget, QString("reaches out of %1 \"%2\"")
                              .arg(parent->metaObject()->className(), parent->objectName()));
    }
    return found;
}

} // namespace hasami::test
