#include "app/stickers/border_page.h"

#include "app/controls/design_controls.h"
#include "app/kit/colour_choice.h"
#include "app/paint/artwork_colours.h"
#include "app/words/words.h"

#include <QCheckBox>
#include <QLabel>
#include <QVBoxLayout>

namespace hasami {

BorderPage::BorderPage(Document& document, QWidget* parent)
    : StepPage(document, parent),
      colour_(
          new ColourChoice(N_("Colour"),
                           N_("What the band is printed in, as #RRGGBB or as inks in percent; a click on the "
                              "artwork takes its colour"),
                           ColourChoice::Colours::printed)),
      openings_(new QCheckBox(tr("Around openings too"))), text_(quietText()) {
    width_ =
        designRow(document,
                  {N_("Width"), N_("How wide the band looks once the sticker is cut"), QuantityKind::length,
                   0, Limits::mostBorder, 0, 15, 0.25, N_("none")},
                  N_("Border"), [](Design& design, double value) { design.recipe.border.width = value; });
    connect(colour_, &ColourChoice::chosen, this,
            [this](const PaintColour& colour) { setBorderColour(this->document(), colour); });
    openings_->setObjectName("Around openings too");
    openings_->setToolTip(tr("The band also runs around the openings of a ring, on their inside"));
    connect(openings_, &QCheckBox::clicked, this, [this](bool checked) {
        const std::string id = this->document().selected();
        this->document().endRun();
        this->document().change(
            checked ? tr("Border around openings too") : tr("Border on the outside alone"), [&](Job& job) {
                if (Design* design = job.find(id))
                    design->recipe.border.onOpenings = checked;
            });
    });
    auto* layout = pageLayout(this);
    layout->addWidget(width_);
    layout->addWidget(colour_);
    layout->addWidget(openings_);
    layout->addWidget(text_);
    layout->addStretch(1);
}

void BorderPage::showDesign(const Design& design, const MadeDesign*) {
    const Border& border = design.recipe.border;
    const LengthUnit unit = document().job().unit;
    width_->setUnit(unit);
    width_->setStart(Border{}.width);
    width_->show(border.width);
    colour_->show(border.colour, coloursToTake(document(), design));
    openings_->setChecked(border.onOpenings);
    openings_->setEnabled(border.width > 0);
    const double hidden = hiddenBorder(design.recipe);
    const auto inUnit = [&](double length) { return quantityText(length, QuantityKind::length, unit); };
    if (border.width <= 0)
        text_->setText(tr("No band is printed. A white margin needs none: it is the cut line's offset."));
    else if (hidden > 0)
        text_->setText(tr("Printed %1 wide: the cut line stays %2 inside its rim, and %3 is seen.")
                           .arg(inUnit(border.width + hidden), inUnit(hidden), inUnit(border.width)));
    else
        text_->setText(
            tr("An inward offset of the cut line prints the band wider by as much, so that no white "
               "shows where the cut is a little off."));
}

} // namespace hasami
