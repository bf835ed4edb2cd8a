#include "app/document/guided_run.h"

#include "app/words/words.h"
#include "base/error.h"
#include "files/recovery.h"
#include "machine/register_sheet.h"
#include "machine/run_fault.h"
#include "rehearsal/rehearsal_files.h"
#include "rehearsal/render_print.h"
#include "workshop/route_sheet.h"

#include <QDir>

#include <algorithm>
#include <cmath>
#include <random>

namespace hasami {

namespace {

constexpr int frame = 33;               // ms
constexpr double mostFrame = 0.1;       // s: after a pause of the program it does not jump
constexpr int betweenKeeps = 500;       // ms
constexpr double seenPerMillimetre = 6; // pixels
constexpr double mostSeen = 12e6;       // pixels

bool isThrough(LineKind kind) {
    return kind == LineKind::perforated || kind == LineKind::die;
}

/// What every print is off by in the simulated printer: little, and each time otherwise.
PrintError usualError(std::uint32_t seed) {
    std::minstd_rand random(seed);
    std::uniform_real_distribution<double> share(-1, 1);
    return {{1.5 * share(random), 1.5 * share(random)},
            0.4 * share(random),
            0.002 * share(random),
            0.002 * share(random)};
}

/// The print of a sheet that is taken for this one: of a job with another code, else with other marks.
std::shared_ptr<const Made> ofAnotherJob(const Job& job, const Made& made, std::size_t sheet, Job& other) {
    auto changed = std::make_shared<Made>(made);
    other = job;
    other.name += "-2";
    addLead(changed->layout, other);
    if (job.profile.lead.code == CodeKind::none) {
        Box work = changed->layout.sheets[sheet].work;
        constexpr double shorter = 18; // mm
        work.most.x = std::max(work.least.x + 1, work.most.x - shorter);
        changed->layout.sheets[sheet].marks = marksAround(work, job.profile.marks);
    }
    return changed;
}

} // namespace

GuidedRun::GuidedRun(Document& document, QObject* parent)
    : QObject(parent), document_(document), folder_(runPlace()) {
    timer_.setInterval(frame);
    connect(&timer_, &QTimer::timeout, this, &GuidedRun::advance);
    connect(&document, &Document::madeChanged, this, [this] {
        if (step_ == RunStep::print && !isBusy_)
            takeJob();
    });
    QDir().mkpath(QString::fromStdString(folder_.string()));
    lock_ = std::make_unique<QLockFile>(QString::fromStdString((folder_ / "lock").string()));
    lock_->setStaleLockTime(0);
    if (lock_->tryLock()) {
        try {
            interrupted_ = keptRun(folder_);
        } catch (const InputError&) {
            interrupted_.reset(); // none was kept, or a damaged one, which is of no use
        }
    } else {
        lock_.reset(); // another program keeps its run there
    }
    takeJob();
}

GuidedRun::~GuidedRun() {
    stop_.request_stop();
    if (head_ && !isDone())
        keep();
}

const Sheet* GuidedRun::sheet() const {
    return made_ && state_.sheet < made_->layout.sheets.size() &&
                   !made_->layout.sheets[state_.sheet].pieces.empty()
               ? &made_->layout.sheets[state_.sheet]
               : nullptr;
}

std::vector<RunStep> GuidedRun::steps() const {
    std::vector<RunStep> steps{RunStep::print, RunStep::load};
    if (!sheet() || !sheet()->marks.empty())
        steps.push_back(RunStep::findMarks);
    const std::vector<LineKind> kinds = sheet() ? kindsOn(*made_, *sheet()) : std::vector<LineKind>{};
    const auto cuts = [&](bool through) {
        return std::ranges::any_of(kinds, [&](LineKind kind) { return isThrough(kind) == through; });
    };
    if (cuts(false))
        steps.push_back(RunStep::kissPass);
    if (cuts(false) && cuts(true))
        steps.push_back(RunStep::changeTool);
    if (cuts(true))
        steps.push_back(RunStep::diePass);
    steps.push_back(RunStep::weed);
    return steps;
}

void GuidedRun::takeJob() {
    if (!document_.isMade())
        return;
    job_ = document_.namedJob();
    made_ = document_.made();
    state_.sheet = std::min(state_.sheet, made_->layout.sheets.empty() ? 0 : made_->layout.sheets.size() - 1);
    Q_EMIT changed();
}

bool GuidedRun::isOfOlderJob() const {
    const Job& now = document_.job();
    return step_ != RunStep::print && !isBusy_ &&
           !(job_->designs == now.designs && job_->plan == now.plan &&
             job_->profile.marks == now.profile.marks);
}

void GuidedRun::become(RunStep step) {
    step_ = step;
    Q_EMIT changed();
}

void GuidedRun::choose(std::size_t sheet) {
    stop_.request_stop();
    stop_ = {};
    timer_.stop();
    isBusy_ = isPaused_ = false;
    const TrainingFault fault = state_.fault;
    const std::uint32_t seed = state_.seed;
    state_ = {};
    state_.sheet = sheet;
    state_.fault = fault;
    state_.seed = seed + 1; // no print is like the one before
    trouble_.clear();
    pieces_.clear();
    printed_.reset();
    picture_ = {};
    registration_ = {};
    program_.clear();
    head_.reset();
    afterSlip_.clear();
    errors_ = {};
    testCut_.reset();
    step_ = RunStep::print;
    takeJob();
    Q_EMIT changed();
}

void GuidedRun::setFault(TrainingFault fault) {
    state_.fault = fault;
    choose(state_.sheet);
}

RehearsalFaults GuidedRun::faults() const {
    RehearsalFaults faults;
    faults.seed = state_.seed;
    faults.error = usualError(state_.seed);
    if (state_.hasSlipped)
        faults.error.shift = faults.error.shift + slip;
    return withFault(faults, state_.fault);
}

void GuidedRun::next() {
    if (isBusy_ || !sheet())
        return;
    switch (step_) {
    case RunStep::print:
        interrupted_.reset(); // this run takes its place
        keep(true);
        return print([this] { become(RunStep::load); });
    case RunStep::load:
        trouble_.clear();
        if (!sheet()->marks.empty())
            return become(RunStep::findMarks);
        registration_ = {};
        return beginPass();
    case RunStep::findMarks:
        return registration_.marks.empty() || !trouble_.isEmpty() ? findMarks() : beginPass();
    case RunStep::kissPass:
    case RunStep::diePass:
        return beginPass();
    case RunStep::changeTool:
        head_->changeTool();
        state_.holder = job_->profile.cutter.tool(head_->kind()).holder;
        return beginPass();
    case RunStep::weed:
        return choose(state_.sheet + 1 < made_->layout.sheets.size() ? state_.sheet + 1 : 0);
    }
}

/// Draws the print file, and lays the print on the bed with its error.
void GuidedRun::print(std::function<void()> then) {
    isBusy_ = true;
    Q_EMIT changed();
    const auto work = [job = job_, made = made_, number = state_.sheet, fault = state_.fault,
                       faults = faults(),
                       store = document_.pictures().source()](const std::stop_token& stop) {
        const Sheet& sheet = made->layout.sheets.at(number);
        Job other;
        const bool isOther = fault == TrainingFault::otherSheet;
        const auto madeOther = isOther ? ofAnotherJob(*job, *made, number, other) : made;
        const auto print = std::make_shared<const SheetPicture>(
            renderPrint(isOther ? other : *job, *madeOther, store, number, stop));
        Printed printed{hasami::printed(sheet, job->plan.medium.width, onMedium(print, sheet, fault), faults),
                        {},
                        programOf(*job, *made, sheet, {}, stop)};
        throwIfStopped(stop);
        const double all = double(printed.sheet->width()) * double(printed.sheet->height());
        const double scale = printed.sheet->pixelsPerMillimetre() * std::min(1.0, std::sqrt(mostSeen / all));
        printed.picture = pictureOf(*printed.sheet, std::min(scale, seenPerMillimetre));
        return printed;
    };
    stop_ = runInBackground(document_.background().machines, this, tr("The sheet can't be printed"), work,
                            [this, then = std::move(then)](const Outcome<Printed>& outcome) {
                                if (outcome.isStopped())
                                    return;
                                isBusy_ = false;
                                if (outcome.value) {
                                    printed_ = outcome.value->sheet;
                                    picture_ = outcome.value->picture;
                                    program_ = outcome.value->program;
                                    return then();
                                }
                                trouble_ = QString::fromStdString(outcome.failure);
                                Q_EMIT changed();
                            });
}

void GuidedRun::findMarks() {
    isBusy_ = true;
    trouble_.clear();
    Q_EMIT changed();
    stop_ = runInBackground(
        document_.background().machines, this, tr("The marks can't be read"),
        [job = job_, made = made_, number = state_.sheet, printed = printed_,
         faults = faults()](const std::stop_token& stop) {
            return readSheet(made->layout.sheets.at(number), job->plan.medium.width, codeTextOf(*job, number),
                             *printed, faults, stop);
        },
        [this](const Outcome<Registration>& outcome) {
            if (outcome.isStopped())
                return;
            isBusy_ = false;
            if (outcome.value)
                return takeMarks(outcome.value->marks, outcome.value->fault);
            trouble_ = QString::fromStdString(outcome.failure);
            Q_EMIT changed();
        });
}

void GuidedRun::takeMarks(std::vector<MarkReading> marks, RunFault fault) {
    registration_ = registrationOf(std::move(marks));
    if (fault != RunFault::none)
        registration_.fault = fault;
    state_.marks = registration_.marks;
    trouble_ = QString::fromStdString(sentenceOf(registration_));
    keep();
    Q_EMIT changed();
}

void GuidedRun::placeMark(int id, Point bed) {
    std::vector<MarkReading> marks = registration_.marks;
    for (MarkReading& mark : marks)
        if (mark.id == id) {
            mark.found = bed;
            mark.isByHand = true;
        }
    takeMarks(std::move(marks), RunFault::none);
}

SensorView GuidedRun::look(Point bed, double side) const {
    return printed_ ? simulatedSensor(*printed_, {0.06, 1, state_.seed})(bed, side) : SensorView{};
}

void GuidedRun::choosePieces(const std::set<std::size_t>& pieces) {
    pieces_ = pieces;
    state_.pieces.assign(pieces.begin(), pieces.end());
    Q_EMIT changed();
}

void GuidedRun::chooseKind(std::optional<LineKind> kind) {
    state_.kind = kind;
    Q_EMIT changed();
}

double GuidedRun::usualForce() const {
    return job_->profile.cutter.tool(LineKind::kiss).force.value_or(TestCut::usualForce);
}

double GuidedRun::force() const {
    return state_.force.value_or(usualForce());
}

CutDepth GuidedRun::depthOf(double force) const {
    return hasami::depthOf(force, neededForce(state_.fault, usualForce()));
}

void GuidedRun::cutTest() {
    std::vector<Box> taken = keptFree(job_->plan, job_->profile, int(state_.sheet));
    const std::vector<Copies> copies = copiesOf(*job_, made_->designs);
    for (const Piece& piece : sheet()->pieces)
        for (const Copies& one : copies)
            if (one.design == piece.design)
                taken.push_back(boundsOf(one, piece.place));
    Box usable = usablePart(job_->plan, job_->profile); // of a roll up to its end, far behind the sheet
    usable.most.x = std::min(usable.most.x, sheet()->length - job_->profile.cutter.reach.trailing);
    const auto place = placeForTestCut(*sheet(), usable, taken);
    if (place)
        testCut_ = testCutAt(*place, job_->profile.cutter.tool(LineKind::kiss));
    else
        trouble_ = tr("There is no room of %1 by %2 mm on the sheet for a test cut")
                       .arg(testCutBox({}).width(), 0, 'f', 0)
                       .arg(testCutBox({}).height(), 0, 'f', 0);
    Q_EMIT changed();
}

void GuidedRun::takeForce(double force) {
    state_.force = force;
    testCut_.reset();
    document_.change(tr("Set the kiss cut's force to %1 g").arg(force, 0, 'f', 0), [force](Job& job) {
        job.profile.cutter.tools[std::size_t(LineKind::kiss)].force = force;
    });
    Q_EMIT changed();
}

/// Where it stopped, or from the first line.
void GuidedRun::beginPass() {
    if (!head_ || head_->state() == CutHead::State::done || isPaused_ || !timer_.isActive()) {
        CutProgram some = state_.kind ? onlyKind(program_, *state_.kind) : program_;
        if (!pieces_.empty())
            some = onlyPieces(some, pieces_, sheet()->pieces.size());
        if (!state_.holder)
            for (const CutStep& step : some)
                if (const auto* first = std::get_if<SelectTool>(&step)) {
                    state_.holder = job_->profile.cutter.tool(first->kind).holder;
                    break;
                }
        head_.emplace(some, job_->profile.cutter, state_.record, state_.holder);
    }
    isPaused_ = false;
    trouble_.clear();
    if (head_->state() == CutHead::State::done)
        return endPass();
    if (head_->state() == CutHead::State::waitsForTool)
        return become(RunStep::changeTool);
    clock_.start();
    kept_.start();
    timer_.start();
    become(isThrough(head_->kind()) ? RunStep::diePass : RunStep::kissPass);
}

void GuidedRun::advance() {
    const double seconds = std::min(mostFrame, double(clock_.restart()) / 1000);
    const bool wasThrough = isThrough(head_->kind());
    constexpr double step = 0.1; // s of the machine
    for (double left = seconds * speed_; left > 0 && head_->state() == CutHead::State::moving; left -= step) {
        head_->advance(std::min(step, left));
        if (state_.fault != TrainingFault::slippingSheet)
            continue;
        for (const auto& [key, along] : head_->record())
            afterSlip_.try_emplace(key, state_.hasSlipped);
        state_.hasSlipped |= head_->share() > 0.4;
    }
    state_.record = head_->record();
    if (head_->state() != CutHead::State::moving)
        return endPass();
    if (isThrough(head_->kind()) != wasThrough)
        become(RunStep::diePass);
    if (kept_.elapsed() >= betweenKeeps) {
        kept_.restart();
        keep();
    }
    Q_EMIT moved();
}

void GuidedRun::endPass() {
    timer_.stop();
    keep();
    if (head_->state() == CutHead::State::waitsForTool)
        return become(RunStep::changeTool);
    checkSlip();
}

/// Once a sheet is cut its marks are looked at again: where they are elsewhere, it has moved.
void GuidedRun::checkSlip() {
    measure();
    forgetRun(folder_);
    trouble_ = QString::fromStdString(sentenceOnWeeding(state_.fault, depthOf(force())));
    if (!state_.hasSlipped)
        return become(RunStep::weed);
    print([this] {
        isBusy_ = true;
        stop_ = runInBackground(
            document_.background().machines, this, tr("The marks can't be read"),
            [made = made_, number = state_.sheet, printed = printed_](const std::stop_token& stop) {
                const Sheet& sheet = made->layout.sheets.at(number);
                return registerSheet(std::span(sheet.marks), simulatedSensor(*printed), {}, stop);
            },
            [this](const Outcome<Registration>& again) {
                if (again.isStopped())
                    return;
                isBusy_ = false;
                if (again.value)
                    compareMarks(again.value->marks);
                become(RunStep::weed);
            });
    });
}

void GuidedRun::compareMarks(const std::vector<MarkReading>& again) {
    constexpr double still = 0.25; // mm
    double most = 0;
    for (std::size_t i = 0; i < std::min(again.size(), registration_.marks.size()); ++i)
        if (again[i].found && registration_.marks[i].found)
            most = std::max(most, distance(*again[i].found, *registration_.marks[i].found));
    if (most > still)
        trouble_ = tr("The sheet moved by %1 mm while it was cut: hold it better, and print it again")
                       .arg(most, 0, 'f', 1);
}

void GuidedRun::measure() {
    RehearsalFaults before = faults();
    if (state_.hasSlipped)
        before.error.shift = before.error.shift - slip;
    const Box medium{{0, 0}, {sheet()->length, job_->plan.medium.width}};
    const PrintMap print(before.error, medium), slipped(faults().error, medium);
    CutProgram cuts; // that were made: perhaps of some pieces or of one kind alone
    for (const CutStep& step : program_)
        if (const Cut* cut = std::get_if<Cut>(&step);
            cut && state_.record.contains({cut->kind, cut->piece, cut->line, cut->pass, 0}))
            cuts.push_back(step);
    errors_ = cutErrors(cuts, registration_.map, [&](const Cut& cut, Point place) {
        const CutKey key{cut.kind, cut.piece, cut.line, cut.pass, 0};
        const auto found = afterSlip_.find(key);
        return found != afterSlip_.end() && found->second ? slipped(place) : print(place);
    });
}

void GuidedRun::pause() {
    timer_.stop();
    isPaused_ = true;
    keep();
    Q_EMIT changed();
}

void GuidedRun::stop() {
    timer_.stop();
    isPaused_ = false;
    head_.reset();
    keep();
    Q_EMIT changed();
}

void GuidedRun::loadAgain() {
    // The operator puts it in as it should lie.
    if (state_.fault == TrainingFault::wrongWayRound)
        state_.fault = TrainingFault::none;
    registration_ = {};
    state_.marks.clear();
    trouble_.clear();
    print([this] { become(RunStep::load); });
}

void GuidedRun::printAgain() {
    state_.fault = TrainingFault::none;
    choose(state_.sheet);
}

void GuidedRun::cutAgain() {
    for (auto cut = state_.record.begin(); cut != state_.record.end();)
        cut = (pieces_.empty() || pieces_.contains(cut->first.piece)) &&
                      (!state_.kind || *state_.kind == cut->first.kind)
                  ? state_.record.erase(cut)
                  : std::next(cut);
    if (depthOf(force()) == CutDepth::tooShallow)
        state_.force = neededForce(state_.fault, usualForce()); // raised, as it was said
    state_.holder.reset();
    head_.reset();
    beginPass();
}

/// In the background, in the order in which it is asked for.
void GuidedRun::keep(bool withJob) {
    if (!lock_)
        return;
    runInBackground(
        document_.background().recovery, this, tr("The run can't be kept"),
        [folder = folder_, state = state_, job = withJob ? job_ : nullptr,
         path = document_.path().toStdString()](const std::stop_token&) {
            if (job) { // a new run: of the one before nothing stays
                forgetRun(folder);
                std::filesystem::remove_all(folder / "job");
                keepForRecovery(folder / "job", *job, path);
            } else if (!state.record.empty())
                keepRun(folder, state);
            return true;
        },
        [](const Outcome<bool>&) {});
}

QString GuidedRun::interruptedText() const {
    if (!interrupted_)
        return {};
    return tr("A cut was interrupted: sheet %1, with %2 lines begun.")
        .arg(interrupted_->sheet + 1)
        .arg(interrupted_->record.size());
}

void GuidedRun::goOnWithInterrupted(const std::function<void(const QString& why)>& then) {
    const RunState kept = *interrupted_;
    struct Read {
        std::shared_ptr<const Job> job;
        std::shared_ptr<const Made> made;
    };
    choose(0);
    isBusy_ = true;
    Q_EMIT changed();
    stop_ = runInBackground(
        document_.background().machines, this, tr("The interrupted cut can't be read"),
        [folder = folder_, fonts = document_.sharedFonts(),
         pictures = document_.pictures().source()](const std::stop_token& stop) {
            Read read;
            read.job = std::make_shared<const Job>(readRecovery(folder / "job", fonts->onMachine()).job);
            Cache cache;
            read.made = std::make_shared<const Made>(makeAll(*read.job, 1, pictures, cache, stop));
            return read;
        },
        [this, kept, then](const Outcome<Read>& outcome) {
            if (outcome.isStopped())
                return;
            isBusy_ = false;
            interrupted_.reset();
            if (!outcome.value || kept.sheet >= outcome.value->made->layout.sheets.size()) {
                then(QString::fromStdString(outcome.failure));
                return Q_EMIT changed();
            }
            job_ = outcome.value->job;
            made_ = outcome.value->made;
            state_ = kept;
            pieces_ = {kept.pieces.begin(), kept.pieces.end()};
            print([this, then] {
                registration_ = registrationOf(state_.marks);
                const bool isThroughNow = std::ranges::any_of(
                    state_.record, [](const auto& cut) { return isThrough(cut.first.kind); });
                isPaused_ = true;
                then({});
                become(isThroughNow ? RunStep::diePass : RunStep::kissPass);
            });
        });
}

} // namespace hasami
