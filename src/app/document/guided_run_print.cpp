// The simulated printer: how a sheet comes to lie on the bed.

#include "app/document/guided_run.h"
#include "app/words/words.h"
#include "rehearsal/rehearsal_files.h"
#include "rehearsal/render_print.h"
#include "workshop/route_sheet.h"

#include <QCoreApplication>
#include <QPointer>

#include <algorithm>
#include <cmath>
#include <random>

namespace hasami {

namespace {

constexpr double seenPerMillimetre = 6; // pixels
constexpr double mostSeen = 12e6;       // pixels

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

/// For views of any scale: shrinking all pixels for each takes longer than a frame.
std::vector<QImage> inHalves(QImage picture) {
    constexpr int smallest = 300; // pixels
    std::vector<QImage> pictures{std::move(picture)};
    while (std::min(pictures.back().width(), pictures.back().height()) > smallest)
        pictures.push_back(pictures.back().scaled(pictures.back().size() / 2, Qt::IgnoreAspectRatio,
                                                  Qt::SmoothTransformation));
    return pictures;
}

} // namespace

struct GuidedRun::PrintOrder {
    RunSheet sheet;  ///< that is run,
    RunSheet source; ///< and whose print lies in the machine
    TrainingFault fault = TrainingFault::none;
    RehearsalFaults faults;
    PictureSource pictures;
    Render render; ///< of before
};

RehearsalFaults GuidedRun::faults() const {
    RehearsalFaults faults;
    faults.seed = otherId_.empty() ? state_.seed : otherSeed_;
    faults.error = usualError(faults.seed);
    if (state_.hasSlipped)
        faults.error.shift = faults.error.shift + slip;
    return withFault(faults.onMachines(job()->profile), state_.fault);
}

/// The present copy from the printer on, or as it is printed elsewhere.
void GuidedRun::printFresh() {
    if (refusesWhileCutting())
        return;
    if (entry_.empty())
        return choose(sheet_.number);
    queue_.change(entry_, [](QueueEntry& entry) {
        entry.seed += std::uint32_t(entry.copies); // no print is like the one before
        entry.isPrinted = entry.isBegun = false;
    });
    queue_.forgetRun(entry_);
    reset();
    begin();
}

void GuidedRun::printAgain() {
    state_.fault = TrainingFault::none;
    printFresh();
}

/// All copies.
void GuidedRun::beginPrint() {
    takeEntry(true);
    if (plan().isDone()) {
        queue_.again(entry_);
        state_.seed = plan().seed;
    }
    since_.start();
    layPrint([this] { endPrint(); });
}

void GuidedRun::endPrint() {
    queue_.change(entry_, [](QueueEntry& entry) { entry.isPrinted = true; });
    if (plan().work == RunWork::printOnly) {
        isOnlyPrinted_ = true;
        finish();
    }
    isOnlyPrinted_ |= plan().work == RunWork::cutLater;
    become(isOnlyPrinted_ ? RunStep::print : RunStep::load);
}

GuidedRun::PrintOrder GuidedRun::printOrder() const {
    return {sheet_,   otherId_.empty() ? sheet_ : other_, state_.fault,
            faults(), document_.pictures().source(),      render_};
}

GuidedRun::Printed GuidedRun::printedBy(const PrintOrder& order, const std::stop_token& stop,
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
    printed.sheet = hasami::printed(sheet, source.job->plan.medium.width,
                                    onMedium(printed.render.picture, sheet, order.fault), order.faults);
    printed.program = programOf(*order.sheet.job, *order.sheet.made, *order.sheet.sheet(), {}, stop);
    throwIfStopped(stop);
    const double all = double(printed.sheet->width()) * double(printed.sheet->height());
    const double scale = printed.sheet->pixelsPerMillimetre() * std::min(1.0, std::sqrt(mostSeen / all));
    printed.pictures = inHalves(pictureOf(*printed.sheet, std::min(scale, seenPerMillimetre)));
    return printed;
}

const QImage& GuidedRun::picture(double pixelsPerMillimetre) const {
    const double wanted = pixelsPerMillimetre / printed_->pixelsPerMillimetre() * double(printed_->width());
    std::size_t level = 0;
    while (level + 1 < pictures_.size() && pictures_[level + 1].width() >= wanted)
        ++level;
    return pictures_[level];
}

/// Draws the print file where that was not done yet, and lays the print on the bed with its error.
void GuidedRun::layPrint(std::function<void()> then) {
    printShare_ = 0;
    const auto progress = [context = QPointer<GuidedRun>(this), task = task_ + 1](double share) {
        QMetaObject::invokeMethod(
            QCoreApplication::instance(),
            [context, task, share] {
                if (!context || context->task_ != task)
                    return;
                context->printShare_ = share;
                Q_EMIT context->changed();
            },
            Qt::QueuedConnection);
    };
    stop_ = runInBackground(
        document_.background().machines, this, tr("The sheet can't be printed"),
        [order = printOrder(), progress](const std::stop_token& stop) {
            return printedBy(order, stop, progress);
        },
        ifWantedStill([this, then = std::move(then)](const Outcome<Printed>& outcome) {
            if (outcome.value) {
                printed_ = outcome.value->sheet;
                pictures_ = outcome.value->pictures;
                program_ = outcome.value->program;
                fingerprint_ = fingerprintOf(program_);
                render_ = outcome.value->render;
                return then();
            }
            trouble_ = QString::fromStdString(outcome.failure);
            Q_EMIT changed();
        }));
    Q_EMIT changed();
}

} // namespace hasami
