#pragma once

#include "app/document/document.h"

#include <QWidget>

namespace hasami {

class Bench;
class ItemHand;
class LetteringHand;
class TouchUpHand;
class MakingStrip;
class PromptLine;
class Shelf;
class StepSheet;
class ViewBar;

/// The first place: designs and their recipes. Shelf, bench, making strip, step sheet.
class StickersPlace : public QWidget {
    Q_OBJECT
public:
    explicit StickersPlace(Document& document, QWidget* parent = nullptr);

    Bench& bench() { return *bench_; }
    MakingStrip& strip() { return *strip_; }
    ItemHand& items() { return *items_; }
    LetteringHand& lettering() { return *lettering_; }
    StepSheet& stepSheet() { return *stepSheet_; }
    ViewBar& views() { return *views_; }

    Shelf& shelf() { return *shelf_; }

Q_SIGNALS:
    void artworkWanted();
    void pictureWanted();     ///< to be shown inside the artwork held
    void moreArtworkWanted(); ///< on the selected design
    void demoWanted();
    void sheetWanted();

private:
    void showPrompt();

    Document& document_;
    PromptLine* prompt_;
    Shelf* shelf_;
    TouchUpHand* hand_;
    ItemHand* items_;
    LetteringHand* lettering_;
    ViewBar* views_;
    Bench* bench_;
    MakingStrip* strip_;
    StepSheet* stepSheet_;
    QWidget* welcome_;
};

} // namespace hasami
