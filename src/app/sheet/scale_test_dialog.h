#pragma once

#include "app/document/print_run.h"

#include <QDialog>

class QLabel;

namespace hasami {

class QuantityField;

/// Prints a page with rulers, and asks how long they came out: prints are compensated for it from then on.
class ScaleTestDialog : public QDialog {
    Q_OBJECT
public:
    ScaleTestDialog(Document& document, PrintRun& run, const QString& printer, QWidget* parent = nullptr);

private:
    void keep(double across, double along);
    void showRun();

    Document& document_;
    PrintRun& run_;
    ScaleTest test_;
    QuantityField *across_, *along_;
    QLabel* state_;
};

} // namespace hasami
