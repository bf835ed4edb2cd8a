// Which sheet is run, where its run begins, and what comes after it.

#include "app/document/guided_run.h"
#include "app/words/words.h"

namespace hasami {

const QueueEntry& GuidedRun::plan() const {
    const QueueEntry* entry = queue_.find(entry_);
    return entry ? *entry : draft_;
}

int GuidedRun::copy() const {
    return std::max(0, plan().done - (isCounted_ ? 1 : 0));
}

void GuidedRun::takeJob() {
    if (!document_.isMade())
        return;
    const auto job = document_.namedJob();
    if (!sheet_.job || !(*sheet_.job == *job)) {
        sheet_.job = job;
        sheet_.made = document_.made();
    }
    const std::size_t sheets = sheet_.made->layout.sheets.size();
    sheet_.number = std::min(sheet_.number, sheets == 0 ? 0 : sheets - 1);
    Q_EMIT changed();
}

/// The sheet becomes an entry of the queue, if it is none yet. One that is printed here is identified by its
/// code.
void GuidedRun::takeEntry(bool isPrintedHere) {
    if (!entry_.empty())
        return;
    if (isPrintedHere)
        sheet_ = RunQueue::identified(sheet_);
    entry_ = queue_.addFirst(sheet_, document_.path(), draft_);
    queue_.take(entry_);
}

/// The machine stops. What is not finished stays in the queue; a sheet of the job goes from there, if it is
/// finished or nothing of it was cut.
void GuidedRun::leave() {
    giveUpTask();
    timer_.stop();
    const QueueEntry* entry = queue_.find(entry_);
    if (entry && registration_.fault != RunFault::none && !isDone()) {
        PastRun run;
        run.trouble = trouble_.toStdString();
        run.seconds = double(since_.elapsed()) / 1000;
        queue_.record(*entry, copy(), run);
    }
    const bool isToBeCut = entry && (entry->done > 0 || entry->isBegun || !state_.record.empty() ||
                                     (entry->isPrinted && entry->work == RunWork::cutLater));
    if (entry && isOwn_ && (entry->isDone() || !isToBeCut))
        queue_.remove(entry_);
    else if (head_ && !isDone())
        keep();
    queue_.release(entry_);
    entry_.clear();
}

void GuidedRun::reset() {
    const TrainingFault fault = state_.fault;
    const std::optional<double> force = state_.force;
    state_ = {};
    state_.sheet = sheet_.number;
    state_.fault = fault;
    state_.force = force;
    giveUpTask();
    isPaused_ = isOnlyPrinted_ = isCounted_ = false;
    trouble_.clear();
    pieces_.clear();
    otherId_.clear();
    other_ = {};
    printed_.reset();
    pictures_.clear();
    registration_ = {};
    program_.clear();
    head_.reset();
    afterSlip_.clear();
    errors_ = {};
    testCut_.reset();
    step_ = RunStep::print;
}

void GuidedRun::choose(std::size_t sheet) {
    if (refusesWhileCutting())
        return;
    leave();
    sheet_.number = sheet;
    isOwn_ = true;
    draft_.seed += std::uint32_t(draft_.copies); // no print is like the one before
    state_.force.reset();
    reset();
    takeJob();
    begin();
}

void GuidedRun::chooseEntry(const std::string& id) {
    if ((id == entry_ && isBusy_) || refusesWhileCutting())
        return;
    const QueueEntry* found = queue_.find(id);
    if (!found)
        return;
    const QueueEntry entry = *found;
    if (entry.isNewer) {
        Q_EMIT told(tr("This sheet was added by a newer version of Hasami: use that to run it"));
        return;
    }
    if (!queue_.take(id)) {
        Q_EMIT told(tr("This sheet is being run in another window of Hasami"));
        return;
    }
    const bool isSameJob = sheet_.job && !entry_.empty() && plan().keptJob == entry.keptJob;
    if (id != entry_)
        leave();
    entry_ = id;
    isOwn_ = false;
    state_.force.reset();
    reset();
    if (isSameJob && !entry.isBegun) {
        sheet_.number = state_.sheet = entry.sheet;
        return begin();
    }
    sheet_ = {};
    stop_ = queue_.open(
        entry, this, ifWantedStill([this](const Outcome<RunQueue::Opened>& opened) {
            if (opened.value) {
                sheet_ = opened.value->sheet;
                state_.sheet = sheet_.number;
                begin(opened.value->state);
                if (!opened.value->trouble.empty()) { // it starts over, which the operator has to know
                    trouble_ =
                        tr("How far this cut came can't be read (%1): look which lines are cut before you "
                           "cut it again")
                            .arg(QString::fromStdString(opened.value->trouble));
                    Q_EMIT changed();
                }
                return;
            }
            Q_EMIT told(QString::fromStdString(opened.failure));
            choose(0);
        }));
    Q_EMIT changed();
}

/// The present copy, from where it is: the printer, the loaded print, or in the middle of its cut.
void GuidedRun::begin(const std::optional<RunState>& kept) {
    const QueueEntry& entry = plan();
    state_.seed = entry.seed + std::uint32_t(entry.done);
    since_.start();
    if (kept)
        return goOnWith(*kept);
    const bool isInHand = entry.isPrinted || !printsHere(entry.work);
    if (!sheet() || entry.isDone() || !isInHand)
        return become(RunStep::print);
    step_ = RunStep::load;
    if (entry_.empty())
        return become(RunStep::load); // it is drawn when it is put in: the job may change until then
    layPrint([this] { become(RunStep::load); });
}

void GuidedRun::goOnWith(const RunState& kept) {
    state_ = kept;
    pieces_ = {kept.pieces.begin(), kept.pieces.end()};
    if (state_.isOnCutter) // it continues there
        return become(RunStep::load);
    step_ = RunStep::load;
    layPrint([this] {
        if (!state_.lines.empty() && state_.lines != fingerprint_) {
            trouble_ =
                tr("The lines of this sheet are other ones than when its cut began: what was cut is not "
                   "known. Print it again");
            return become(RunStep::load);
        }
        registration_ = registrationOf(state_.marks);
        const bool isThroughNow = std::ranges::any_of(state_.record, [](const auto& cut) {
            return cut.first.kind == LineKind::perforated || cut.first.kind == LineKind::die;
        });
        isPaused_ = true;
        become(isThroughNow ? RunStep::diePass : RunStep::kissPass);
    });
}

/// The copy is done, and its run goes into the history.
void GuidedRun::finish() {
    PastRun run;
    run.seconds = double(since_.elapsed()) / 1000;
    run.trouble = trouble_.toStdString();
    if (!errors_.lines.empty()) {
        run.lines = errors_.lines.size();
        run.rms = errors_.rms;
        run.largest = errors_.largest;
    }
    queue_.record(plan(), copy(), run);
    const std::optional<double> largest =
        errors_.lines.empty() ? std::nullopt : std::optional(errors_.largest);
    const bool isNew = !isCounted_, areAll = isOnlyPrinted_;
    queue_.change(entry_, [largest, isNew, areAll](QueueEntry& entry) { // by value: on disk it is done later
        entry.isBegun = false;
        if (largest)
            entry.largest = largest;
        if (isNew)
            entry.done = areAll ? entry.copies : std::min(entry.done + 1, entry.copies);
    });
    queue_.forgetRun(entry_); // only once the entry says that it is cut
    isCounted_ = true;
}

void GuidedRun::holdSheet() {
    if (sheet())
        takeEntry();
}

void GuidedRun::keepByMachine(const RunState& state) {
    takeEntry();
    queue_.keepRun(entry_, state);
    queue_.change(entry_, [](QueueEntry& entry) { entry.isBegun = true; });
}

void GuidedRun::noteCutByMachine(double seconds, std::size_t lines, bool isRepeat) {
    takeEntry();
    state_.isOnCutter = false;
    PastRun run;
    run.isSimulated = false;
    run.seconds = seconds;
    run.lines = lines;
    queue_.record(plan(), copy(), run);
    if (isRepeat)
        return;
    queue_.change(entry_, [](QueueEntry& entry) {
        entry.isBegun = false;
        entry.done = std::min(entry.done + 1, entry.copies);
    });
    queue_.forgetRun(entry_);
}

const QueueEntry* GuidedRun::nextEntry() const {
    return nextInQueue(queue_.entries(), entry_);
}

GuidedRun::After GuidedRun::after() const {
    const QueueEntry& entry = plan();
    if (step_ == RunStep::weed && !entry.isDone())
        return After::copy;
    const bool hasSheets = isOwn_ && sheet_.number + 1 < sheet_.made->layout.sheets.size();
    return hasSheets ? After::sheet : nextEntry() ? After::queue : After::again;
}

void GuidedRun::goToNext() {
    switch (after()) {
    case After::copy:
        return cutNow();
    case After::sheet:
        return choose(sheet_.number + 1);
    case After::queue:
        return chooseEntry(nextEntry()->id);
    case After::again:
        if (isOwn_)
            return choose(0);
        if (plan().isDone())
            queue_.again(entry_);
        return cutNow();
    }
}

void GuidedRun::cutNow() {
    if (refusesWhileCutting())
        return;
    reset();
    begin();
}

void GuidedRun::setWork(RunWork work) {
    if (refusesWhileCutting())
        return;
    if (entry_.empty()) {
        draft_.work = work;
        return choose(sheet_.number);
    }
    queue_.change(entry_, [work](QueueEntry& entry) { entry.work = work; });
    if (step_ == RunStep::print || (step_ == RunStep::load && !isBusy_)) {
        reset();
        begin();
    }
}

void GuidedRun::setCopies(int copies) {
    if (entry_.empty())
        draft_.copies = copies;
    else
        queue_.change(entry_, [copies](QueueEntry& entry) { entry.copies = std::max(copies, entry.done); });
    Q_EMIT changed();
}

std::vector<QueueEntry> GuidedRun::otherPrints() const {
    std::vector<QueueEntry> others;
    for (const QueueEntry& entry : queue_.entries())
        if (entry.id != entry_ && !entry.isDone() && entry.isPrinted)
            others.push_back(entry);
    return others;
}

void GuidedRun::putIn(const std::string& id) {
    const QueueEntry* found = queue_.find(id);
    if (!found || id == entry_) {
        otherId_.clear();
        other_ = {};
        return layPrint([this] { become(RunStep::load); });
    }
    const std::uint32_t seed = found->seed + std::uint32_t(found->done);
    stop_ =
        queue_.open(*found, this, ifWantedStill([this, id, seed](const Outcome<RunQueue::Opened>& opened) {
            if (!opened.value) {
                trouble_ = QString::fromStdString(opened.failure);
                return Q_EMIT changed();
            }
            otherId_ = id;
            other_ = opened.value->sheet;
            otherSeed_ = seed;
            layPrint([this] { become(RunStep::load); });
        }));
    Q_EMIT changed();
}

const QueueEntry* GuidedRun::foundByCode() const {
    const QueueEntry* found = registration_.fault == RunFault::wrongSheet
                                  ? findByCode(queue_.entries(), registration_.code)
                                  : nullptr;
    return found && found->id != entry_ ? found : nullptr;
}

} // namespace hasami
