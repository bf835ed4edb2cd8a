#include "app/sheet/packing_panel.h"

#include "app/words/words.h"
#include "sheet/rows.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

#include <array>

namespace hasami {

namespace {

const std::array<Turning, 5> turnings{{{Turning::Kind::free},
                                       {Turning::Kind::steps, 45},
                                       {Turning::Kind::steps, 90},
                                       {Turning::Kind::steps, 180},
                                       {Turning::Kind::none}}};

} // namespace

PackingPanel::PackingPanel(Document& document, NestRun& nest, QWidget* parent)
    : SettingsGroup(document, N_("Packing"), parent), nest_(nest) {
    auto* ways = new QWidget;
    auto* side = new QHBoxLayout(ways);
    side->setContentsMargins(0, 0, 0, 0);
    side->setSpacing(4);
    inRows_ = addWay(N_("Rows"), N_("Each by the box around it, row after row"), Packing::rows);
    inNest_ =
        addWay(N_("Nest"), N_("Each by its true outline, as close as possible; also what was moved by hand"),
               Packing::nest);
    side->addWidget(inRows_);
    side->addWidget(inNest_);
    addWide(ways);
    addCopies();
    addRows();
    addNest();
    connect(&document, &Document::jobChanged, this, &PackingPanel::showJob);
    connect(&document, &Document::selectionChanged, this, &PackingPanel::showJob);
    connect(&nest, &NestRun::changed, this, [this] {
        if (showedSearch_ != nest_.isOn())
            showJob();
    });
    showJob();
}

QPushButton* PackingPanel::addWay(const char* name, const char* effect, Packing packing) {
    auto* button = new QPushButton(tr(name));
    button->setObjectName("In " + QString::fromUtf8(name).toLower());
    button->setToolTip(tr(effect));
    button->setCheckable(true);
    button->setProperty("role", "small");
    connect(button, &QPushButton::clicked, this, [this, packing] {
        packing == Packing::rows ? layInRows() : layInNest();
        showJob();
    });
    return button;
}

void PackingPanel::layInRows() {
    nest_.stop();
    document_.endRun();
    document_.change(tr("In rows"), [](Job& job) { job.plan.packing = Packing::rows; });
}

/// As they lay in it before, where they did; else searched for.
void PackingPanel::layInNest() {
    const Job& job = document_.job();
    if (job.plan.packing == Packing::nest || nest_.isOn())
        return;
    if (job.plan.laid->empty() && !job.designs.empty())
        return nest_.start();
    document_.endRun();
    document_.change(tr("In a nest"), [](Job& changed) { changed.plan.packing = Packing::nest; });
}

void PackingPanel::changeSelected(const QString& label, const std::function<void(Design&)>& change) {
    document_.endRun();
    document_.change(label, [&, id = document_.selected()](Job& job) {
        if (Design* design = job.find(id))
            change(*design);
    });
}

void PackingPanel::addCopies() {
    count_ = addNumber(N_("Copies"), N_("How many copies of the selected design lie on the medium"),
                       QuantityKind::count, 0, Limits::mostCopies, [this](Job& job, double value) {
                           if (Design* design = job.find(document_.selected())) {
                               design->count = int(value);
                               design->fills = false;
                           }
                       });
    fills_ =
        addCheck(N_("Fill"), N_("As many as a sheet holds, on a roll one row"), [this](Job& job, bool isOn) {
            if (Design* design = job.find(document_.selected()))
                design->fills = isOn;
        });
    sets_ = addNumber(
        N_("Sets"), N_("How many times the copies of every design; in rows on sheets, a set stays whole"),
        QuantityKind::count, 1, Limits::mostSets, [](Job& job, double value) { job.plan.sets = int(value); });
    fillSets_ = new QPushButton(tr("Fill with sets"));
    fillSets_->setObjectName("Fill with sets");
    fillSets_->setToolTip(
        tr("As many whole sets as one sheet holds in rows: the same number of every design"));
    fillSets_->setProperty("role", "small");
    connect(fillSets_, &QPushButton::clicked, this, &PackingPanel::fillWithSets);
    addWide(fillSets_);
}

/// The copies of each design stay; those that fill count once.
void PackingPanel::fillWithSets() {
    const Job& job = document_.job();
    std::vector<Copies> copies;
    for (const Design& design : job.designs)
        if (const MadeDesign* made = document_.newest(design.id);
            made && !made->sticker->isEmpty() && (design.fills || design.count > 0)) {
            copies.push_back(copiesOf(design, *made));
            copies.back().count = design.fills ? 1 : design.count;
            copies.back().fills = false;
        }
    if (copies.empty())
        return;
    const int sets = std::max(1, setsOnSheet(copies, job.plan, job.profile, Limits::mostSets));
    document_.endRun();
    document_.change(tr("Fill with %1 sets").arg(sets), [sets](Job& changed) {
        for (Design& design : changed.designs)
            if (design.fills) {
                design.fills = false;
                design.count = 1;
            }
        changed.plan.sets = sets;
    });
}

void PackingPanel::addRows() {
    gap_ = addNumber(N_("Gap"), N_("The least distance between two stickers, and to what is kept free"),
                     QuantityKind::length, 0, Limits::mostGap, [](Job& job, double value) {
                         job.plan.gap = value;
                         job.plan.rows.across = job.plan.rows.along = {};
                     });
    across_ = addNumber(N_("Gap across"), N_("Between neighbours in a row, where it differs from the gap"),
                        QuantityKind::length, 0, Limits::mostGap,
                        [](Job& job, double value) { job.plan.rows.across = value; });
    along_ = addNumber(N_("Gap along"), N_("Between a row and the next, where it differs from the gap"),
                       QuantityKind::length, 0, Limits::mostGap,
                       [](Job& job, double value) { job.plan.rows.along = value; });
    most_ = addNumber(N_("Most per row"), N_("How many lie side by side at most"), QuantityKind::count, 0,
                      Limits::mostInRow, [](Job& job, double value) { job.plan.rows.most = int(value); });
    most_->setZeroWord(tr("no limit"));
    staggered_ =
        addCheck(N_("Staggered rows"), N_("Every second row is shifted by half a sticker, and moved closer"),
                 [](Job& job, bool isOn) { job.plan.rows.isStaggered = isOn; });
    turned_ = addCheck(N_("Every second one turned"),
                       N_("Neighbours are turned half round against each other, and moved closer"),
                       [](Job& job, bool isOn) { job.plan.rows.turnsAlternate = isOn; });
    centred_ = addCheck(N_("Centred"), N_("The rows lie in the middle of the medium, not at its side"),
                        [](Job& job, bool isOn) { job.plan.rows.isCentred = isOn; });
}

void PackingPanel::addNest() {
    turningName_ = addText();
    turning_ = addChoice(
        N_("Turning"),
        N_("How stickers of the selected design may lie: for the grain of the paper, or a print "
           "that has a direction"),
        {tr("Freely"), tr("By eighths of a turn"), tr("By quarters"), tr("By half a turn"), tr("Not at all")},
        [this](int place) {
            changeSelected(tr("%1: %2").arg(tr("Turning"), turning_->itemText(place)),
                           [&](Design& design) { design.turning = turnings[std::size_t(place)]; });
        });
}

void PackingPanel::showJob() {
    const SheetPlan& plan = document_.job().plan;
    const bool isNest = plan.packing == Packing::nest || nest_.isOn();
    showedSearch_ = nest_.isOn();
    inRows_->setChecked(!isNest);
    inNest_->setChecked(isNest);
    const Design* design = document_.selectedDesign();
    count_->setEnabled(design != nullptr);
    fills_->setEnabled(design != nullptr);
    rename(count_, design ? tr("Copies of %1").arg(QString::fromStdString(design->name)) : tr("Copies"));
    show(count_, design ? design->count : 0);
    fills_->setText(plan.medium.isRoll() ? tr("Fill one row of the roll") : tr("Fill the sheet"));
    fills_->setChecked(design && design->fills);
    show(sets_, plan.sets);
    fillSets_->setVisible(!plan.medium.isRoll());
    fillSets_->setEnabled(!document_.job().designs.empty());
    show(gap_, plan.gap);
    show(across_, plan.rows.across.value_or(plan.gap), !isNest);
    show(along_, plan.rows.along.value_or(plan.gap), !isNest);
    show(most_, plan.rows.most, !isNest);
    staggered_->setChecked(plan.rows.isStaggered);
    turned_->setChecked(plan.rows.turnsAlternate);
    centred_->setChecked(plan.rows.isCentred);
    for (QCheckBox* box : {staggered_, turned_, centred_})
        box->setVisible(!isNest);
    turningName_->setText(design ? QFontMetrics(font()).elidedText(
                                       tr("How %1 may be turned").arg(QString::fromStdString(design->name)),
                                       Qt::ElideRight, 230)
                                 : QString());
    turning_->setEnabled(design != nullptr);
    if (design) {
        const auto found = std::find(turnings.begin(), turnings.end(), design->turning);
        turning_->setCurrentIndex(found == turnings.end() ? -1 : int(found - turnings.begin()));
        turning_->setPlaceholderText(tr("In steps of %1°").arg(design->turning.step));
    }
    turningName_->setVisible(isNest);
    turning_->setVisible(isNest);
}

} // namespace hasami
