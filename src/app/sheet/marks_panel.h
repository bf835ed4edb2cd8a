#pragma once

#include "app/controls/settings_group.h"

class QPushButton;

namespace hasami {

/// The registration marks: what they look like, and how close to the work they stand.
class MarksPanel : public SettingsGroup {
    Q_OBJECT
public:
    explicit MarksPanel(Document& document, QWidget* parent = nullptr);

private:
    using Set = std::function<void(MarkScheme&, double)>;
    QuantityField* addLength(const char* name, const char* effect, double least, double most, Set set);
    void change(const QString& label, const std::function<void(MarkScheme&)>& change);
    void showJob();
    /// How much more can be used where marks stand as close as their quiet zones allow.
    void showGain();

    QComboBox *shape_, *corners_;
    QuantityField *size_, *lineWidth_, *distance_, *quiet_;
    QPushButton* close_;
    QLabel* text_;
};

} // namespace hasami
