#include "app/runs/simulated_machine.h"

#include "app/words/words.h"
#include "machine/machine_error.h"
#include "machine/register_sheet.h"
#include "rehearsal/render_print.h"
#include "workshop/route_sheet.h"

#include <QCoreApplication>
#include <QPointer>

#include <algorithm>
#include <random>

namespace hasami {

namespace {

constexpr int frame = 33;         // ms
constexpr double mostFrame = 0.1; // s: after a pause of the program it does not jump

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

struct SimulatedMachine::Order {
    RunSheet sheet;  ///< that is run,
    RunSheet source; ///< and whose print lies in the machine
    TrainingFault fault = TrainingFault::none;
    RehearsalFaults faults;
    PictureSource pictures;
    Render render; ///< of before
};

SimulatedMachine::SimulatedMachine(Document& document, QObject* parent)
    : CuttingMachine(parent), document_(document) {
    timer_.setInterval(frame);
    connect(&timer_, &QTimer::timeout, this, &SimulatedMachine::advance);
}

SimulatedMachine::~SimulatedMachine() {
    stop_.request_stop();
}

QString SimulatedMachine::name() const {
    return tr("The simulated cutter");
}

void SimulatedMachine::setSheet(const RunSheet& sheet) {
    giveUp();
    sheet_ = sheet;
    other_ = {};
    bed_.reset();
    head_.reset();
    afterSlip_.clear();
    setCopy(copy_);
}

void SimulatedMachine::setCopy(const Copy& copy) {
    copy_ = copy;
    memory_ = mayLoseLines(copy.fault) ? std::optional<CutMemory>(std::in_place) : std::nullopt;
    hasFailed_ = false;
}

void SimulatedMachine::putIn(const RunSheet& sheet, std::uint32_t seed) {
    other_ = sheet;
    otherSeed_ = seed;
}

void SimulatedMachine::giveUp() {
    stop_.request_stop();
    stop_ = {};
    ++task_;
    printShare_ = 0;
}

/// For the end of work in the background that begins now: calls `then` with its outcome, unless it was given
/// up, or other work was begun.
template <class Then>
auto SimulatedMachine::ifWantedStill(Then then) {
    return [this, then = std::move(then), task = ++task_](const auto& outcome) {
        if (task == task_ && !outcome.isStopped())
            then(outcome);
    };
}

RehearsalFaults SimulatedMachine::faults() const {
    RehearsalFaults faults;
    faults.seed = other_.made ? otherSeed_ : copy_.seed;
    faults.error = usualError(faults.seed);
    if (copy_.hasSlipped)
        faults.error.shift = faults.error.shift + slip;
    return withFault(faults.onMachines(sheet_.job->profile), copy_.fault);
}

Box SimulatedMachine::medium() const {
    return {{0, 0}, {sheet_.sheet()->length, sheet_.job->plan.medium.width}};
}

double SimulatedMachine::usualForce() const {
    return sheet_.job->profile.cutter.tool(LineKind::kiss).force.value_or(TestCut::usualForce);
}

std::optional<CutDepth> SimulatedMachine::depthOf(double force) const {
    if (!sheet_.job)
        return {};
    return hasami::depthOf(force, neededForce(copy_.fault, usualForce()));
}

SensorView SimulatedMachine::look(Point bed, double side) const {
    return bed_ ? simulatedSensor(*bed_->printed(), {0.06, 1, copy_.seed})(bed, side) : SensorView{};
}

SimulatedMachine::Printed SimulatedMachine::printedBy(const Order& order, const std::stop_token& stop,
                                                      const std::function<void(double)>& progress) {
    const RunSheet& source = order.source;
    const Sheet& sheet = *source.sheet();
    Printed printed;
    printed.render = order.render;
    const bool isOther = order.fault == TrainingFault::otherSheet;
    if (!printed.render.picture || printed.render.of.made != source.made ||
        printed.render.of.number != source.number || printed.render.isOfOtherJob != isOther) {
        Job other;
        const auto made =
            isOther ? ofAnotherJob(*source.job, *source.made, source.number, other) : source.made;
        printed.render = {
            source, isOther,
            std::make_shared<const SheetPicture>(renderPrint(isOther ? other : *source.job, *made,
                                                             order.pictures, source.number, stop, progress))};
    }
    printed.lines = std::make_shared<const CutLines>(
        programOf(*order.sheet.job, *order.sheet.made, *order.sheet.sheet(), {}, stop));
    throwIfStopped(stop);
    printed.bed = std::make_shared<const BedPicture>(
        hasami::printed(sheet, source.job->plan.medium.width,
                        onMedium(printed.render.picture, sheet, order.fault), order.faults));
    return printed;
}

/// Draws the print file where that was not done yet, and lays the print on the bed with its error.
void SimulatedMachine::layPrint(std::function<void(const Outcome<Printed>&)> then) {
    printShare_ = 0;
    const auto progress = [context = QPointer<SimulatedMachine>(this), task = task_ + 1](double share) {
        QMetaObject::invokeMethod(
            QCoreApplication::instance(),
            [context, task, share] {
                if (!context || context->task_ != task)
                    return;
                context->printShare_ = share;
                Q_EMIT context->moved({});
            },
            Qt::QueuedConnection);
    };
    const Order order{sheet_,   other_.made ? other_ : sheet_, copy_.fault,
                      faults(), document_.pictures().source(), render_};
    stop_ = runInBackground(
        document_.background().machines, this, tr("The sheet can't be printed"),
        [order, progress](const std::stop_token& stop) { return printedBy(order, stop, progress); },
        ifWantedStill([this, then = std::move(then)](const Outcome<Printed>& outcome) {
            if (outcome.value) {
                bed_ = outcome.value->bed;
                render_ = outcome.value->render;
            }
            then(outcome);
        }));
}

void SimulatedMachine::prepare(std::uint64_t question) {
    head_.reset();
    layPrint([this, question](const Outcome<Printed>& outcome) {
        run_event::Prepared answer{question, {}, outcome.failure};
        if (outcome.value)
            answer.lines = outcome.value->lines;
        Q_EMIT answered(answer);
    });
}

/// Where there are none, a hand has set the origin on the print.
void SimulatedMachine::readMarks(std::uint64_t question) {
    if (sheet_.sheet()->marks.empty()) {
        Registration byHand;
        byHand.map = setByHand(PrintMap(faults().error, medium()), medium(), copy_.seed);
        return Q_EMIT answered(run_event::MarksRead{question, byHand});
    }
    stop_ = runInBackground(
        document_.background().machines, this, tr("The marks can't be read"),
        [sheet = sheet_, bed = bed_, faults = faults()](const std::stop_token& stop) {
            return readSheet(*sheet.sheet(), sheet.job->plan.medium.width,
                             codeTextOf(*sheet.job, sheet.number), *bed->printed(), faults, stop);
        },
        ifWantedStill([this, question](const Outcome<Registration>& outcome) {
            Q_EMIT answered(
                run_event::MarksRead{question, outcome.value.value_or(Registration()), outcome.failure});
        }));
}

/// How the head moves is worked out in the background.
void SimulatedMachine::cut(const run_effect::StartCut& order) {
    question_ = order.question;
    isPaused_ = false;
    head_.reset();
    struct Way {
        std::shared_ptr<CutHead> head;
        std::optional<CutMemory> memory;
    };
    stop_ = runInBackground(
        document_.background().machines, this, tr("The cut can't be prepared"),
        [order, memory = memory_](const std::stop_token&) {
            const CutProgram program = order.lines->programOf(order.pass);
            Way way{std::make_shared<CutHead>(program, order.cutter, order.done), memory};
            if (way.memory)
                way.memory->begin(program, order.done);
            return way;
        },
        ifWantedStill([this](const Outcome<Way>& way) {
            if (!way.value)
                return Q_EMIT answered(run_event::CutEnded{question_, {}, false, way.failure});
            head_ = way.value->head;
            memory_ = way.value->memory;
            if (!isPaused_)
                setPaused(false);
        }));
}

void SimulatedMachine::advance() {
    const double seconds = std::min(mostFrame, double(clock_.restart()) / 1000);
    // s of the machine: where the sheet slips, from which line on
    const double step = copy_.fault == TrainingFault::slippingSheet ? 0.1 : seconds * speed_;
    CutLengths news;
    for (double left = seconds * speed_; left > 0 && !head_->isDone(); left -= step) {
        head_->advance(std::min(step, left));
        const CutLengths some = head_->takeNews();
        noteSlip(some);
        news.insert(news.end(), some.begin(), some.end());
    }
    tell(news);
    if (!head_ || !timer_.isActive())
        return;
    if (head_->isDone())
        return end(true);
    if (copy_.fault == TrainingFault::powerFailure && !hasFailed_ && head_->share() > 0.4)
        failPower();
}

/// A cutter with a memory has received more than its knife has cut.
void SimulatedMachine::tell(const CutLengths& news) {
    Q_EMIT answered(run_event::Received{question_, memory_ ? memory_->cut(news) : news});
    if (memory_)
        Q_EMIT moved(news);
}

void SimulatedMachine::failPower() {
    hasFailed_ = true;
    timer_.stop();
    head_.reset();
    run_event::CutEnded ended;
    ended.question = question_;
    ended.failure = translated("The power failed: what the machine had in its memory is lost, and where the "
                               "sheet lies. Load it again, and look which line was cut last");
    ended.isPlaceLost = true;
    Q_EMIT answered(ended);
}

void SimulatedMachine::noteSlip(const CutLengths& news) {
    if (copy_.fault != TrainingFault::slippingSheet)
        return;
    for (const auto& [key, along] : news)
        afterSlip_.try_emplace(key, copy_.hasSlipped);
    copy_.hasSlipped |= head_->share() > 0.4;
}

void SimulatedMachine::end(bool isWhole) {
    timer_.stop();
    giveUp(); // where the head has not moved yet
    run_event::CutEnded ended;
    ended.question = question_;
    if (head_)
        ended.lines = memory_ ? memory_->cut({}) : head_->takeNews();
    ended.isWhole = isWhole;
    if (!isWhole)
        head_.reset();
    Q_EMIT answered(ended);
}

/// A test cut takes no time: what it is for is looking at it.
void SimulatedMachine::cutTest(const run_effect::StartTest& order) {
    Q_EMIT answered(run_event::CutEnded{order.question, {}, true});
}

void SimulatedMachine::setPaused(bool isPaused) {
    isPaused_ = isPaused;
    if (isPaused || !head_)
        return timer_.stop();
    clock_.start();
    timer_.start();
}

void SimulatedMachine::stop() {
    end(false);
}

/// The operator puts it in as it should lie.
void SimulatedMachine::reload() {
    if (copy_.fault == TrainingFault::wrongWayRound)
        copy_.fault = TrainingFault::none;
    other_ = {};
}

double SimulatedMachine::share() const {
    return head_ ? head_->share() : printShare_;
}

std::optional<double> SimulatedMachine::secondsLeft() const {
    return head_ ? std::optional(head_->secondsLeft()) : std::nullopt;
}

/// What is looked at once a sheet is cut.
struct SimulatedMachine::Inspection {
    RunSheet sheet;
    std::shared_ptr<const CutLines> lines;
    CutRecord record;
    Registration registration;
    std::map<CutKey, bool> afterSlip;
    RehearsalFaults faults;                ///< as the sheet lay at first,
    PrintError slipped;                    ///< and at last
    std::shared_ptr<const BedPicture> bed; ///< whose marks are read again; none: they need not be
    Box medium;
    std::uint32_t seed = 1;
    std::string trouble;

    /// How far the lines that were cut lie off the print, as only the simulation knows it.
    CutErrors errors() const {
        const auto wholeKey = [](const Cut& cut) {
            return CutKey{cut.kind, cut.piece, cut.line, cut.pass, 0};
        };
        const PrintMap first(faults.error, medium), last(slipped, medium);
        CutProgram cuts; // that were made: perhaps of some pieces or of one kind alone
        for (const CutLines::Line& line : lines->all())
            if (record.contains(wholeKey(*line.cut)))
                cuts.emplace_back(*line.cut);
        return cutErrors(cuts, registration.map,
                         [&](const Cut& cut, Point place) {
                             const auto found = afterSlip.find(wholeKey(cut));
                             return found != afterSlip.end() && found->second ? last(place) : first(place);
                         },
                         {faults.cutError, seed});
    }
    /// Where the marks are elsewhere than before, the sheet has moved: by how much.
    double moved(const std::stop_token& stop) const {
        const std::vector<MarkReading> again =
            registerSheet(std::span(sheet.sheet()->marks), simulatedSensor(*bed->printed()), {}, stop).marks;
        double most = 0;
        for (std::size_t i = 0; i < std::min(again.size(), registration.marks.size()); ++i)
            if (again[i].found && registration.marks[i].found)
                most = std::max(most, distance(*again[i].found, *registration.marks[i].found));
        return most;
    }
};

void SimulatedMachine::check(std::uint64_t question, const RunModel& run) {
    head_.reset();
    Inspection what{sheet_,         run.cutLines(), run.record(), run.registration(), afterSlip_, faults(),
                    faults().error, nullptr,        medium(),     copy_.seed,         {}};
    if (copy_.hasSlipped)
        what.faults.error.shift = what.faults.error.shift - slip;
    const double force = run.cutter().tool(LineKind::kiss).force.value_or(TestCut::usualForce);
    what.trouble = sentenceOnWeeding(copy_.fault, *depthOf(force));
    if (memory_)
        what.trouble = sentenceOnLines(memory_->missingIn(run.record()), memory_->twice());
    const bool isShallow = depthOf(force) == CutDepth::tooShallow;
    advised_ = isShallow ? std::optional(neededForce(copy_.fault, usualForce())) : std::nullopt; // as it says
    if (!copy_.hasSlipped)
        return inspect(question, what);
    layPrint([this, question, what](const Outcome<Printed>&) {
        Inspection again = what;
        again.bed = bed_;
        inspect(question, again);
    });
}

void SimulatedMachine::inspect(std::uint64_t question, const Inspection& what) {
    constexpr double still = 0.25; // mm
    struct Seen {
        CutErrors errors;
        double moved = 0;
    };
    stop_ = runInBackground(
        document_.background().machines, this, tr("The marks can't be read"),
        [what](const std::stop_token& stop) {
            return Seen{what.errors(), what.bed ? what.moved(stop) : 0};
        },
        ifWantedStill([this, question, trouble = what.trouble](const Outcome<Seen>& seen) {
            run_event::Checked answer{question, {}, seen.value ? trouble : seen.failure, advised_};
            if (seen.value) {
                answer.errors = seen.value->errors;
                if (seen.value->moved > still)
                    answer.trouble =
                        tr("The sheet moved by %1 mm while it was cut: hold it better, and print it again")
                            .arg(seen.value->moved, 0, 'f', 1)
                            .toStdString();
            }
            Q_EMIT answered(answer);
        }));
}

} // namespace hasami
