#include "app/stickers/inks_page.h"

#include "app/controls/design_controls.h"
#include "app/document/step_state.h"
#include "app/kit/colour_choice.h"
#include "app/kit/theme.h"
#include "app/paint/artwork_colours.h"
#include "app/paint/line_names.h"
#include "app/words/words.h"
#include "artwork/colour_text.h"
#include "job/white_place.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QMenu>
#include <QPushButton>
#include <QSignalBlocker>
#include <QToolButton>
#include <QVBoxLayout>

namespace hasami {

namespace {

QStringList useNames() {
    return translatedList({N_("Stickers of paper or vinyl"), N_("Labels"), N_("Stickers to pop out"),
                           N_("Transfer for light cloth"), N_("Transfer for dark cloth"),
                           N_("Window, read through glass"), N_("Magnets"), N_("Large wall graphics")});
}
QStringList whitePlaceNames() {
    return translatedList(
        {N_("Under the colours"), N_("Over the colours"), N_("Between two passes of them")});
}
QStringList areaNames() {
    return translatedList({N_("All that is printed"), N_("All that is not white"), N_("Chosen colours"),
                           N_("As dense as the artwork"), N_("As the artwork brings it")});
}

} // namespace

InksPage::InksPage(Document& document, QWidget* parent)
    : StepPage(document, parent), mirrored_(new QCheckBox(tr("Print it mirrored"))), list_(new QListWidget),
      add_(new QPushButton(tr("Add ink"))), remove_(new QPushButton(tr("Remove ink"))), colours_(new QWidget),
      chips_(new QHBoxLayout(colours_)), text_(quietText()) {
    auto* layout = pageLayout(this);
    addUse();
    addList();
    white_ = jobChoice(document, layout, N_("Place of white"),
                       N_("Over the colours it is for what is seen through the medium. In all designs of the "
                          "job; the machine's profile has the "
                          "order of all inks"),
                       whitePlaceNames(), [](Job& job, int place) {
                           InkOrder& order = job.profile.printer.inkOrder;
                           order = order.with(whitePlaces[std::size_t(place)]);
                       });
    area_ = designChoice(document, layout, N_("Printed"), N_("Which part of the sticker gets this ink"),
                         areaNames(), [this](Design& design, int place) {
                             const auto row = std::size_t(std::max(list_->currentRow(), 0));
                             if (row < design.recipe.inks.size())
                                 design.recipe.inks[row].area = InkArea(place);
                         });
    choke_ = designRow(
        document,
        {N_("Choke"),
         N_("How far the ink stays inside the rim of the print, so that none of it shows beside it"),
         QuantityKind::length, 0, Limits::mostChoke, 0, 2, 0.05, N_("none")},
        N_("Choke"), [this](Design& design, double value) {
            const auto row = std::size_t(std::max(list_->currentRow(), 0));
            if (row < design.recipe.inks.size())
                design.recipe.inks[row].choke = value;
        });
    threshold_ = designRow(document,
                           {N_("Threshold"), N_("A colour gets ink where it is at least this far from white"),
                            QuantityKind::percent, 0, 100, 0, 50, 1},
                           N_("Threshold"), [this](Design& design, double value) {
                               const auto row = std::size_t(std::max(list_->currentRow(), 0));
                               if (row < design.recipe.inks.size())
                                   design.recipe.inks[row].threshold = value;
                           });
    chips_->setContentsMargins(0, 0, 0, 0);
    chips_->setSpacing(4);
    layout->addWidget(choke_);
    layout->addWidget(threshold_);
    layout->addWidget(colours_);
    auto* label = new QLabel(tr("Look at it on"));
    look_ = new QComboBox;
    look_->addItems(translatedList({N_("White"), N_("Clear film"), N_("Black"), N_("Kraft paper")}));
    look_->setObjectName("Medium look");
    look_->setAccessibleName(tr("Look at it on"));
    look_->setToolTip(tr("Only for the eye: what shows where nothing is printed"));
    label->setBuddy(look_);
    connect(look_, &QComboBox::activated, this, [this](int place) { Q_EMIT lookChanged(MediumLook(place)); });
    layout->addWidget(label);
    layout->addWidget(look_);
    layout->addWidget(text_);
    layout->addStretch(1);
}

void InksPage::addUse() {
    use_ = jobChoice(
        document(), static_cast<QVBoxLayout*>(layout()), N_("Made for"),
        N_("Sets start values for bleed, kinds of line, inks and mirroring, all of which can be changed"),
        useNames(), [this](Job& job, int place) {
            Design* design = job.find(document().selected());
            if (!design)
                return;
            const Box box = bounds(design->artwork);
            design->recipe = startingFor(stickerUses[std::size_t(place)], design->recipe,
                                         std::max(box.width(), box.height()));
            keepSharedShape(job, design->id);
            suitInkOrder(job);
        });
    mirrored_->setObjectName("Print it mirrored");
    mirrored_->setToolTip(tr("Artwork and cut lines lie left to right on the sheet; the marks never do"));
    connect(mirrored_, &QCheckBox::clicked, this, [this](bool checked) {
        const std::string id = document().selected();
        document().endRun();
        document().change(checked ? tr("Print mirrored") : tr("Print as seen"), [&](Job& job) {
            if (Design* design = job.find(id))
                design->recipe.isMirrored = checked;
        });
    });
    layout()->addWidget(mirrored_);
}

void InksPage::addList() {
    list_->setObjectName("Inks list");
    list_->setAccessibleName(tr("Special inks"));
    list_->setToolTip(
        tr("Each is a layer of its own in the print file; what stands below is about the chosen one"));
    list_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    connect(list_, &QListWidget::currentRowChanged, this, [this] {
        document().endRun();
        if (const Design* design = document().selectedDesign())
            showDesign(*design, document().newest(design->id));
        Q_EMIT inkChosen();
    });
    auto* inks = new QMenu(this);
    for (const InkKind ink : inkKinds) {
        QAction* action = inks->addAction(nameOf(ink), this, [this, ink] { addInk(ink); });
        action->setObjectName("Add " + QString(englishNameOf(ink)).toLower());
    }
    add_->setMenu(inks);
    add_->setToolTip(tr("One more layer of ink beside the colours"));
    remove_->setToolTip(tr("The chosen ink is not printed"));
    connect(remove_, &QPushButton::clicked, this, &InksPage::removeInk);
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(6);
    add_->setObjectName("Add ink");
    remove_->setObjectName("Remove ink");
    for (QPushButton* button : {add_, remove_}) {
        button->setProperty("role", "small");
        buttons->addWidget(button);
    }
    layout()->addWidget(list_);
    static_cast<QVBoxLayout*>(layout())->addLayout(buttons);
}

std::optional<InkKind> InksPage::ink() const {
    const Design* design = const_cast<InksPage*>(this)->document().selectedDesign();
    const auto row = std::size_t(std::max(list_->currentRow(), 0));
    if (!design || row >= design->recipe.inks.size())
        return {};
    return design->recipe.inks[row].ink;
}

void InksPage::changeLayer(const QString& label, const std::function<void(InkLayer&)>& change) {
    const std::string id = document().selected();
    const auto row = std::size_t(std::max(list_->currentRow(), 0));
    document().endRun();
    document().change(label, [&](Job& job) {
        if (Design* design = job.find(id); design && row < design->recipe.inks.size())
            change(design->recipe.inks[row]);
    });
}

void InksPage::addInk(InkKind ink) {
    const std::string id = document().selected();
    document().endRun();
    document().change(tr("Add %1").arg(nameOf(ink)), [&](Job& job) {
        Design* design = job.find(id);
        if (!design)
            return;
        auto& layers = design->recipe.inks;
        if (std::none_of(layers.begin(), layers.end(), [&](const InkLayer& l) { return l.ink == ink; }))
            layers.push_back({ink});
    });
    list_->setCurrentRow(list_->count() - 1);
}

void InksPage::removeInk() {
    const std::string id = document().selected();
    const int row = list_->currentRow();
    if (row < 0)
        return;
    document().endRun();
    document().change(tr("Remove %1").arg(list_->item(row)->text()), [&](Job& job) {
        if (Design* design = job.find(id); design && row < int(design->recipe.inks.size()))
            design->recipe.inks.erase(design->recipe.inks.begin() + row);
    });
}

void InksPage::takeColour(Rgba colour) {
    changeLayer(tr("Ink on %1").arg(QString::fromStdString(colourText(colour))), [&](InkLayer& layer) {
        layer.area = InkArea::colours;
        const auto found = std::find(layer.colours.begin(), layer.colours.end(), colour);
        if (found != layer.colours.end())
            layer.colours.erase(found);
        else if (layer.colours.size() < std::size_t(mostColours))
            layer.colours.push_back(colour);
    });
}

void InksPage::showList(const Recipe& recipe) {
    const QSignalBlocker quiet(list_);
    const int count = int(recipe.inks.size());
    while (list_->count() > count)
        delete list_->takeItem(list_->count() - 1);
    for (int i = 0; i < count; ++i) {
        if (list_->count() == i)
            list_->addItem(new QListWidgetItem);
        list_->item(i)->setText(nameOf(recipe.inks[std::size_t(i)].ink));
    }
    if (count > 0)
        list_->setCurrentRow(std::clamp(list_->currentRow(), 0, count - 1));
    list_->setVisible(count > 0);
    list_->setFixedHeight(std::max(count, 1) * std::max(list_->sizeHintForRow(0), 1) +
                          2 * list_->frameWidth());
    remove_->setEnabled(count > 0);
    for (QAction* action : add_->menu()->actions())
        action->setEnabled(std::none_of(recipe.inks.begin(), recipe.inks.end(), [&](const InkLayer& layer) {
            return action->text() == nameOf(layer.ink);
        }));
    add_->setEnabled(recipe.inks.size() < inkKinds.size());
}

/// Chips of the artwork's colours: those that get ink are framed.
void InksPage::showColours(const InkLayer& layer) {
    const Design* design = document().selectedDesign();
    std::vector<Rgba> all = layer.colours;
    for (const Rgba colour : coloursThatSuit(document(), *design))
        if (std::find(all.begin(), all.end(), colour) == all.end() && all.size() < 8)
            all.push_back(colour);
    while (QLayoutItem* item = chips_->takeAt(0)) {
        if (item->widget())
            item->widget()->deleteLater();
        delete item;
    }
    for (const Rgba colour : all) {
        auto* chip = new QToolButton;
        const QString name = QString::fromStdString(colourText(colour));
        chip->setCheckable(true);
        chip->setChecked(std::find(layer.colours.begin(), layer.colours.end(), colour) !=
                         layer.colours.end());
        chip->setIcon(chipOf(colour, {16, 16}, coloursOf(palette()).rule));
        chip->setObjectName("Ink on " + name);
        chip->setAccessibleName(tr("Ink on %1").arg(name));
        chip->setToolTip(
            (chip->isChecked() ? tr("%1 gets this ink") : tr("%1 gets none of this ink")).arg(name));
        connect(chip, &QToolButton::clicked, this, [this, colour] { takeColour(colour); });
        chips_->addWidget(chip);
    }
    chips_->addStretch(1);
}

void InksPage::showWithLabel(QComboBox& box, bool isShown) {
    box.setVisible(isShown);
    for (QLabel* label : findChildren<QLabel*>())
        if (label->buddy() == &box)
            label->setVisible(isShown);
}

void InksPage::showDesign(const Design& design, const MadeDesign* made) {
    const Recipe& recipe = design.recipe;
    use_->setCurrentIndex(int(recipe.use));
    mirrored_->setChecked(recipe.isMirrored);
    showList(recipe);
    const auto row = std::size_t(std::max(list_->currentRow(), 0));
    const bool hasInk = row < recipe.inks.size();
    const InkLayer layer = hasInk ? recipe.inks[row] : InkLayer{}, start;
    area_->setCurrentIndex(int(layer.area));
    choke_->setUnit(document().job().unit);
    choke_->setStart(start.choke);
    choke_->show(layer.choke);
    threshold_->setStart(start.threshold);
    threshold_->show(layer.threshold);
    white_->setCurrentIndex(int(document().job().profile.printer.inkOrder.white()));
    choke_->setVisible(hasInk);
    showWithLabel(*area_, hasInk);
    showWithLabel(*white_, hasInk && layer.ink == InkKind::white);
    threshold_->setVisible(hasInk && layer.area == InkArea::notWhite);
    colours_->setVisible(hasInk && layer.area == InkArea::colours);
    if (colours_->isVisibleTo(this))
        showColours(layer);
    showMade(design, made);
}

void InksPage::showMade(const Design& design, const MadeDesign* made) {
    const auto chosen = ink();
    if (!chosen)
        return text_->setText(
            tr("No ink beside the colours. Clear or coloured film needs white under them."));
    if (!isMadeFor(RecipeStep::inks, design, made))
        return text_->setText(tr("The ink is being made…"));
    const auto found = std::find_if(made->inks.begin(), made->inks.end(),
                                    [&](const auto& printed) { return printed->ink == *chosen; });
    if (found == made->inks.end() || (*found)->area.empty())
        return text_->setText(tr("▲ None of this ink is left: use a smaller choke, or print it elsewhere."));
    double area = 0;
    for (const Curve& curve : (*found)->area)
        area += signedArea(flatten(curve, flatteningTolerance));
    text_->setText(tr("%1 of ink, as the spot colour \"%2\".")
                       .arg(quantityText(std::abs(area), QuantityKind::area),
                            QString::fromStdString(document().job().profile.names.of(*chosen).name)));
}

} // namespace hasami
