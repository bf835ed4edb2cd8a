#pragma once

#include "app/document/output_writer.h"
#include "app/sheet/options_row.h"

#include <optional>

class QCheckBox;
class QComboBox;
class QHBoxLayout;
class QPushButton;

namespace hasami {

class ElidedLabel;
class KindsButton;
class QuantityField;

/// One of the job's outputs: its format and options, the names of its files, what they hold, and what became
/// of them last. Each change is one undo step.
class OutputRow : public OptionsRow {
    Q_OBJECT
public:
    /// `place`: of the output in the plan.
    OutputRow(Document& document, OutputWriter& writer, std::size_t place, QWidget* parent = nullptr);

    /// `names` of its files, or why there are none.
    void show(const QStringList& names, const QString& trouble);

Q_SIGNALS:
    void writeWanted();

private:
    bool isPrint() const;
    const PlannedOutput& output() const;
    void change(const QString& label, const std::function<void(PlannedOutput&)>& edit);
    void addOptions();
    void addFormats(QHBoxLayout* layout);
    QCheckBox* addCheck(QHBoxLayout* layout, const char* name, const char* effect,
                        bool PlannedOutput::*member);
    void addKinds(QHBoxLayout* layout);
    void showOptions();
    void showContents();
    void showLast();

    Document& document_;
    OutputWriter& writer_;
    std::size_t place_;
    QComboBox* format_;
    QCheckBox *cutLines_ = nullptr, *onePerSheet_ = nullptr, *onePerTool_ = nullptr, *inks_ = nullptr;
    QuantityField* dots_ = nullptr;
    KindsButton* kinds_ = nullptr;
    QPushButton* write_;
    ElidedLabel *names_, *contents_, *last_;
};

} // namespace hasami
