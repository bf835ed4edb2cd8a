#include "app/proof/proof_place.h"

#include "app/kit/named.h"
#include "app/kit/prompt_line.h"
#include "app/kit/quantity_row.h"
#include "app/kit/save_dialog.h"
#include "app/proof/costs_panel.h"
#include "app/proof/drift_pad.h"
#include "app/proof/findings_list.h"
#include "app/proof/proof_picture.h"
#include "app/words/words.h"

#include <QColorDialog>
#include <QComboBox>
#include <QFileDialog>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QImageReader>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QStackedWidget>
#include <QVBoxLayout>

#include <cmath>

namespace hasami {

ProofPlace::ProofPlace(Document& document, FindingsWatch& watch, QWidget* parent)
    : QWidget(parent), document_(document), watch_(watch), prompt_(new PromptLine),
      findings_(new FindingsList(document, watch)), view_(new ProofView(document)), pad_(new DriftPad),
      subject_(new QComboBox), ground_(new QComboBox), colours_(new QComboBox),
      before_(new QPushButton(tr("Before and after"))), behind_(new QPushButton(tr("From behind"))),
      verdict_(new QLabel), here_(new QLabel), measured_(new QPushButton(tr("Measured errors…"))) {
    auto* layout = new QGridLayout(this);
    layout->setContentsMargins(12, 8, 12, 12);
    layout->setSpacing(8);
    layout->addWidget(prompt_, 0, 0, 1, 2);
    layout->addWidget(makeSide(), 1, 0, 3, 1);
    layout->addWidget(makeBar(), 1, 1);
    layout->addWidget(view_, 2, 1);
    layout->addWidget(makeDriftPanel(), 3, 1);
    layout->setColumnStretch(1, 1);
    layout->setRowStretch(2, 1);
    connect(findings_, &FindingsList::chosen, this, &ProofPlace::showFinding);
    connect(findings_, &FindingsList::told, this, &ProofPlace::told);
    connect(pad_, &DriftPad::shifted, this, [this](Point shift) {
        CutDrift drift = view_->drift();
        drift.shift = shift;
        setDrift(drift);
    });
    connect(view_, &ProofView::turned, pad_, &DriftPad::setTurned);
    pad_->setTurned(view_->isTurned());
    connect(&document, &Document::madeChanged, this, &ProofPlace::listSubjects);
    connect(&document, &Document::jobChanged, this, &ProofPlace::showProfile);
    showProfile();
    connect(&watch, &FindingsWatch::changed, this, [this] {
        askForSafeDrift();
        showPrompt();
    });
    listSubjects();
}

void ProofPlace::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    askForSafeDrift();
}

/// What is wrong, or what it costs: a button for each.
QWidget* ProofPlace::makeSide() {
    auto* side = new QWidget;
    auto* layout = new QVBoxLayout(side);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(6);
    auto* costs = new CostsPanel(document_);
    connect(costs, &CostsPanel::told, this, &ProofPlace::told);
    connect(costs, &CostsPanel::priceWanted, this, &ProofPlace::priceWanted);
    auto* pages = new QStackedWidget;
    auto* buttons = new QHBoxLayout;
    const auto add = [&](QWidget* page, const char* name, const char* effect) {
        auto* button = new QPushButton(tr(name));
        button->setObjectName(QString::fromUtf8(name) + " page");
        button->setToolTip(tr(effect));
        button->setCheckable(true);
        button->setProperty("role", "small");
        pages->addWidget(page);
        buttons->addWidget(button);
        connect(button, &QPushButton::clicked, pages, [pages, page] { pages->setCurrentWidget(page); });
        // No group of buttons: of one, Tab reaches the chosen button alone.
        connect(pages, &QStackedWidget::currentChanged, button,
                [pages, page, button] { button->setChecked(pages->currentWidget() == page); });
        connect(button, &QPushButton::clicked, button, [button] { button->setChecked(true); });
        button->setChecked(pages->currentWidget() == page);
    };
    add(findings_, N_("Findings"), N_("What is wrong with the job"));
    add(costs, N_("Costs"), N_("What the stickers cost, by design and by sheet"));
    buttons->addStretch(1);
    layout->addLayout(buttons);
    layout->addWidget(pages, 1);
    side->setFixedWidth(292);
    return side;
}

QWidget* ProofPlace::makeBar() {
    auto* bar = new QWidget;
    auto* layout = new QHBoxLayout(bar);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(6);
    nameControl(*subject_, N_("Shown"), N_("The sheet, or one sticker alone"), " in proof");
    subject_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    subject_->setMinimumContentsLength(12);
    connect(subject_, &QComboBox::activated, this, &ProofPlace::showSubject);
    nameControl(*ground_, N_("Background"), N_("What the stickers are seen on"), " of proof");
    ground_->addItems({tr("On white"), tr("On black cloth"), tr("On kraft paper"), tr("On glass"),
                       tr("On a colour…"), tr("On a picture…")});
    connect(ground_, &QComboBox::activated, this, [this](int place) { chooseGround(Backdrop(place)); });
    nameControl(
        *colours_, N_("Colours"),
        N_("As the artwork has them, or as they come out of the printer by the colour profile that is "
           "chosen with the outputs"),
        " of proof");
    colours_->addItems({tr("Artwork's colours"), tr("Printer's colours"), tr("What it can't print")});
    connect(colours_, &QComboBox::activated, this, [this](int place) {
        if (const auto why = view_->setColours(ProofColours(place))) {
            colours_->setCurrentIndex(0);
            Q_EMIT told(*why + ".");
        }
    });
    before_->setObjectName("Before and after");
    before_->setProperty("role", "small");
    before_->setCheckable(true);
    before_->setToolTip(tr("Shows the print with its cut lines beside what comes out"));
    connect(before_, &QPushButton::toggled, view_, &ProofView::showBefore);
    behind_->setObjectName("From behind");
    behind_->setProperty("role", "small");
    behind_->setCheckable(true);
    behind_->setToolTip(tr("Shows the stickers through what they are printed on, as behind glass"));
    connect(behind_, &QPushButton::clicked, this, [this](bool isChecked) {
        view_->showFromBehind(isChecked);
        showSide();
    });
    auto* save = new QPushButton(tr("Save a picture"));
    save->setObjectName("Save a picture");
    save->setProperty("role", "small");
    save->setToolTip(tr("A PNG of what is shown, for a customer to approve"));
    auto* ways = new QMenu(save);
    ways->setObjectName("Picture ways");
    ways->addAction(tr("With a ruler and a disc for scale…"), this, [this] { savePicture(true); });
    ways->addAction(tr("Without…"), this, [this] { savePicture(false); });
    save->setMenu(ways);
    layout->addWidget(subject_);
    layout->addWidget(ground_);
    layout->addWidget(colours_);
    layout->addWidget(before_);
    layout->addWidget(behind_);
    layout->addStretch(1);
    layout->addWidget(save);
    return bar;
}

QuantityRow* ProofPlace::addRow(QWidget* panel, const char* name, const char* effect, bool isAngle,
                                double CutDrift::*value) {
    QuantityRow::Description about{name, effect, isAngle ? QuantityKind::angle : QuantityKind::percent};
    about.least = about.sliderLeast = isAngle ? -2 : -1;
    about.most = about.sliderMost = isAngle ? 2 : 1;
    about.step = isAngle ? 0.05 : 0.02;
    auto* row = new QuantityRow(about);
    row->setStart(0);
    const double unit = isAngle ? 1 : 100;
    connect(row, &QuantityRow::chosen, this, [this, row, value, unit](double chosen) {
        CutDrift drift = view_->drift();
        drift.*value = chosen / unit;
        row->show(chosen);
        setDrift(drift);
    });
    rows_.emplace_back(row, value);
    panel->layout()->addWidget(row);
    return row;
}

QWidget* ProofPlace::makeDriftPanel() {
    auto* panel = new QFrame;
    panel->setProperty("role", "panel");
    auto* layout = new QHBoxLayout(panel);
    layout->setContentsMargins(10, 8, 10, 8);
    layout->setSpacing(12);
    layout->addWidget(pad_, 0, Qt::AlignTop);
    auto* numbers = new QWidget;
    numbers->setFixedWidth(230);
    auto* column = new QVBoxLayout(numbers);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(2);
    addRow(numbers, N_("Turn of the cut"), N_("The cut is turned against the print, about the middle"), true,
           &CutDrift::turn);
    addRow(numbers, N_("Stretch along"), N_("The cut is longer than the print, along the feed"), false,
           &CutDrift::stretchAlong);
    addRow(numbers, N_("Stretch across"), N_("The cut is wider than the print, across the feed"), false,
           &CutDrift::stretchAcross);
    column->addStretch(1);
    layout->addWidget(numbers);
    auto* words = new QVBoxLayout;
    words->setSpacing(6);
    verdict_->setObjectName("Drift verdict");
    verdict_->setWordWrap(true);
    here_->setObjectName("Drift here");
    here_->setWordWrap(true);
    here_->setProperty("role", "quiet");
    words->addWidget(verdict_);
    words->addWidget(here_);
    words->addStretch(1);
    auto* buttons = new QHBoxLayout;
    auto* worst = new QPushButton(tr("Show the worst"));
    worst->setObjectName("Show the worst");
    worst->setProperty("role", "small");
    worst->setToolTip(tr("The cut lies off as far as is expected, where that does the most harm"));
    connect(worst, &QPushButton::clicked, this, &ProofPlace::showWorst);
    auto* none = new QPushButton(tr("No error"));
    none->setObjectName("No error");
    none->setProperty("role", "small");
    none->setToolTip(tr("The cut lies right on the print"));
    connect(none, &QPushButton::clicked, this, [this] { setDrift({}); });
    buttons->addWidget(worst);
    measured_->setObjectName("Measured errors");
    measured_->setProperty("role", "small");
    measured_->setToolTip(tr("Opens the machine's profile, to replace what is assumed by what was measured"));
    connect(measured_, &QPushButton::clicked, this, &ProofPlace::profileWanted);
    buttons->addWidget(none);
    buttons->addWidget(measured_);
    buttons->addStretch(1);
    words->addLayout(buttons);
    layout->addLayout(words, 1);
    return panel;
}

/// Sheets, then designs.
void ProofPlace::listSubjects() {
    const Made& made = *document_.made();
    const auto& designs = document_.job().designs;
    std::vector<std::optional<std::string>> subjects(made.layout.sheets.size());
    QStringList names;
    for (std::size_t i = 0; i < made.layout.sheets.size(); ++i)
        names << (document_.job().plan.medium.isRoll() ? tr("Roll %1") : tr("Sheet %1")).arg(i + 1);
    for (const Design& design : designs)
        if (const MadeDesign* found = made.find(design.id); found && !found->sticker->isEmpty()) {
            subjects.emplace_back(design.id);
            names << QString::fromStdString(design.name);
        }
    subjects_ = std::move(subjects);
    subject_->clear();
    subject_->addItems(names);
    int shown = int(view_->sheet());
    if (view_->design()) {
        const auto found = std::ranges::find(subjects_, view_->design());
        if (found != subjects_.end())
            shown = int(found - subjects_.begin());
        else
            view_->showSheet(0);
    }
    subject_->setCurrentIndex(std::min(shown, subject_->count() - 1));
    pad_->setUnit(document_.job().unit);
    showSide();
    showPrompt();
}

void ProofPlace::showSide() {
    behind_->setChecked(view_->isFromBehind());
    pad_->setLeftToRight(view_->isLeftToRight());
}

void ProofPlace::showSubject(int number) {
    if (number < 0 || std::size_t(number) >= subjects_.size())
        return;
    if (const auto& design = subjects_[std::size_t(number)])
        view_->showDesign(*design);
    else
        view_->showSheet(std::size_t(number));
    subject_->setCurrentIndex(number);
    showSide();
    safe_.reset();
    pad_->showSafe({});
    askForSafeDrift();
}

void ProofPlace::showFinding(const Finding& finding) {
    const auto ofDesign = std::ranges::find(subjects_, std::optional(finding.design));
    const int number = finding.sheet                 ? int(*finding.sheet)
                       : ofDesign != subjects_.end() ? int(ofDesign - subjects_.begin())
                                                     : subject_->currentIndex();
    if (number != subject_->currentIndex())
        showSubject(number);
    const bool isHere = finding.sheet.has_value() || ofDesign != subjects_.end();
    view_->pointAt(isHere ? finding.place : std::nullopt);
}

void ProofPlace::showPrompt() {
    const std::size_t errors = watch_.errors();
    const auto warnings = std::ranges::count(watch_.findings(), Severity::warning, &Finding::severity);
    if (document_.job().designs.empty())
        prompt_->say(tr("There are no stickers yet."), tr("Go to Stickers"),
                     [this] { Q_EMIT stickersWanted(); });
    else if (!watch_.isUpToDate())
        prompt_->say(tr("Checking…"));
    else if (errors > 0)
        prompt_->warn(counted(errors, "%1 error has to be put right first: see the list.",
                              "%1 errors have to be put right first: see the list."));
    else if (warnings > 0)
        prompt_->warn(counted(std::size_t(warnings), "%1 warning: look at it before you print.",
                              "%1 warnings: look at them before you print."),
                      tr("Go to Sheet"), [this] { Q_EMIT sheetWanted(); });
    else
        prompt_->say(tr("Ready to be written. Next: the outputs, on the sheet."), tr("Go to Sheet"),
                     [this] { Q_EMIT sheetWanted(); });
}

void ProofPlace::setDrift(const CutDrift& drift) {
    const CutDrift before = view_->drift();
    view_->setDrift(drift);
    pad_->showShift(drift.shift);
    for (const auto& [row, value] : rows_)
        row->show(drift.*value * (value == &CutDrift::turn ? 1 : 100));
    if (before.turn != drift.turn || before.stretchAlong != drift.stretchAlong ||
        before.stretchAcross != drift.stretchAcross)
        askForSafeDrift();
    showVerdict();
}

void ProofPlace::showWorst() {
    if (!safe_)
        return;
    const std::size_t number = std::size_t(&safe_->least() - safe_->limits.data());
    CutDrift drift = view_->drift();
    drift.shift = SafeDrift::direction(number) * ExpectedError::of(document_.job().profile).together();
    setDrift(drift);
}

/// Only while it is seen, and there is something to be cut.
void ProofPlace::askForSafeDrift() {
    if (!isVisible())
        return;
    if (subjects_.empty()) {
        safe_.reset();
        pad_->showSafe({});
        view_->showWeakest({});
        here_->clear();
        return showVerdict();
    }
    watch_.findSafeDrift(view_->design(), view_->sheet(), view_->drift(),
                         [this](const SafeDrift& safe) { showSafe(safe); });
}

void ProofPlace::showSafe(const SafeDrift& safe) {
    safe_ = safe;
    pad_->showSafe(safe);
    pad_->showExpected(ExpectedError::of(document_.job().profile).together());
    const DriftLimit& least = safe.least();
    const Made& made = *document_.made();
    std::optional<Point> place;
    if (least.reach < SafeDrift::most) {
        place = least.spot;
        if (!view_->design()) {
            const auto& sheets = made.layout.sheets;
            place = view_->sheet() < sheets.size() && least.piece < sheets[view_->sheet()].pieces.size()
                        ? std::optional(sheets[view_->sheet()].pieces[least.piece].place(least.spot))
                        : std::nullopt;
        }
    }
    view_->showWeakest(place);
    showVerdict();
}

void ProofPlace::showVerdict() {
    if (!safe_)
        return verdict_->clear();
    const LengthUnit unit = document_.job().unit;
    const auto words = [&](double length) { return quantityText(length, QuantityKind::length, unit); };
    const DriftLimit& least = safe_->least();
    const QString harm = least.fault == DriftFault::whiteShows ? tr("white shows") : tr("artwork is cut");
    constexpr double told = 0.05, within = 0.02; // mm: as fine as it is known
    const double reach = std::floor((least.reach + within) / told) * told;
    const ExpectedError error = ExpectedError::of(document_.job().profile);
    const QString may =
        least.reach >= SafeDrift::most
            ? tr("The cut may be off by %1 and more.").arg(words(SafeDrift::most))
            : tr("The cut may be off by %1 in every direction before %2.").arg(words(reach), harm);
    const bool isSafe = least.reach + within >= error.together();
    verdict_->setText(
        (isSafe ? QString() : "▲ ") + may + " " +
        (error.isAssumed
             ? isSafe ? tr("Machine and printer are assumed to stay within %1: that would be safe.")
                      : tr("Machine and printer are assumed to be up to %1 off: that would be too much.")
         : isSafe ? tr("Machine and printer are expected to stay within %1: that is safe.")
                  : tr("Machine and printer may be %1 off: that is too much."))
            .arg(words(error.together())));
    measured_->setVisible(error.isAssumed);
    verdict_->setProperty("role", isSafe ? "" : "trouble");
    verdict_->style()->unpolish(verdict_);
    verdict_->style()->polish(verdict_);
    const Point shift = view_->drift().shift;
    here_->setText(safe_->holds(shift)
                       ? tr("As it is shown, nothing is lost.")
                       : tr("As it is shown, the cut is too far off: look at the marked spot."));
}

void ProofPlace::chooseGround(Backdrop backdrop) {
    Ground ground = view_->ground();
    if (backdrop == Backdrop::colour) {
        const QColor colour = QColorDialog::getColor(ground.colour, this, tr("Colour of the background"));
        if (!colour.isValid())
            return ground_->setCurrentIndex(lastGround_);
        ground.colour = colour;
    } else if (backdrop == Backdrop::picture) {
        const QString path = QFileDialog::getOpenFileName(
            this, tr("Picture for the background"), {}, tr("Pictures (%1)").arg("*.png *.jpg *.jpeg *.webp"));
        QImageReader reader(path);
        reader.setAutoTransform(true);
        const QImage picture = path.isEmpty() ? QImage() : reader.read();
        if (picture.isNull()) {
            if (!path.isEmpty())
                Q_EMIT told(tr("%1 is no picture that can be read.").arg(QFileInfo(path).fileName()));
            return ground_->setCurrentIndex(lastGround_);
        }
        ground.picture = picture;
    }
    ground.backdrop = backdrop;
    lastGround_ = int(backdrop);
    view_->setGround(ground);
}

/// Colours are the artwork's as long as the job has no profile, and once it has another.
void ProofPlace::showProfile() {
    const std::string& profile = document_.job().outputs.colours;
    colours_->setEnabled(!profile.empty());
    if (profile == profile_)
        return;
    profile_ = profile;
    colours_->setCurrentIndex(0);
    view_->setColours(ProofColours::artwork);
}

void ProofPlace::savePicture(bool withScale) {
    const QString name = document_.title() + "-" + subject_->currentText() + ".png";
    const QString path = askWhereToSave(this, tr("Save a picture"), name, {{tr("PNG picture"), ".png"}});
    if (path.isEmpty())
        return;
    if (const auto why = saveProofPicture(*view_, path, withScale, document_.job().unit))
        Q_EMIT told(*why);
}

} // namespace hasami
