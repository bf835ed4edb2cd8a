#pragma once

#include <QObject>

namespace hasami {

/// Whose the wheel and some keys are. The wheel scrolls a panel wherever the pointer is on it: combo boxes,
/// fields and sliders take it only once they have the focus, which the wheel does not give them. Alt with an
/// arrow opens the combo box that has the focus, whatever else the window does with it.
class InputGuard : public QObject {
    Q_OBJECT

public:
    /// Over all of the application's widgets.
    explicit InputGuard(QObject* parent);

    bool eventFilter(QObject* watched, QEvent* event) override;
};

} // namespace hasami
