#include "app/stickers/lettering_panel.h"

#include "app/controls/design_controls.h"
#include "app/kit/named.h"
#include "app/stickers/font_chooser.h"
#include "app/stickers/own_controls.h"
#include "app/words/words.h"
#include "base/error.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace hasami {

namespace {

Lettering& letteringOf(OwnArtwork& own) {
    return std::get<Lettering>(own.what);
}

/// In the order of the choice.
enum Course { straight, outside, inside };

constexpr double startRadius = 4; // cap heights: of a circle that lettering is first bent to

} // namespace

LetteringPanel::LetteringPanel(LetteringHand& hand, QWidget* parent)
    : QWidget(parent), hand_(hand), text_(new QPlainTextEdit), font_(new QPushButton) {
    auto* layout = pageLayout(this);
    layout->addWidget(makeText());
    layout->addWidget(makeFont());
    addRows();
    addForms();
    connect(&hand, &LetteringHand::changed, this, [this] { pick_->setChecked(hand_.isPicking()); });
}

QWidget* LetteringPanel::makeText() {
    auto* widget = new QWidget;
    auto* box = new QVBoxLayout(widget);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(4);
    box->addWidget(labelOf(*text_, N_("Text"),
                           N_("What the lettering says; double-click it on the bench to type there"),
                           " field"));
    text_->setFixedHeight(52);
    text_->setTabChangesFocus(true);
    connect(text_, &QPlainTextEdit::textChanged, this, &LetteringPanel::takeText);
    box->addWidget(text_);
    return widget;
}

QWidget* LetteringPanel::makeFont() {
    auto* widget = new QWidget;
    auto* box = new QVBoxLayout(widget);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(4);
    box->addWidget(labelOf(*font_, N_("Font"), N_("The letters that it is set in"), " choice"));
    connect(font_, &QPushButton::clicked, this, &LetteringPanel::chooseFont);
    box->addWidget(font_);
    return widget;
}

void LetteringPanel::addRows() {
    ItemHand& items = hand_.items();
    auto* box = static_cast<QVBoxLayout*>(layout());
    capHeight_ = ownRow(items, box,
                        {N_("Cap height"), N_("How high a capital H is"), QuantityKind::length,
                         Limits::leastCapHeight, Limits::mostCapHeight, 2, 100, 0.5},
                        [](OwnArtwork& own, double value) {
                            Lettering& lettering = letteringOf(own);
                            lettering.capHeight = value;
                            lettering.fitWidth = 0;
                        });
    closeness_ =
        ownRow(items, box,
               {N_("Closeness"),
                N_("How close letters stand by their outlines: at 0 as the font has it, at 100 touching, "
                   "above that overlapping"),
                QuantityKind::percent, 0, 200, 0, 200, 5},
               [](OwnArtwork& own, double value) { letteringOf(own).closeness = value / 100; });
    letterSpace_ = ownRow(items, box,
                          {N_("Letter space"), N_("Added between letters; less where negative"),
                           QuantityKind::length, -Limits::mostSpace, Limits::mostSpace, -2, 10, 0.1},
                          [](OwnArtwork& own, double value) { letteringOf(own).letterSpace = value; });
    lineSpace_ = ownRow(items, box,
                        {N_("Line space"), N_("From baseline to baseline, in parts of the cap height"),
                         QuantityKind::percent, 10, 1000, 80, 300, 5},
                        [](OwnArtwork& own, double value) { letteringOf(own).lineSpace = value / 100; });
    alignment_ = ownChoice(items, box, N_("Alignment"), N_("Which side lines of different length share"),
                           {tr("Left"), tr("Middle"), tr("Right")}, [](OwnArtwork& own, int place) {
                               letteringOf(own).alignment = TextAlignment(place);
                           });
}

void LetteringPanel::addForms() {
    ItemHand& items = hand_.items();
    auto* box = static_cast<QVBoxLayout*>(layout());
    welded_ = ownCheck(items, box, N_("Weld letters"), N_("Letters that touch or overlap become one outline"),
                       [](OwnArtwork& own, bool isOn) { letteringOf(own).isWelded = isOn; });
    counters_ = ownCheck(items, box, N_("Keep the openings of letters"),
                         N_("The holes of A, O and R; without them a picture shows there too"),
                         [](OwnArtwork& own, bool isOn) {
                             letteringOf(own).keepsCounters = isOn;
                             letteringOf(own).switched.clear();
                         });
    pick_ = new QPushButton(tr("Pick openings"));
    pick_->setObjectName("Pick openings");
    pick_->setProperty("role", "small");
    pick_->setCheckable(true);
    pick_->setToolTip(
        tr("Click single openings of letters on the bench to keep or remove them; Escape ends it"));
    connect(pick_, &QPushButton::clicked, &hand_, &LetteringHand::setPicking);
    box->addWidget(pick_);
    weight_ = ownRow(items, box,
                     {N_("Thickness"), N_("Letters grow by this on all sides; thinner where negative"),
                      QuantityKind::length, -Limits::mostWeight, Limits::mostWeight, -1, 3, 0.05},
                     [](OwnArtwork& own, double value) { letteringOf(own).weight = value; });
    slant_ = ownRow(items, box,
                    {N_("Slant"), N_("Letters lean to the right"), QuantityKind::angle, -60, 60, -30, 30, 1},
                    [](OwnArtwork& own, double value) { letteringOf(own).slant = value; });
    course_ = ownChoice(items, box, N_("Baseline"), N_("What the letters stand on"),
                        {tr("Straight"), tr("Outside a circle"), tr("Inside a circle")},
                        [](OwnArtwork& own, int place) {
                            Lettering& lettering = letteringOf(own);
                            const double radius = lettering.arcRadius != 0
                                                      ? std::abs(lettering.arcRadius)
                                                      : startRadius * lettering.capHeight;
                            lettering.arcRadius = place == straight ? 0 : place == outside ? radius : -radius;
                        });
    arcRadius_ = ownRow(items, box,
                        {N_("Circle radius"), N_("Of the circle that the letters stand on"),
                         QuantityKind::length, 1, Limits::mostSize, 5, 200, 0.5},
                        [](OwnArtwork& own, double value) {
                            Lettering& lettering = letteringOf(own);
                            lettering.arcRadius = lettering.arcRadius < 0 ? -value : value;
                        });
    arcSpread_ = ownRow(items, box,
                        {N_("Spread"), N_("How much of the circle the longest line takes"),
                         QuantityKind::angle, 0, 360, 0, 360, 1, N_("automatic")},
                        [](OwnArtwork& own, double value) { letteringOf(own).arcSpread = value; });
    fitWidth_ = ownRow(items, box,
                       {N_("Fit to width"),
                        N_("The letters are scaled until the lettering is this wide, "
                           "whatever it says"),
                        QuantityKind::length, 0, Limits::mostSize, 0, 300, 1, N_("none")},
                       [](OwnArtwork& own, double value) { letteringOf(own).fitWidth = value; });
}

void LetteringPanel::takeText() {
    if (isShowing_ || !hand_.lettering())
        return;
    const QString text = text_->toPlainText();
    if (text == hand_.text())
        return;
    hand_.items().editOwn(
        tr("Type lettering"),
        [&](OwnArtwork& own, Job& job) {
            Lettering& lettering = letteringOf(own);
            lettering.text = text.toStdString();
            lettering.switched.clear();
            hand_.items().document().fonts().addFallbacks(job, lettering);
        },
        "type lettering");
}

void LetteringPanel::chooseFont() {
    if (!fonts_) {
        fonts_ = new FontChooser(hand_.items().document(), this);
        connect(fonts_, &FontChooser::chosen, this, &LetteringPanel::setFont);
    }
    const Lettering* lettering = hand_.lettering();
    if (lettering && !lettering->fonts.empty())
        fonts_->open(*font_, lettering->fonts.front(), hand_.text().section('\n', 0, 0));
}

void LetteringPanel::setFont(const KnownFont& font) {
    hand_.items().editOwn(tr("Font %1").arg(QString::fromStdString(font.name())),
                          [&](OwnArtwork& own, Job& job) {
                              FontLibrary& fonts = hand_.items().document().fonts();
                              Lettering& lettering = letteringOf(own);
                              lettering.fonts = {fonts.choose(job, font)};
                              lettering.switched.clear();
                              fonts.addFallbacks(job, lettering);
                          });
}

void LetteringPanel::show(const OwnArtwork& own) {
    const Lettering& lettering = std::get<Lettering>(own.what);
    const Lettering start;
    const LengthUnit unit = hand_.items().document().job().unit;
    isShowing_ = true;
    if (text_->toPlainText().toStdString() != lettering.text)
        text_->setPlainText(QString::fromStdString(lettering.text));
    isShowing_ = false;
    const QString font =
        lettering.fonts.empty()
            ? QString()
            : QString::fromStdString(lettering.fonts.front().family + " " + lettering.fonts.front().style);
    font_->setText(font_->fontMetrics().elidedText(font, Qt::ElideRight, 200));
    font_->setAccessibleDescription(font);
    showBoth(*capHeight_, start.capHeight, lettering.capHeight, unit);
    showBoth(*closeness_, 0, lettering.closeness * 100, unit);
    showBoth(*letterSpace_, 0, lettering.letterSpace, unit);
    showBoth(*lineSpace_, start.lineSpace * 100, lettering.lineSpace * 100, unit);
    showBoth(*weight_, 0, lettering.weight, unit);
    showBoth(*slant_, 0, lettering.slant, unit);
    showBoth(*fitWidth_, 0, lettering.fitWidth, unit);
    showBoth(*arcRadius_, startRadius * lettering.capHeight, std::abs(lettering.arcRadius), unit);
    showBoth(*arcSpread_, 0, lettering.arcSpread, unit);
    const bool isBent = lettering.arcRadius != 0;
    course_->setCurrentIndex(isBent ? lettering.arcRadius > 0 ? outside : inside : straight);
    alignment_->setCurrentIndex(int(lettering.alignment));
    const bool hasLines = lettering.text.find('\n') != std::string::npos;
    lineSpace_->setVisible(hasLines);
    for (QWidget* part : std::initializer_list<QWidget*>{alignment_})
        part->setEnabled(hasLines && !isBent);
    arcRadius_->setVisible(isBent);
    arcSpread_->setVisible(isBent);
    fitWidth_->setVisible(!isBent);
    welded_->setChecked(lettering.isWelded);
    counters_->setChecked(lettering.keepsCounters);
}

} // namespace hasami
