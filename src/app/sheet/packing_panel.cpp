#include "app/sheet/packing_panel.h"

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
    : SettingsGroup(document, "Packing", parent), nest_(nest) {
    auto* ways = new QWidget;
    auto* side = new QHBoxLayout(ways);
    side->setContentsMargins(0, 0, 0, 0);
    side->setSpacing(4);
    inRows_ = addWay("Rows", "Each by the box around it, row after row", Packing::rows);
    inNest_ = addWay("Nest", "Each by its true outline, as close as they go; also what was moved by hand",
                     Packing::nest);
    side->addWidget(inRows_);
    side->addWidget(inNest_);
    addWide(ways);
    addCopies();
    addRows();
    addNest();
    connect(&document, &Document::jobChanged, this, &PackingPanel::showJob);
    connect(&document, &Document::selectionChanged, this, &PackingPanel::showJob);
    connect(&nest, &NestRun::changed, this, &PackingPanel::showNest);
    showJob();
}

QPushButton* PackingPanel::addWay(const QString& name, const QString& effect, Packing packing) {
    auto* button = new QPushButton(name);
    button->setObjectName("In " + name.toLower());
    button->setToolTip(effect);
    button->setCheckable(true);
    button->setProperty("role", "small");
    connect(button, &QPushButton::clicked, this, [this, packing] {
        nest_.stop();
        document_.endRun();
        document_.change(packing == Packing::rows ? "In rows" : "In a nest",
                         [&](Job& job) { job.plan.packing = packing; });
        showJob();
    });
    return button;
}

void PackingPanel::changeSelected(const QString& label, const std::function<void(Design&)>& change) {
    document_.endRun();
    document_.change(label, [&, id = document_.selected()](Job& job) {
        if (Design* design = job.find(id))
            change(*design);
    });
}

void PackingPanel::addCopies() {
    count_ = addNumber("Copies", "How often the selected design lies on the medium", QuantityKind::count, 0,
                       Limits::mostCopies, [this](Job& job, double value) {
                           if (Design* design = job.find(document_.selected())) {
                               design->count = int(value);
                               design->fills = false;
                           }
                       });
    fills_ = addCheck("Fill", "As many as a sheet holds, on a roll one row", [this](Job& job, bool isOn) {
        if (Design* design = job.find(document_.selected()))
            design->fills = isOn;
    });
    sets_ = addNumber(
        "Sets", "So many times the copies of every design; in rows on sheets, a set stays whole",
        QuantityKind::count, 1, Limits::mostSets, [](Job& job, double value) { job.plan.sets = int(value); });
}

void PackingPanel::addRows() {
    gap_ = addNumber("Gap", "The least distance between two stickers, and to what is kept free",
                     QuantityKind::length, 0, Limits::mostGap, [](Job& job, double value) {
                         job.plan.gap = value;
                         job.plan.rows.across = job.plan.rows.along = {};
                     });
    across_ =
        addNumber("Gap across", "Between neighbours in a row, where it is not the gap", QuantityKind::length,
                  0, Limits::mostGap, [](Job& job, double value) { job.plan.rows.across = value; });
    along_ =
        addNumber("Gap along", "Between a row and the next, where it is not the gap", QuantityKind::length, 0,
                  Limits::mostGap, [](Job& job, double value) { job.plan.rows.along = value; });
    most_ = addNumber("Most per row", "How many lie side by side at most", QuantityKind::count, 0,
                      Limits::mostInRow, [](Job& job, double value) { job.plan.rows.most = int(value); });
    most_->setZeroWord("no limit");
    staggered_ = addCheck("Staggered rows", "Every second row is moved by half a sticker, and drawn closer",
                          [](Job& job, bool isOn) { job.plan.rows.isStaggered = isOn; });
    turned_ = addCheck("Every second one turned",
                       "Neighbours are turned half round against each other, and drawn closer",
                       [](Job& job, bool isOn) { job.plan.rows.turnsAlternate = isOn; });
    centred_ = addCheck("Centred", "The rows lie in the middle of the medium, not at its side",
                        [](Job& job, bool isOn) { job.plan.rows.isCentred = isOn; });
}

void PackingPanel::addNest() {
    turningName_ = addText();
    turning_ = addChoice(
        "Turning",
        "How stickers of the selected design may lie: for the grain of the paper, or a print "
        "that has a direction",
        {"Freely", "By eighths of a turn", "By quarters", "By half a turn", "Not at all"}, [this](int place) {
            changeSelected("Turning: " + turning_->itemText(place).toLower(),
                           [&](Design& design) { design.turning = turnings[std::size_t(place)]; });
        });
    seconds_ = new QuantityField(QuantityKind::count, 1, 24 * 3600);
    auto* row = new QWidget;
    auto* side = new QHBoxLayout(row);
    side->setContentsMargins(0, 0, 0, 0);
    auto* name = new QLabel("Seconds to search");
    name->setBuddy(seconds_);
    side->addWidget(name, 1);
    side->addWidget(seconds_);
    seconds_->setObjectName("Seconds field");
    seconds_->setAccessibleName("Seconds to search");
    seconds_->setToolTip("How long the search goes on by itself; it can be stopped, and begun again");
    seconds_->show(nest_.length());
    connect(seconds_, &QuantityField::entered, this, [this](double value) { nest_.setLength(value); });
    addWide(row);
    start_ = new QPushButton;
    start_->setObjectName("Start nest");
    start_->setProperty("role", "next");
    connect(start_, &QPushButton::clicked, this, [this] { nest_.isOn() ? nest_.stop() : nest_.start(); });
    addWide(start_);
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
    rename(count_, design ? "Copies of " + QString::fromStdString(design->name) : QString("Copies"));
    show(count_, design ? design->count : 0);
    fills_->setText(plan.medium.isRoll() ? "Fill one row of the roll" : "Fill the sheet");
    fills_->setChecked(design && design->fills);
    show(sets_, plan.sets);
    show(gap_, plan.gap);
    show(across_, plan.rows.across.value_or(plan.gap), !isNest);
    show(along_, plan.rows.along.value_or(plan.gap), !isNest);
    show(most_, plan.rows.most, !isNest);
    staggered_->setChecked(plan.rows.isStaggered);
    turned_->setChecked(plan.rows.turnsAlternate);
    centred_->setChecked(plan.rows.isCentred);
    for (QCheckBox* box : {staggered_, turned_, centred_})
        box->setVisible(!isNest);
    turningName_->setText(
        design ? QFontMetrics(font()).elidedText(
                     "How " + QString::fromStdString(design->name) + " may be turned", Qt::ElideRight, 230)
               : QString());
    turning_->setEnabled(design != nullptr);
    if (design) {
        const auto found = std::find(turnings.begin(), turnings.end(), design->turning);
        turning_->setCurrentIndex(found == turnings.end() ? -1 : int(found - turnings.begin()));
        turning_->setPlaceholderText(QString("In steps of %1°").arg(design->turning.step));
    }
    for (QWidget* widget : {static_cast<QWidget*>(turningName_), static_cast<QWidget*>(turning_),
                            seconds_->parentWidget(), static_cast<QWidget*>(start_)})
        widget->setVisible(isNest);
    showNest();
}

void PackingPanel::showNest() {
    if (showedSearch_ != nest_.isOn())
        return showJob();
    const SheetPlan& plan = document_.job().plan;
    start_->setText(nest_.isOn()         ? QString("Stop, keep the best")
                    : plan.laid->empty() ? QString("Nest")
                                         : QString("Nest on from here"));
    start_->setToolTip(nest_.isOn() ? "End the search; the best layout stays (Ctrl+Shift+N)"
                                    : "Search for the layout that takes the least of the medium; pinned "
                                      "stickers stay where they are (Ctrl+Shift+N)");
    start_->setEnabled(!document_.job().designs.empty());
}

} // namespace hasami
