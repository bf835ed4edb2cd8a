#pragma once

#include "app/controls/settings_group.h"

#include <functional>
#include <vector>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;

namespace hasami {

/// The machine's profile: one of those that come with the program, or an own one from a file; for each kind
/// of line its tool, for lines and inks the names that the printer's software expects.
class MachinePanel : public SettingsGroup {
    Q_OBJECT
public:
    explicit MachinePanel(Document& document, QWidget* parent = nullptr);

private:
    struct Row {
        QuantityField* field;
        std::function<double(const Tool&)> value;
    };

    void addMachines();
    void addNames();
    void addTools();
    QuantityField* addTool(const char* name, const char* effect, QuantityKind kind, double least, double most,
                           std::function<double(const Tool&)> value, std::function<void(Tool&, double)> set);
    void change(const QString& label, const std::function<void(Profile&)>& change);
    void takeName();
    void open();
    void save();
    void showJob();

    /// The line or ink whose name and tool are shown.
    SpotColour& spotIn(Profile& profile) const;
    bool showsInk() const;

    std::vector<Profile> known_;
    QComboBox *machine_, *what_;
    QLineEdit* name_;
    std::vector<Row> rows_;
    QCheckBox* tabs_ = nullptr;
    QLabel* doubts_ = nullptr;
};

} // namespace hasami
