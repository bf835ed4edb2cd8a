#pragma once

#include "app/document/print_run.h"
#include "app/sheet/options_row.h"

class QCheckBox;
class QComboBox;
class QPushButton;

namespace hasami {

class ElidedLabel;
class QuantityField;

/// Prints the sheets: on which printer, how often, with or without cut lines, how far it is, and stop.
class PrinterRow : public OptionsRow {
    Q_OBJECT
public:
    PrinterRow(Document& document, PrintRun& run, QWidget* parent = nullptr);

    void showJob() { showRun(); }

protected:
    void showEvent(QShowEvent* event) override;

private:
    void findPrinters();
    void findMediaTypes();
    void showRun();

    Document& document_;
    PrintRun& run_;
    QComboBox *printer_, *mediaType_;
    QuantityField* copies_;
    QCheckBox *cutLines_, *tiles_;
    ElidedLabel* state_;
    QPushButton *scale_, *print_, *stop_;
    QString asked_; ///< the printer whose media were asked for last
    bool isAsked_ = false;
};

} // namespace hasami
