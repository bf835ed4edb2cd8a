#pragma once

#include "app/kit/quantity_row.h"
#include "app/stickers/item_hand.h"

#include <QWidget>

class QComboBox;

namespace hasami {

/// The form of a shape and its exact size.
class FigurePanel : public QWidget {
    Q_OBJECT
public:
    explicit FigurePanel(ItemHand& hand, QWidget* parent = nullptr);

    void show(const OwnArtwork& own);
    QuantityRow& mainNumber() { return *width_; }

private:
    ItemHand& hand_;
    QComboBox* form_;
    QuantityRow *width_, *height_, *radius_, *points_, *inner_, *hole_, *holeAcross_, *holeDown_;
};

/// The forms in the order of choices, and what they are called (English, marked by N_()).
const std::vector<std::pair<FigureKind, const char*>>& figureNames();

} // namespace hasami
