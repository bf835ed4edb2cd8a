#pragma once

#include "app/kit/colour_choice.h"
#include "app/kit/quantity_row.h"
#include "app/stickers/item_hand.h"

#include <QWidget>

#include <functional>

class QCheckBox;
class QComboBox;
class QPushButton;

namespace hasami {

/// What own artwork is filled with: one colour, a gradient, a picture or nothing, and the line around it.
class FillPanel : public QWidget {
    Q_OBJECT
public:
    explicit FillPanel(ItemHand& hand, QWidget* parent = nullptr);

    void show(const OwnArtwork& own);

Q_SIGNALS:
    void pictureWanted(); ///< to be shown inside

private:
    void addColours();
    void addPicture();
    void addLine();
    /// `label` of the change, "%1" for the colour; `find`: nullptr where there is none now.
    void connectColour(ColourChoice& choice, const char* label,
                       const std::function<PaintColour*(OwnArtwork&)>& find);

    ItemHand& hand_;
    QComboBox* kind_;
    ColourChoice *colour_, *second_, *lineColour_;
    QWidget* picture_;
    QCheckBox *radial_, *fitted_;
    QuantityRow *angle_, *left_, *top_, *width_, *line_;
    QPushButton *choose_, *pick_, *place_;
};

} // namespace hasami
