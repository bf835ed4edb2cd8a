#pragma once

#include "app/document/output_writer.h"

#include <QFrame>

class QLineEdit;
class QPushButton;
class QScrollArea;
class QVBoxLayout;

namespace hasami {

class MachineRow;
class OutputRow;
class PrintLookLine;
class PrintLookLine;
class PrinterRow;
class PrintRun;
class SendRun;

/// All that leaves the program: the outputs that the job plans, where they go, what they are called, and what
/// is printed and sent to the machine.
class OutputsPanel : public QFrame {
    Q_OBJECT
public:
    OutputsPanel(Document& document, OutputWriter& writer, QWidget* parent = nullptr);

    /// Writes some outputs, or all; asks for a folder first where there is none.
    void write(const std::vector<std::size_t>& places);
    void writeAll();

    SendRun& sending() { return *sending_; }
    PrintRun& printing() { return *printing_; }

protected:
    void showEvent(QShowEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    QWidget* makeHead();
    void askForColours();
    void setColours(const std::shared_ptr<const Asset>& profile);
    void showColours();
    void setFolder(const QString& folder);
    QString askForFolder();
    void add(PlannedOutput::What what);
    void showPlan();
    void makeRows(std::size_t count);
    void fitHeight();

    Document& document_;
    OutputWriter& writer_;
    QLineEdit *folder_, *names_;
    QPushButton *open_, *colours_, *addPrint_, *addCut_;
    PrintRun* printing_;
    PrinterRow* printer_;
    SendRun* sending_;
    MachineRow* machine_;
    QScrollArea* scroll_;
    QVBoxLayout* list_;
    std::vector<OutputRow*> rows_;
    std::vector<PrintLookLine*> looks_;      ///< one below each row
    std::vector<PlannedOutput::What> shown_; ///< by the rows
};

} // namespace hasami
