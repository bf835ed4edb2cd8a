#pragma once

#include "app/controls/settings_group.h"

#include <QLineEdit>

class QPushButton;
class QToolButton;

namespace hasami {

/// What is printed on: a roll or sheets, what of it can be used, and its price.
class MediumPanel : public SettingsGroup {
    Q_OBJECT
public:
    explicit MediumPanel(Document& document, QWidget* parent = nullptr);

    /// While on, used areas are drawn on the sheet.
    QPushButton& usedAreas() { return *used_; }
    QuantityField& price() { return *price_; }

private:
    void addMore();
    void chooseKind(int kind);
    void takeTracks();
    void showJob();
    int kindNow() const;

    QComboBox* kind_;
    QuantityField *width_, *length_, *rollLength_, *price_, *start_, *end_, *margin_, *firstSide_, *lastSide_;
    QPushButton *turn_, *used_, *forget_;
    class ColourChoice* colour_;
    QCheckBox* clear_;
    QLabel* tracksName_;
    QLineEdit* tracks_;
    class QToolButton* more_;
    bool ownSize_ = false; ///< "Own size" stays chosen although the numbers are those of a named one
};

} // namespace hasami
