#pragma once

#include "app/kit/quantity_field.h"
#include "app/sheet/piece_hand.h"

#include <QWidget>

class QGridLayout;
class QLabel;
class QPushButton;

namespace hasami {

/// What is done to the stickers that are held on the sheet; hidden while none is.
class PiecePanel : public QWidget {
    Q_OBJECT
public:
    explicit PiecePanel(PieceHand& hand, QWidget* parent = nullptr);

private:
    QuantityField* addField(QGridLayout* layout, const char* name, const char* effect, QuantityKind kind,
                            double least, double most, std::function<void(double)> set);
    void showHeld();

    PieceHand& hand_;
    QLabel* heading_;
    QWidget* numbers_;
    QuantityField *along_, *across_, *turn_;
    QPushButton* pin_;
};

} // namespace hasami
