#pragma once

#include "app/document/send_run.h"

#include <QFrame>

class QComboBox;
class QLineEdit;
class QPushButton;

namespace hasami {

class ElidedLabel;
class KindsButton;

/// Sends a sheet's cut to the machine: where it is reached, what of it, how far it is, pause and stop.
class MachineRow : public QFrame {
    Q_OBJECT
public:
    MachineRow(Document& document, SendRun& run, QWidget* parent = nullptr);

    void showJob();
    int widthOfOptions() const;
    void setWidthOfOptions(int width);

private:
    void setConnection(const QString& text);
    void showRun();

    Document& document_;
    SendRun& run_;
    QWidget* options_;
    QLineEdit* connection_;
    KindsButton* kinds_;
    QComboBox* sheet_;
    ElidedLabel* state_;
    QPushButton *send_, *pause_, *stop_;
};

} // namespace hasami
