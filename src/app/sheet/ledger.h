#pragma once

#include "app/document/document.h"
#include "app/document/nest_run.h"
#include "app/document/output_writer.h"
#include "checks/costs.h"

#include <QFrame>
#include <QTimer>

class QHBoxLayout;
class QLabel;
class QPushButton;
class QStackedWidget;

namespace hasami {

/// What the sheet takes and gives, and what became of its outputs.
class Ledger : public QFrame {
    Q_OBJECT
public:
    Ledger(Document& document, OutputWriter& writer, const NestRun& nest, QWidget* parent = nullptr);

    QPushButton& outputs() { return *outputs_; } ///< checked while their panel is shown

Q_SIGNALS:
    void writeAllWanted();
    void queueWanted();  ///< to have the sheets added to the queue
    void layoutWanted(); ///< to have what lies where it can't laid out again

protected:
    void showEvent(QShowEvent* event) override;

private:
    struct Costs;

    QWidget* makeFigures();
    QWidget* makeCollisions();
    QLabel* addFigure(QHBoxLayout* layout, const char* name, const char* meaning);
    void showMade();
    void showLayout();
    void showCosts(const Costs& costs);
    void showWriter();

    Document& document_;
    OutputWriter& writer_;
    const NestRun& nest_;
    QLabel *used_ = nullptr, *covered_ = nullptr, *saved_ = nullptr, *area_ = nullptr, *stickers_ = nullptr,
           *left_ = nullptr, *oneMore_ = nullptr, *cut_ = nullptr, *minutes_ = nullptr;
    QLabel* result_;
    QStackedWidget* top_; ///< the figures; while stickers lie where they can't, a sentence in their place
    QLabel* collisions_ = nullptr;
    QPushButton *queue_, *outputs_, *writeAll_, *stop_;
    QTimer late_;            ///< once it ends, figures of before give way to "…"
    std::stop_source asked_; ///< for the costs being found: of an older revision they are given up
};

} // namespace hasami
