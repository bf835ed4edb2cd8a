#include "app/sheet/printer_row.h"

#include "app/kit/elided_label.h"
#include "app/kit/named.h"
#include "app/kit/quantity_field.h"
#include "app/kit/theme.h"
#include "app/sheet/scale_test_dialog.h"
#include "app/words/words.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>

namespace hasami {

PrinterRow::PrinterRow(Document& document, PrintRun& run, QWidget* parent)
    : OptionsRow(parent), document_(document), run_(run), printer_(new QComboBox), mediaType_(new QComboBox),
      copies_(new QuantityField(QuantityKind::count, 1, 999)), cutLines_(new QCheckBox(tr("Cut lines"))),
      tiles_(new QCheckBox(tr("Tiles"))), state_(new ElidedLabel(Qt::ElideRight)),
      scale_(new QPushButton(tr("Scale test…"))), print_(new QPushButton(tr("Print"))),
      stop_(new QPushButton(tr("Stop"))) {
    QHBoxLayout* options = &this->options();
    QLabel* name =
        labelOf(*printer_, N_("Printer"),
                N_("A queue of this computer, or an address like ipp://HOST:PORT/ipp/print. Sheets are "
                   "printed at their size, never fitted to the page"),
                " choice");
    name->setProperty("role", "heading");
    printer_->setEditable(true);
    printer_->setInsertPolicy(QComboBox::NoInsert);
    printer_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    printer_->lineEdit()->setObjectName("Printer field");
    printer_->lineEdit()->setAccessibleName(printer_->accessibleName());
    printer_->lineEdit()->setToolTip(printer_->toolTip());
    printer_->lineEdit()->setPlaceholderText(tr("for instance %1").arg("ipp://192.168.0.30/ipp/print"));
    nameControl(*copies_, N_("Copies to print"), N_("How often each sheet is printed"), " field");
    copies_->setFixedWidth(copies_->fontMetrics().horizontalAdvance("0000000"));
    copies_->show(1);
    cutLines_->setObjectName("Cut lines on the printer");
    cutLines_->setToolTip(
        tr("Print the cut lines too, for a look: a printer that does not cut has no use for them"));
    options->addWidget(name);
    options->addWidget(printer_, 1);
    options->addWidget(copies_);
    options->addWidget(new QLabel("×"));
    options->addWidget(cutLines_);
    options->addWidget(tiles_);
    tiles_->setObjectName("Tiles");
    tiles_->setToolTip(
        tr("Print a sheet that is larger than every medium of the printer in tiles that overlap, "
           "with crop marks and numbers"));
    state_->setObjectName("Print state");
    print_->setObjectName("Print");
    print_->setToolTip(tr("Print all sheets on the printer, each on a medium of its size"));
    scale_->setObjectName("Scale test");
    scale_->setToolTip(tr("Measure how true the printer's lengths are, and compensate for it"));
    stop_->setObjectName("Stop printing");
    stop_->setToolTip(tr("Cancel what is not printed yet"));
    QHBoxLayout* layout = &line();
    layout->addWidget(state_, 1);
    nameControl(*mediaType_, N_("Type of medium"),
                N_("What lies in the printer, of what it says it can take"), "");
    mediaType_->hide();
    layout->addWidget(mediaType_);
    layout->addWidget(scale_);
    layout->addWidget(print_);
    layout->addWidget(stop_);
    connect(print_, &QPushButton::clicked, this, [this] {
        run_.start({printer_->currentText().trimmed(), mediaType_->currentData().toString(),
                    int(copies_->value()), cutLines_->isChecked(), tiles_->isChecked()});
    });
    connect(scale_, &QPushButton::clicked, this,
            [this] { ScaleTestDialog(document_, run_, printer_->currentText().trimmed(), window()).exec(); });
    connect(copies_, &QuantityField::entered, copies_, &QuantityField::show);
    connect(printer_, &QComboBox::currentTextChanged, this, &PrinterRow::showRun);
    connect(printer_->lineEdit(), &QLineEdit::editingFinished, this, &PrinterRow::findMediaTypes);
    connect(printer_, &QComboBox::activated, this, &PrinterRow::findMediaTypes);
    connect(stop_, &QPushButton::clicked, &run, &PrintRun::stop);
    connect(&run, &PrintRun::changed, this, &PrinterRow::showRun);
    showRun();
}

void PrinterRow::showEvent(QShowEvent* event) {
    QFrame::showEvent(event);
    if (!isAsked_)
        findPrinters();
}

/// The print service may take a moment to answer.
void PrinterRow::findPrinters() {
    isAsked_ = true;
    runInBackground(
        document_.background().printing, this, tr("The printers can't be listed"),
        [](const std::stop_token&) { return printersKnown(); },
        [this](const Outcome<std::vector<std::string>>& known) {
            if (!known.value)
                return;
            const QString typed = printer_->currentText();
            for (const std::string& name : *known.value)
                printer_->addItem(QString::fromStdString(name));
            if (!typed.isEmpty())
                printer_->setEditText(typed);
        });
}

/// Of the printer chosen; one that does not answer has none to choose from.
void PrinterRow::findMediaTypes() {
    const QString printer = printer_->currentText().trimmed();
    if (printer == asked_)
        return;
    asked_ = printer;
    mediaType_->hide();
    mediaType_->clear();
    if (printer.isEmpty())
        return;
    runInBackground(
        document_.background().printing, this, tr("The printer can't be asked"),
        [name = printer.toStdString()](const std::stop_token& stop) { return mediaTypesOf(name, stop); },
        [this, printer](const Outcome<std::vector<std::string>>& types) {
            if (!types.value || types.value->empty() || printer != asked_)
                return;
            mediaType_->addItem(tr("Medium as set"), QString());
            for (const std::string& type : *types.value)
                mediaType_->addItem(QString::fromStdString(type), QString::fromStdString(type));
            mediaType_->show();
        });
}

void PrinterRow::showRun() {
    const bool isChosen = !printer_->currentText().trimmed().isEmpty();
    print_->setVisible(!run_.isOn());
    scale_->setEnabled(isChosen && !run_.isOn());
    print_->setEnabled(isChosen && !document_.made()->layout.sheets.empty());
    stop_->setVisible(run_.isOn());
    for (QWidget* control : std::initializer_list<QWidget*>{printer_, mediaType_, copies_, cutLines_, tiles_})
        control->setEnabled(!run_.isOn());
    state_->setWhole(!run_.text().isEmpty() ? run_.text()
                     : isChosen             ? tr("Nothing printed yet")
                                            : tr("Choose a printer, or type its address"));
    setStyled(*state_, "role", run_.state() == PrintRun::State::failed ? "trouble" : "quiet");
}

} // namespace hasami
