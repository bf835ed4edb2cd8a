#pragma once

#include "app/stickers/code_panel.h"
#include "app/stickers/figure_panel.h"
#include "app/stickers/fill_panel.h"
#include "app/stickers/item_hand.h"
#include "app/stickers/lettering_panel.h"
#include "app/stickers/parts_panel.h"
#include "app/stickers/step_page.h"

class QCheckBox;
class QGridLayout;
class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;
class QSpinBox;
class QVBoxLayout;

namespace hasami {

/// What the sticker shows: its name, its artworks, and the place and size of what is held of them.
class ArtworkPage : public StepPage {
    Q_OBJECT
public:
    ArtworkPage(Document& document, ItemHand& hand, LetteringHand& lettering, QWidget* parent = nullptr);

    void showDesign(const Design& design, const MadeDesign* made) override;
    QuantityRow& mainNumber() override;
    QuantityRow* secondNumber() override { return turn_; }

    /// Lets one type another name for the design.
    void editName();

Q_SIGNALS:
    void moreArtworkWanted(); ///< to be laid on what the design shows
    void pictureWanted();     ///< to be shown inside the artwork held

private:
    QWidget* makeName();
    QWidget* makePages();
    QWidget* makeItems();
    QWidget* makeAddition();
    QWidget* makeOwn();
    void takeHeld(); ///< from the list
    QWidget* makeSizes();
    QWidget* makePlaces();
    QWidget* makeTurns();
    QWidget* makeCrops();
    QWidget* makeAlignments();
    QPushButton* addButton(QGridLayout& grid, const char* name, const char* effect,
                           const std::function<void()>& act, int columns = 2);
    QWidget* addField(QuantityField& field, const char* name, const char* effect,
                      void (ItemHand::*set)(double, const QString&));
    QuantityRow* addRow(const QuantityRow::Description& description,
                        void (ItemHand::*set)(double, const QString&));
    void showItems(const Design& design);
    void showOwn();
    void showHeld(const Design& design, const MadeDesign* made);

    ItemHand& hand_;
    LetteringHand& lettering_;
    QLineEdit* name_;
    QLabel* resolution_;
    QWidget* pages_; ///< which page of a file that has several
    QSpinBox* page_;
    QWidget* several_; ///< what there is to choose of several artworks
    QListWidget* items_;
    QuantityRow *width_, *turn_;
    QuantityField *height_, *percent_, *left_, *top_;
    QWidget* places_; ///< of one of several
    QWidget* percentBox_;
    QCheckBox* ratio_;
    QWidget *own_, *sizes_, *crops_; ///< the panels of own artwork; sizes that those don't have; cropping, of
                                     ///< files alone
    LetteringPanel* letteringPanel_ = nullptr;
    FigurePanel* figurePanel_ = nullptr;
    CodePanel* codePanel_ = nullptr;
    FillPanel* fillPanel_ = nullptr; ///< all four are made when they are first needed
    QPushButton* alignments_;
    PartsPanel* splitting_;
    QPushButton *crop_, *margins_, *all_, *forward_, *backward_, *takeOut_, *group_, *lock_, *shape_;
    QCheckBox* background_;
    QAction *gapsAcross_, *gapsDown_;
};

} // namespace hasami
