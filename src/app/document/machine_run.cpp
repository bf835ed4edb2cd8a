#include "app/document/machine_run.h"

#include "app/document/kiss_tool.h"
#include "app/document/sent_so_far.h"
#include "app/words/words.h"
#include "base/error.h"
#include "files/devices/send.h"
#include "files/hpgl.h"
#include "files/output_names.h"
#include "machine/cut_run.h"
#include "machine/run_fault.h"
#include "workshop/test_cut_sheet.h"

#include <QPointer>

#include <algorithm>
#include <span>
#include <utility>

namespace hasami {

namespace {

/// Four marks at most, the first and the last ones: people touch no more.
std::vector<MarkReading> toBeTouched(const Sheet& sheet) {
    constexpr std::size_t most = 4;
    std::vector<MarkReading> marks;
    for (std::size_t i = 0; i < sheet.marks.size(); ++i)
        if (i < most / 2 || i + most / 2 >= sheet.marks.size()) {
            MarkReading mark;
            mark.id = sheet.marks[i].id;
            mark.expected = sheet.marks[i].centre;
            mark.isByHand = true;
            marks.push_back(mark);
        }
    return marks;
}

} // namespace

MachineRun::MachineRun(Document& document, QObject* parent) : QObject(parent), document_(document) {}

MachineRun::~MachineRun() {
    stop_.request_stop();
}

void MachineRun::become(State state) {
    state_ = state;
    Q_EMIT changed();
}

/// Calls `then` with an outcome if nothing else was asked meanwhile.
template <class Then>
auto MachineRun::ifAskedNow(Then then) {
    isAsking_ = true;
    return [this, then = std::move(then), asked = ++question_](const auto& outcome) {
        if (asked != question_ || outcome.isStopped())
            return;
        isAsking_ = false;
        then(outcome);
    };
}

/// Its answer is not waited for any more.
void MachineRun::forgetQuestion() {
    if (!isAsking_)
        return;
    stop_.request_stop();
    ++question_;
    isAsking_ = false;
}

void MachineRun::choose(const RunSheet& sheet, const std::set<std::size_t>& pieces,
                        std::optional<LineKind> kind) {
    sheet_ = sheet;
    pieces_ = pieces;
    kind_ = kind;
    force_.reset();
    bladeDepth_.reset();
    program_.clear();
    chooseAgain();
}

void MachineRun::chooseAgain() {
    forgetQuestion();
    trouble_.clear();
    doubt_.clear();
    registration_ = {};
    registration_.marks = toBeTouched(*sheet_.sheet());
    current_ = pass_ = firstLine_ = 0;
    received_.clear();
    hasBegun_ = isContinued_ = isRepeating_ = false;
    continued_.reset();
    test_.reset();
    testCut_.reset();
    try {
        target_ = QString::fromStdString(SendTarget::parse(sheet_.job->profile.cutter.connection).name());
    } catch (const InputError&) {
        target_.clear(); // none is set up, or wrongly, which its field says
    }
    state_ = registration_.marks.empty() ? State::ready : State::marks;
    if (program_.empty())
        prepare();
    else
        choosePasses();
    Q_EMIT changed();
}

/// The cutting order takes its time.
void MachineRun::prepare() {
    passes_.clear();
    stop_ = runInBackground(
        document_.background().routes, this, tr("The cut can't be prepared"),
        [sheet = sheet_](const std::stop_token& stop) {
            return programOf(*sheet.job, *sheet.made, *sheet.sheet(), {}, stop);
        },
        ifAskedNow([this](const Outcome<CutProgram>& program) {
            if (program.value) {
                program_ = *program.value;
                fingerprint_ = fingerprintOf(program_);
                choosePasses();
            } else
                trouble_ = QString::fromStdString(program.failure);
            Q_EMIT changed();
        }));
}

void MachineRun::choosePasses() {
    CutProgram chosen = kind_ ? onlyKind(program_, *kind_) : program_;
    if (!pieces_.empty())
        chosen = onlyPieces(chosen, pieces_, sheet_.sheet()->pieces.size());
    passes_ = byTool(chosen, sheet_.job->profile.cutter);
    std::erase_if(passes_, [](const CutProgram& pass) { return cutsOf(pass) == 0; });
    if (const auto kept = std::exchange(continued_, std::nullopt))
        fitToProgram(*kept);
    goToNextPass();
}

/// The first pass with a line that was not sent, and that line.
void MachineRun::goToNextPass() {
    for (pass_ = 0; pass_ < passes_.size(); ++pass_) {
        const std::vector<KeyedCut> cuts = keyedCuts(passes_[pass_]);
        const auto next =
            std::ranges::find_if(cuts, [&](const KeyedCut& cut) { return !received_.contains(cut.key); });
        firstLine_ = std::size_t(next - cuts.begin());
        if (next != cuts.end())
            break;
    }
    if (pass_ == passes_.size())
        firstLine_ = 0;
    const bool areMarksKnown = state_ == State::ready || state_ == State::done;
    if (areMarksKnown && !passes_.empty())
        state_ = pass_ == passes_.size() ? State::done : State::ready;
}

void MachineRun::setChoice(const std::set<std::size_t>& pieces, std::optional<LineKind> kind) {
    if (isSending() || (pieces == pieces_ && kind == kind_))
        return;
    pieces_ = pieces;
    kind_ = kind;
    if (!program_.empty())
        choosePasses();
    Q_EMIT changed();
}

void MachineRun::cutAgain() {
    if (state_ != State::done)
        return;
    for (const CutProgram& pass : passes_)
        for (const KeyedCut& cut : keyedCuts(pass))
            received_.erase(cut.key);
    isRepeating_ = true;
    goToNextPass();
    Q_EMIT changed();
}

std::size_t MachineRun::lines() const {
    std::size_t cuts = 0;
    for (const CutProgram& pass : passes_)
        cuts += cutsOf(pass);
    return cuts;
}

std::optional<Point> MachineRun::origin() const {
    const Sheet& sheet = *sheet_.sheet();
    const bool isFromMark =
        sheet_.job->profile.cutter.axes.origin == CutAxes::Origin::firstMark && !sheet.marks.empty();
    return isFromMark ? std::optional(sheet.marks.front().centre) : std::nullopt;
}

std::vector<LineKind> MachineRun::kinds() const {
    std::vector<LineKind> kinds;
    if (pass_ < passes_.size())
        for (const CutStep& step : passes_[pass_])
            if (const auto* select = std::get_if<SelectTool>(&step);
                select && std::ranges::find(kinds, select->kind) == kinds.end())
                kinds.push_back(select->kind);
    return kinds;
}

int MachineRun::holder() const {
    const auto all = kinds();
    return all.empty() ? 1 : sheet_.job->profile.cutter.tool(all.front()).holder;
}

void MachineRun::askPosition() {
    if (isAsking_ || state_ != State::marks)
        return;
    trouble_.clear();
    stop_ = runInBackground(
        document_.background().sending, this, tr("The machine can't be asked"),
        [job = sheet_.job, origin = origin()](const std::stop_token& stop) {
            const std::string answer =
                askMachine(SendTarget::parse(job->profile.cutter.connection), "OA;", stop);
            return placeOfHead(answer, job->profile.cutter, job->plan.medium.width, origin);
        },
        ifAskedNow([this](const Outcome<Point>& place) {
            if (place.value)
                return setPosition(*place.value);
            trouble_ = QString::fromStdString(place.failure);
            Q_EMIT changed();
        }));
    Q_EMIT changed();
}

void MachineRun::setPosition(Point place) {
    if (state_ != State::marks || current_ >= registration_.marks.size())
        return;
    forgetQuestion();
    registration_.marks[current_].found = place;
    ++current_;
    if (current_ == registration_.marks.size())
        return readMarks();
    Q_EMIT changed();
}

void MachineRun::readMarks() {
    registration_ = registrationOf(registration_.marks);
    trouble_ = QString::fromStdString(sentenceOf(registration_));
    doubt_ = trouble_.isEmpty() ? QString::fromStdString(doubtOn(registration_)) : QString();
    if (trouble_.isEmpty() && doubt_.isEmpty())
        return acceptMarks();
    Q_EMIT changed();
}

void MachineRun::acceptMarks() {
    if (state_ != State::marks || current_ < registration_.marks.size() || !trouble_.isEmpty())
        return;
    doubt_.clear();
    state_ = State::ready;
    goToNextPass();
    Q_EMIT changed();
}

void MachineRun::touchAgain() {
    if (isSending())
        return;
    forgetQuestion();
    for (MarkReading& mark : registration_.marks)
        mark.found.reset();
    registration_.fault = RunFault::none;
    current_ = 0;
    trouble_.clear();
    doubt_.clear();
    become(State::marks);
}

void MachineRun::cutWithoutMarks() {
    if (state_ != State::marks)
        return;
    forgetQuestion();
    registration_.map = {};
    registration_.model = MapModel::none;
    trouble_.clear();
    doubt_.clear();
    state_ = State::ready;
    goToNextPass();
    Q_EMIT changed();
}

Cutter MachineRun::cutter() const {
    Cutter cutter = sheet_.job->profile.cutter;
    if (force_)
        cutter.tools[std::size_t(LineKind::kiss)].force = force_;
    if (bladeDepth_)
        cutter.tools[std::size_t(LineKind::kiss)].bladeDepth = *bladeDepth_ > 0 ? bladeDepth_ : std::nullopt;
    return cutter;
}

void MachineRun::sendPass() {
    if (state_ != State::ready || pass_ >= passes_.size())
        return;
    testCut_.reset();
    const std::vector<KeyedStep> steps = remaining(passes_[pass_], received_);
    CutProgram program;
    for (const KeyedStep& step : steps)
        program.push_back(step.step);
    send([program, map = registration_.map, cutter = cutter(), width = sheet_.job->plan.medium.width,
          origin = origin()] { return hpglOf(onBed(program, map), cutter, width, origin); },
         steps);
}

void MachineRun::cutTest() {
    if (state_ != State::ready)
        return;
    test_ = testCutOn(*sheet_.job, *sheet_.made, sheet_.number);
    if (!test_) {
        trouble_ = noRoomForTestCut();
        return Q_EMIT changed();
    }
    send([test = *test_, map = registration_.map, cutter = cutter(), width = sheet_.job->plan.medium.width,
          origin = origin()] { return testCutHpgl(test, map, cutter, width, origin); },
         {});
}

void MachineRun::takeBladeDepth(double depth) {
    bladeDepth_ = depth;
    Q_EMIT changed();
}

void MachineRun::takeForce(double force) {
    force_ = force;
    testCut_.reset();
    Q_EMIT changed();
}

/// In the background; the lines of `steps` are counted as the machine receives them.
void MachineRun::send(const std::function<std::string()>& hpgl, const std::vector<KeyedStep>& steps) {
    sending_.clear();
    for (const KeyedStep& step : steps)
        if (step.key)
            sending_.emplace_back(*step.key, step.before + pathLength(std::get<Cut>(step.step)));
    sent_ = std::make_shared<SentSoFar>();
    hasBegun_ |= !test_;
    trouble_.clear();
    const auto show = [context = QPointer<MachineRun>(this), soFar = sent_] {
        if (!context || context->sent_ != soFar)
            return;
        context->noteReceived();
        Q_EMIT context->changed();
    };
    stop_ = runInBackground(
        document_.background().sending, this, tr("The cut can't be sent"),
        [job = sheet_.job, number = sheet_.number, count = sheet_.made->layout.sheets.size(), hpgl, show,
         soFar = sent_](const std::stop_token& stop) {
            const std::string bytes = hpgl();
            sendTo(SendTarget::parse(job->profile.cutter.connection), cutNameOf(*job, number, count), bytes,
                   followed(soFar, bytes.size(), show), stop, &soFar->isPaused);
            return true;
        },
        [this](const Outcome<bool>& sent) { endSending(sent); });
    become(State::sending);
}

void MachineRun::noteReceived() {
    const std::size_t lines = std::min<std::size_t>(sent_->lines, sending_.size());
    received_.insert(sending_.begin(), sending_.begin() + std::ptrdiff_t(lines));
}

void MachineRun::endSending(const Outcome<bool>& sent) {
    noteReceived();
    sending_.clear();
    sent_.reset();
    state_ = State::ready;
    trouble_ = QString::fromStdString(sent.failure);
    if (test_) {
        if (sent.value)
            testCut_ = test_;
        test_.reset();
        return Q_EMIT changed();
    }
    isContinued_ = !sent.value;
    goToNextPass();
    Q_EMIT changed();
}

double MachineRun::share() const {
    return sent_ ? double(sent_->share) : 0;
}

bool MachineRun::isPaused() const {
    return sent_ && sent_->isPaused;
}

std::size_t MachineRun::linesOfPass() const {
    return pass_ < passes_.size() ? cutsOf(passes_[pass_]) : 0;
}

void MachineRun::setFirstLine(std::size_t line) {
    if (state_ != State::ready || line >= linesOfPass())
        return;
    std::size_t number = 0;
    for (const auto& [key, cut] : keyedCuts(passes_[pass_]))
        if (number++ < line)
            received_[key] = pathLength(*cut);
        else
            received_.erase(key);
    firstLine_ = line;
    Q_EMIT changed();
}

std::optional<Point> MachineRun::startOfLine() const {
    const std::vector<KeyedCut> cuts =
        pass_ < passes_.size() ? keyedCuts(passes_[pass_]) : std::vector<KeyedCut>();
    return firstLine_ < cuts.size() ? std::optional(cuts[firstLine_].cut->path.front()) : std::nullopt;
}

void MachineRun::goOnWith(const RunState& kept) {
    registration_ = kept.marks.empty() ? Registration() : registrationOf(kept.marks);
    current_ = registration_.marks.size();
    received_ = kept.record;
    force_ = kept.force;
    bladeDepth_ = kept.bladeDepth;
    continued_ = kept;
    hasBegun_ = isContinued_ = true;
    state_ = State::ready;
    if (!program_.empty())
        choosePasses();
    Q_EMIT changed();
}

/// What is kept belongs to the lines that it was kept of. Older versions kept a pass and a line in its order.
void MachineRun::fitToProgram(const RunState& kept) {
    if (kept.machine) {
        const std::vector<CutProgram> passes = passes_;
        for (std::size_t pass = 0; pass < std::min(kept.machine->pass + 1, passes.size()); ++pass) {
            const std::vector<KeyedCut> cuts = keyedCuts(passes[pass]);
            const std::size_t lines = pass < kept.machine->pass ? cuts.size() : kept.machine->line;
            for (const auto& [key, cut] : std::span(cuts).first(std::min(lines, cuts.size())))
                received_[key] = pathLength(*cut);
        }
    } else if (kept.lines != fingerprint_) {
        received_.clear();
        trouble_ = tr("The lines of this sheet are other ones than when its cut began: what was cut is not "
                      "known. Set the line to continue with");
    }
}

std::optional<RunState> MachineRun::progress() const {
    if (!hasBegun_ || isRepeating_)
        return {};
    RunState state;
    state.sheet = sheet_.number;
    if (registration_.model != MapModel::none)
        state.marks = registration_.marks;
    state.pieces.assign(pieces_.begin(), pieces_.end());
    state.kind = kind_;
    state.force = force_;
    state.bladeDepth = bladeDepth_;
    state.isOnCutter = true;
    state.record = received_;
    state.lines = fingerprint_;
    return state;
}

void MachineRun::setPaused(bool isPaused) {
    if (state_ != State::sending)
        return;
    sent_->isPaused = isPaused;
    Q_EMIT changed();
}

void MachineRun::stop() {
    if (state_ != State::sending)
        return;
    stop_.request_stop();
    become(State::stopping);
}

} // namespace hasami
