#include "app/stickers/artwork_page.h"

#include "app/controls/design_controls.h"
#include "app/document/step_state.h"
#include "app/kit/named.h"
#include "app/kit/theme.h"
#include "app/stickers/own_actions.h"
#include "app/words/words.h"
#include "checks/findings.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QVBoxLayout>

#include <cmath>

namespace hasami {

namespace {

constexpr double leastPercent = 0.1, mostPercent = 10'000;

QGridLayout* tightGrid(QWidget* widget) {
    auto* grid = new QGridLayout(widget);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setSpacing(6);
    return grid;
}

} // namespace

ArtworkPage::ArtworkPage(Document& document, ItemHand& hand, LetteringHand& lettering, QWidget* parent)
    : StepPage(document, parent), hand_(hand), lettering_(lettering), name_(new QLineEdit),
      resolution_(quietText()), pages_(new QWidget), page_(new QSpinBox), several_(new QWidget),
      items_(new QListWidget),
      height_(new QuantityField(QuantityKind::length, Limits::leastSize, Limits::mostSize)),
      percent_(new QuantityField(QuantityKind::percent, leastPercent, mostPercent)),
      left_(new QuantityField(QuantityKind::length, -Limits::mostSize, Limits::mostSize)),
      top_(new QuantityField(QuantityKind::length, -Limits::mostSize, Limits::mostSize)),
      places_(makePlaces()), ratio_(new QCheckBox(tr("Keep its proportions"))), own_(makeOwn()),
      sizes_(makeSizes()), crops_(makeCrops()), alignments_(new QPushButton),
      splitting_(new PartsPanel(document)) {
    resolution_->setObjectName("Resolution");
    auto* inner = new QWidget;
    auto* layout = pageLayout(inner);
    for (QWidget* part :
         {makeName(), makePages(), makeItems(), own_, sizes_, places_, makeTurns(), crops_, makeAlignments(),
          static_cast<QWidget*>(splitting_), static_cast<QWidget*>(resolution_)})
        layout->addWidget(part);
    layout->addStretch(1);
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(inner);
    inner->setAutoFillBackground(false);
    scroll->viewport()->setAutoFillBackground(false);
    auto* whole = pageLayout(this);
    whole->addWidget(scroll);
    const auto showAgain = [this] {
        if (const Design* design = this->document().selectedDesign())
            showDesign(*design, this->document().newest(design->id));
    };
    connect(&hand, &ItemHand::changed, this, showAgain);
    connect(&document, &Document::refused, this,
            showAgain); // a page that can't be shown is not the one shown
}

QWidget* ArtworkPage::makeName() {
    auto* label = new QLabel(tr("Name"));
    name_->setObjectName("Name field");
    name_->setAccessibleName(tr("Name"));
    name_->setToolTip(tr("What this sticker is called on the shelf"));
    name_->setMaxLength(200);
    label->setBuddy(name_);
    connect(name_, &QLineEdit::editingFinished, this, [this] {
        const std::string id = document().selected(), name = name_->text().trimmed().toStdString();
        if (!name.empty() && name_->isModified())
            document().change(tr("Rename to %1").arg(name_->text().trimmed()), [&](Job& job) {
                if (Design* design = job.find(id))
                    design->name = name;
            });
        name_->setModified(false);
    });
    auto* widget = new QWidget;
    auto* box = new QVBoxLayout(widget);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(4);
    box->addWidget(label);
    box->addWidget(name_);
    return widget;
}

QWidget* ArtworkPage::makePages() {
    auto* label = new QLabel(tr("Page of the file"));
    page_->setObjectName("Page field");
    page_->setAccessibleName(tr("Page of the file"));
    page_->setToolTip(tr("Which page of the file the sticker shows; the recipe stays"));
    page_->setKeyboardTracking(false);
    page_->setMinimum(1);
    label->setBuddy(page_);
    connect(page_, &QSpinBox::valueChanged, this, [this](int page) {
        if (const auto item = hand_.item())
            document().showPage(document().selected(), *item, page);
    });
    auto* box = new QHBoxLayout(pages_);
    box->setContentsMargins(0, 0, 0, 0);
    box->addWidget(label);
    box->addStretch(1);
    box->addWidget(page_);
    return pages_;
}

QPushButton* ArtworkPage::addButton(QGridLayout& grid, const char* name, const char* effect,
                                    const std::function<void()>& act, int columns) {
    auto* button = new QPushButton(tr(name));
    button->setObjectName(name);
    button->setProperty("role", "small");
    button->setToolTip(tr(effect));
    connect(button, &QPushButton::clicked, this, act);
    grid.addWidget(button, grid.count() / columns, grid.count() % columns);
    return button;
}

QWidget* ArtworkPage::addField(QuantityField& field, const char* name, const char* effect,
                               void (ItemHand::*set)(double, const QString&)) {
    QLabel* label = labelOf(field, name, effect, " field");
    connect(&field, &QuantityField::entered, this, [this, set](double value) { (hand_.*set)(value, {}); });
    auto* widget = new QWidget;
    auto* box = new QVBoxLayout(widget);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(4);
    box->addWidget(label);
    box->addWidget(&field);
    return widget;
}

QWidget* ArtworkPage::makeItems() {
    items_->setObjectName("Artworks");
    items_->setAccessibleName(tr("Artworks of this sticker"));
    items_->setToolTip(
        tr("What this sticker shows, the front one on top; pick one to move, size or turn it alone, several "
           "with Control, and double-click one to rename it"));
    items_->setFixedHeight(76);
    items_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    items_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
    connect(items_, &QListWidget::itemSelectionChanged, this, &ArtworkPage::takeHeld);
    connect(items_, &QListWidget::itemChanged, this, [this](const QListWidgetItem* item) {
        if (const int row = items_->row(item); row > 0)
            hand_.rename(hand_.count() - std::size_t(row), item->text());
    });
    auto* box = new QVBoxLayout(several_);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(6);
    box->addWidget(items_);
    auto* buttons = new QWidget;
    auto* grid = tightGrid(buttons);
    forward_ = addButton(
        *grid, N_("Raise"), N_("Moves it in front of the artwork that covers it now"),
        [this] { hand_.restack(1); }, 3);
    backward_ = addButton(
        *grid, N_("Lower"), N_("Moves it behind the artwork that it covers now"),
        [this] { hand_.restack(-1); }, 3);
    takeOut_ = addButton(
        *grid, N_("Take out"), N_("This sticker no longer shows the artwork held (Delete on the bench)"),
        [this] { hand_.remove(); }, 3);
    group_ = addButton(
        *grid, N_("Group"), N_("The artworks held are picked and moved as one from now on"),
        [this] { hand_.group(group_->isChecked()); }, 3);
    group_->setCheckable(true);
    lock_ = addButton(
        *grid, N_("Lock"), N_("It stays where it is, and clicks on the bench go through it"),
        [this] { hand_.lock(lock_->isChecked()); }, 3);
    lock_->setCheckable(true);
    background_ = new QCheckBox(tr("Background only"));
    background_->setObjectName("Background only");
    background_->setToolTip(
        tr("Printed behind the rest, as far as the cut line and its bleed; the edge is found without it"));
    connect(background_, &QCheckBox::clicked, &hand_, &ItemHand::setBackground);
    box->addWidget(buttons);
    auto* widget = new QWidget;
    auto* all = new QVBoxLayout(widget);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(6);
    all->addWidget(several_);
    all->addWidget(background_, 0, Qt::AlignLeft);
    all->addWidget(makeAddition());
    return widget;
}

QWidget* ArtworkPage::makeAddition() {
    auto* add = new QPushButton(tr("Lay on it"));
    add->setObjectName("Lay on it");
    add->setProperty("role", "small");
    add->setToolTip(
        tr("Lettering, a shape, a code or another picture in front of what this sticker shows, cut as "
           "one with it"));
    auto* menu = new QMenu(add);
    menu->setObjectName("Lay on it menu");
    addOwnActions(*menu, hand_, lettering_, OwnPlace::onDesign);
    menu->addSeparator();
    menu->addAction(tr("Artwork from a file…"), this, &ArtworkPage::moreArtworkWanted);
    add->setMenu(menu);
    return add;
}

QWidget* ArtworkPage::makeOwn() {
    auto* widget = new QWidget;
    pageLayout(widget);
    widget->hide();
    return widget;
}

void ArtworkPage::showOwn() {
    const OwnArtwork* own = hand_.own();
    own_->setVisible(own);
    if (!own)
        return;
    const auto shown = [&](auto*& panel, auto& hand, bool isNeeded) {
        if (isNeeded && !panel) {
            panel = new std::remove_reference_t<decltype(*panel)>(hand);
            auto* layout = static_cast<QVBoxLayout*>(own_->layout());
            layout->insertWidget(fillPanel_ && static_cast<QWidget*>(panel) != fillPanel_
                                     ? layout->indexOf(fillPanel_)
                                     : layout->count(),
                                 panel);
            if (window())
                styleWindow(*own_);
        }
        if (panel) {
            panel->setVisible(isNeeded);
            if (isNeeded)
                panel->show(*own);
        }
    };
    shown(letteringPanel_, lettering_, std::holds_alternative<Lettering>(own->what));
    shown(figurePanel_, hand_, std::holds_alternative<Figure>(own->what));
    shown(codePanel_, hand_, std::holds_alternative<CodeArtwork>(own->what));
    const bool isNew = !fillPanel_;
    shown(fillPanel_, hand_, true);
    if (isNew)
        connect(fillPanel_, &FillPanel::pictureWanted, this, &ArtworkPage::pictureWanted);
}

QuantityRow* ArtworkPage::addRow(const QuantityRow::Description& description,
                                 void (ItemHand::*set)(double, const QString&)) {
    auto* row = new QuantityRow(description);
    connect(row, &QuantityRow::chosen, this,
            [this, set, run = description.name](double value) { (hand_.*set)(value, run); });
    connect(row, &QuantityRow::rested, &document(), &Document::endRun);
    return row;
}

QWidget* ArtworkPage::makeSizes() {
    width_ = addRow({N_("Width"), N_("How wide the held artwork is printed"), QuantityKind::length,
                     Limits::leastSize, Limits::mostSize, 5, 300, 0.5},
                    &ItemHand::setWidth);
    auto* pair = new QWidget;
    auto* columns = new QHBoxLayout(pair);
    columns->setContentsMargins(0, 0, 0, 0);
    columns->addWidget(
        addField(*height_, N_("Height"), N_("How high the held artwork is printed"), &ItemHand::setHeight));
    columns->addStretch(1);
    percentBox_ =
        addField(*percent_, N_("Size"), N_("The printed size, compared with the size in the artwork's file"),
                 &ItemHand::setPercent);
    columns->addWidget(percentBox_);
    ratio_->setObjectName("Keep its proportions");
    ratio_->setToolTip(
        tr("Width and height change together; untick it to stretch the artwork one way alone"));
    connect(ratio_, &QCheckBox::clicked, &hand_, &ItemHand::lockRatio);
    auto* widget = new QWidget;
    auto* box = pageLayout(widget);
    for (QWidget* row : std::initializer_list<QWidget*>{width_, ratio_, pair})
        box->addWidget(row);
    return widget;
}

QWidget* ArtworkPage::makePlaces() {
    auto* widget = new QWidget;
    auto* columns = new QHBoxLayout(widget);
    columns->setContentsMargins(0, 0, 0, 0);
    columns->addWidget(addField(*left_, N_("From the left"),
                                N_("Where the held artwork's left side lies, from the ruler's zero"),
                                &ItemHand::setLeft));
    columns->addStretch(1);
    columns->addWidget(addField(*top_, N_("From the top"),
                                N_("Where the held artwork's top lies, from the ruler's zero"),
                                &ItemHand::setTop));
    return widget;
}

void ArtworkPage::takeHeld() {
    std::set<std::size_t> held;
    for (const QListWidgetItem* item : items_->selectedItems()) {
        const int row = items_->row(item);
        if (row == 0)
            return hand_.hold(std::nullopt);
        held.insert(hand_.count() - std::size_t(row));
    }
    if (held.size() == 1)
        return hand_.hold(*held.begin()); // with its group
    if (!held.empty())
        hand_.hold(std::move(held));
}

QWidget* ArtworkPage::makeTurns() {
    turn_ = addRow({N_("Turn"), N_("How far the artwork is turned, clockwise"), QuantityKind::angle, -180,
                    180, -180, 180, 1},
                   &ItemHand::setTurn);
    auto* buttons = new QWidget;
    auto* grid = tightGrid(buttons);
    addButton(*grid, N_("Quarter left"), N_("A quarter turn anticlockwise"), [this] { hand_.turnBy(-90); });
    addButton(*grid, N_("Quarter right"), N_("A quarter turn clockwise"), [this] { hand_.turnBy(90); });
    addButton(*grid, N_("Mirror across"), N_("Left and right are swapped, cut lines too"),
              [this] { hand_.mirror(false); });
    addButton(*grid, N_("Mirror down"), N_("Top and bottom are swapped, cut lines too"),
              [this] { hand_.mirror(true); });
    auto* widget = new QWidget;
    auto* box = pageLayout(widget);
    box->addWidget(turn_);
    box->addWidget(buttons);
    return widget;
}

QWidget* ArtworkPage::makeCrops() {
    auto* widget = new QWidget;
    auto* grid = tightGrid(widget);
    crop_ = addButton(*grid, N_("Crop"), N_("Drag the sides of what is shown on the bench; Enter ends it"),
                      [this] { hand_.setCropping(crop_->isChecked()); });
    crop_->setCheckable(true);
    margins_ = addButton(*grid, N_("Crop margins"),
                         N_("Leaves out what is empty or of one plain colour around the artwork"),
                         [this] { hand_.cropMargins(); });
    all_ =
        addButton(*grid, N_("Show all"), N_("The whole artwork is shown again"), [this] { hand_.showAll(); });
    shape_ =
        addButton(*grid, N_("Make a shape of it"),
                  N_("Its outline becomes a shape with the artwork inside; another picture dropped on it "
                     "takes its place there"),
                  [this] { hand_.makeShapeOfOutline(); });
    return widget;
}

QWidget* ArtworkPage::makeAlignments() {
    auto* menu = new QMenu(alignments_);
    const std::pair<const char*, Alignment> all[] = {{N_("Left sides"), Alignment::left},
                                                     {N_("Middles, left to right"), Alignment::middle},
                                                     {N_("Right sides"), Alignment::right},
                                                     {N_("Tops"), Alignment::top},
                                                     {N_("Middles, top to bottom"), Alignment::centre},
                                                     {N_("Bottoms"), Alignment::bottom}};
    for (const auto& [name, alignment] : all)
        menu->addAction(tr(name), this, [this, alignment = alignment] { hand_.align(alignment); });
    menu->addSeparator();
    gapsAcross_ = menu->addAction(tr("Equal gaps across"), this, [this] { hand_.distribute(true); });
    gapsDown_ = menu->addAction(tr("Equal gaps down"), this, [this] { hand_.distribute(false); });
    alignments_->setObjectName("Align");
    alignments_->setText(tr("Align"));
    alignments_->setProperty("role", "small");
    alignments_->setToolTip(
        tr("Lays the artwork held on a side or the middle of all the others; several of each other"));
    alignments_->setMenu(menu);
    return alignments_;
}

QuantityRow& ArtworkPage::mainNumber() {
    const OwnArtwork* own = hand_.own();
    if (own && std::holds_alternative<Lettering>(own->what) && letteringPanel_)
        return letteringPanel_->mainNumber();
    if (own && std::holds_alternative<Figure>(own->what) && figurePanel_)
        return figurePanel_->mainNumber();
    if (own && std::holds_alternative<CodeArtwork>(own->what) && codePanel_)
        return codePanel_->mainNumber();
    return *width_;
}

void ArtworkPage::editName() {
    name_->setFocus();
    name_->selectAll();
}

void ArtworkPage::showDesign(const Design& design, const MadeDesign* made) {
    if (!(name_->hasFocus() && name_->isModified()))
        name_->setText(QString::fromStdString(design.name));
    showItems(design);
    showOwn();
    showHeld(design, made);
    splitting_->showDesign(design, made);
    const Item* held = hand_.lone();
    const double dpi = dotsPerInch(held ? Artwork{{*held}} : design.artwork);
    resolution_->setText(
        dpi == 0
            ? tr("Vector art: sharp at every size")
            : tr("%1 dots per inch at this size: %2").arg(std::lround(dpi)).arg(tr(resolutionWord(dpi))));
    resolution_->setProperty("role", dpi == 0 || dpi >= 150 ? "quiet" : "trouble");
}

void ArtworkPage::showItems(const Design& design) {
    const auto& items = design.artwork.items;
    several_->setVisible(items.size() > 1);
    const QSignalBlocker quiet(items_);
    QStringList names{tr("All together")};
    for (std::size_t i = items.size(); i-- > 0;)
        names << QString::fromStdString(items[i].name);
    items_->clear();
    items_->addItems(names);
    for (int row = 1; row < items_->count(); ++row)
        items_->item(row)->setFlags(items_->item(row)->flags() | Qt::ItemIsEditable);
    const auto held = hand_.item();
    const auto& several = hand_.several();
    items_->setCurrentRow(several.empty() ? 0 : int(items.size() - *several.rbegin()));
    for (const std::size_t i : several)
        items_->item(int(items.size() - i))->setSelected(true);
    const bool isLone = hand_.canMove() && held;
    forward_->setEnabled(isLone && *held + 1 < items.size());
    backward_->setEnabled(isLone && *held > 0);
    takeOut_->setEnabled(hand_.canMove() && several.size() < items.size());
    group_->setEnabled(several.size() > 1);
    group_->setChecked(hand_.isGrouped());
    lock_->setEnabled(hand_.canMove());
    lock_->setChecked(hand_.isLocked());
    alignments_->setVisible(hand_.canMove());
    background_->setVisible(hand_.canMove());
    background_->setChecked(hand_.isBackground());
    for (QAction* gaps : {gapsAcross_, gapsDown_})
        gaps->setEnabled(several.size() > 2 && !hand_.isGrouped());
}

void ArtworkPage::showHeld(const Design& design, const MadeDesign* made) {
    const Item* item = hand_.lone();
    const auto held = hand_.item();
    const bool knows = item && made && made->sources.size() == design.artwork.items.size();
    const int pages = knows ? made->sources[*held].pages : item ? item->page() : 1;
    const QSignalBlocker quiet(page_);
    pages_->setVisible(pages > 1);
    page_->setMaximum(item ? std::max(pages, item->page()) : 1);
    page_->setSuffix(tr(" of %1").arg(pages));
    page_->setValue(item ? item->page() : 1);

    const ItemHand::Frame frame = hand_.frame();
    const hasami::Box box = item ? bounds(*item) : frame.box;
    places_->setVisible(hand_.canMove());
    left_->setUnit(document().job().unit);
    top_->setUnit(document().job().unit);
    left_->show(box.least.x);
    top_->show(box.least.y);
    const auto percent = hand_.percent();
    width_->setUnit(document().job().unit);
    height_->setUnit(document().job().unit);
    const double natural = percent && item->place.turn == 0 ? 100 / *percent : 1;
    width_->setStart(std::clamp(box.width() * natural, Limits::leastSize, Limits::mostSize));
    width_->show(box.width());
    height_->show(box.height());
    percentBox_->setVisible(percent.has_value());
    percent_->show(percent.value_or(100));
    ratio_->setChecked(hand_.isRatioLocked());
    ratio_->setEnabled(item);
    turn_->setVisible(item);
    turn_->setStart(0);
    turn_->show(item ? item->place.turn : 0);
    for (QPushButton* button : {crop_, margins_, shape_})
        button->setEnabled(item);
    crops_->setVisible(!item || item->file());
    const OwnArtwork* own = hand_.own();
    sizes_->setVisible(!own || std::holds_alternative<Lettering>(own->what));
    all_->setVisible(item && item->crop);
    crop_->setChecked(hand_.isCropping());
}

} // namespace hasami
