#pragma once

#include "app/kit/colour_choice.h"
#include "app/kit/quantity_row.h"
#include "app/stickers/item_hand.h"

#include <QWidget>

class QCheckBox;
class QComboBox;
class QLineEdit;
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
    void setColour(const QString& label, const std::function<void(OwnArtwork&)>& set);
    void showColour(const PaintColour& colour);
    std::vector<Rgba> palette() const;

    ItemHand& hand_;
    QComboBox* kind_;
    ColourChoice *colour_, *second_, *lineColour_;
    QLineEdit *inks_, *spot_;
    QWidget *named_, *picture_;
    QCheckBox *radial_, *fitted_;
    QuantityRow *angle_, *left_, *top_, *width_, *line_;
    QPushButton *choose_, *pick_, *place_;
};

} // namespace hasami
