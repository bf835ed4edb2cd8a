#include "app/document/machine_run.h"

#include "app/document/kiss_tool.h"
#include "app/words/words.h"
#include "base/error.h"
#include "files/hpgl.h"
#include "files/output_names.h"
#include "files/send.h"
#include "machine/cut_run.h"
#include "machine/run_fault.h"
#include "workshop/test_cut_sheet.h"

#include <QPointer>

#include <algorithm>

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

void MachineRun::choose(const RunSheet& sheet, const std::set<std::size_t>& pieces,
                        std::optional<LineKind> kind) {
    sheet_ = sheet;
    pieces_ = pieces;
    kind_ = kind;
    chooseAgain();
}

void MachineRun::chooseAgain() {
    stop_.request_stop();
    stop_ = {};
    state_ = State::marks;
    isAsking_ = true;
    trouble_.clear();
    target_.clear();
    share_ = 0;
    registration_ = {};
    registration_.marks = toBeTouched(*sheet_.sheet());
    current_ = pass_ = firstLine_ = sentLines_ = 0;
    wasSent_ = false;
    test_.reset();
    testCut_.reset();
    force_.reset();
    bladeDepth_.reset();
    passes_.clear();
    isPaused_.reset();
    stop_ = runInBackground(
        document_.background().sending, this, tr("The cut can't be prepared"),
        [sheet = sheet_, pieces = pieces_, kind = kind_](const std::stop_token& stop) {
            CutProgram program = programOf(*sheet.job, *sheet.made, *sheet.sheet(), {}, stop);
            if (kind)
                program = onlyKind(program, *kind);
            if (!pieces.empty())
                program = onlyPieces(program, pieces, sheet.sheet()->pieces.size());
            return byTool(program, sheet.job->profile.cutter);
        },
        [this](const Outcome<std::vector<CutProgram>>& passes) {
            if (passes.isStopped())
                return;
            isAsking_ = false;
            if (passes.value) {
                passes_ = *passes.value;
                if (wasSent_ && pass_ >= passes_.size())
                    state_ = State::done;
            } else
                trouble_ = QString::fromStdString(passes.failure);
            Q_EMIT changed();
        });
    try {
        target_ = QString::fromStdString(SendTarget::parse(sheet_.job->profile.cutter.connection).name());
    } catch (const InputError&) {
        target_.clear(); // none is set up, or wrongly, which its field says
    }
    if (registration_.marks.empty())
        state_ = State::ready;
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
    isAsking_ = true;
    trouble_.clear();
    Q_EMIT changed();
    stop_ = runInBackground(
        document_.background().sending, this, tr("The machine can't be asked"),
        [job = sheet_.job, origin = origin()](const std::stop_token& stop) {
            const std::string answer =
                askMachine(SendTarget::parse(job->profile.cutter.connection), "OA;", stop);
            return placeOfHead(answer, job->profile.cutter, job->plan.medium.width, origin);
        },
        [this](const Outcome<Point>& place) {
            if (place.isStopped())
                return;
            isAsking_ = false;
            if (place.value)
                return setPosition(*place.value);
            trouble_ = QString::fromStdString(place.failure);
            Q_EMIT changed();
        });
}

void MachineRun::setPosition(Point place) {
    if (current_ >= registration_.marks.size())
        return;
    registration_.marks[current_].found = place;
    ++current_;
    if (current_ == registration_.marks.size())
        return readMarks();
    Q_EMIT changed();
}

void MachineRun::readMarks() {
    registration_ = registrationOf(registration_.marks);
    trouble_ = QString::fromStdString(sentenceOf(registration_));
    state_ = trouble_.isEmpty() ? State::ready : State::marks;
    Q_EMIT changed();
}

void MachineRun::touchAgain() {
    for (MarkReading& mark : registration_.marks)
        mark.found.reset();
    registration_.fault = RunFault::none;
    current_ = 0;
    trouble_.clear();
    state_ = State::marks;
    Q_EMIT changed();
}

void MachineRun::cutWithoutMarks() {
    registration_.map = {};
    registration_.model = MapModel::none;
    trouble_.clear();
    state_ = State::ready;
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
    send([program = fromCut(passes_[pass_], firstLine_), map = registration_.map, cutter = cutter(),
          width = sheet_.job->plan.medium.width,
          origin = origin()] { return hpglOf(onBed(program, map), cutter, width, origin); });
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
          origin = origin()] { return testCutHpgl(test, map, cutter, width, origin); });
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

/// In the background; the lines of a pass are counted as the machine takes them.
void MachineRun::send(const std::function<std::string()>& hpgl) {
    state_ = State::sending;
    share_ = 0;
    sentLines_ = 0;
    trouble_.clear();
    isPaused_ = std::make_shared<std::atomic<bool>>(false);
    Q_EMIT changed();
    const auto show = [context = QPointer<MachineRun>(this)](double share, std::size_t lines) {
        QMetaObject::invokeMethod(
            QCoreApplication::instance(),
            [context, share, lines] {
                if (!context || context->state_ != State::sending)
                    return;
                context->share_ = share;
                context->sentLines_ = lines;
                Q_EMIT context->changed();
            },
            Qt::QueuedConnection);
    };
    stop_ = runInBackground(
        document_.background().sending, this, tr("The cut can't be sent"),
        [job = sheet_.job, number = sheet_.number, count = sheet_.made->layout.sheets.size(), hpgl, show,
         pause = isPaused_](const std::stop_token& stop) {
            const std::string bytes = hpgl();
            int told = -1;                      // percent
            std::size_t counted = 0, lines = 0; // bytes up to the end of a line, and the cuts in them
            sendTo(
                SendTarget::parse(job->profile.cutter.connection), cutNameOf(*job, number, count), bytes,
                [&](double share) {
                    if (int(share * 100) <= told)
                        return;
                    told = int(share * 100);
                    const std::string_view sent(bytes.data(), std::size_t(share * double(bytes.size())));
                    const std::size_t end = sent.rfind('\n') + 1; // 0 where there is none
                    if (end > counted)
                        lines += cutsIn(sent.substr(counted, end - counted));
                    counted = std::max(counted, end);
                    show(share, lines);
                },
                stop, pause.get());
            return true;
        },
        [this](const Outcome<bool>& sent) {
            if (state_ == State::sending)
                endSending(sent);
        });
}

void MachineRun::endSending(const Outcome<bool>& sent) {
    state_ = State::ready;
    if (!sent.value)
        trouble_ = QString::fromStdString(sent.failure);
    if (test_) {
        if (sent.value)
            testCut_ = test_;
        test_.reset();
        return Q_EMIT changed();
    }
    wasSent_ |= sent.value || sentLines_ > 0;
    firstLine_ = sent.value ? 0 : std::min(firstLine_ + sentLines_, linesOfPass() - 1);
    pass_ += sent.value ? 1 : 0;
    if (pass_ == passes_.size())
        state_ = State::done;
    Q_EMIT changed();
}

std::size_t MachineRun::linesOfPass() const {
    return pass_ < passes_.size() ? cutsOf(passes_[pass_]) : 0;
}

void MachineRun::setFirstLine(std::size_t line) {
    if (state_ != State::ready || line >= linesOfPass())
        return;
    firstLine_ = line;
    Q_EMIT changed();
}

std::optional<Point> MachineRun::startOfLine() const {
    if (pass_ < passes_.size())
        for (const CutStep& step : fromCut(passes_[pass_], firstLine_))
            if (const Cut* cut = std::get_if<Cut>(&step))
                return cut->path.front();
    return {};
}

void MachineRun::goOnWith(const RunState& kept) {
    if (!kept.machine)
        return;
    registration_ = kept.marks.empty() ? Registration() : registrationOf(kept.marks);
    current_ = registration_.marks.size();
    pass_ = kept.machine->pass;
    firstLine_ = kept.machine->line;
    force_ = kept.force;
    wasSent_ = true;
    state_ = State::ready;
    Q_EMIT changed();
}

std::optional<RunState> MachineRun::progress() const {
    if (!wasSent_ && !(state_ == State::sending && !test_))
        return {};
    RunState state;
    state.sheet = sheet_.number;
    if (registration_.model != MapModel::none)
        state.marks = registration_.marks;
    state.pieces.assign(pieces_.begin(), pieces_.end());
    state.kind = kind_;
    state.force = force_;
    state.machine = {pass_, firstLine_ + (state_ == State::sending ? sentLines_ : 0)};
    return state;
}

void MachineRun::setPaused(bool isPaused) {
    if (state_ == State::sending && isPaused_)
        *isPaused_ = isPaused;
    Q_EMIT changed();
}

void MachineRun::stop() {
    stop_.request_stop();
    if (state_ == State::sending)
        endSending({});
}

} // namespace hasami
