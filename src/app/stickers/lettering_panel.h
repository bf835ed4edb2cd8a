#pragma once

#include "app/kit/quantity_row.h"
#include "app/stickers/lettering_hand.h"

#include <QWidget>

class QCheckBox;
class QComboBox;
class QPlainTextEdit;
class QPushButton;

namespace hasami {

class FontChooser;

/// What lettering says, its font, and how its letters stand.
class LetteringPanel : public QWidget {
    Q_OBJECT
public:
    explicit LetteringPanel(LetteringHand& hand, QWidget* parent = nullptr);

    void show(const OwnArtwork& own);
    QuantityRow& mainNumber() { return *capHeight_; }

private:
    QWidget* makeText();
    QWidget* makeFont();
    void addRows();
    void addForms();
    void takeText();
    void chooseFont();
    void setFont(const KnownFont& font);

    LetteringHand& hand_;
    QPlainTextEdit* text_;
    QPushButton* font_;
    FontChooser* fonts_ = nullptr; ///< made when it is first wanted
    QuantityRow *capHeight_ = nullptr, *closeness_ = nullptr, *letterSpace_ = nullptr, *lineSpace_ = nullptr,
                *weight_ = nullptr, *slant_ = nullptr, *fitWidth_ = nullptr, *arcRadius_ = nullptr,
                *arcSpread_ = nullptr;
    QComboBox *alignment_ = nullptr, *course_ = nullptr;
    QCheckBox *welded_ = nullptr, *counters_ = nullptr;
    QPushButton* pick_ = nullptr;
    bool isShowing_ = false;
};

} // namespace hasami
