#include "rehearsal/rehearse.h"

#include "base/error.h"
#include "base/number_text.h"
#include "base/translation.h"
#include "machine/run_fault.h"
#include "workshop/route_sheet.h"

#include <random>

namespace hasami {

namespace {

constexpr double mostOff = 0.5; // mm

/// Of the marks that are to be lost, the last ones first.
std::vector<Blemish> blemishesOf(const Sheet& sheet, const PrintMap& print, const RehearsalFaults& faults) {
    std::minstd_rand random(faults.seed);
    std::uniform_real_distribution<double> share(-1, 1);
    std::vector<Blemish> blemishes;
    const auto count = std::min(std::size_t(std::max(0, faults.marksLost)), sheet.marks.size());
    for (std::size_t i = 0; i < count; ++i) {
        const Mark& mark = sheet.marks[sheet.marks.size() - 1 - i];
        const Box ink = bounds(flatten(mark.ink, flatteningTolerance));
        const double radius = std::max(ink.width(), ink.height()) * 0.62;
        const Point at = ink.centre() + Point{share(random), share(random)} * (0.2 * radius);
        blemishes.push_back({print(at), radius, Blemish::Kind::smudge});
    }
    return blemishes;
}

} // namespace

Rehearsal rehearse(const Job& job, const Made& made, std::size_t number,
                   std::shared_ptr<const SheetPicture> picture, const RehearsalFaults& faults,
                   const std::stop_token& stop) {
    const Sheet& sheet = made.layout.sheets.at(number);
    const PrintMap print(faults.error, {{0, 0}, {sheet.length, job.plan.medium.width}});
    Rehearsal rehearsal{{}, print, {}, {}, {}};
    rehearsal.printed =
        std::make_shared<PrintedSheet>(std::move(picture), print, PaperLook{{251, 249, 244}, faults.noise},
                                       blemishesOf(sheet, print, faults), faults.seed);
    const Sensor sensor = simulatedSensor(*rehearsal.printed, {0.06, faults.noise / 2, faults.seed});
    rehearsal.registration = registerSheet(sheet, job.plan.medium.width, sensor, {}, stop);
    throwIfStopped(stop);
    rehearsal.refused = sentenceOf(rehearsal.registration);
    if (!rehearsal.refused.empty())
        return rehearsal;
    rehearsal.errors =
        cutErrors(programOf(job, made, sheet, {}, stop), rehearsal.registration.map, rehearsal.print);
    if (rehearsal.errors.largest > mostOff)
        rehearsal.refused =
            faults.error.isUpsideDown
                ? sentence("The cut would lie %1 off the print: put the sheet in with its leading edge first",
                           numberText(rehearsal.errors.largest, 1) + " mm")
                : sentence("The cut would lie %1 off the print, since nothing on the sheet says how it lies",
                           numberText(rehearsal.errors.largest, 1) + " mm");
    return rehearsal;
}

} // namespace hasami
