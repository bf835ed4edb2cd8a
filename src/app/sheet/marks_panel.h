#pragma once

#include "app/sheet/profile_panel.h"

class QPushButton;

namespace hasami {

/// The registration marks of the job's machine, and how much closer to the work they could stand.
class MarksPanel : public ProfilePanel {
    Q_OBJECT
public:
    explicit MarksPanel(Document& document, QWidget* parent = nullptr);

private:
    void showGain();

    QPushButton* close_;
    QLabel* text_;
};

} // namespace hasami
