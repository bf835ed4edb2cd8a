#pragma once

#include "checks/sticker_costs.h"

#include <QWidget>

namespace hasami {

/// The medium for one sticker over how many are made; good counts have a dot.
class CountCurve : public QWidget {
    Q_OBJECT
public:
    explicit CountCurve(QWidget* parent = nullptr);

    /// `now`: how many there are.
    void show(std::vector<CountCost> costs, int now, bool isMoney);
    QSize sizeHint() const override { return {240, 110}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    std::vector<CountCost> costs_;
    int now_ = 0;
    bool isMoney_ = false;
};

} // namespace hasami
