#include "app/runs/connected_machine.h"

#include "app/document/sent_so_far.h"
#include "app/words/words.h"
#include "base/error.h"
#include "files/output_names.h"
#include "machine/bed_program.h"
#include "workshop/route_sheet.h"

#include <QPointer>

#include <algorithm>
#include <chrono>
#include <string_view>
#include <utility>

namespace hasami {

namespace {

constexpr std::string_view whereIsHead = "OA;";

} // namespace

ConnectedMachine::ConnectedMachine(Document& document, QObject* parent)
    : CuttingMachine(parent), document_(document) {}

ConnectedMachine::~ConnectedMachine() {
    giveUp();
    if (sending_)
        sending_->stop.request_stop();
}

void ConnectedMachine::setSheet(const RunSheet& sheet) {
    giveUp();
    waiting_ = {};
    answers_ = false;
    sheet_ = sheet;
    name_.clear();
    try {
        if (sheet_.job)
            name_ = QString::fromStdString(SendTarget::parse(sheet_.job->profile.cutter.connection).name());
    } catch (const InputError&) { // none is set up, or wrongly, which its field says
    }
}

void ConnectedMachine::giveUp() {
    preparing_.request_stop();
    asking_.request_stop();
}

/// The cutting order takes its time.
void ConnectedMachine::prepare(std::uint64_t question) {
    preparing_ = runInBackground(
        document_.background().routes, this, tr("The cut can't be prepared"),
        [sheet = sheet_](const std::stop_token& stop) {
            return std::make_shared<const CutLines>(
                programOf(*sheet.job, *sheet.made, *sheet.sheet(), {}, stop));
        },
        [this, question](const Outcome<std::shared_ptr<const CutLines>>& lines) {
            if (!lines.isStopped())
                Q_EMIT answered(run_event::Prepared{question, lines.value.value_or(nullptr), lines.failure});
        });
}

std::optional<Point> ConnectedMachine::origin() const {
    const Sheet& sheet = *sheet_.sheet();
    const bool isFromMark =
        sheet_.job->profile.cutter.axes.origin == CutAxes::Origin::firstMark && !sheet.marks.empty();
    return isFromMark ? std::optional(sheet.marks.front().centre) : std::nullopt;
}

/// A machine takes one connection at a time: what it is asked is given up first.
void ConnectedMachine::whenFree(std::function<void()> act) {
    waiting_ = std::move(act);
    if (isAsking_)
        asking_.request_stop();
    else
        std::exchange(waiting_, {})();
}

void ConnectedMachine::endAsking() {
    isAsking_ = false;
    if (waiting_)
        std::exchange(waiting_, {})();
}

void ConnectedMachine::askHead(std::uint64_t question) {
    whenFree([this, question] {
        isAsking_ = true;
        asking_ = runInBackground(
            document_.background().sending, this, tr("The machine can't be asked"),
            [job = sheet_.job, origin = origin()](const std::stop_token& stop) {
                const std::string answer =
                    askMachine(SendTarget::parse(job->profile.cutter.connection), whereIsHead, stop);
                return placeOfHead(answer, job->profile.cutter, job->plan.medium.width, origin);
            },
            [this, question](const Outcome<Point>& place) {
                answers_ |= place.value.has_value();
                endAsking();
                if (!place.isStopped())
                    Q_EMIT answered(
                        run_event::HeadFound{question, place.value.value_or(Point()), place.failure});
            });
    });
}

/// One that answers does so once it has cut what it was sent.
void ConnectedMachine::askForEnd(std::uint64_t question) {
    constexpr std::chrono::seconds patience(60);
    if (!answers_ || isAsking_)
        return;
    isAsking_ = true;
    asking_ = runInBackground(
        document_.background().sending, this, tr("The machine can't be asked"),
        [job = sheet_.job](const std::stop_token& stop) {
            return askMachine(SendTarget::parse(job->profile.cutter.connection), whereIsHead, stop, patience);
        },
        [this, question](const Outcome<std::string>& answer) {
            endAsking();
            if (answer.value)
                Q_EMIT answered(run_event::Confirmed{question});
        });
}

void ConnectedMachine::cut(const run_effect::StartCut& order) {
    const auto lines = std::make_shared<CutLengths>();
    begin(order.question, lines, [order, lines, width = sheet_.job->plan.medium.width, origin = origin()] {
        CutProgram program;
        for (KeyedStep& step : remaining(order.lines->programOf(order.pass), order.done)) {
            if (step.key)
                lines->emplace_back(*step.key, step.before + pathLength(std::get<Cut>(step.step)));
            program.push_back(std::move(step.step));
        }
        return hpglOf(onBed(std::move(program), order.map), order.cutter, width, origin);
    });
}

void ConnectedMachine::cutTest(const run_effect::StartTest& order) {
    begin(order.question, std::make_shared<CutLengths>(),
          [test = order.test, map = order.map, cutter = order.cutter, width = sheet_.job->plan.medium.width,
           origin = origin()] { return testCutHpgl(test, map, cutter, width, origin); });
}

void ConnectedMachine::begin(std::uint64_t question, std::shared_ptr<const CutLengths> lines,
                             const std::function<std::string()>& hpgl) {
    sending_.emplace(question, std::move(lines), 0, std::make_shared<SentSoFar>());
    whenFree([this, hpgl] { send(hpgl); });
}

/// In the background; the lines are counted as the machine receives them.
void ConnectedMachine::send(const std::function<std::string()>& hpgl) {
    if (sending_->stop.stop_requested()) { // before it could begin
        const std::uint64_t question = sending_->question;
        sending_.reset();
        return Q_EMIT answered(run_event::CutEnded{question, {}});
    }
    const auto show = [context = QPointer<ConnectedMachine>(this), soFar = sending_->soFar] {
        if (context && context->sending_ && context->sending_->soFar == soFar)
            context->tellReceived();
    };
    sending_->stop = runInBackground(
        document_.background().sending, this, tr("The cut can't be sent"),
        [job = sheet_.job, number = sheet_.number, count = sheet_.made->layout.sheets.size(), hpgl, show,
         soFar = sending_->soFar](const std::stop_token& stop) {
            const std::string bytes = hpgl();
            sendTo(SendTarget::parse(job->profile.cutter.connection), cutNameOf(*job, number, count), bytes,
                   followed(soFar, bytes.size(), show), stop, &soFar->isPaused);
            return true;
        },
        [this, question = sending_->question](const Outcome<bool>& sent) {
            if (!sending_ || sending_->question != question)
                return;
            const CutLengths last = received();
            sending_.reset();
            if (sent.isStopped())
                askForEnd(question);
            Q_EMIT answered(run_event::CutEnded{question, last, sent.value.has_value(), sent.failure});
        });
}

/// What it has taken since the last time.
CutLengths ConnectedMachine::received() {
    if (sending_->soFar->lines == 0)
        return {}; // they may still be worked out
    const std::size_t lines = std::min<std::size_t>(sending_->soFar->lines, sending_->lines->size());
    const auto first = sending_->lines->begin();
    CutLengths news(first + std::ptrdiff_t(sending_->told), first + std::ptrdiff_t(lines));
    sending_->told = lines;
    return news;
}

void ConnectedMachine::tellReceived() {
    Q_EMIT answered(run_event::Received{sending_->question, received()});
    Q_EMIT moved({});
}

void ConnectedMachine::setPaused(bool isPaused) {
    if (sending_)
        sending_->soFar->isPaused = isPaused;
}

void ConnectedMachine::stop() {
    if (sending_)
        sending_->stop.request_stop();
}

/// Nobody looks at it but the operator.
void ConnectedMachine::check(std::uint64_t question, const RunModel&) {
    askForEnd(question);
    Q_EMIT answered(run_event::Checked{question, {}});
}

double ConnectedMachine::share() const {
    return sending_ ? double(sending_->soFar->share) : 0;
}

} // namespace hasami
