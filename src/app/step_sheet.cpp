#include "app/step_sheet.h"

#include "app/artwork_page.h"
#include "app/bleed_page.h"
#include "app/border_page.h"
#include "app/cut_lines_page.h"
#include "app/design_controls.h"
#include "app/edge_page.h"
#include "app/inks_page.h"

#include <QLabel>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace hasami {

StepSheet::StepSheet(Document& document, TouchUpHand& hand, ItemHand& items, QWidget* parent)
    : QFrame(parent), document_(document), heading_(new QLabel), pages_(new QStackedWidget),
      artwork_(new ArtworkPage(document, items)), byStep_{artwork_,
                                                          new EdgePage(document, hand),
                                                          new BorderPage(document),
                                                          cutLines_ = new CutLinesPage(document),
                                                          bleed_ = new BleedPage(document),
                                                          inks_ = new InksPage(document)} {
    setProperty("role", "panel");
    setFixedWidth(272);
    heading_->setProperty("role", "heading");
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 12, 16, 12);
    layout->setSpacing(12);
    layout->addWidget(heading_);
    layout->addWidget(pages_, 1);
    for (StepPage* page : byStep_)
        pages_->addWidget(scrolledPage(page));
    connect(&document, &Document::jobChanged, this, &StepSheet::showJob);
    connect(&document, &Document::madeChanged, this, &StepSheet::showJob);
    connect(&document, &Document::selectionChanged, this, &StepSheet::showJob);
    connect(artwork_, &ArtworkPage::moreArtworkWanted, this, &StepSheet::moreArtworkWanted);
    setStep(step_);
    showJob();
}

void StepSheet::setStep(RecipeStep step) {
    step_ = step;
    heading_->setText(stepName(step));
    pages_->setCurrentIndex(int(step));
}

void StepSheet::editName() {
    artwork_->editName();
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
    pages_->setVisible(design != nullptr);
    heading_->setVisible(design != nullptr);
    if (!design)
        return;
    for (StepPage* page : byStep_)
        page->showDesign(*design, document_.newest(design->id));
}

} // namespace hasami
