#pragma once

#include "app/document/document.h"
#include "app/kit/quantity_field.h"

#include <QWidget>

#include <functional>
#include <vector>

class QCheckBox;
class QComboBox;
class QGridLayout;
class QLabel;
class QLineEdit;

namespace hasami {

/// The machine's profile: one of those that come with the program, or an own one from a file; for each kind
/// of line its tool, for lines and inks the names that the printer's software expects.
class MachinePanel : public QWidget {
    Q_OBJECT
public:
    explicit MachinePanel(Document& document, QWidget* parent = nullptr);

private:
    struct Row {
        QLabel* label;
        QuantityField* field;
        std::function<double(const Tool&)> value;
    };

    void addMachines(QGridLayout* layout);
    void addNames(QGridLayout* layout);
    void addTools(QGridLayout* layout);
    void addRow(QGridLayout* layout, const QString& name, const QString& effect, QuantityField* field,
                std::function<double(const Tool&)> value, std::function<void(Tool&, double)> set);
    void changeProfile(const QString& label, const std::function<void(Profile&)>& change);
    void takeName();
    void open();
    void save();
    void showJob();

    /// The line or ink whose name and tool are shown.
    SpotColour& spotIn(Profile& profile) const;
    bool showsInk() const;

    Document& document_;
    std::vector<Profile> known_;
    QComboBox *machine_, *what_;
    QLineEdit* name_;
    std::vector<Row> rows_;
    QCheckBox* tabs_;
    QLabel* doubts_;
};

} // namespace hasami
