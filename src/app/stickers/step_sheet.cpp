#include "app/stickers/step_sheet.h"

#include "app/controls/design_controls.h"
#include "app/stickers/artwork_page.h"
#include "app/stickers/bleed_page.h"
#include "app/stickers/border_page.h"
#include "app/stickers/cut_lines_page.h"
#include "app/stickers/edge_page.h"
#include "app/words/words.h"

#include <QLabel>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace hasami {

StepSheet::StepSheet(Document& document, TouchUpHand& hand, ItemHand& items, LetteringHand& lettering,
                     QWidget* parent)
    : QFrame(parent), document_(document), hand_(hand), items_(items), lettering_(lettering),
      heading_(new QLabel), stack_(new QStackedWidget) {
    setProperty("role", "panel");
    setFixedWidth(272);
    heading_->setProperty("role", "heading");
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 12, 16, 12);
    layout->setSpacing(12);
    layout->addWidget(heading_);
    layout->addWidget(stack_, 1);
    connect(&document, &Document::jobChanged, this, &StepSheet::showJob);
    connect(&document, &Document::madeChanged, this, &StepSheet::showJob);
    connect(&document, &Document::selectionChanged, this, &StepSheet::showJob);
    connect(&document.pictures(), &PictureCache::ready, this, &StepSheet::showJob);
    setStep(step_);
}

StepPage* StepSheet::makePage(RecipeStep step) {
    switch (step) {
    case RecipeStep::artwork: {
        auto* artwork = new ArtworkPage(document_, items_, lettering_);
        connect(artwork, &ArtworkPage::moreArtworkWanted, this, &StepSheet::moreArtworkWanted);
        connect(artwork, &ArtworkPage::pictureWanted, this, &StepSheet::pictureWanted);
        return artwork;
    }
    case RecipeStep::edge:
        return new EdgePage(document_, hand_);
    case RecipeStep::border:
        return new BorderPage(document_);
    case RecipeStep::cutLines: {
        auto* lines = new CutLinesPage(document_);
        connect(lines, &CutLinesPage::lineChosen, this, [this, lines] { Q_EMIT lineChosen(lines->line()); });
        return lines;
    }
    case RecipeStep::bleed: {
        auto* bleed = new BleedPage(document_);
        connect(bleed, &BleedPage::shownChanged, this, &StepSheet::bleedShown);
        return bleed;
    }
    case RecipeStep::inks:
        break;
    }
    auto* inks = new InksPage(document_);
    connect(inks, &InksPage::lookChanged, this, &StepSheet::lookChanged);
    return inks;
}

void StepSheet::setStep(RecipeStep step) {
    step_ = step;
    heading_->setText(tr(stepName(step)));
    if (!pages_.contains(step)) {
        StepPage* page = makePage(step);
        pages_[step] = {page, scrolledPage(page)};
        stack_->addWidget(pages_[step].scrolled);
    }
    stack_->setCurrentWidget(pages_[step].scrolled);
    showJob();
}

/// REQUIRES: the step is the artwork's.
void StepSheet::editName() {
    static_cast<ArtworkPage&>(page()).editName();
}

/// REQUIRES: the step is that of the inks.
void StepSheet::takeInkColour(Rgba colour) {
    static_cast<InksPage&>(page()).takeColour(colour);
}

void StepSheet::stepMainNumber(int by) {
    if (document_.selectedDesign())
        page().mainNumber().step(by);
}

bool StepSheet::hasSecondNumber() const {
    return page().secondNumber() != nullptr;
}

void StepSheet::stepSecondNumber(int by) {
    if (document_.selectedDesign() && hasSecondNumber())
        page().secondNumber()->step(by);
}

void StepSheet::showJob() {
    const Design* design = document_.selectedDesign();
    stack_->setVisible(design != nullptr);
    heading_->setVisible(design != nullptr);
    if (design && isVisible())
        page().showDesign(*design, document_.newest(design->id));
}

void StepSheet::showEvent(QShowEvent* event) {
    QFrame::showEvent(event);
    showJob();
}

} // namespace hasami
