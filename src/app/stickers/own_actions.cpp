#include "app/stickers/own_actions.h"

#include "app/stickers/code_panel.h"
#include "app/stickers/figure_panel.h"
#include "app/words/words.h"

#include <QMenu>

#include <algorithm>

namespace hasami {

namespace {

/// As large as half of what it is laid on, at least what can be read.
double sizeFor(const Document& document, OwnPlace place, double usual) {
    const Design* design = document.selectedDesign();
    if (place == OwnPlace::newDesign || !design || design->artwork.items.empty())
        return usual;
    const Box box = bounds(design->artwork);
    return std::clamp(std::min(box.width(), box.height()) / 2, 5.0, 500.0);
}

void addFigure(ItemHand& hand, OwnPlace place, FigureKind kind, const QString& name) {
    hand.addOwn(
        tr("Add shape: %1").arg(name),
        [&](OwnArtwork& own, Job&) {
            Figure figure;
            figure.kind = kind;
            figure.width = sizeFor(hand.document(), place, 60);
            figure.height = kind == FigureKind::rectangle || kind == FigureKind::bubble ? figure.width * 0.7
                            : kind == FigureKind::ribbon || kind == FigureKind::arrow   ? figure.width * 0.35
                            : kind == FigureKind::leaf                                  ? figure.width * 0.5
                                                                                        : figure.width;
            if (kind == FigureKind::rectangle || kind == FigureKind::bubble)
                figure.radius = 3;
            own.what = figure;
            own.fill = PaintColour{{38, 78, 134, 255}};
        },
        name, place == OwnPlace::newDesign);
}

void addCode(ItemHand& hand, OwnPlace place, CodeKind kind, const QString& name) {
    hand.addOwn(
        tr("Add code: %1").arg(name),
        [&](OwnArtwork& own, Job&) {
            CodeArtwork code;
            code.kind = kind;
            code.text = kind == CodeKind::ean13  ? "400000000000"
                        : kind == CodeKind::ean8 ? "4000000"
                        : kind == CodeKind::upcA ? "04000000000"
                                                 : "QUILLMOOR";
            code.width = std::max(20.0, sizeFor(hand.document(), place, 30));
            code.height = code.width * 0.6;
            own.what = code;
        },
        name, place == OwnPlace::newDesign);
}

/// A plain ground behind all, larger than any bleed of work of this size.
void addBackground(ItemHand& hand) {
    const Design* design = hand.document().selectedDesign();
    if (!design || design->artwork.items.empty())
        return;
    const Box box = bounds(design->artwork);
    const double beyond = std::max(10.0, std::max(box.width(), box.height()) / 5);
    const Box ground = box.grownBy(beyond);
    hand.addBehind(
        tr("Add a background"),
        [&](OwnArtwork& own, Job&) {
            own.what = Figure{FigureKind::rectangle, ground.width(), ground.height()};
            own.fill = PaintColour{{230, 196, 120, 255}};
        },
        tr("Background"), ground.least);
}

} // namespace

void addLettering(ItemHand& hand, LetteringHand& lettering, OwnPlace place) {
    const QString word = tr("Lettering");
    hand.addOwn(
        tr("Add lettering"),
        [&](OwnArtwork& own, Job& job) {
            FontLibrary& fonts = hand.document().fonts();
            Lettering made;
            made.text = word.toStdString();
            made.fonts = {fonts.choose(job, fonts.fonts().front())};
            made.capHeight = sizeFor(hand.document(), place, 100) / 5;
            made.isWelded = true; // as letters that touch are cut
            own.what = made;
        },
        word, place == OwnPlace::newDesign);
    if (lettering.begin({}))
        lettering.selectAll(); // what is typed next takes its place
}

void addOwnActions(QMenu& menu, ItemHand& hand, LetteringHand& lettering, OwnPlace place) {
    menu.addAction(tr("Lettering"), &hand,
                   [&hand, &lettering, place] { addLettering(hand, lettering, place); });
    QMenu* figures = menu.addMenu(tr("Shape"));
    for (const auto& [kind, name] : figureNames())
        if (kind != FigureKind::outline)
            figures->addAction(tr(name), &hand, [&hand, place, kind = kind, name = name] {
                addFigure(hand, place, kind, tr(name));
            });
    if (place == OwnPlace::onDesign)
        menu.addAction(tr("Background behind it"), &hand, [&hand] { addBackground(hand); });
    QMenu* codes = menu.addMenu(tr("Code"));
    for (const auto& [kind, name] : codeNames())
        codes->addAction(tr(name), &hand,
                         [&hand, place, kind = kind, name = name] { addCode(hand, place, kind, tr(name)); });
}

} // namespace hasami
