#pragma once

#include "app/document/document.h"
#include "app/document/output_writer.h"

#include <QWidget>

namespace hasami {

class Ledger;
class NestRun;
class OutputsPanel;
class PieceHand;
class PromptLine;
class Shelf;
class SheetSettings;
class SheetView;

/// The second place: medium, copies, marks, and the files that come out.
class SheetPlace : public QWidget {
    Q_OBJECT
public:
    SheetPlace(Document& document, OutputWriter& writer, QWidget* parent = nullptr);

    SheetView& view() { return *view_; }
    Ledger& ledger() { return *ledger_; }
    OutputsPanel& outputs() { return *outputs_; }

    Shelf& shelf() { return *shelf_; }
    NestRun& nest() { return *nest_; }
    PieceHand& hand() { return *hand_; }
    void editProfiles();
    void askForPrice(); ///< of the medium

    /// Says that sheets were added to the queue.
    void sayQueued(std::size_t sheets);

Q_SIGNALS:
    void artworkWanted();
    void stickersWanted();
    void proofWanted();
    void runWanted();
    void queueWanted(); ///< to have the sheets added to the queue

private:
    void showPrompt();

    Document& document_;
    OutputWriter& writer_;
    PromptLine* prompt_;
    NestRun* nest_;
    PieceHand* hand_;
    Shelf* shelf_;
    SheetSettings* settings_;
    SheetView* view_;
    OutputsPanel* outputs_;
    Ledger* ledger_;
};

} // namespace hasami
