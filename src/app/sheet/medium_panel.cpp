#include "app/sheet/medium_panel.h"

#include "app/kit/colour_choice.h"
#include "app/kit/theme.h"
#include "app/kit/tracks_text.h"
#include "app/words/words.h"
#include "base/number_text.h"
#include "geometry/length_text.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>

#include <algorithm>

namespace hasami {

namespace {

constexpr Rgba white{255, 255, 255, 255};
constexpr int roll = 0, firstNamed = 1, ownSize = firstNamed + int(namedSheets.size());

QStringList kinds() {
    QStringList names{tr("Roll")};
    for (const NamedSheet& sheet : namedSheets)
        names << tr("Sheet %1").arg(sheet.name);
    return names << tr("Sheet of own size");
}

} // namespace

MediumPanel::MediumPanel(Document& document, QWidget* parent)
    : SettingsGroup(document, N_("Medium"), parent) {
    kind_ = addChoice(N_("Medium kind"), N_("A roll is used as far as needed; of sheets, as many as needed"),
                      kinds(), [this](int kind) { chooseKind(kind); });
    kind_->setAccessibleName(tr("Kind of medium"));
    width_ = addNumber(N_("Medium width"), N_("How wide the medium is, across the way it is fed"),
                       QuantityKind::length, Limits::leastMedium, Limits::mostMedium,
                       [](Job& job, double value) { job.plan.medium.width = value; });
    length_ = addNumber(N_("Medium length"), N_("How long a sheet is, along the way it is fed"),
                        QuantityKind::length, Limits::leastMedium, Limits::mostMedium,
                        [](Job& job, double value) { job.plan.medium.length = value; });
    rollLength_ =
        addNumber(N_("Length on the roll"), N_("What does not fit on this much goes on another roll"),
                  QuantityKind::length, 0, Limits::mostMedium, [](Job& job, double value) {
                      job.plan.medium.rollLength =
                          value > 0 ? std::optional(std::max(value, Limits::leastMedium)) : std::nullopt;
                  });
    rollLength_->setZeroWord(tr("no limit"));
    turn_ = new QPushButton(tr("Turn the sheet"));
    turn_->setObjectName("Turn the sheet");
    turn_->setToolTip(tr("Feed it in by its other side: width and length change places"));
    connect(turn_, &QPushButton::clicked, this, [this] {
        document_.endRun();
        document_.change(tr("Turn the sheet"), [](Job& job) {
            if (Medium& medium = job.plan.medium; medium.length)
                std::swap(medium.width, *medium.length);
        });
    });
    addWide(turn_);
    price_ = addNumber(N_("Price"), N_("Of a metre of the roll, or of one sheet"), QuantityKind::number, 0,
                       Limits::mostPrice, [](Job& job, double value) { job.plan.medium.price = value; });
    price_->setZeroWord(tr("not known"));
    colour_ = new ColourChoice(N_("Medium colour"), N_("What shows where nothing is printed"),
                               ColourChoice::Colours::seen);
    connect(colour_, &ColourChoice::chosen, this, [this](const PaintColour& chosen) {
        const Rgba colour = chosen.shown;
        document_.endRun();
        document_.change(tr("Medium colour"), [&](Job& job) {
            job.plan.medium.colour = colour == white ? std::nullopt : std::optional(colour);
        });
    });
    addWide(colour_);
    clear_ = addCheck(N_("Clear film"), N_("What is behind the stickers shows where nothing is printed"),
                      [](Job& job, bool isOn) { job.plan.medium.isClear = isOn; });
    addMore();
    connect(&document, &Document::jobChanged, this, &MediumPanel::showJob);
    showJob();
}

void MediumPanel::addMore() {
    more_ = new QToolButton;
    more_->setText(tr("What can be used of it"));
    more_->setObjectName("More of the medium");
    more_->setToolTip(tr("Where it begins, its sides, tracks of rollers, what is used up already"));
    more_->setCheckable(true);
    more_->setArrowType(Qt::RightArrow);
    more_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    connect(more_, &QToolButton::clicked, this, &MediumPanel::showJob);
    addWide(more_);
    const auto length = [this](const char* name, const char* effect, auto set) {
        return addNumber(name, effect, QuantityKind::length, 0, Limits::mostGap, set);
    };
    start_ = addNumber(N_("Begins at"), N_("What lies before this is used up already"), QuantityKind::length,
                       0, Limits::mostMedium, [](Job& job, double value) { job.plan.medium.start = value; });
    end_ = length(N_("Left behind the work"),
                  N_("How much of the roll stays behind the work, beyond what the machine needs"),
                  [](Job& job, double value) { job.plan.medium.end = value; });
    margin_ = length(N_("Margin"),
                     N_("Nothing lies closer to the medium's edges, even where the machine would allow it"),
                     [](Job& job, double value) { job.plan.margin = value; });
    firstSide_ = length(N_("Unusable, first side"), N_("A strip along the side where the ruler begins"),
                        [](Job& job, double value) { job.plan.medium.firstSide = value; });
    lastSide_ = length(N_("Unusable, last side"), N_("A strip along the side opposite"),
                       [](Job& job, double value) { job.plan.medium.lastSide = value; });
    tracksName_ = new QLabel(tr("Tracks of rollers"));
    tracks_ = new QLineEdit;
    tracks_->setObjectName("Tracks field");
    tracks_->setAccessibleName(tr("Tracks of rollers"));
    tracks_->setPlaceholderText("50-60, 300-310");
    tracks_->setToolTip(
        tr("Bands across the medium where rollers run and nothing may lie: from-to, from-to"));
    tracksName_->setBuddy(tracks_);
    auto* row = new QWidget;
    auto* side = new QHBoxLayout(row);
    side->setContentsMargins(0, 0, 0, 0);
    side->addWidget(tracksName_);
    side->addWidget(tracks_, 1);
    addWide(row);
    connect(tracks_, &QLineEdit::editingFinished, this, &MediumPanel::takeTracks);
    used_ = new QPushButton(tr("Draw used areas"));
    used_->setObjectName("Draw used areas");
    used_->setCheckable(true);
    used_->setToolTip(tr("Drag boxes on the sheet over what is used up already: nothing is laid there. A "
                         "click on one takes it away"));
    addWide(used_);
    forget_ = new QPushButton(tr("Forget used areas"));
    forget_->setObjectName("Forget used areas");
    forget_->setToolTip(tr("The whole medium can be used again"));
    addWide(forget_);
    connect(forget_, &QPushButton::clicked, this, [this] {
        document_.endRun();
        document_.change(tr("Forget used areas"), [](Job& job) { job.plan.medium.used.clear(); });
    });
}

void MediumPanel::takeTracks() {
    const auto tracks = readTracks(tracks_->text(), document_.job().unit, Limits::mostTracks);
    setStyled(*tracks_, "wrong", !tracks);
    if (!tracks || *tracks == document_.job().plan.medium.tracks)
        return;
    document_.endRun();
    document_.change(tr("Tracks of rollers"), [&](Job& job) { job.plan.medium.tracks = *tracks; });
}

void MediumPanel::chooseKind(int kind) {
    ownSize_ = kind == ownSize;
    document_.endRun();
    document_.change(tr("%1: %2").arg(tr("Medium"), kind_->itemText(kind)), [&](Job& job) {
        Medium& medium = job.plan.medium;
        if (kind == roll) {
            medium.width = medium.isRoll() ? medium.width : Medium().width;
            medium.length.reset();
        } else if (kind == ownSize) {
            medium.length = medium.length.value_or(medium.width);
        } else {
            medium.width = namedSheets[std::size_t(kind - firstNamed)].width;
            medium.length = namedSheets[std::size_t(kind - firstNamed)].length;
        }
    });
    showJob();
}

int MediumPanel::kindNow() const {
    const Medium& medium = document_.job().plan.medium;
    if (medium.isRoll())
        return roll;
    for (std::size_t i = 0; i < namedSheets.size() && !ownSize_; ++i)
        if (const NamedSheet& sheet = namedSheets[i];
            medium.isAsLarge(sheet.width, sheet.length) || medium.isAsLarge(sheet.length, sheet.width))
            return firstNamed + int(i);
    return ownSize;
}

void MediumPanel::showJob() {
    const SheetPlan& plan = document_.job().plan;
    const Medium& medium = plan.medium;
    const int kind = kindNow();
    kind_->setCurrentIndex(kind);
    show(width_, medium.width);
    width_->setEnabled(kind == roll || kind == ownSize);
    show(length_, medium.length.value_or(0), !medium.isRoll());
    length_->setEnabled(kind == ownSize);
    show(rollLength_, medium.rollLength.value_or(0), medium.isRoll());
    turn_->setVisible(!medium.isRoll());
    show(price_, medium.price);
    colour_->show({medium.colour.value_or(white)},
                  {{white}, {{0xC8, 0xA8, 0x78, 255}}, {{0xC0, 0xC0, 0xC4, 255}}, {{0x20, 0x20, 0x20, 255}}});
    clear_->setChecked(medium.isClear);
    rename(price_, medium.isRoll() ? tr("Price of a metre") : tr("Price of a sheet"));
    const bool isOpen = more_->isChecked();
    more_->setArrowType(isOpen ? Qt::DownArrow : Qt::RightArrow);
    show(start_, medium.start, isOpen);
    show(end_, medium.end, isOpen && medium.isRoll());
    show(margin_, plan.margin, isOpen);
    show(firstSide_, medium.firstSide, isOpen);
    show(lastSide_, medium.lastSide, isOpen);
    tracks_->parentWidget()->setVisible(isOpen);
    if (!tracks_->hasFocus())
        tracks_->setText(tracksText(medium.tracks, document_.job().unit));
    used_->setVisible(isOpen);
    forget_->setVisible(isOpen && !medium.used.empty());
    if (!isOpen)
        used_->setChecked(false);
}

} // namespace hasami
