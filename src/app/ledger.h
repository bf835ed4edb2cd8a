#pragma once

#include "app/document.h"
#include "app/output_writer.h"
#include "checks/costs.h"

#include <QFrame>

class QCheckBox;
class QHBoxLayout;
class QLabel;
class QPushButton;

namespace hasami {

/// What the sheet takes and gives, and the way to its files.
class Ledger : public QFrame {
    Q_OBJECT
public:
    Ledger(Document& document, OutputWriter& writer, QWidget* parent = nullptr);

    bool withCutLines() const;

Q_SIGNALS:
    void printFileWanted();
    void cutFileWanted();

private:
    QLabel* addFigure(QHBoxLayout* layout, const QString& name);
    void showMade();
    void showCosts(const SheetCosts& costs);
    void showWriter();

    Document& document_;
    OutputWriter& writer_;
    QLabel *used_, *area_, *stickers_, *cut_, *minutes_, *result_;
    QCheckBox* cutLines_;
    QPushButton *print_, *cutFile_, *stop_;
    std::uint64_t asked_ = 0; ///< the newest request: older costs are dropped
};

} // namespace hasami
