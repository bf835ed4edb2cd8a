#include "app/stickers/bleed_page.h"

#include "app/controls/design_controls.h"
#include "app/document/step_state.h"
#include "app/kit/colour_choice.h"
#include "app/paint/artwork_colours.h"
#include "app/words/words.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QVBoxLayout>

namespace hasami {

namespace {

QStringList sourceNames() {
    return translatedList(
        {N_("As the artwork is at its edge"), N_("As the artwork is at the cut line"), N_("One colour")});
}
enum Source { atEdge, atCutLine, oneColour };

/// The start value for work of this size.
double startAmount(const Design& design) {
    const Box box = bounds(design.artwork);
    return startingFor(design.recipe.use, {}, std::max(box.width(), box.height())).bleed.amount;
}

} // namespace

BleedPage::BleedPage(Document& document, QWidget* parent)
    : StepPage(document, parent),
      colour_(new ColourChoice(N_("Bleed colour"),
                               N_("What is printed past the cut line, as #RRGGBB or as inks in percent"),
                               ColourChoice::Colours::printed)),
      trims_(new QCheckBox(tr("Leave out what reaches farther"))),
      shown_(new QCheckBox(tr("Show it on the bench"))), text_(quietText()) {
    auto* layout = pageLayout(this);
    amount_ = designRow(
        document,
        {N_("Bleed"),
         N_("How far ink goes on past the cut line, so that a cut that is a little off shows no white"),
         QuantityKind::length, 0, Limits::mostBleed, 0, 10, 0.25, N_("none")},
        N_("Bleed"), [](Design& design, double value) { design.recipe.bleed.amount = value; });
    layout->addWidget(amount_);
    source_ = designChoice(document, layout, N_("Colours"), N_("What the bleed is printed in"), sourceNames(),
                           [](Design& design, int place) {
                               BleedRecipe& bleed = design.recipe.bleed;
                               bleed.colour = place == oneColour ? std::optional(design.recipe.border.colour)
                                                                 : std::nullopt;
                               bleed.source = place == atCutLine ? BleedSource::cutLine : BleedSource::edge;
                           });
    source_->setToolTip(
        tr("At the cut line: for artwork with a pale fringe wider than 0.3 mm inside its edge; set the line "
           "inside the fringe, and all outside it is printed over"));
    source_->setObjectName("Bleed colours choice");
    layout->addWidget(colour_);
    layout->addWidget(trims_);
    layout->addWidget(shown_);
    shown_->setObjectName("Show bleed");
    shown_->setToolTip(tr("Only for the eye: the print with its bleed, or without it"));
    shown_->setChecked(true);
    connect(shown_, &QCheckBox::toggled, this, &BleedPage::shownChanged);
    layout->addWidget(text_);
    layout->addStretch(1);
    connect(colour_, &ColourChoice::chosen, this, [this](const PaintColour& colour) {
        const std::string id = this->document().selected();
        this->document().endRun();
        this->document().change(tr("Bleed colour"), [&](Job& job) {
            if (Design* design = job.find(id))
                design->recipe.bleed.colour = colour;
        });
    });
    trims_->setObjectName("Leave out what reaches farther");
    trims_->setToolTip(tr(
        "Artwork past the bleed, and a backdrop, is not printed: it saves ink and lets stickers lie closer"));
    connect(trims_, &QCheckBox::clicked, this, [this](bool checked) {
        const std::string id = this->document().selected();
        this->document().endRun();
        this->document().change(
            checked ? tr("Leave out what reaches farther") : tr("Print what reaches farther"), [&](Job& job) {
                if (Design* design = job.find(id))
                    design->recipe.bleed.trims = checked;
            });
    });
}

void BleedPage::showDesign(const Design& design, const MadeDesign* made) {
    const BleedRecipe& bleed = design.recipe.bleed;
    amount_->setUnit(document().job().unit);
    amount_->setStart(startAmount(design));
    amount_->show(bleed.amount);
    source_->setCurrentIndex(bleed.colour                           ? oneColour
                             : bleed.source == BleedSource::cutLine ? atCutLine
                                                                    : atEdge);
    source_->setEnabled(bleed.amount > 0 && design.recipe.border.width == 0);
    colour_->setVisible(bleed.colour.has_value());
    if (bleed.colour)
        colour_->show(*bleed.colour, coloursToTake(document(), design));
    trims_->setChecked(bleed.trims);
    showMade(design, made);
}

void BleedPage::showMade(const Design& design, const MadeDesign* made) {
    if (!isMadeFor(RecipeStep::bleed, design, made))
        return text_->setText(tr("The bleed is being made…"));
    const Sticker& sticker = *made->sticker;
    QStringList says;
    if (sticker.isEmpty())
        says << tr("There is no cut line to print past.");
    else if (design.recipe.bleed.amount <= 0)
        says << tr("Nothing is printed past the cut line: where the cut is a little off, white shows.");
    else if (sticker.border)
        says << tr("The border's colour goes on past the cut line.");
    else if (sticker.bleed && !sticker.bleed->source.empty())
        says << tr("The artwork's colours at the cut line go on past it, over all that lies outside.");
    else if (sticker.bleed)
        says << (sticker.bleed->isOver
                     ? tr("The artwork's colours go on over its backdrop, which is left out.")
                     : tr("The artwork's colours go on past the cut line."));
    else
        says << tr("None is needed: the cut line runs on white, or far enough inside the print.");
    if (!sticker.within.empty() && !sticker.bleed)
        says << tr("What reaches past the bleed is not printed.");
    text_->setText(says.join(" "));
}

} // namespace hasami
