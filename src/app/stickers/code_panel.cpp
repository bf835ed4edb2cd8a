#include "app/stickers/code_panel.h"

#include "app/controls/design_controls.h"
#include "app/kit/named.h"
#include "app/stickers/own_controls.h"
#include "app/words/words.h"
#include "base/error.h"
#include "drawing/code_outline.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

CodeArtwork& codeIn(OwnArtwork& own) {
    return std::get<CodeArtwork>(own.what);
}

} // namespace

const std::vector<std::pair<CodeKind, const char*>>& codeNames() {
    static const std::vector<std::pair<CodeKind, const char*>> names{
        {CodeKind::qr, N_("QR")},
        {CodeKind::dataMatrix, N_("Data Matrix")},
        {CodeKind::code128, N_("Code 128")},
        {CodeKind::ean13, N_("EAN-13")},
        {CodeKind::ean8, N_("EAN-8")},
        {CodeKind::upcA, N_("UPC-A")}};
    return names;
}

CodePanel::CodePanel(ItemHand& hand, QWidget* parent)
    : QWidget(parent), hand_(hand), text_(new QLineEdit), note_(quietText()) {
    auto* layout = pageLayout(this);
    QStringList names;
    for (const auto& [kind, name] : codeNames())
        names << tr(name);
    kind_ = new QComboBox;
    kind_->addItems(names);
    auto* pair = new QVBoxLayout;
    pair->setSpacing(4);
    pair->addWidget(
        labelOf(*kind_, N_("Code"), N_("The kind of code; EAN and UPC hold article numbers"), " choice"));
    pair->addWidget(kind_);
    pair->addWidget(labelOf(*text_, N_("Holds"), N_("The text or number that a scanner reads"), " field"));
    pair->addWidget(text_);
    pair->addWidget(note_);
    layout->addLayout(pair);
    note_->setObjectName("Code note");
    text_->setMaxLength(3000);
    connect(text_, &QLineEdit::textEdited, this, &CodePanel::take);
    connect(text_, &QLineEdit::editingFinished, &hand.document(), &Document::endRun);
    connect(kind_, &QComboBox::activated, this, &CodePanel::setKind);
    width_ = ownRow(hand, layout,
                    {N_("Code width"), N_("With the quiet zone, which stays clear of print"),
                     QuantityKind::length, Limits::leastSize, Limits::mostSize, 8, 80, 0.5},
                    [](OwnArtwork& own, double value) { codeIn(own).width = value; });
    height_ = ownRow(hand, layout,
                     {N_("Code height"), N_("Of the bars with their text"), QuantityKind::length,
                      Limits::leastSize, Limits::mostSize, 5, 60, 0.5},
                     [](OwnArtwork& own, double value) { codeIn(own).height = value; });
    correction_ = ownChoice(hand, layout, N_("Error correction"),
                            N_("How much of the code may be lost and it is still read"),
                            {tr("7 %"), tr("15 %"), tr("25 %"), tr("30 %")},
                            [](OwnArtwork& own, int place) { codeIn(own).correction = place; });
    letters_ = ownCheck(hand, layout, N_("Text below the bars"), N_("What the code holds, for people"),
                        [](OwnArtwork& own, bool isOn) { codeIn(own).showsText = isOn; });
    ground_ = ownCheck(hand, layout, N_("White ground"),
                       N_("White as far as the quiet zone, so that it is read on any artwork"),
                       [](OwnArtwork& own, bool isOn) { codeIn(own).hasGround = isOn; });
}

/// What the code can't hold is told, and the code stays.
void CodePanel::take(const QString& text) {
    const OwnArtwork* own = hand_.own();
    const auto* code = own ? std::get_if<CodeArtwork>(&own->what) : nullptr;
    if (!code)
        return;
    CodeArtwork next = *code;
    next.text = text.toStdString();
    try {
        static_cast<void>(codeOutline(next));
    } catch (const InputError& error) {
        note_->setText("▲ " + QString::fromStdString(error.what()));
        note_->setProperty("role", "trouble");
        return;
    }
    hand_.editOwn(
        tr("Code holds %1").arg(text), [&](OwnArtwork& changed, Job&) { codeIn(changed) = next; },
        "type code");
}

/// An article number that the new kind can't hold becomes an example of one that it can.
void CodePanel::setKind(int place) {
    const CodeKind kind = codeNames().at(std::size_t(place)).first;
    hand_.editOwn(tr("%1: %2").arg(tr("Code"), kind_->itemText(place)), [&](OwnArtwork& own, Job&) {
        CodeArtwork& code = codeIn(own);
        code.kind = kind;
        try {
            static_cast<void>(codeOutline(code));
        } catch (const InputError&) {
            code.text = kind == CodeKind::ean8   ? "4000000"
                        : kind == CodeKind::upcA ? "04000000000"
                                                 : "400000000000";
        }
    });
    if (const OwnArtwork* own = hand_.own(); own && std::holds_alternative<CodeArtwork>(own->what))
        show(*own);
}

void CodePanel::showModules(const CodeArtwork& code) {
    const int resolution = hand_.document().job().profile.printer.resolution;
    const QString size = tr("A module is %1 wide: %2 dots of a printer of %3 dots an inch.")
                             .arg(quantityText(codeOutline(code).module, QuantityKind::length),
                                  inLocale(QString::number(dotsOfModule(code, resolution), 'f', 1)),
                                  QString::number(resolution));
    const bool isFine = !widthForDots(code, resolution);
    note_->setText(isFine ? size : "▲ " + size + " " + tr("Make it larger, or it may not be read."));
    note_->setProperty("role", isFine ? "quiet" : "trouble");
}

void CodePanel::show(const OwnArtwork& own) {
    const CodeArtwork& code = std::get<CodeArtwork>(own.what);
    const CodeArtwork start;
    const LengthUnit unit = hand_.document().job().unit;
    const auto& names = codeNames();
    const auto found = std::ranges::find_if(names, [&](const auto& name) { return name.first == code.kind; });
    kind_->setCurrentIndex(int(found - names.begin()));
    if (!text_->hasFocus() || text_->text().toStdString() == code.text) {
        text_->setText(QString::fromStdString(code.text));
        showModules(code);
    }
    showBoth(*width_, start.width, code.width, unit);
    showBoth(*height_, start.height, code.height, unit);
    correction_->setCurrentIndex(code.correction);
    letters_->setChecked(code.showsText);
    ground_->setChecked(code.hasGround);
    const bool isBars = isOfBars(code.kind);
    height_->setVisible(isBars);
    letters_->setVisible(isBars);
    for (QWidget* part : {static_cast<QWidget*>(correction_), findChild<QWidget*>("Error correction label")})
        if (part)
            part->setVisible(code.kind == CodeKind::qr);
}

} // namespace hasami
