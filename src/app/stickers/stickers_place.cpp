#include "app/stickers/stickers_place.h"

#include "app/kit/prompt_line.h"
#include "app/shelf/shelf.h"
#include "app/stickers/bench.h"
#include "app/stickers/item_hand.h"
#include "app/stickers/lettering_hand.h"
#include "app/stickers/making_strip.h"
#include "app/stickers/own_actions.h"
#include "app/stickers/parts_panel.h"
#include "app/stickers/step_sheet.h"
#include "app/stickers/touch_up_hand.h"
#include "app/stickers/view_bar.h"
#include "app/words/words.h"

#include <QGridLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QVBoxLayout>

namespace hasami {

StickersPlace::StickersPlace(Document& document, QWidget* parent)
    : QWidget(parent), document_(document), prompt_(new PromptLine), shelf_(new Shelf(document)),
      hand_(new TouchUpHand(document, this)), items_(new ItemHand(document, this)),
      lettering_(new LetteringHand(*items_, this)), views_(new ViewBar(document)),
      bench_(new Bench(document, *hand_, *items_, *lettering_)), strip_(new MakingStrip(document)),
      stepSheet_(new StepSheet(document, *hand_, *items_, *lettering_)), welcome_(new QWidget(bench_)) {
    auto* layout = new QGridLayout(this);
    layout->setContentsMargins(12, 8, 12, 12);
    layout->setSpacing(8);
    layout->addWidget(prompt_, 0, 0, 1, 3);
    layout->addWidget(shelf_, 1, 0, 3, 1);
    layout->addWidget(views_, 1, 1);
    layout->addWidget(bench_, 2, 1);
    layout->addWidget(strip_, 3, 1);
    layout->addWidget(stepSheet_, 1, 2, 3, 1);
    layout->setColumnStretch(1, 1);
    layout->setRowStretch(2, 1);

    auto* words = new QLabel(tr("Drop artwork here"));
    words->setProperty("role", "figure");
    auto* kinds = new QLabel(tr("PNG, JPEG, TIFF, WebP and GIF pictures; SVG, PDF and EPS drawings"));
    kinds->setProperty("role", "quiet");
    auto* open = new QPushButton(tr("Open artwork…"));
    auto* word = new QPushButton(tr("Start with a word"));
    word->setObjectName("Start with a word");
    word->setToolTip(tr("Lettering that you type, in the fonts of this machine"));
    auto* demo = new QPushButton(tr("Open the demo"));
    demo->setToolTip(tr("A job with the bee sticker of Quillmoor Honey, to try things out"));
    auto* welcomeLayout = new QVBoxLayout(welcome_);
    welcomeLayout->addStretch(1);
    for (QWidget* w : std::initializer_list<QWidget*>{words, kinds, open, word, demo})
        welcomeLayout->addWidget(w, 0, Qt::AlignHCenter);
    welcomeLayout->addStretch(1);
    auto* cover = new QVBoxLayout(bench_);
    cover->addWidget(welcome_);

    connect(open, &QPushButton::clicked, this, &StickersPlace::artworkWanted);
    connect(word, &QPushButton::clicked, this, [this] {
        strip_->setStep(RecipeStep::artwork);
        addLettering(*items_, *lettering_, OwnPlace::newDesign);
    });
    auto* kindsToMake = new QMenu(this);
    kindsToMake->setObjectName("Make artwork menu");
    addOwnActions(*kindsToMake, *items_, *lettering_, OwnPlace::newDesign);
    // What was made is worked on at once.
    connect(kindsToMake, &QMenu::triggered, this, [this] {
        strip_->setStep(RecipeStep::artwork);
        if (lettering_->lettering() && lettering_->begin({}))
            lettering_->selectAll();
    });
    shelf_->offerToMake(kindsToMake);
    connect(stepSheet_, &StepSheet::pictureWanted, this, &StickersPlace::pictureWanted);
    connect(demo, &QPushButton::clicked, this, &StickersPlace::demoWanted);
    connect(stepSheet_, &StepSheet::moreArtworkWanted, this, &StickersPlace::moreArtworkWanted);
    connect(shelf_, &Shelf::artworkWanted, this, &StickersPlace::artworkWanted);
    connect(strip_, &MakingStrip::stepChanged, this, [this](RecipeStep step) {
        document_.endRun();
        stepSheet_->setStep(step);
        bench_->setStep(step);
        views_->choose({}); // one looks at what one has chosen
    });
    connect(views_, &ViewBar::viewChanged, bench_, &Bench::setView);
    connect(stepSheet_, &StepSheet::lineChosen, bench_, &Bench::setLine);
    connect(stepSheet_, &StepSheet::bleedShown, bench_, &Bench::showBleed);
    connect(stepSheet_, &StepSheet::lookChanged, bench_, &Bench::setLook);
    connect(bench_, &Bench::inkColourTaken, stepSheet_, &StepSheet::takeInkColour);
    connect(&document, &Document::jobChanged, this, &StickersPlace::showPrompt);
    connect(&document, &Document::madeChanged, this, &StickersPlace::showPrompt);
    connect(&document, &Document::selectionChanged, this, &StickersPlace::showPrompt);
    connect(&document, &Document::filesUnderWayChanged, this, &StickersPlace::showPrompt);
    showPrompt();
}

namespace {

/// How many stickers a file's drawing holds that was dropped as one design: a sheet of them, not a picture in
/// a few pieces. 0: it is one.
std::size_t separateStickers(const MadeDesign& made) {
    constexpr std::size_t least = 4, most = 500;
    const auto& items = made.artwork.items;
    if (items.size() != 1 || !items.front().file() || made.sticker->has(LineKind::die) ||
        made.sticker->has(LineKind::perforated))
        return 0;
    const auto count = std::size_t(std::ranges::count(made.sticker->lines, LineRole::outer, &CutLine::role));
    return count >= least && count <= most ? count : 0;
}

} // namespace

void StickersPlace::showPrompt() {
    const auto& designs = document_.job().designs;
    welcome_->setVisible(designs.empty());
    strip_->setVisible(!designs.empty());
    stepSheet_->setVisible(!designs.empty());
    const auto troubled = std::count_if(document_.made()->designs.begin(), document_.made()->designs.end(),
                                        [](const MadeDesign& made) { return !made.trouble.empty(); });
    const MadeDesign* selected = document_.newest(document_.selected());
    if (!document_.filesUnderWay().empty())
        prompt_->say(document_.filesUnderWay().front()->text + "…");
    else if (designs.empty())
        prompt_->say(tr("Start with the artwork of your first sticker."));
    else if (!document_.isMade())
        prompt_->say(tr("Making the cut lines…"));
    else if (selected && !selected->trouble.empty())
        prompt_->warn(QString::fromStdString(selected->trouble));
    else if (troubled > 0)
        prompt_->warn(tr("Without a cut line: %1 of %2 designs.").arg(troubled).arg(designs.size()));
    else if (const std::size_t stickers = selected ? separateStickers(*selected) : 0; stickers > 0)
        prompt_->say(tr("%1 holds %2 separate stickers.")
                         .arg(QString::fromStdString(document_.selectedDesign()->name))
                         .arg(stickers),
                     counted(stickers, "Split into %1 design", "Split into %1 designs"), [this] {
                         const auto& line = document_.selectedDesign()->recipe.lines.front();
                         splitSelected(document_, 2 * std::max(0.0, line.offset));
                     });
    else
        prompt_->say(designs.size() == 1
                         ? tr("The cut line is there. Next: lay copies out on a sheet.")
                         : counted(designs.size(), "%1 design has its cut line. Next: lay it out on a sheet.",
                                   "All %1 designs have their cut lines. Next: lay them out on a sheet."),
                     tr("Go to Sheet"), [this] { Q_EMIT sheetWanted(); });
}

} // namespace hasami
