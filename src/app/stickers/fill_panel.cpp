#include "app/stickers/fill_panel.h"

#include "app/controls/design_controls.h"
#include "app/kit/named.h"
#include "app/stickers/own_controls.h"
#include "app/words/words.h"
#include "artwork/colour_text.h"

#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QRegularExpression>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

/// In the order of the choice, which is that of the variant.
enum FillKind { ofNothing, ofColour, ofGradient, ofPicture };

PaintColour firstColourOf(const Fill& fill) {
    if (const auto* plain = std::get_if<PaintColour>(&fill))
        return *plain;
    if (const auto* graded = std::get_if<Gradient>(&fill))
        return graded->from;
    return {};
}

QString textOf(const std::array<double, 4>& inks) {
    QStringList parts;
    for (const double ink : inks)
        parts << QString::number(std::lround(ink * 100));
    return parts.join(' ');
}

/// Four percentages; nothing where it is something else.
std::optional<std::array<double, 4>> inksFrom(const QString& text) {
    const QStringList parts = text.split(QRegularExpression("[ ,;%]+"), Qt::SkipEmptyParts);
    if (parts.size() != 4)
        return {};
    std::array<double, 4> inks{};
    for (qsizetype i = 0; i < 4; ++i) {
        bool isNumber = false;
        inks[std::size_t(i)] = parts[i].toDouble(&isNumber) / 100;
        if (!isNumber || inks[std::size_t(i)] < 0 || inks[std::size_t(i)] > 1)
            return {};
    }
    return inks;
}

/// For the screen, as naive as can be: what is printed are the inks.
Rgba shownAs(const std::array<double, 4>& inks) {
    const auto part = [&](double ink) { return std::uint8_t(std::lround(255 * (1 - ink) * (1 - inks[3]))); };
    return {part(inks[0]), part(inks[1]), part(inks[2]), 255};
}

} // namespace

FillPanel::FillPanel(ItemHand& hand, QWidget* parent)
    : QWidget(parent), hand_(hand),
      colour_(
          new ColourChoice(N_("Fill colour"), N_("As #RRGGBB; with inks or a spot colour named, it is for "
                                                 "the screen"))),
      second_(new ColourChoice(N_("Runs into"), N_("The gradient's other colour, as #RRGGBB"))),
      lineColour_(new ColourChoice(N_("Line colour"), N_("Of the printed line, as #RRGGBB"))),
      inks_(new QLineEdit), spot_(new QLineEdit), named_(new QWidget), picture_(new QWidget),
      choose_(new QPushButton(tr("Choose a picture…"))), pick_(new QPushButton(tr("Take from the artwork"))),
      place_(new QPushButton(tr("Place on the bench"))) {
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

void FillPanel::setColour(const QString& label, const std::function<void(OwnArtwork&)>& set) {
    hand_.editOwn(label, [&](OwnArtwork& own, Job&) { set(own); });
}

void FillPanel::addColours() {
    auto* layout = static_cast<QVBoxLayout*>(this->layout());
    layout->addWidget(colour_);
    connect(colour_, &ColourChoice::chosen, this, [this](Rgba chosen) {
        setColour(tr("Fill %1").arg(QString::fromStdString(colourText(chosen))), [&](OwnArtwork& own) {
            if (auto* graded = std::get_if<Gradient>(&own.fill))
                graded->from.shown = chosen;
            else if (auto* plain = std::get_if<PaintColour>(&own.fill))
                plain->shown = chosen;
        });
    });
    pick_->setObjectName("Take from the artwork");
    pick_->setProperty("role", "small");
    pick_->setCheckable(true);
    pick_->setToolTip(tr("The next click on the bench takes the colour there"));
    connect(pick_, &QPushButton::clicked, &hand_, &ItemHand::setPickingColour);
    layout->addWidget(pick_);
    auto* grid = new QGridLayout(named_);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setSpacing(6);
    grid->addWidget(
        labelOf(*inks_, N_("Inks"),
                N_("Cyan, magenta, yellow and black in percent, such as 0 60 100 0; empty: as RGB"),
                " field"),
        0, 0);
    grid->addWidget(inks_, 0, 1);
    grid->addWidget(labelOf(*spot_, N_("Spot colour"),
                            N_("The name under which the printer's software knows the colour; empty: none"),
                            " field"),
                    1, 0);
    grid->addWidget(spot_, 1, 1);
    inks_->setPlaceholderText(tr("as RGB"));
    spot_->setPlaceholderText(tr("none"));
    spot_->setMaxLength(100);
    layout->addWidget(named_);
    connect(inks_, &QLineEdit::editingFinished, this, [this] {
        if (!inks_->isModified())
            return; // it is left as it was shown, rounded
        inks_->setModified(false);
        const QString text = inks_->text().trimmed();
        const auto inks = inksFrom(text);
        if (const OwnArtwork* own = hand_.own(); own && !inks && !text.isEmpty())
            return show(*own); // what can't be read goes back
        setColour(text.isEmpty() ? tr("Fill as RGB") : tr("Fill in inks %1").arg(text), [&](OwnArtwork& own) {
            if (auto* plain = std::get_if<PaintColour>(&own.fill)) {
                plain->inks = inks;
                if (inks)
                    plain->shown = shownAs(*inks);
            }
        });
    });
    connect(spot_, &QLineEdit::editingFinished, this, [this] {
        if (!spot_->isModified())
            return;
        spot_->setModified(false);
        const QString name = spot_->text().trimmed();
        setColour(name.isEmpty() ? tr("No spot colour") : tr("Spot colour %1").arg(name),
                  [&](OwnArtwork& own) {
                      if (auto* plain = std::get_if<PaintColour>(&own.fill))
                          plain->spot = name.toStdString();
                  });
    });
    layout->addWidget(second_);
    connect(second_, &ColourChoice::chosen, this, [this](Rgba chosen) {
        setColour(tr("Runs into %1").arg(QString::fromStdString(colourText(chosen))), [&](OwnArtwork& own) {
            if (auto* graded = std::get_if<Gradient>(&own.fill))
                graded->to.shown = chosen;
        });
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
    connect(lineColour_, &ColourChoice::chosen, this, [this](Rgba chosen) {
        setColour(tr("Line colour %1").arg(QString::fromStdString(colourText(chosen))),
                  [&](OwnArtwork& own) { own.lineColour.shown = chosen; });
    });
}

/// The colours that the job's own artwork has.
std::vector<Rgba> FillPanel::palette() const {
    constexpr std::size_t most = 8;
    std::vector<Rgba> colours;
    const auto add = [&](const PaintColour& one) {
        if (colours.size() < most && std::ranges::find(colours, one.shown) == colours.end())
            colours.push_back(one.shown);
    };
    for (const Design& design : hand_.document().job().designs)
        for (const Item& item : design.artwork.items)
            if (const OwnArtwork* own = item.own()) {
                if (const auto* plain = std::get_if<PaintColour>(&own->fill))
                    add(*plain);
                if (const auto* graded = std::get_if<Gradient>(&own->fill)) {
                    add(graded->from);
                    add(graded->to);
                }
                if (own->lineWidth > 0)
                    add(own->lineColour);
            }
    return colours;
}

void FillPanel::showColour(const PaintColour& shown) {
    if (!(inks_->hasFocus() && inks_->isModified()))
        inks_->setText(shown.inks ? textOf(*shown.inks) : QString());
    if (!(spot_->hasFocus() && spot_->isModified()))
        spot_->setText(QString::fromStdString(shown.spot));
}

void FillPanel::show(const OwnArtwork& own) {
    const LengthUnit unit = hand_.document().job().unit;
    const auto kind = FillKind(own.fill.index());
    const std::vector<Rgba> colours = palette();
    kind_->setCurrentIndex(kind);
    colour_->show(firstColourOf(own.fill).shown, colours);
    if (const auto* plain = std::get_if<PaintColour>(&own.fill))
        showColour(*plain);
    if (const auto* graded = std::get_if<Gradient>(&own.fill)) {
        second_->show(graded->to.shown, colours);
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
    lineColour_->show(own.lineColour.shown, colours);
    const bool isCode = std::holds_alternative<CodeArtwork>(own.what);
    colour_->setVisible(kind == ofColour || kind == ofGradient);
    pick_->setVisible(kind == ofColour || kind == ofGradient);
    pick_->setChecked(hand_.isPickingColour());
    place_->setChecked(hand_.isPlacingPicture());
    named_->setVisible(kind == ofColour);
    for (QWidget* part : std::initializer_list<QWidget*>{second_, radial_})
        part->setVisible(kind == ofGradient);
    angle_->setVisible(kind == ofGradient && !radial_->isChecked());
    picture_->setVisible(kind == ofPicture);
    line_->setVisible(!isCode);
    lineColour_->setVisible(!isCode && own.lineWidth > 0);
}

} // namespace hasami
