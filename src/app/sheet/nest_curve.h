#pragma once

#include "app/document/nest_run.h"

#include <QWidget>

namespace hasami {

/// How dense the nest became over the time.
class NestCurve : public QWidget {
    Q_OBJECT
public:
    explicit NestCurve(const NestRun& nest, QWidget* parent = nullptr);

    QSize sizeHint() const override { return {200, 56}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    const NestRun& nest_;
};

} // namespace hasami
