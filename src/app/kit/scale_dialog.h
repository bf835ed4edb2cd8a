#pragma once

#include "app/kit/quantity_field.h"

#include <QDialog>

class QScreen;

namespace hasami {

/// Asks for the length that a bar has on the glass, and so learns how large a millimetre is on this screen.
class ScaleDialog : public QDialog {
    Q_OBJECT
public:
    ScaleDialog(QScreen& screen, LengthUnit unit, QWidget* parent = nullptr);

private:
    void keep();
    void showToldLength();

    QScreen& screen_;
    QuantityField* length_;
};

} // namespace hasami
