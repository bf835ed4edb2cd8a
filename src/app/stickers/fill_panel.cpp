#include "app/stickers/fill_panel.h"

#include "app/controls/design_controls.h"
#include "app/kit/named.h"
#include "app/paint/artwork_colours.h"
#include "app/stickers/own_controls.h"
#include "app/words/words.h"

#include <QCheckBox>
#include <QComboBox>
#include <QPushButton>
#include <QVBoxLayout>

namespace hasami {

namespace {

/// In the order of the choice, which is that of the variant.
enum FillKind { ofNothing, ofColour, ofGradient, ofPicture };

PaintColour firstColourOf(const Fill& fill) {
    if (const auto* plain = std::get_if<PaintColour>(&fill))
        return *plain;
    if (const auto* graded = std::get_if<Gradient>(&fill))
        return graded->from;
    return blackInk();
}

} // namespace

FillPanel::FillPanel(ItemHand& hand, QWidget* parent)
    : QWidget(parent), hand_(hand),
      colour_(new ColourChoice(N_("Fill colour"), N_("As #RRGGBB, or as inks in percent such as 0 60 100 0"),
                               ColourChoice::Colours::printed)),
      second_(new ColourChoice(N_("Runs into"), N_("The gradient's other colour, as #RRGGBB or as inks"),
                               ColourChoice::Colours::printed)),
      lineColour_(new ColourChoice(N_("Line colour"), N_("Of the printed line, as #RRGGBB or as inks"),
                                   ColourChoice::Colours::printed)),
      picture_(new QWidget), choose_(new QPushButton(tr("Choose a picture…"))),
      pick_(new QPushButton(tr("Take from the artwork"))), place_(new QPushButton(tr("Place on the bench"))) {
    auto* layout = pageLayout(this);
    kind_ = ownChoice(hand, layout, N_("Filled with"),
                      N_("What shows inside: one colour, two that run into each other, or a picture"),
                      {tr("Nothing: cut only"), tr("One colour"), tr("Gradient"), tr("Picture")},
                      [this](OwnArtwork& own, int place) {
                          const PaintColour first = firstColourOf(own.fill);
                          if (place == ofNothing)
                              own.fill = {};
                          else if (place == ofColour)
                              own.fill = first;
                          else if (place == ofGradient)
                              own.fill = Gradient{false, 0, first, {{255, 255, 255, 255}}};
                      });
    connect(kind_, &QComboBox::activated, this, [this](int place) {
        const OwnArtwork* own = hand_.own();
        if (place == ofPicture && own && !std::holds_alternative<PictureFill>(own->fill)) {
            show(*own); // until one is chosen
            Q_EMIT pictureWanted();
        }
    });
    addColours();
    addPicture();
    addLine();
}

void FillPanel::connectColour(ColourChoice& choice, const char* label,
                              const std::function<PaintColour*(OwnArtwork&)>& find) {
    connect(&choice, &ColourChoice::chosen, this, [this, label, find](const PaintColour& chosen) {
        const QString text = QString::fromStdString(paintColourText(chosen));
        hand_.editOwn(tr(label).arg(text), [&](OwnArtwork& own, Job&) {
            if (PaintColour* colour = find(own))
                *colour = chosen;
        });
    });
}

void FillPanel::addColours() {
    auto* layout = static_cast<QVBoxLayout*>(this->layout());
    layout->addWidget(colour_);
    connectColour(*colour_, N_("Fill %1"), [](OwnArtwork& own) -> PaintColour* {
        if (auto* graded = std::get_if<Gradient>(&own.fill))
            return &graded->from;
        return std::get_if<PaintColour>(&own.fill);
    });
    pick_->setObjectName("Take from the artwork");
    pick_->setProperty("role", "small");
    pick_->setCheckable(true);
    pick_->setToolTip(tr("The next click on the bench takes the colour there"));
    connect(pick_, &QPushButton::clicked, &hand_, &ItemHand::setPickingColour);
    layout->addWidget(pick_);
    layout->addWidget(second_);
    connectColour(*second_, N_("Runs into %1"), [](OwnArtwork& own) -> PaintColour* {
        auto* graded = std::get_if<Gradient>(&own.fill);
        return graded ? &graded->to : nullptr;
    });
    radial_ = ownCheck(hand_, layout, N_("From the middle outward"),
                       N_("The gradient runs from the middle to the corners, not from side to side"),
                       [](OwnArtwork& own, bool isOn) {
                           if (auto* graded = std::get_if<Gradient>(&own.fill))
                               graded->isRadial = isOn;
                       });
    angle_ = ownRow(hand_, layout,
                    {N_("Gradient angle"), N_("0: from left to right; clockwise"), QuantityKind::angle, -180,
                     180, -180, 180, 5},
                    [](OwnArtwork& own, double value) {
                        if (auto* graded = std::get_if<Gradient>(&own.fill))
                            graded->angle = value;
                    });
}

void FillPanel::addPicture() {
    auto* layout = pageLayout(picture_);
    choose_->setObjectName("Choose a picture");
    choose_->setProperty("role", "small");
    choose_->setToolTip(tr("A picture or drawing that shows inside only; dropping one on it does the same"));
    connect(choose_, &QPushButton::clicked, this, &FillPanel::pictureWanted);
    layout->addWidget(choose_);
    place_->setObjectName("Place on the bench");
    place_->setProperty("role", "small");
    place_->setCheckable(true);
    place_->setToolTip(tr("Drag the picture inside, or its corners, on the bench; Enter ends it"));
    connect(place_, &QPushButton::clicked, &hand_, &ItemHand::setPlacingPicture);
    layout->addWidget(place_);
    const auto place = [this](OwnArtwork& own, const auto& set) {
        auto* shown = std::get_if<PictureFill>(&own.fill);
        if (!shown)
            return;
        shown->place = hand_.pictureInside().value_or(shown->place); // from where it is seen now
        shown->isFitted = false;
        set(shown->place);
    };
    fitted_ = ownCheck(hand_, layout, N_("Fit the picture"),
                       N_("The picture is as large as covers everything, in the middle, whatever changes"),
                       [](OwnArtwork& own, bool isOn) {
                           if (auto* shown = std::get_if<PictureFill>(&own.fill))
                               shown->isFitted = isOn;
                       });
    left_ = ownRow(
        hand_, layout,
        {N_("Picture from the left"), N_("Where the picture begins inside; negative: further left"),
         QuantityKind::length, -10'000, 10'000, -100, 100, 0.5},
        [place](OwnArtwork& own, double value) { place(own, [&](Placement& at) { at.at.x = value; }); });
    top_ = ownRow(
        hand_, layout,
        {N_("Picture from the top"), N_("Where the picture begins inside; negative: further up"),
         QuantityKind::length, -10'000, 10'000, -100, 100, 0.5},
        [place](OwnArtwork& own, double value) { place(own, [&](Placement& at) { at.at.y = value; }); });
    width_ = ownRow(hand_, layout,
                    {N_("Picture width"), N_("How wide the picture inside is; its height follows"),
                     QuantityKind::length, 1, 10'000, 5, 400, 1},
                    [place](OwnArtwork& own, double value) {
                        place(own, [&](Placement& at) {
                            const Point middle = at.at + Point{at.width, at.height} * 0.5;
                            at.height *= value / at.width;
                            at.width = value;
                            at.at = middle - Point{at.width, at.height} * 0.5;
                        });
                    });
    static_cast<QVBoxLayout*>(this->layout())->addWidget(picture_);
}

void FillPanel::addLine() {
    auto* layout = static_cast<QVBoxLayout*>(this->layout());
    line_ = ownRow(hand_, layout,
                   {N_("Line"), N_("A printed line: around letters, inside a shape's outline"),
                    QuantityKind::length, 0, Limits::mostBorder, 0, 10, 0.1, N_("none")},
                   [](OwnArtwork& own, double value) { own.lineWidth = value; });
    layout->addWidget(lineColour_);
    connectColour(*lineColour_, N_("Line colour %1"),
                  [](OwnArtwork& own) -> PaintColour* { return &own.lineColour; });
}

void FillPanel::show(const OwnArtwork& own) {
    const LengthUnit unit = hand_.document().job().unit;
    const auto kind = FillKind(own.fill.index());
    const Design* design = hand_.document().selectedDesign();
    const std::vector<PaintColour> colours =
        design ? coloursToTake(hand_.document(), *design) : std::vector<PaintColour>();
    kind_->setCurrentIndex(kind);
    colour_->show(firstColourOf(own.fill), colours);
    if (const auto* graded = std::get_if<Gradient>(&own.fill)) {
        second_->show(graded->to, colours);
        radial_->setChecked(graded->isRadial);
        showBoth(*angle_, 0, graded->angle, unit);
    }
    for (const DrawnArea& area : own.drawing->drawing->areas)
        if (const auto* seen = std::get_if<PictureFill>(&area.fill)) {
            fitted_->setChecked(seen->isFitted);
            showBoth(*left_, 0, seen->place.at.x, unit);
            showBoth(*top_, 0, seen->place.at.y, unit);
            showBoth(*width_, own.drawing->drawing->width, seen->place.width, unit);
        }
    showBoth(*line_, 0, own.lineWidth, unit);
    lineColour_->show(own.lineColour, colours);
    const bool isCode = std::holds_alternative<CodeArtwork>(own.what);
    colour_->setVisible(kind == ofColour || kind == ofGradient);
    pick_->setVisible(kind == ofColour || kind == ofGradient);
    pick_->setChecked(hand_.isPickingColour());
    place_->setChecked(hand_.isPlacingPicture());
    for (QWidget* part : std::initializer_list<QWidget*>{second_, radial_})
        part->setVisible(kind == ofGradient);
    angle_->setVisible(kind == ofGradient && !radial_->isChecked());
    picture_->setVisible(kind == ofPicture);
    line_->setVisible(!isCode);
    lineColour_->setVisible(!isCode && own.lineWidth > 0);
}

} // namespace hasami
