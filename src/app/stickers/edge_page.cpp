#include "app/stickers/edge_page.h"

#include "app/controls/design_controls.h"
#include "app/document/step_state.h"
#include "app/kit/colour_choice.h"
#include "app/kit/theme.h"
#include "app/stickers/shape_panel.h"
#include "app/stickers/touch_up_panel.h"
#include "app/words/words.h"
#include "artwork/colour_text.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSignalBlocker>
#include <QStandardItemModel>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>
#include <set>

namespace hasami {

namespace {

/// In the order of the choice.
constexpr EdgeWay ways[] = {EdgeWay::automatic, EdgeWay::paint,      EdgeWay::lines,   EdgeWay::transparency,
                            EdgeWay::backdrop,  EdgeWay::brightness, EdgeWay::colours, EdgeWay::shape};
QStringList wayNames() {
    return translatedList({N_("As the artwork asks for"), N_("All that is painted"),
                           N_("Cut lines in the file"), N_("Transparency"), N_("Backdrop"), N_("Brightness"),
                           N_("Colours, each by itself"), N_("Plain shape")});
}

/// The edge of vector art comes from what it paints, of pictures from their pixels.
bool suits(EdgeWay way, bool isVector) {
    const bool isExact = way == EdgeWay::paint || way == EdgeWay::lines;
    const bool isOfPixels =
        way == EdgeWay::transparency || way == EdgeWay::backdrop || way == EdgeWay::brightness;
    return isVector ? !isOfPixels : !isExact;
}

constexpr LoopChoice loopChoices[] = {LoopChoice::outer, LoopChoice::openings, LoopChoice::all};
QStringList loopNames() {
    return translatedList({N_("Around the outside"), N_("Openings too"), N_("Everything found")});
}

template <class Value, std::size_t count>
int placeOf(const Value (&all)[count], Value value) {
    return int(std::find(std::begin(all), std::end(all), value) - std::begin(all));
}

QString wayInWords(EdgeWay way) {
    switch (way) {
    case EdgeWay::transparency:
        return tr("Found: where the picture is opaque.");
    case EdgeWay::backdrop:
        return tr("Found: what stands out from the backdrop.");
    case EdgeWay::brightness:
        return tr("Found: what is dark on light, or light on dark.");
    default:
        return {};
    }
}

std::size_t countColours(const MadeDesign& made) {
    std::set<std::string> colours;
    for (const auto& loops : made.loops)
        for (const EdgeLoop& loop : *loops)
            if (loop.colour)
                colours.insert(colourText(*loop.colour));
    return colours.size();
}

} // namespace

EdgePage::EdgePage(Document& document, TouchUpHand& hand, QWidget* parent)
    : StepPage(document, parent), text_(quietText()), hand_(hand), found_(new QWidget(this)),
      plain_(new ShapePanel(document, this)), hands_(new QWidget(this)), panel_(new TouchUpPanel(hand, this)),
      picker_(document) {
    addWay();
    addHands();
    addRows();
    addList();
    auto* layout = static_cast<QVBoxLayout*>(this->layout());
    layout->addWidget(hands_);
    layout->addWidget(found_, 1);
    layout->addWidget(panel_, 1);
    layout->addWidget(plain_);
    layout->addStretch(0);
}

void EdgePage::addWay() {
    auto* layout = pageLayout(this);
    way_ =
        designChoice(document(), layout, N_("Find the edge by"),
                     N_("How the sticker is separated from what lies around it; all cuts follow this line"),
                     wayNames(), [](Design& design, int place) {
                         const bool isNew = design.recipe.edge.way != ways[place];
                         design.recipe.edge.way = ways[place];
                         if (isNew && ways[place] == EdgeWay::colours)
                             cutEveryDetail(design.recipe);
                         if (isNew && ways[place] == EdgeWay::lines)
                             design.recipe.edge.loops = LoopChoice::all;
                     });
    layout->addWidget(text_);
}

/// What the pointer does on the bench: chooses lines, or touches them up.
void EdgePage::addHands() {
    auto* row = new QHBoxLayout(hands_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    const auto add = [&](const char* name, const char* effect, bool touchesUp) {
        auto* button = new QPushButton(tr(name));
        button->setObjectName(name);
        button->setCheckable(true);
        button->setProperty("role", "small");
        button->setToolTip(tr(effect));
        connect(button, &QPushButton::clicked, this, [this, touchesUp] {
            document().endRun();
            hand_.setOn(touchesUp);
            if (const Design* design = document().selectedDesign())
                showHands(*design); // a click on the one that is on leaves it on
        });
        row->addWidget(button);
        return button;
    };
    choose_ = add(N_("Find lines"),
                  N_("How the edge is found; on the bench, clicks choose which lines are cut"), false);
    touchUp_ = add(N_("Touch up"), N_("Change the course of the lines by hand on the bench"), true);
    connect(&hand_, &TouchUpHand::changed, this, [this] {
        if (const Design* design = document().selectedDesign())
            showHands(*design);
    });
}

void EdgePage::showHands(const Design& design) {
    const bool isShape = design.recipe.edge.way == EdgeWay::shape;
    const bool touchesUp = hand_.isOn() && !isShape;
    choose_->setChecked(!touchesUp);
    touchUp_->setChecked(touchesUp);
    hands_->setVisible(!isShape);
    found_->setVisible(!isShape && !touchesUp);
    panel_->setVisible(touchesUp);
    plain_->setVisible(isShape);
}

void EdgePage::addRows() {
    auto* layout = pageLayout(found_);
    backdrop_ = new QCheckBox(tr("The page's backdrop counts"));
    backdrop_->setObjectName("Backdrop check");
    backdrop_->setToolTip(
        tr("A plain paint fills the whole page behind all else; without it, the edge runs around "
           "what lies on it"));
    connect(backdrop_, &QCheckBox::clicked, this, [this](bool on) {
        const std::string id = document().selected();
        document().endRun();
        document().change(on ? tr("Backdrop counts") : tr("Backdrop left out"), [&](Job& job) {
            if (Design* design = job.find(id))
                design->recipe.edge.takesBackdrop = on;
        });
    });
    layout->addWidget(backdrop_);
    loops_ = designChoice(
        document(), layout, N_("Lines"),
        N_("Which lines become edges: the outside alone, openings such as in a ring, or all"), loopNames(),
        [](Design& design, int place) { design.recipe.edge.loops = loopChoices[place]; });
    const auto row = [&](const QuantityRow::Description& description, const char* label,
                         std::function<void(Design&, double)> set) {
        auto* made = designRow(document(), description, label, std::move(set));
        layout->addWidget(made);
        return made;
    };
    level_ =
        row({N_("Level"),
             N_("Low takes faint pixels into the sticker, high leaves them out; the mark is where the line "
                "is crispest"),
             QuantityKind::percent, 0, 100, 1, 99, 1},
            N_("Edge level"), [this](Design& design, double value) {
                // Where it is suggested it stays so, whatever picture comes.
                design.recipe.edge.level =
                    std::abs(value - level_->start()) < 1e-9 ? std::nullopt : std::optional(value);
            });
    colours_ =
        row({N_("Colours"),
             N_("How many colours the picture is divided into; automatic: as many as differ clearly"),
             QuantityKind::count, 0, mostColours, 0, 12, 1, N_("automatic")},
            N_("Colours"), [](Design& design, double value) { design.recipe.edge.colours = int(value); });
    shadow_ = row({N_("Shadow"), N_("How much of a soft shadow on the backdrop belongs to the sticker"),
                   QuantityKind::percent, 0, 100, 0, 100, 1},
                  N_("Shadow"), [](Design& design, double value) { design.recipe.edge.shadow = value; });
    smoothing_ =
        row({N_("Smoothing"), N_("Evens out bumps and dents up to this size; true corners stay"),
             QuantityKind::length, 0, Limits::mostSmoothing, 0, 2, 0.05, N_("none")},
            N_("Smoothing"), [](Design& design, double value) { design.recipe.edge.smoothing = value; });
    specks_ = row({N_("Specks"), N_("Loose bits smaller than this get no line"), QuantityKind::area, 0, 1e6,
                   0, 25, 0.25},
                  N_("Specks"), [](Design& design, double value) { design.recipe.edge.leastSpeck = value; });
    openings_ =
        row({N_("Openings"), N_("Openings smaller than this are closed"), QuantityKind::area, 0, 1e6, 0, 25,
             0.25},
            N_("Openings"), [](Design& design, double value) { design.recipe.edge.leastOpening = value; });
}

void EdgePage::addList() {
    lines_ = new QListWidget;
    lines_->setObjectName("Line list");
    lines_->setAccessibleName(tr("Lines found, by size"));
    lines_->setToolTip(
        tr("Every line found, the largest first: tick those that become edges. On the bench a click "
           "switches the smallest line under the pointer, a sweep all lines within it"));
    lines_->setUniformItemSizes(true);
    lines_->setMinimumHeight(72);
    auto* layout = static_cast<QVBoxLayout*>(found_->layout());
    layout->addWidget(lines_, 1);
    oneColour_ = new QPushButton(tr("Cut this colour alone"));
    oneColour_->setObjectName(oneColour_->text());
    oneColour_->setProperty("role", "small");
    oneColour_->setToolTip(
        tr("Only the areas of the colour chosen in the list are cut: one film of several"));
    layout->addWidget(oneColour_);
    connect(lines_, &QListWidget::currentRowChanged, this,
            [this](int row) { oneColour_->setEnabled(row >= 0); });
    connect(oneColour_, &QPushButton::clicked, this,
            [this] { picker_.cutColourOf(std::size_t(std::max(lines_->currentRow(), 0))); });
    layout->addStretch(0);
    connect(lines_, &QListWidget::itemChanged, this, [this](QListWidgetItem* item) {
        picker_.setCut({std::size_t(lines_->row(item))}, item->checkState() == Qt::Checked);
    });
}

void EdgePage::showLines() {
    constexpr std::size_t mostListed = 500;
    const auto lines = picker_.lines();
    const std::size_t count = std::min(lines.size(), mostListed);
    const QSignalBlocker quiet(lines_);
    while (std::size_t(lines_->count()) > count)
        delete lines_->takeItem(lines_->count() - 1);
    for (std::size_t i = 0; i < count; ++i) {
        if (std::size_t(lines_->count()) == i)
            lines_->addItem(new QListWidgetItem);
        const double area = lines[i].loop->facts.area;
        QListWidgetItem* item = lines_->item(int(i));
        const std::optional<Rgba>& colour = lines[i].loop->colour;
        item->setIcon(colour ? QIcon(chipOf(*colour, {16, 16}, coloursOf(palette()).rule)) : QIcon());
        item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
        item->setText((area > 0 ? tr("Outline, %1") : tr("Opening, %1"))
                          .arg(quantityText(std::abs(area), QuantityKind::area)));
        item->setCheckState(lines[i].isCut ? Qt::Checked : Qt::Unchecked);
    }
    lines_->setVisible(lines.size() > 1);
}

QuantityRow& EdgePage::mainNumber() {
    return plain_->isVisibleTo(this)   ? plain_->mainNumber()
           : level_->isVisibleTo(this) ? *level_
                                       : *smoothing_;
}

QuantityRow* EdgePage::secondNumber() {
    return plain_->isVisibleTo(this) ? plain_->secondNumber() : smoothing_;
}

static bool isAllVector(const Artwork& artwork) {
    return std::all_of(artwork.items.begin(), artwork.items.end(),
                       [](const Item& i) { return i.isVector(); });
}

void EdgePage::showDesign(const Design& design, const MadeDesign* made) {
    const EdgeOptions &edge = design.recipe.edge, start;
    for (QuantityRow* row : {level_, shadow_, smoothing_, specks_, openings_})
        row->setUnit(document().job().unit);
    const auto& items = design.artwork.items;
    const bool hasPicture = !isAllVector(design.artwork);
    const bool hasVector =
        std::any_of(items.begin(), items.end(), [](const Item& i) { return i.isVector(); });
    auto* choices = static_cast<QStandardItemModel*>(way_->model());
    for (int i = 0; i < choices->rowCount(); ++i)
        choices->item(i)->setEnabled((hasVector && suits(ways[i], true)) ||
                                     (hasPicture && suits(ways[i], false)));
    way_->setCurrentIndex(placeOf(ways, edge.way));
    loops_->setCurrentIndex(placeOf(loopChoices, edge.loops));
    showHands(design);
    const EdgePreview* preview = made ? firstPreview(*made) : nullptr;
    const double suggested = preview ? preview->level : 50;
    level_->showStart(suggested);
    level_->show(edge.level.value_or(suggested));
    const bool byColours = edge.way == EdgeWay::colours;
    const bool isExact = !hasPicture && !byColours && edge.way != EdgeWay::transparency;
    const bool isBrought = edge.way == EdgeWay::lines;
    level_->setVisible(!byColours && !isExact);
    backdrop_->setVisible(hasVector && !byColours && edge.way != EdgeWay::transparency && !isBrought &&
                          made &&
                          std::any_of(made->sources.begin(), made->sources.end(),
                                      [](const MadeDesign::Source& source) { return source.hasBackdrop; }));
    backdrop_->setChecked(edge.takesBackdrop);
    for (QuantityRow* row : {smoothing_, specks_})
        row->setVisible(!isBrought);
    colours_->setVisible(byColours);
    oneColour_->setVisible(byColours);
    colours_->setStart(start.colours);
    colours_->show(edge.colours);
    shadow_->setVisible(!byColours && preview && preview->way == EdgeWay::backdrop);
    const auto both = [](QuantityRow* row, double startValue, double value) {
        row->setStart(startValue);
        row->show(value);
    };
    both(shadow_, start.shadow, edge.shadow);
    both(smoothing_, start.smoothing, edge.smoothing);
    both(specks_, start.leastSpeck, edge.leastSpeck);
    both(openings_, start.leastOpening, edge.leastOpening);
    openings_->setVisible(edge.loops != LoopChoice::outer && !byColours && !isBrought);
    plain_->showDesign(design, made);
    showFound(design, made);
}

const EdgePreview* EdgePage::firstPreview(const MadeDesign& made) {
    for (const auto& preview : made.previews)
        if (preview)
            return preview.get();
    return nullptr;
}

void EdgePage::showFound(const Design& design, const MadeDesign* made) {
    const StepReport report = reportOn(RecipeStep::edge, design, made);
    const EdgeWay asked = design.recipe.edge.way;
    if (report.state == StepState::beingMade)
        text_->setText(tr("The edge is being found…"));
    else if (report.state == StepState::finding)
        text_->setText("▲ " + report.finding);
    else if (asked == EdgeWay::shape)
        text_->setText(tr("The same shape whatever the artwork shows."));
    else if (asked == EdgeWay::colours)
        text_->setText(counted(countColours(*made), "Found: %1 colour, with shared borders.",
                               "Found: %1 colours, with shared borders."));
    else if (isAllVector(design.artwork))
        text_->setText(asked == EdgeWay::lines
                           ? tr("The cut lines that the file brings, as drawn. They are not printed.")
                           : tr("Found: all that is painted, exactly."));
    else
        text_->setText(wayInWords(firstPreview(*made)->way));
    showLines();
}

} // namespace hasami
