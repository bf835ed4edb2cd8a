#pragma once

#include "machine/cut_errors.h"
#include "machine/printed_sheet.h"
#include "workshop/make_all.h"

#include <cstdint>
#include <memory>
#include <optional>
#include <stop_token>
#include <string>

namespace hasami {

/// What goes wrong in a rehearsal.
struct RehearsalFaults {
    PrintError error;
    double noise = 2;  ///< of print and sensor, percent of full contrast
    int marksLost = 0; ///< marks that are smudged, the last ones first
    int marksTorn = 0; ///< marks that are torn off, the first ones first
    std::uint32_t seed = 1;
    double cutError = 0;    ///< of the cutter itself, mm (RepeatError)
    bool isHandSet = false; ///< of a sheet without marks: the origin is set by a hand, not known

    /// With what the machines of a profile are off by themselves.
    RehearsalFaults onMachines(const Profile& profile) const;
};

/// A sheet printed and cut by simulated machines.
struct Rehearsal {
    std::shared_ptr<const PrintedSheet> printed;
    PrintMap print;            ///< the truth, which the cutter does not know
    Registration registration; ///< what it made of the marks
    std::string refused;       ///< a sentence, where it can't be trusted; nothing is cut then
    CutErrors errors;          ///< of what was cut
};

/// The sheet as the simulated printer makes it, on the cutter's bed. `medium`: across the feed, mm.
std::shared_ptr<const PrintedSheet> printed(const Sheet& sheet, double medium,
                                            std::shared_ptr<const SheetPicture> picture,
                                            const RehearsalFaults& faults);

/// Reads the marks of a printed sheet, and its code. `code`: that of the job's sheet. Throws Stopped.
Registration readSheet(const Sheet& sheet, double medium, const std::string& code,
                       const PrintedSheet& printed, const RehearsalFaults& faults,
                       const std::stop_token& stop = {});

/// Prints a sheet as its file has it (`picture`), loads it, finds its marks and cuts it. The cutter knows the
/// program, the profile and what its sensor sees; the errors are measured with the truth afterwards. A cut
/// that lies off the print by more than half a millimetre is refused too, unless a hand has set the origin.
/// Throws Stopped. REQUIRES: `made` was made from this job, `picture` is of the sheet.
Rehearsal rehearse(const Job& job, const Made& made, std::size_t sheet,
                   std::shared_ptr<const SheetPicture> picture, const RehearsalFaults& faults,
                   const std::stop_token& stop = {});

} // namespace hasami
