#include "app/document/guided_run.h"

#include "app/document/kiss_tool.h"
#include "app/words/words.h"
#include "machine/machine_error.h"
#include "machine/register_sheet.h"
#include "machine/run_fault.h"
#include "workshop/test_cut_sheet.h"

#include <algorithm>

namespace hasami {

namespace {

constexpr int frame = 33;         // ms
constexpr double mostFrame = 0.1; // s: after a pause of the program it does not jump
constexpr int betweenKeeps = 500; // ms

bool isThrough(LineKind kind) {
    return kind == LineKind::perforated || kind == LineKind::die;
}

} // namespace

GuidedRun::GuidedRun(Document& document, RunQueue& queue, QObject* parent)
    : QObject(parent), document_(document), queue_(queue) {
    timer_.setInterval(frame);
    connect(&timer_, &QTimer::timeout, this, &GuidedRun::advance);
    connect(&document, &Document::madeChanged, this, [this] {
        if (entry_.empty() && !isBusy_)
            takeJob();
    });
    connect(&queue, &RunQueue::changed, this, &GuidedRun::changed);
    takeJob();
}

GuidedRun::~GuidedRun() {
    blockSignals(true); // its place goes too
    leave();
}

std::vector<RunStep> GuidedRun::steps() const {
    std::vector<RunStep> steps;
    if (printsHere(plan().work))
        steps.push_back(RunStep::print);
    if (!cutsAtAll(plan().work))
        return steps;
    steps.push_back(RunStep::load);
    if (!sheet() || !sheet()->marks.empty())
        steps.push_back(RunStep::findMarks);
    const std::vector<LineKind> kinds = sheet() ? kindsOn(*made(), *sheet()) : std::vector<LineKind>{};
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

bool GuidedRun::isOfOlderJob() const {
    const Job& now = document_.job();
    return isOwn_ && !entry_.empty() && !isBusy_ &&
           !(job()->designs == now.designs && job()->plan == now.plan &&
             job()->profile.marks == now.profile.marks);
}

/// Says so, and gives true, where a cutter is at work that nothing but its own buttons stops.
bool GuidedRun::refusesWhileCutting() {
    if (isCutting())
        Q_EMIT told(tr("The cutter is at work: pause it or wait, then choose another sheet"));
    return isCutting();
}

void GuidedRun::setOnCutter(bool isOnCutter) {
    if (isOnCutter == isOnCutter_)
        return;
    isOnCutter_ = isOnCutter;
    Q_EMIT changed();
}

/// What is being done in the background is not waited for any more.
void GuidedRun::giveUpTask() {
    stop_.request_stop();
    stop_ = {};
    ++task_;
    isBusy_ = false;
}

void GuidedRun::become(RunStep step) {
    step_ = step;
    Q_EMIT changed();
}

void GuidedRun::setFault(TrainingFault fault) {
    if (refusesWhileCutting())
        return Q_EMIT changed();
    state_.fault = fault;
    printFresh();
}

void GuidedRun::next() {
    if (isBusy_ || !sheet())
        return;
    if (isDone())
        return goToNext();
    switch (step_) {
    case RunStep::print:
        return beginPrint();
    case RunStep::load:
        return load();
    case RunStep::findMarks:
        return registration_.marks.empty() || !trouble_.isEmpty() ? findMarks() : beginPass();
    case RunStep::kissPass:
    case RunStep::diePass:
        return beginPass();
    case RunStep::changeTool:
        head_->changeTool();
        state_.holder = job()->profile.cutter.tool(head_->kind()).holder;
        return beginPass();
    case RunStep::weed:
        return;
    }
}

void GuidedRun::load() {
    takeEntry();
    trouble_.clear();
    if (!printed_) // it was printed elsewhere, or drawing it was given up
        return layPrint([this] { load(); });
    if (!sheet()->marks.empty())
        return become(RunStep::findMarks);
    registration_ = {};
    const Box medium{{0, 0}, {sheet()->length, job()->plan.medium.width}};
    registration_.map = setByHand(PrintMap(faults().error, medium), medium, state_.seed);
    beginPass();
}

void GuidedRun::findMarks() {
    trouble_.clear();
    stop_ = runInBackground(
        document_.background().machines, this, tr("The marks can't be read"),
        [job = job(), made = made(), number = sheet_.number, printed = printed_,
         faults = faults()](const std::stop_token& stop) {
            return readSheet(made->layout.sheets.at(number), job->plan.medium.width, codeTextOf(*job, number),
                             *printed, faults, stop);
        },
        ifWantedStill([this](const Outcome<Registration>& outcome) {
            if (outcome.value)
                return takeMarks(*outcome.value);
            trouble_ = QString::fromStdString(outcome.failure);
            Q_EMIT changed();
        }));
    Q_EMIT changed();
}

void GuidedRun::takeMarks(const Registration& read) {
    registration_ = registrationOf(read.marks);
    if (read.fault != RunFault::none)
        registration_.fault = read.fault;
    registration_.code = read.code;
    state_.marks = registration_.marks;
    trouble_ = QString::fromStdString(sentenceOf(registration_));
    Q_EMIT changed();
}

void GuidedRun::placeMark(int id, Point bed) {
    std::vector<MarkReading> marks = registration_.marks;
    for (MarkReading& mark : marks)
        if (mark.id == id) {
            mark.found = bed;
            mark.isByHand = true;
        }
    Registration read;
    read.marks = std::move(marks);
    takeMarks(read);
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
    return job()->profile.cutter.tool(LineKind::kiss).force.value_or(TestCut::usualForce);
}

double GuidedRun::force() const {
    return state_.force.value_or(usualForce());
}

CutDepth GuidedRun::depthOf(double force) const {
    return hasami::depthOf(force, neededForce(state_.fault, usualForce()));
}

void GuidedRun::cutTest() {
    testCut_ = testCutOn(*job(), *made(), sheet_.number);
    if (!testCut_)
        trouble_ = noRoomForTestCut();
    Q_EMIT changed();
}

void GuidedRun::takeForce(double force) {
    state_.force = force;
    testCut_.reset();
    if (isOwn_)
        setKissForce(document_, force);
    Q_EMIT changed();
}

void GuidedRun::takeBladeDepth(double depth) {
    if (isOwn_)
        setKissBladeDepth(document_, depth);
    auto job = std::make_shared<Job>(*sheet_.job); // what is said of its tools; what is cut stays
    job->profile.cutter.tools[std::size_t(LineKind::kiss)].bladeDepth =
        depth > 0 ? std::optional(depth) : std::nullopt;
    sheet_.job = job;
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
                    state_.holder = job()->profile.cutter.tool(first->kind).holder;
                    break;
                }
        head_.emplace(some, job()->profile.cutter, state_.record, state_.holder);
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
    checkCut();
}

/// Once a sheet is cut its marks are looked at again: where they are elsewhere, it has moved.
void GuidedRun::checkCut() {
    measure();
    trouble_ = QString::fromStdString(sentenceOnWeeding(state_.fault, depthOf(force())));
    const auto end = [this] {
        step_ = RunStep::weed; // before the queue's change is shown
        finish();
        Q_EMIT changed();
    };
    if (!state_.hasSlipped)
        return end();
    layPrint([this, end] {
        stop_ = runInBackground(
            document_.background().machines, this, tr("The marks can't be read"),
            [made = made(), number = sheet_.number, printed = printed_](const std::stop_token& stop) {
                const Sheet& sheet = made->layout.sheets.at(number);
                return registerSheet(std::span(sheet.marks), simulatedSensor(*printed), {}, stop);
            },
            ifWantedStill([this, end](const Outcome<Registration>& again) {
                if (again.value)
                    compareMarks(again.value->marks);
                end();
            }));
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
    const Box medium{{0, 0}, {sheet()->length, job()->plan.medium.width}};
    const PrintMap print(before.error, medium), slipped(faults().error, medium);
    CutProgram cuts; // that were made: perhaps of some pieces or of one kind alone
    for (const CutStep& step : program_)
        if (const Cut* cut = std::get_if<Cut>(&step);
            cut && state_.record.contains({cut->kind, cut->piece, cut->line, cut->pass, 0}))
            cuts.push_back(step);
    errors_ = cutErrors(cuts, registration_.map,
                        [&](const Cut& cut, Point place) {
                            const CutKey key{cut.kind, cut.piece, cut.line, cut.pass, 0};
                            const auto found = afterSlip_.find(key);
                            return found != afterSlip_.end() && found->second ? slipped(place) : print(place);
                        },
                        {before.cutError, state_.seed});
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

bool GuidedRun::canCancel() const {
    return isBusy_ && step_ <= RunStep::findMarks;
}

void GuidedRun::cancel() {
    if (!canCancel())
        return;
    giveUpTask();
    if (!sheet())
        return choose(0);
    Q_EMIT changed();
}

void GuidedRun::loadAgain() {
    if (isCutting())
        return;
    // The operator puts it in as it should lie.
    if (state_.fault == TrainingFault::wrongWayRound)
        state_.fault = TrainingFault::none;
    registration_ = {};
    state_.marks.clear();
    trouble_.clear();
    otherId_.clear();
    other_ = {};
    step_ = RunStep::load;
    layPrint([this] { become(RunStep::load); });
}

void GuidedRun::cutAgain() {
    if (isCutting())
        return;
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

void GuidedRun::keep() {
    if (entry_.empty() || state_.record.empty())
        return;
    state_.lines = fingerprint_;
    queue_.keepRun(entry_, state_);
    queue_.change(entry_, [](QueueEntry& entry) { entry.isBegun = true; });
}

} // namespace hasami
