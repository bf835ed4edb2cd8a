#pragma once

#include "workshop/route_sheet.h"

#include <QPushButton>

namespace hasami {

/// Chooses kinds of line from a menu. All of them are as good as none.
class KindsButton : public QPushButton {
    Q_OBJECT
public:
    /// `name` tells it and its choices from others: "output 2".
    explicit KindsButton(const QString& name, QWidget* parent = nullptr);

    const LineKinds& kinds() const { return kinds_; }
    void show(const LineKinds& kinds);

Q_SIGNALS:
    void chosen(const LineKinds& kinds);

private:
    LineKinds kinds_;
};

/// "Kiss cut, Die cut".
QString namesOf(const LineKinds& kinds);

} // namespace hasami
