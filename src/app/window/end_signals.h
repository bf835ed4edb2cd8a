#pragma once

#include <QObject>

class QSocketNotifier;

namespace hasami {

/// Hears the signals by which a system, a session or a terminal ends a program (SIGTERM, SIGHUP, SIGINT), so
/// that a knife can be lifted and unsaved work kept before it ends. One at a time in a program.
class EndSignals : public QObject {
    Q_OBJECT
public:
    explicit EndSignals(QObject* parent = nullptr);
    ~EndSignals() override;

Q_SIGNALS:
    void received();

private:
    QSocketNotifier* notifier_;
};

} // namespace hasami
