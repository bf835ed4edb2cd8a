#pragma once

#include "app/document.h"
#include "app/quantity_field.h"

#include <QFrame>

class QComboBox;
class QLabel;

namespace hasami {

/// The sheet's settings in three groups: medium, packing, marks.
class SheetSettings : public QFrame {
    Q_OBJECT
public:
    explicit SheetSettings(Document& document, QWidget* parent = nullptr);

private:
    QWidget* mediumGroup();
    QWidget* packingGroup();
    QWidget* marksGroup();
    void chooseKind(int kind);
    void showJob();

    Document& document_;
    QComboBox* kind_;
    QuantityField *width_, *length_, *count_, *gap_;
    QLabel *lengthLabel_, *countLabel_, *marks_;
    bool ownSize_ = false; ///< "Own size" stays chosen although the numbers are those of a named one
};

} // namespace hasami
