#pragma once

#include "app/document/nest_run.h"

#include <QFrame>

class QLabel;
class QPushButton;

namespace hasami {

/// How a nest comes along: its density over the time, in figures, and the way to stop it. It stays until the
/// job is changed.
class NestBar : public QFrame {
    Q_OBJECT
public:
    explicit NestBar(Document& document, NestRun& nest, QWidget* parent = nullptr);

private:
    void showNest();

    NestRun& nest_;
    QLabel* state_;
    QPushButton* stop_;
};

} // namespace hasami
