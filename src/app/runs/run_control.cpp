#include "app/runs/run_control.h"

#include "app/runs/kiss_tool.h"
#include "app/words/words.h"
#include "workshop/test_cut_sheet.h"

#include <algorithm>
#include <utility>

namespace hasami {

RunControl::RunControl(Document& document, RunQueue& queue, QObject* parent)
    : QObject(parent), document_(document), queue_(queue), simulated_(document), connected_(document) {
    clock_.start();
    for (CuttingMachine* machine :
         {static_cast<CuttingMachine*>(&simulated_), static_cast<CuttingMachine*>(&connected_)}) {
        connect(machine, &CuttingMachine::answered, this, &RunControl::act);
        connect(machine, &CuttingMachine::moved, this, &RunControl::moved);
    }
    connect(&document, &Document::madeChanged, this, &RunControl::followJob);
    connect(&queue, &RunQueue::changed, this, &RunControl::changed);
    takeJob();
    begin();
}

RunControl::~RunControl() {
    blockSignals(true); // its place goes too
    leave();
}

/// An event that comes while another one is carried out waits for its end.
void RunControl::act(const RunEvent& event) {
    if (isOpening_ && std::holds_alternative<RunAction>(event))
        return; // another print, or another sheet, is on its way
    events_.push_back(event);
    if (isActing_)
        return;
    isActing_ = true;
    bool isMoveAlone = true;
    CutLengths news;
    while (!events_.empty()) {
        const RunEvent first = std::move(events_.front());
        events_.pop_front();
        isMoveAlone &= std::holds_alternative<run_event::Received>(first);
        const std::vector<RunEffect> effects = model_.on(first, now());
        if (!machine_->knife())
            news.insert(news.end(), model_.recorded().begin(), model_.recorded().end());
        for (const RunEffect& effect : effects)
            execute(effect);
    }
    isActing_ = false;
    if (isMoveAlone || !news.empty())
        Q_EMIT moved(news);
    if (!isMoveAlone)
        Q_EMIT changed();
}

namespace {

template <class... Takers>
struct Overloaded : Takers... {
    using Takers::operator()...;
};
template <class... Takers>
Overloaded(Takers...) -> Overloaded<Takers...>;

} // namespace

void RunControl::execute(const RunEffect& effect) {
    std::visit(Overloaded{
                   [&](const run_effect::TakeSheet& take) { takeEntry(take.isPrintedHere); },
                   [&](const run_effect::Prepare& ask) { machine_->prepare(ask.question); },
                   [&](const run_effect::ReadMarks& ask) { machine_->readMarks(ask.question); },
                   [&](const run_effect::AskHead& ask) { machine_->askHead(ask.question); },
                   [&](const run_effect::StartCut& order) { machine_->cut(order); },
                   [&](const run_effect::StartTest& order) { machine_->cutTest(order); },
                   [&](const run_effect::SetPaused& set) { machine_->setPaused(set.isPaused); },
                   [&](const run_effect::StopCut&) { machine_->stop(); },
                   [&](const run_effect::CheckCut& ask) { machine_->check(ask.question, model_); },
                   [&](const run_effect::GiveUp&) { machine_->giveUp(); },
                   [&](const run_effect::Reload&) {
                       otherId_.clear();
                       machine_->reload();
                   },
                   [&](const run_effect::Keep&) { keep(); },
                   [&](const run_effect::NotePrinted&) { notePrinted(); },
                   [&](const run_effect::NoteDone& done) { noteDone(done); },
                   [&](const run_effect::PrintAgain&) {
                       setFaultOfCopy(TrainingFault::none);
                       printFresh();
                   },
                   [&](const run_effect::CutNow&) { beginAgain(); },
                   [&](const run_effect::GoOn&) { goOn(); },
               },
               effect);
}

QString RunControl::trouble() const {
    return model_.trouble().empty() ? doubtOfState_ : QString::fromStdString(model_.trouble());
}

/// Says so, and gives true, where a cut is under way that nothing but its own buttons ends.
bool RunControl::refusesWhileCutting() {
    if (model_.isCutting())
        Q_EMIT messageRaised(tr("The cutter is at work: stop it or wait, then choose another sheet"));
    return model_.isCutting();
}

RunOrder RunControl::order() const {
    RunOrder order;
    order.machine = machine_->abilities();
    order.isReachable = machine_->isReachable();
    const Sheet* sheet = sheet_.sheet();
    if (!sheet)
        return order;
    const QueueEntry& entry = plan();
    order.scope = {printsHere(entry.work), cutsAtAll(entry.work), !sheet->marks.empty()};
    order.cutter = sheet_.job->profile.cutter;
    order.kinds = kindsOn(*sheet_.made, *sheet);
    order.marks = marksToFind(*sheet, order.machine);
    order.pieces = sheet->pieces.size();
    order.isInHand = !entry.isDone() && (entry.isPrinted || !printsHere(entry.work));
    order.waits = entry.work == RunWork::cutLater;
    order.isFixed = !entry_.empty();
    return order;
}

/// The present copy, from where it is: the printer, the loaded print, or in the middle of its cut.
void RunControl::begin(const std::optional<RunState>& kept, const Tested& tested) {
    const QueueEntry& entry = plan();
    SimulatedMachine::Copy copy = simulated_.copy();
    copy.seed = entry.seed + std::uint32_t(entry.done);
    copy.hasSlipped = false;
    unknown_.clear();
    if (kept) {
        copy = {kept->seed, kept->fault, kept->hasSlipped};
        unknown_ = kept->unknown;
        machine_ = kept->isOnCutter ? static_cast<CuttingMachine*>(&connected_) : &simulated_;
    }
    otherId_.clear();
    doubtOfState_.clear();
    simulated_.setCopy(copy);
    machine_->setSheet(sheet_);
    run_event::Begin begin;
    begin.order = order();
    if (kept)
        begin.kept = static_cast<const KeptRun&>(*kept);
    begin.force = tested.force;
    begin.bladeDepth = tested.bladeDepth;
    act(begin);
}

/// With the force and depth that were tested on this sheet.
void RunControl::beginAgain() {
    begin({}, {model_.force(), model_.bladeDepth()});
}

const QueueEntry& RunControl::plan() const {
    const QueueEntry* entry = queue_.find(entry_);
    return entry ? *entry : draft_;
}

int RunControl::copy() const {
    return std::max(0, plan().done - (model_.isCounted() ? 1 : 0));
}

/// The sheet of the job as it is now; nothing while that is being made. Gives whether it is another one.
bool RunControl::takeJob() {
    const std::size_t number = sheet_.number;
    if (!document_.isMade()) {
        sheet_ = {};
        sheet_.number = number;
        return true;
    }
    const auto job = document_.namedJob();
    const bool isSame = sheet_.job && sheet_.made && *sheet_.job == *job;
    if (!isSame)
        sheet_ = {job, document_.made(), number};
    const std::size_t sheets = sheet_.made->layout.sheets.size();
    sheet_.number = std::min(number, sheets == 0 ? 0 : sheets - 1);
    return !isSame;
}

/// Takes the job as it is now, as long as nothing of its sheet was printed or touched.
void RunControl::followJob() {
    if (!entry_.empty() || isOpening_ || model_.isCutting() || !document_.isMade() || !takeJob())
        return;
    const auto kind = model_.kind();
    beginAgain();
    chooseKind(kind);
}

/// The sheet becomes an entry of the queue, if it is none yet. One that is printed here is identified by its
/// code.
void RunControl::takeEntry(bool isPrintedHere) {
    if (entry_.empty()) {
        if (isPrintedHere)
            sheet_ = RunQueue::identified(sheet_);
        entry_ = queue_.addFirst(sheet_, document_.path(), draft_);
        queue_.take(entry_);
    }
    if (!isPrintedHere)
        return;
    if (plan().isDone()) {
        queue_.again(entry_);
        SimulatedMachine::Copy copy = simulated_.copy();
        copy.seed = plan().seed;
        simulated_.setCopy(copy);
    }
    machine_->setSheet(sheet_);
}

/// What is not finished stays in the queue; a sheet of the job goes from there, if it is finished or nothing
/// of it was cut.
void RunControl::leave() {
    stop_.request_stop();
    ++opened_;
    isOpening_ = false;
    if (model_.isCutting()) { // the program ends
        act(RunAction::stop);
        keep();
    }
    const QueueEntry* entry = queue_.find(entry_);
    if (entry && model_.registration().fault != RunFault::none && !model_.isDone()) {
        PastRun run;
        run.isSimulated = machine_ == &simulated_;
        run.trouble = model_.trouble();
        run.seconds = now() - model_.startedAt();
        queue_.record(*entry, copy(), run);
    }
    const bool isToBeCut = entry && (entry->done > 0 || entry->isBegun || model_.kept() ||
                                     (entry->isPrinted && entry->work == RunWork::cutLater));
    if (entry && isOwn_ && (entry->isDone() || !isToBeCut))
        queue_.remove(entry_);
    queue_.release(entry_);
    entry_.clear();
}

void RunControl::choose(std::size_t sheet) {
    if (refusesWhileCutting())
        return;
    leave();
    sheet_.number = sheet;
    isOwn_ = true;
    draft_.seed += std::uint32_t(draft_.copies); // no print is like the one before
    takeJob();
    begin();
}

void RunControl::chooseEntry(const std::string& id) {
    if ((id == entry_ && isOpening_) || refusesWhileCutting())
        return;
    const QueueEntry* found = queue_.find(id);
    if (!found)
        return;
    const QueueEntry entry = *found;
    if (entry.isNewer)
        return Q_EMIT messageRaised(
            tr("This sheet was added by a newer version of Hasami: use that to run it"));
    if (!queue_.take(id))
        return Q_EMIT messageRaised(tr("This sheet is being run in another window of Hasami"));
    const bool isSameJob = sheet_.job && !entry_.empty() && plan().keptJob == entry.keptJob;
    if (id != entry_)
        leave();
    entry_ = id;
    isOwn_ = false;
    if (isSameJob && !entry.isBegun) {
        sheet_.number = entry.sheet;
        return begin();
    }
    sheet_ = {};
    begin();
    openEntry(entry);
}

void RunControl::openEntry(const QueueEntry& entry) {
    isOpening_ = true;
    stop_ = queue_.open(entry, this, [this, task = ++opened_](const Outcome<RunQueue::Opened>& opened) {
        if (task != opened_ || opened.isStopped())
            return;
        isOpening_ = false;
        if (opened.value)
            return takeOpened(*opened.value);
        Q_EMIT messageRaised(QString::fromStdString(opened.failure));
        choose(0);
    });
    Q_EMIT changed();
}

void RunControl::takeOpened(const RunQueue::Opened& opened) {
    sheet_ = opened.sheet;
    begin(opened.state, {});
    if (opened.trouble.empty())
        return;
    doubtOfState_ = // it starts over, which the operator has to know
        tr("How far this cut came can't be read (%1): look which lines are cut before you cut it again")
            .arg(QString::fromStdString(opened.trouble));
    Q_EMIT changed();
}

void RunControl::cancel() {
    if (!isOpening_)
        return act(RunAction::cancel);
    stop_.request_stop();
    ++opened_;
    isOpening_ = false;
    if (!sheet())
        return choose(0);
    Q_EMIT changed(); // another print was to be put in
}

void RunControl::useMachine(Machine machine) {
    if (machine == machineInUse())
        return;
    if (refusesWhileCutting())
        return Q_EMIT changed();
    const bool isBegun = plan().isBegun || isOpening_; // on the other one, for which it waits
    const auto use = [&] {
        machine_ = machine == Machine::simulated ? static_cast<CuttingMachine*>(&simulated_) : &connected_;
    };
    if (isOwn_ || isBegun) {
        leave();
        use();
        return choose(isOwn_ ? sheet_.number : 0);
    }
    machine_->giveUp();
    use();
    begin();
}

/// The present copy from the printer on, or as it is printed elsewhere.
void RunControl::printFresh() {
    if (entry_.empty())
        return choose(sheet_.number);
    queue_.change(entry_, [](QueueEntry& entry) {
        entry.seed += std::uint32_t(entry.copies); // no print is like the one before
        entry.isPrinted = entry.isBegun = false;
    });
    queue_.forgetRun(entry_);
    beginAgain();
}

void RunControl::setFault(TrainingFault fault) {
    if (refusesWhileCutting())
        return Q_EMIT changed();
    setFaultOfCopy(fault);
    if (machine_ == &simulated_)
        printFresh();
}

void RunControl::setFaultOfCopy(TrainingFault fault) {
    SimulatedMachine::Copy copy = simulated_.copy();
    copy.fault = fault;
    simulated_.setCopy(copy);
}

void RunControl::setWork(RunWork work) {
    if (refusesWhileCutting())
        return;
    if (entry_.empty()) {
        draft_.work = work;
        return choose(sheet_.number);
    }
    queue_.change(entry_, [work](QueueEntry& entry) { entry.work = work; });
    const bool isBeforeMarks = model_.task() == RunTask::print || model_.task() == RunTask::load;
    if (!isBusy() && (isBeforeMarks || !machine_->abilities().prints) && !model_.kept())
        begin();
}

void RunControl::setCopies(int copies) {
    if (entry_.empty())
        draft_.copies = copies;
    else
        queue_.change(entry_, [copies](QueueEntry& entry) { entry.copies = std::max(copies, entry.done); });
    Q_EMIT changed();
}

void RunControl::choosePieces(const std::set<std::size_t>& pieces) {
    act(run_event::Choose{pieces, model_.kind()});
}

void RunControl::chooseKind(std::optional<LineKind> kind) {
    act(run_event::Choose{model_.pieces(), kind});
}

void RunControl::cutTest() {
    if (model_.offersTest())
        act(run_event::CutTest{testCutOn(*job(), *made(), sheet_.number), noRoomForTestCut().toStdString()});
}

void RunControl::takeForce(double force) {
    if (model_.isCutting())
        return;
    act(run_event::TakeForce{force});
    if (isOwn_)
        setKissForce(document_, force);
}

void RunControl::takeBladeDepth(double depth) {
    if (model_.isCutting())
        return;
    act(run_event::TakeBladeDepth{depth});
    if (isOwn_)
        setKissBladeDepth(document_, depth);
}

bool RunControl::isOfOlderJob() const {
    const Job& now = document_.job();
    return isOwn_ && !entry_.empty() && job() && !isBusy() &&
           !(job()->designs == now.designs && job()->plan == now.plan &&
             job()->profile.marks == now.profile.marks);
}

/// How far the cut came.
void RunControl::keep() {
    auto kept = model_.kept();
    if (entry_.empty() || !kept)
        return;
    RunState state;
    static_cast<KeptRun&>(state) = *std::move(kept);
    state.sheet = sheet_.number;
    state.fault = simulated_.copy().fault;
    state.seed = simulated_.copy().seed;
    state.hasSlipped = simulated_.copy().hasSlipped;
    state.isOnCutter = machine_ == &connected_;
    state.unknown = unknown_;
    queue_.keepRun(entry_, std::move(state));
    if (!plan().isBegun)
        queue_.change(entry_, [](QueueEntry& entry) { entry.isBegun = true; });
}

void RunControl::notePrinted() {
    queue_.change(entry_, [](QueueEntry& entry) { entry.isPrinted = true; });
}

/// The copy is done, and its run goes into the history.
void RunControl::noteDone(const run_effect::NoteDone& done) {
    const CutErrors& errors = model_.errors();
    PastRun run;
    run.isSimulated = machine_ == &simulated_;
    run.seconds = done.seconds;
    run.trouble = model_.trouble();
    run.lines = errors.lines.empty() ? model_.isOnlyPrinted() ? 0 : model_.lines() : errors.lines.size();
    std::optional<double> largest;
    if (!errors.lines.empty()) {
        run.rms = errors.rms;
        run.largest = largest = errors.largest;
    }
    queue_.record(plan(), std::max(0, plan().done - (done.isRepeat ? 1 : 0)), run);
    const bool isNew = !done.isRepeat, areAll = model_.isOnlyPrinted();
    queue_.change(entry_, [largest, isNew, areAll](QueueEntry& entry) { // by value: on disk it is done later
        entry.isBegun = false;
        if (largest)
            entry.largest = largest;
        if (isNew)
            entry.done = areAll ? entry.copies : std::min(entry.done + 1, entry.copies);
    });
    queue_.forgetRun(entry_); // only once the entry says that it is cut
}

const QueueEntry* RunControl::nextEntry() const {
    return nextInQueue(queue_.entries(), entry_);
}

RunControl::After RunControl::after() const {
    if (model_.task() == RunTask::weed && !plan().isDone())
        return After::copy;
    const bool hasSheets = isOwn_ && sheet_.made && sheet_.number + 1 < sheet_.made->layout.sheets.size();
    return hasSheets ? After::sheet : nextEntry() ? After::queue : After::again;
}

void RunControl::goOn() {
    switch (after()) {
    case After::copy:
        return beginAgain();
    case After::sheet:
        return choose(sheet_.number + 1);
    case After::queue:
        return chooseEntry(std::string(nextEntry()->id));
    case After::again:
        if (isOwn_)
            return choose(machine_->abilities().prints ? 0 : sheet_.number);
        if (plan().isDone())
            queue_.again(entry_);
        return beginAgain();
    }
}

std::vector<QueueEntry> RunControl::otherPrints() const {
    std::vector<QueueEntry> others;
    if (machine_->abilities().prints)
        for (const QueueEntry& entry : queue_.entries())
            if (entry.id != entry_ && !entry.isDone() && entry.isPrinted)
                others.push_back(entry);
    return others;
}

void RunControl::putIn(const std::string& id) {
    const QueueEntry* found = queue_.find(id);
    if (model_.task() != RunTask::load || isBusy())
        return;
    if (!found || id == entry_) {
        otherId_.clear();
        simulated_.putIn({}, 0);
        return act(run_event::PutIn{});
    }
    const std::uint32_t seed = found->seed + std::uint32_t(found->done);
    isOpening_ = true;
    stop_ = queue_.open(*found, this,
                        [this, id, seed, task = ++opened_](const Outcome<RunQueue::Opened>& opened) {
                            if (task != opened_ || opened.isStopped())
                                return;
                            isOpening_ = false;
                            if (!opened.value) {
                                Q_EMIT messageRaised(QString::fromStdString(opened.failure));
                                return Q_EMIT changed();
                            }
                            otherId_ = id;
                            simulated_.putIn(opened.value->sheet, seed);
                            act(run_event::PutIn{});
                        });
    Q_EMIT changed();
}

const QueueEntry* RunControl::foundByCode() const {
    const QueueEntry* found = model_.registration().fault == RunFault::wrongSheet
                                  ? findByCode(queue_.entries(), model_.registration().code)
                                  : nullptr;
    return found && found->id != entry_ ? found : nullptr;
}

} // namespace hasami
