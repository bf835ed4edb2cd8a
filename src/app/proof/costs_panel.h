#pragma once

#include "app/controls/settings_group.h"
#include "app/proof/count_curve.h"
#include "checks/sticker_costs.h"

#include <QScrollArea>

#include <stop_token>

class QLabel;
class QTableWidget;

namespace hasami {

/// What stickers cost: a table by design and by sheet, what it is made of, the prices, and how the medium for
/// each falls with the count.
class CostsPanel : public QScrollArea {
    Q_OBJECT
public:
    explicit CostsPanel(Document& document, QWidget* parent = nullptr);

Q_SIGNALS:
    void told(const QString& sentence); ///< why a file can't be written
    void priceWanted();                 ///< of the medium

protected:
    void showEvent(QShowEvent* event) override;

private:
    struct Row {
        QString name;
        CostRow costs;
    };
    struct Result {
        std::vector<CostRow> designs; ///< and all
        std::vector<CostRow> sheets;
    };

    void addPrices();
    void addPrice(const char* name, const char* effect, double most, double Prices::*value);
    void addButtons();
    void showJob();
    void compute();
    void showResult(const Result& result);
    void showRow();
    void showParts(const CostRow& costs);
    void askForCounts();
    QString asText() const;
    void saveCsv();

    Document& document_;
    SettingsGroup* prices_;
    std::vector<std::pair<QuantityField*, double Prices::*>> fields_;
    QTableWidget* table_;
    QWidget* parts_;
    QLabel* noPrice_;
    QPushButton* enter_; ///< the medium's price
    QLabel* good_;
    CountCurve* curve_;
    std::vector<CostRow> ofDesigns_;
    std::vector<Row> rows_;
    std::stop_source computing_, counting_;
};

} // namespace hasami
