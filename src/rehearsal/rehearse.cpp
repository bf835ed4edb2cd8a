#include "rehearsal/rehearse.h"

#include "base/error.h"
#include "base/number_text.h"
#include "base/translation.h"
#include "machine/machine_error.h"
#include "machine/register_sheet.h"
#include "machine/run_fault.h"
#include "workshop/route_sheet.h"

#include <algorithm>
#include <random>

namespace hasami {

namespace {

constexpr double mostOff = 0.5; // mm

/// Of the marks that are to be lost, smudged ones from the last on, torn ones from the first on.
std::vector<Blemish> blemishesOf(const Sheet& sheet, const PrintMap& print, const RehearsalFaults& faults) {
    std::minstd_rand random(faults.seed);
    std::uniform_real_distribution<double> share(-1, 1);
    std::vector<Blemish> blemishes;
    const auto spoil = [&](const Mark& mark, Blemish::Kind kind) {
        const Box ink = bounds(flatten(mark.ink, flatteningTolerance));
        const double radius = std::max(ink.width(), ink.height()) * 0.62;
        const Point at = ink.centre() + Point{share(random), share(random)} * (0.2 * radius);
        blemishes.push_back({print(at), radius, kind});
    };
    const auto count = [&](int asked) {
        return std::min(std::size_t(std::max(0, asked)), sheet.marks.size());
    };
    for (std::size_t i = 0; i < count(faults.marksLost); ++i)
        spoil(sheet.marks[sheet.marks.size() - 1 - i], Blemish::Kind::smudge);
    for (std::size_t i = 0; i < count(faults.marksTorn); ++i)
        spoil(sheet.marks[i], Blemish::Kind::torn);
    return blemishes;
}

PrintMap mapOf(const Sheet& sheet, double medium, const RehearsalFaults& faults) {
    return {faults.error, {{0, 0}, {sheet.length, medium}}};
}

} // namespace

RehearsalFaults RehearsalFaults::onMachines(const Profile& profile) const {
    const MachineError own = MachineError::of(profile);
    RehearsalFaults faults = *this;
    faults.error.distortion = own.print;
    faults.error.seed = seed;
    faults.cutError = own.cut;
    faults.isHandSet = true;
    return faults;
}

std::shared_ptr<const PrintedSheet> printed(const Sheet& sheet, double medium,
                                            std::shared_ptr<const SheetPicture> picture,
                                            const RehearsalFaults& faults) {
    const PrintMap print = mapOf(sheet, medium, faults);
    return std::make_shared<PrintedSheet>(std::move(picture), print, PaperLook{{251, 249, 244}, faults.noise},
                                          blemishesOf(sheet, print, faults), faults.seed);
}

Registration readSheet(const Sheet& sheet, double medium, const std::string& code,
                       const PrintedSheet& printed, const RehearsalFaults& faults,
                       const std::stop_token& stop) {
    const Sensor sensor = simulatedSensor(printed, {0.06, faults.noise / 2, faults.seed});
    Registration registration = registerSheet(sheet, medium, sensor, {}, stop);
    throwIfStopped(stop);
    const bool doNotFit =
        registration.fault == RunFault::tooFewMarks || registration.fault == RunFault::disagreement;
    if (registration.fault != RunFault::none && !doNotFit)
        return registration;
    const auto read =
        doNotFit ? codeAlongEdge(sheet, medium, sensor, stop) : codeRead(sheet, registration, sensor);
    if (read && *read != code) {
        registration.fault = RunFault::wrongSheet;
        registration.code = *read;
    }
    return registration;
}

Rehearsal rehearse(const Job& job, const Made& made, std::size_t number,
                   std::shared_ptr<const SheetPicture> picture, const RehearsalFaults& faults,
                   const std::stop_token& stop) {
    const Sheet& sheet = made.layout.sheets.at(number);
    const double medium = job.plan.medium.width;
    Rehearsal rehearsal{{}, mapOf(sheet, medium, faults), {}, {}, {}};
    rehearsal.printed = printed(sheet, medium, std::move(picture), faults);
    rehearsal.registration =
        readSheet(sheet, medium, codeTextOf(job, number), *rehearsal.printed, faults, stop);
    rehearsal.refused = sentenceOf(rehearsal.registration);
    if (!rehearsal.refused.empty())
        return rehearsal;
    const bool isHandSet = sheet.marks.empty() && faults.isHandSet;
    if (isHandSet)
        rehearsal.registration.map =
            setByHand(rehearsal.print, {{0, 0}, {sheet.length, medium}}, faults.seed);
    rehearsal.errors = cutErrors(programOf(job, made, sheet, {}, stop), rehearsal.registration.map,
                                 rehearsal.print, {faults.cutError, faults.seed});
    const double most = std::max(mostOff, faults.error.distortion + faults.cutError);
    if (rehearsal.errors.largest > most && (!isHandSet || faults.error.isUpsideDown))
        rehearsal.refused =
            faults.error.isUpsideDown
                ? sentence("The cut would lie %1 off the print: put the sheet in with its leading edge first",
                           numberText(rehearsal.errors.largest, 1) + " mm")
                : sentence("The cut would lie %1 off the print, since nothing on the sheet says how it lies",
                           numberText(rehearsal.errors.largest, 1) + " mm");
    return rehearsal;
}

} // namespace hasami
