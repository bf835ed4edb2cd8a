#pragma once

#include "app/document.h"
#include "app/quantity_field.h"

#include <QFrame>

#include <functional>

class QComboBox;
class QGridLayout;
class QLabel;

namespace hasami {

/// The sheet's settings in groups: medium, packing, the box that its stickers share, marks, machine.
class SheetSettings : public QFrame {
    Q_OBJECT
public:
    explicit SheetSettings(Document& document, QWidget* parent = nullptr);

private:
    QWidget* mediumGroup();
    QWidget* packingGroup();
    QWidget* boxGroup();
    QWidget* marksGroup();
    void chooseKind(int kind);
    void chooseBox(int place);
    void changeBox(const QString& label, const std::function<void(SharedBox&)>& change);
    void showJob();
    void showBox();

    Document& document_;
    QComboBox *kind_, *box_;
    QuantityField *width_, *length_, *count_, *gap_, *boxMargin_ = nullptr, *boxRadius_ = nullptr,
                                                     *boxTabs_ = nullptr, *boxTab_ = nullptr;
    QLabel *lengthLabel_, *countLabel_, *marks_;
    bool ownSize_ = false; ///< "Own size" stays chosen although the numbers are those of a named one
};

} // namespace hasami
