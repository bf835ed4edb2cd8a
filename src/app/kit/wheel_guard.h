#pragma once

#include <QObject>

namespace hasami {

/// Lets the wheel scroll a panel wherever the pointer is on it: combo boxes, fields and sliders take the
/// wheel only once they have the focus, which the wheel does not give them.
class WheelGuard : public QObject {
    Q_OBJECT

public:
    /// Over all of the application's widgets.
    explicit WheelGuard(QObject* parent);

    bool eventFilter(QObject* watched, QEvent* event) override;
};

} // namespace hasami
