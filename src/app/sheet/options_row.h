#pragma once

#include <QFrame>

class QHBoxLayout;

namespace hasami {

/// A row of the outputs' panel: options to the left, as wide in all rows, then what they lead to.
class OptionsRow : public QFrame {
    Q_OBJECT
public:
    explicit OptionsRow(QWidget* parent = nullptr);

    /// What the options need; rows that stand below each other have the most of it.
    int widthOfOptions() const;
    void setWidthOfOptions(int width);

protected:
    QHBoxLayout& options() { return *optionsLayout_; }
    QHBoxLayout& line() { return *line_; } ///< the row itself, behind its options

private:
    QWidget* options_;
    QHBoxLayout *optionsLayout_, *line_;
};

} // namespace hasami
