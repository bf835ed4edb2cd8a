#include "run/run_model.h"

#include "base/translation.h"
#include "machine/run_fault.h"

#include <algorithm>
#include <span>
#include <utility>

namespace hasami {

namespace {

constexpr double betweenKeeps = 0.5; // s

bool isPassTask(RunTask task) {
    return task == RunTask::changeTool || task == RunTask::cut;
}

} // namespace

std::vector<RunEffect> RunModel::on(const RunEvent& event, double now) {
    now_ = now;
    effects_.clear();
    recorded_.clear();
    std::visit([this](const auto& what) { take(what); }, event);
    return std::exchange(effects_, {});
}

bool RunModel::isCutting() const {
    return activity_ == RunActivity::cutting || activity_ == RunActivity::paused ||
           activity_ == RunActivity::stopping;
}

bool RunModel::isBusy() const {
    return activity_ != RunActivity::none && !isCutting();
}

bool RunModel::isDone() const {
    return isOnlyPrinted_ || (step_.task == RunTask::weed && !isBusy() && order_.pieces > 0);
}

bool RunModel::areMarksRead() const {
    return !registration_.marks.empty() && (order_.machine.findsMarks || mark_ == registration_.marks.size());
}

/// The actions and when each does something, in one place for the model and for its views.
bool RunModel::offers(RunAction action) const {
    const bool isIdle =
        activity_ == RunActivity::none && order_.pieces > 0 && !plan_.steps.empty() && order_.isReachable;
    const bool isAtMarks = step_.task == RunTask::findMarks;
    switch (action) {
    case RunAction::next:
        return isIdle;
    case RunAction::pause:
        return activity_ == RunActivity::cutting;
    case RunAction::resume:
        return activity_ == RunActivity::paused;
    case RunAction::stop:
        return activity_ == RunActivity::cutting || activity_ == RunActivity::paused;
    case RunAction::cancel:
        return isBusy() && activity_ != RunActivity::checking;
    case RunAction::locateAgain:
        return isIdle && !order_.marks.empty() &&
               (isAtMarks ? order_.machine.findsMarks || mark_ > 0 : isPassTask(step_.task));
    case RunAction::acceptMarks:
        return isIdle && isAtMarks && !doubt_.empty();
    case RunAction::withoutMarks:
        return (isIdle || activity_ == RunActivity::locating) && isAtMarks && !order_.machine.findsMarks &&
               isPrepared();
    case RunAction::printAgain:
        return isIdle && plan_.has(RunTask::print) && (isAtMarks || (isDone() && !isOnlyPrinted_));
    case RunAction::cutAgain:
        return isIdle && isDone() && !isOnlyPrinted_ && lines() > 0;
    case RunAction::cutNow:
        return isIdle && isOnlyPrinted_ && order_.waits;
    }
    return false;
}

RunAction RunModel::mainAction() const {
    return activity_ == RunActivity::cutting  ? RunAction::pause
           : activity_ == RunActivity::paused ? RunAction::resume
                                              : RunAction::next;
}

bool RunModel::offersTest() const {
    const bool isBefore = isPassTask(step_.task)
                              ? step_.pass == 0
                              : step_.task == RunTask::findMarks && order_.machine.findsMarks &&
                                    areMarksRead() && trouble_.empty();
    return activity_ == RunActivity::none && order_.isReachable && isPrepared() && isBefore &&
           record_.empty() && !testCut_;
}

bool RunModel::offersLine() const {
    return activity_ == RunActivity::none && isPassTask(step_.task) && isPrepared() && !testCut_ &&
           (areLinesOther_ || (order_.machine.mayLoseLines && (isContinued_ || firstLine() > 0)));
}

Cutter RunModel::cutter() const {
    Cutter cutter = order_.cutter;
    Tool& kiss = cutter.tools[std::size_t(LineKind::kiss)];
    if (force_)
        kiss.force = force_;
    if (bladeDepth_)
        kiss.bladeDepth = *bladeDepth_ > 0 ? bladeDepth_ : std::nullopt;
    return cutter;
}

std::size_t RunModel::lines() const {
    std::size_t all = 0;
    for (const Pass& pass : passes_)
        all += pass.lines.size();
    return all;
}

std::size_t RunModel::linesOfPass() const {
    return isPassTask(step_.task) && step_.pass < passes_.size() ? passes_[step_.pass].lines.size() : 0;
}

std::size_t RunModel::firstLine() const {
    return linesOfPass() > 0 ? passes_[step_.pass].first : 0;
}

/// Where each pass has to go on. What was cut before is not looked at again, until lines are taken back.
void RunModel::countCut() {
    constexpr double negligible = 1e-6; // mm
    for (Pass& pass : passes_)
        for (; pass.first < pass.lines.size(); ++pass.first) {
            const CutLines::Line& line = (*lines_)[pass.lines[pass.first]];
            const auto cut = record_.find(line.key);
            if (cut == record_.end() || cut->second < line.length - negligible)
                break;
        }
}

std::optional<Point> RunModel::startOfLine() const {
    const std::size_t line = firstLine();
    if (line >= linesOfPass())
        return {};
    return (*lines_)[passes_[step_.pass].lines[line]].cut->path.front();
}

std::optional<KeptRun> RunModel::kept() const {
    if (!hasStarted_ || isCounted_)
        return {};
    KeptRun kept;
    if (registration_.model != MapModel::none)
        kept.marks = registration_.marks;
    kept.record = record_;
    if (lines_)
        kept.lines = lines_->fingerprint();
    kept.holder = holder_;
    kept.pieces.assign(pieces_.begin(), pieces_.end());
    kept.kind = kind_;
    kept.force = force_;
    kept.bladeDepth = bladeDepth_;
    return kept;
}

/// The next question, whose answer is waited for.
template <class Effect>
void RunModel::ask(RunActivity activity) {
    activity_ = activity;
    isConfirmed_ = false;
    Effect effect;
    effect.question = ++question_;
    effects_.push_back(std::move(effect));
}

/// Whether an answer is to what is asked now.
bool RunModel::isAnswer(std::uint64_t question, RunActivity asked) const {
    return question == question_ && activity_ == asked;
}

void RunModel::take(RunAction action) {
    if (!offers(action))
        return;
    switch (action) {
    case RunAction::next:
        return next();
    case RunAction::pause:
        activity_ = RunActivity::paused;
        effects_.push_back(run_effect::SetPaused{true});
        effects_.push_back(run_effect::Keep{});
        return;
    case RunAction::resume:
        activity_ = RunActivity::cutting;
        effects_.push_back(run_effect::SetPaused{false});
        return;
    case RunAction::stop:
        activity_ = RunActivity::stopping;
        effects_.push_back(run_effect::StopCut{});
        return;
    case RunAction::cancel:
        return giveUp();
    case RunAction::locateAgain:
        return locateAgain();
    case RunAction::acceptMarks:
        return acceptMarks();
    case RunAction::withoutMarks:
        return withoutMarks();
    case RunAction::printAgain:
        effects_.push_back(run_effect::PrintAgain{});
        return;
    case RunAction::cutAgain:
        return cutAgain();
    case RunAction::cutNow:
        effects_.push_back(run_effect::CutNow{});
        return;
    }
}

void RunModel::take(const run_event::Begin& begin) {
    if (isCutting())
        return;
    giveUp();
    RunModel fresh;
    fresh.question_ = question_;
    fresh.takenBack_ = takenBack_ + 1;
    fresh.effects_ = std::move(effects_);
    fresh.now_ = fresh.startedAt_ = now_;
    *this = std::move(fresh);
    order_ = begin.order;
    force_ = begin.force;
    bladeDepth_ = begin.bladeDepth;
    kept_ = begin.kept;
    if (kept_) {
        pieces_ = {kept_->pieces.begin(), kept_->pieces.end()};
        kind_ = kept_->kind;
    }
    if (!order_.machine.findsMarks)
        registration_.marks = order_.marks;
    choosePlan();
    if (plan_.steps.empty() || order_.pieces == 0)
        return;
    const bool skipsPrint = (order_.isInHand || kept_) && plan_.steps.size() > 1;
    step_ = plan_.steps[plan_.steps.front().task == RunTask::print && skipsPrint ? 1 : 0];
    areMarksKnown_ = order_.marks.empty() && !order_.machine.findsMarks;
    if (kept_ || (step_.task == RunTask::load && order_.isFixed) ||
        (step_.task != RunTask::print && step_.task != RunTask::load))
        prepare(RunActivity::preparing);
}

void RunModel::choosePlan() {
    std::vector<LineKind> kinds = order_.kinds;
    if (kind_ && std::ranges::find(kinds, *kind_) != kinds.end())
        kinds = {*kind_};
    plan_ = planOf(order_.scope, kinds, order_.cutter, order_.machine);
}

void RunModel::choosePasses() {
    passes_.clear();
    if (!lines_)
        return;
    for (const RunPass& pass : plan_.passes)
        passes_.push_back({lines_->some(pass.kinds, pieces_, order_.pieces), 0});
    countCut();
}

void RunModel::take(const run_event::Choose& choice) {
    if (isCutting() || (choice.pieces == pieces_ && choice.kind == kind_))
        return;
    pieces_ = choice.pieces;
    kind_ = choice.kind;
    choosePlan();
    choosePasses();
    if (areMarksKnown_ && isPrepared() && activity_ == RunActivity::none && !isOnlyPrinted_ &&
        (isPassTask(step_.task) || step_.task == RunTask::weed))
        goToPass();
}

/// Whether the operator is asked for the pass's tool.
bool RunModel::needsTool(std::size_t pass) const {
    if (order_.machine.hasFirstTool)
        return holder_ && *holder_ != plan_.passes[pass].holder;
    return std::ranges::none_of(passes_[pass].lines,
                                [&](std::size_t line) { return record_.contains((*lines_)[line].key); });
}

/// To the first pass with lines that are not cut; where all are, to the end, and false.
bool RunModel::goToPass() {
    if (lines() == 0) {
        trouble_ = sentence(N_("There is nothing on the sheet to cut"));
        return false;
    }
    for (std::size_t pass = 0; pass < passes_.size(); ++pass)
        if (passes_[pass].first < passes_[pass].lines.size()) {
            step_ = {needsTool(pass) ? RunTask::changeTool : RunTask::cut, pass};
            return true;
        }
    step_ = {RunTask::weed};
    return false;
}

void RunModel::next() {
    if (isOnlyPrinted_)
        return effects_.push_back(run_effect::GoOn{});
    trouble_.clear();
    const bool isAtMachine = step_.task != RunTask::print && step_.task != RunTask::load;
    if (isAtMachine && !isPrepared()) // that was cancelled, or has failed
        return prepare(RunActivity::preparing);
    switch (step_.task) {
    case RunTask::print:
        startedAt_ = now_;
        effects_.push_back(run_effect::TakeSheet{true});
        return prepare(RunActivity::printing);
    case RunTask::load:
        effects_.push_back(run_effect::TakeSheet{false});
        isIn_ = true;
        return isPrepared() ? loaded() : prepare(RunActivity::preparing);
    case RunTask::findMarks:
        return nextOfMarks();
    case RunTask::changeTool:
        holder_ = plan_.passes[step_.pass].holder;
        step_.task = RunTask::cut;
        return startCut();
    case RunTask::cut:
        return startCut();
    case RunTask::weed:
        return effects_.push_back(run_effect::GoOn{});
    }
}

void RunModel::nextOfMarks() {
    if (order_.machine.findsMarks) {
        if (areMarksRead() && registration_.fault == RunFault::none) {
            areMarksKnown_ = true;
            if (goToPass())
                startUnlessAsked();
            return;
        }
        return ask<run_effect::ReadMarks>(RunActivity::locating);
    }
    if (areMarksRead()) // and they are in doubt, or fit no sheet
        return locateAgain();
    ask<run_effect::AskHead>(RunActivity::locating);
}

void RunModel::prepare(RunActivity activity) {
    ask<run_effect::Prepare>(activity);
}

void RunModel::take(const run_event::Prepared& answer) {
    if (!isAnswer(answer.question, RunActivity::preparing) &&
        !isAnswer(answer.question, RunActivity::printing))
        return;
    activity_ = RunActivity::none;
    if (!answer.lines) {
        isIn_ = false;
        trouble_ = answer.failure;
        return;
    }
    lines_ = answer.lines;
    choosePasses();
    if (kept_)
        return goOnWithKept();
    if (step_.task == RunTask::print)
        return printed();
    if (step_.task == RunTask::load)
        return isIn_ ? loaded() : void();
    if (isPassTask(step_.task) || lines() == 0)
        goToPass();
}

/// What is kept belongs to the lines that it was kept of.
void RunModel::goOnWithKept() {
    if (!kept_->marks.empty()) {
        registration_ = registrationOf(kept_->marks);
        mark_ = registration_.marks.size();
    } else if (order_.machine.findsMarks && !areMarksKnown_) { // how it lies was not kept
        step_ = {RunTask::load};
        isIn_ = true;
        return ask<run_effect::ReadMarks>(RunActivity::locating);
    }
    const KeptRun kept = *std::exchange(kept_, std::nullopt);
    areMarksKnown_ = hasStarted_ = isContinued_ = true;
    record_ = kept.record;
    ++takenBack_;
    holder_ = kept.holder;
    force_ = kept.force;
    bladeDepth_ = kept.bladeDepth;
    if (kept.place) { // older versions kept no record of lines
        for (std::size_t pass = 0; pass < std::min(kept.place->first + 1, passes_.size()); ++pass) {
            const std::vector<std::size_t>& lines = passes_[pass].lines;
            const std::size_t whole = pass < kept.place->first ? lines.size() : kept.place->second;
            for (const std::size_t line : std::span(lines).first(std::min(whole, lines.size())))
                record_[(*lines_)[line].key] = (*lines_)[line].length;
        }
    } else if (!kept.lines.empty() && kept.lines != lines_->fingerprint()) {
        record_.clear();
        areLinesOther_ = true;
        trouble_ =
            sentence(N_("The lines of this sheet are other ones than when its cut began: what was cut is "
                        "not known. Set the line to continue with, or print the sheet again"));
    }
    countCut();
    if (!goToPass())
        ask<run_effect::CheckCut>(RunActivity::checking);
}

void RunModel::printed() {
    effects_.push_back(run_effect::NotePrinted{});
    if (!order_.scope.isCut) {
        isOnlyPrinted_ = isCounted_ = true;
        effects_.push_back(run_effect::NoteDone{false, now_ - startedAt_});
    } else if (order_.waits)
        isOnlyPrinted_ = true;
    else
        step_ = plan_.steps[1];
}

/// Without marks the machine says how it was put in.
void RunModel::loaded() {
    if (order_.marks.empty())
        return ask<run_effect::ReadMarks>(RunActivity::locating);
    step_ = {RunTask::findMarks};
}

void RunModel::take(const run_event::MarksRead& answer) {
    if (!order_.machine.findsMarks || !isAnswer(answer.question, RunActivity::locating))
        return;
    activity_ = RunActivity::none;
    if (!answer.failure.empty()) {
        trouble_ = answer.failure;
        return;
    }
    if (!order_.marks.empty())
        return judge(answer.read);
    registration_ = answer.read;
    areMarksKnown_ = true;
    if (kept_)
        return goOnWithKept();
    if (goToPass())
        startUnlessAsked();
}

void RunModel::judge(const Registration& read) {
    registration_ = registrationOf(read.marks);
    if (read.fault != RunFault::none)
        registration_.fault = read.fault;
    registration_.code = read.code;
    trouble_ = sentenceOf(registration_);
}

void RunModel::take(const run_event::HeadFound& answer) {
    if (order_.machine.findsMarks || !isAnswer(answer.question, RunActivity::locating))
        return;
    activity_ = RunActivity::none;
    if (answer.failure.empty())
        placeHead(answer.bed);
    else
        trouble_ = answer.failure;
}

void RunModel::take(const run_event::PlaceMark& mark) {
    const auto found = std::ranges::find(registration_.marks, mark.id, &MarkReading::id);
    if (step_.task != RunTask::findMarks || found == registration_.marks.end())
        return;
    if (order_.machine.findsMarks) {
        if (activity_ != RunActivity::none)
            return;
        found->found = mark.bed;
        found->isByHand = true;
        Registration read;
        read.marks = registration_.marks;
        return judge(read);
    }
    if (mark_ >= registration_.marks.size() || registration_.marks[mark_].id != mark.id ||
        (activity_ != RunActivity::none && activity_ != RunActivity::locating))
        return;
    giveUp(); // what was asked
    placeHead(mark.bed);
}

void RunModel::take(const run_event::PutIn&) {
    if (step_.task == RunTask::load && activity_ == RunActivity::none)
        prepare(RunActivity::preparing);
}

void RunModel::placeHead(Point bed) {
    registration_.marks[mark_].found = bed;
    registration_.marks[mark_].isByHand = true;
    trouble_.clear();
    effects_.push_back(run_effect::TakeSheet{});
    if (++mark_ < registration_.marks.size())
        return;
    registration_ = registrationOf(registration_.marks);
    trouble_ = sentenceOf(registration_);
    if (trouble_.empty())
        doubt_ = doubtOn(registration_, order_.cutter.load);
    if (trouble_.empty() && doubt_.empty())
        acceptMarks();
}

void RunModel::acceptMarks() {
    doubt_.clear();
    areMarksKnown_ = true;
    goToPass();
}

void RunModel::withoutMarks() {
    giveUp();
    registration_ = {};
    registration_.marks = order_.marks;
    mark_ = 0;
    trouble_.clear();
    doubt_.clear();
    areMarksKnown_ = true;
    effects_.push_back(run_effect::TakeSheet{});
    goToPass();
}

/// The sheet is put in once more, or its marks are touched again.
void RunModel::losePlace() {
    registration_ = {};
    if (!order_.machine.findsMarks)
        registration_.marks = order_.marks;
    mark_ = 0;
    areMarksKnown_ = isIn_ = false;
    doubt_.clear();
    testCut_.reset();
    step_ = {plan_.has(RunTask::load) ? RunTask::load : RunTask::findMarks};
}

void RunModel::locateAgain() {
    losePlace();
    trouble_.clear();
    if (step_.task != RunTask::load)
        return;
    effects_.push_back(run_effect::Reload{});
    prepare(RunActivity::preparing);
}

/// The operator may have to say something first: that the tool is in, or the line that comes next.
void RunModel::startUnlessAsked() {
    if (step_.task == RunTask::cut && !offersLine())
        startCut();
}

void RunModel::startCut() {
    effects_.push_back(run_effect::TakeSheet{});
    testCut_.reset();
    trouble_.clear();
    areLinesOther_ = false;
    hasStarted_ = true;
    isConfirmed_ = false;
    keptAt_ = now_;
    holder_ = plan_.passes[step_.pass].holder;
    activity_ = RunActivity::cutting;
    run_effect::StartCut cut;
    cut.question = ++question_;
    cut.lines = lines_;
    cut.pass = passes_[step_.pass].lines;
    for (const std::size_t line : cut.pass)
        if (const auto done = record_.find((*lines_)[line].key); done != record_.end())
            cut.done.insert(*done);
    cut.map = registration_.map;
    cut.cutter = cutter();
    effects_.push_back(std::move(cut));
}

void RunModel::take(const run_event::CutTest& wanted) {
    if (!offersTest())
        return;
    if (!wanted.test) {
        trouble_ = wanted.failure;
        return;
    }
    testing_ = wanted.test;
    activity_ = RunActivity::cutting;
    effects_.push_back(run_effect::TakeSheet{});
    effects_.push_back(run_effect::StartTest{++question_, *wanted.test, registration_.map, cutter()});
}

void RunModel::take(const run_event::TakeForce& taken) {
    if (isCutting())
        return;
    force_ = taken.force;
    testCut_.reset();
}

void RunModel::take(const run_event::TakeBladeDepth& taken) {
    if (!isCutting())
        bladeDepth_ = taken.depth;
}

void RunModel::record(const CutLengths& lines) {
    for (const auto& [key, length] : lines)
        record_[key] = length;
    recorded_.insert(recorded_.end(), lines.begin(), lines.end());
    countCut();
}

void RunModel::take(const run_event::Received& answer) {
    if (answer.question != question_ || !isCutting() || testing_)
        return;
    record(answer.lines);
    if (now_ - keptAt_ < betweenKeeps && now_ >= keptAt_)
        return;
    keptAt_ = now_;
    effects_.push_back(run_effect::Keep{});
}

void RunModel::take(const run_event::CutEnded& answer) {
    if (answer.question != question_ || !isCutting())
        return;
    activity_ = RunActivity::none;
    trouble_ = answer.failure;
    if (const auto tested = std::exchange(testing_, std::nullopt)) {
        if (answer.isWhole)
            testCut_ = tested;
        return;
    }
    record(answer.lines);
    isContinued_ = !answer.isWhole;
    if (answer.isPlaceLost) {
        effects_.push_back(run_effect::Keep{});
        return losePlace();
    }
    if (goToPass()) {
        effects_.push_back(run_effect::Keep{});
        return;
    }
    effects_.push_back(run_effect::Keep{});
    ask<run_effect::CheckCut>(RunActivity::checking);
}

void RunModel::take(const run_event::Confirmed& answer) {
    if (answer.question == question_ && activity_ == RunActivity::none)
        isConfirmed_ = true;
}

void RunModel::take(const run_event::Checked& answer) {
    if (!isAnswer(answer.question, RunActivity::checking))
        return;
    activity_ = RunActivity::none;
    errors_ = answer.errors;
    trouble_ = answer.trouble;
    advised_ = answer.force;
    effects_.push_back(run_effect::NoteDone{isCounted_, now_ - startedAt_});
    isCounted_ = true;
}

void RunModel::take(const run_event::ContinueWith& from) {
    if (!offersLine() || from.line >= linesOfPass())
        return;
    Pass& pass = passes_[step_.pass];
    ++takenBack_;
    for (std::size_t i = 0; i < pass.lines.size(); ++i) {
        const CutLines::Line& line = (*lines_)[pass.lines[i]];
        if (i < from.line)
            record_[line.key] = line.length;
        else
            record_.erase(line.key);
    }
    pass.first = from.line;
    effects_.push_back(run_effect::Keep{});
}

void RunModel::cutAgain() {
    ++takenBack_;
    for (Pass& pass : passes_) {
        for (const std::size_t line : pass.lines)
            record_.erase((*lines_)[line].key);
        pass.first = 0;
    }
    if (advised_)
        force_ = advised_;
    advised_.reset();
    holder_.reset();
    testCut_.reset();
    trouble_.clear();
    errors_ = {};
    isContinued_ = false;
    if (goToPass())
        startUnlessAsked();
}

/// What is asked, beside a cut, is not waited for any more.
void RunModel::giveUp() {
    if (!isBusy())
        return;
    activity_ = RunActivity::none;
    ++question_;
    isIn_ = false;
    effects_.push_back(run_effect::GiveUp{});
}

} // namespace hasami
