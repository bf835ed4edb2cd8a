#pragma once

#include "app/document/send_run.h"
#include "app/sheet/options_row.h"

class QComboBox;
class QLineEdit;
class QPushButton;

namespace hasami {

class ElidedLabel;
class KindsButton;

/// Sends a sheet's cut to the machine: where it is reached, what of it, how far it is, pause and stop.
class MachineRow : public OptionsRow {
    Q_OBJECT
public:
    MachineRow(Document& document, SendRun& run, QWidget* parent = nullptr);

    void showJob();

private:
    void setConnection(const QString& text);
    void showRun();

    Document& document_;
    SendRun& run_;
    QLineEdit* connection_;
    KindsButton* kinds_;
    QComboBox* sheet_;
    ElidedLabel* state_;
    QPushButton *send_, *pause_, *stop_;
};

} // namespace hasami
