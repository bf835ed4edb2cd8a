#pragma once

#include "app/document/nest_run.h"

#include <QFrame>

class QLabel;
class QPushButton;

namespace hasami {

class NestCurve;
class QuantityField;

/// The search for a nest: its density over time as long as it is the job's, how long it goes on, and the
/// button that begins and stops it. Shown where the stickers lie in a nest.
class NestBar : public QFrame {
    Q_OBJECT
public:
    NestBar(Document& document, NestRun& nest, QWidget* parent = nullptr);

private:
    void showNest();
    void showSearch();

    Document& document_;
    NestRun& nest_;
    NestCurve* curve_;
    QLabel* state_;
    QuantityField* seconds_;
    QPushButton* search_;
    bool isCurveOld_ = false; ///< the job was changed since
};

} // namespace hasami
