#pragma once

#include "rehearsal/rehearse.h"

#include <array>
#include <string>

namespace hasami {

/// What can be tried out to see how it is noticed: something is wrong with the sheet, or with the machine.
enum class TrainingFault {
    none,
    wrongWayRound, ///< loaded with the trailing edge first
    scaledPrint,   ///< by the printer, to fit the page
    smudgedMark,   ///< two of them
    tornMark,      ///< a corner of the sheet is missing
    otherSheet,    ///< of another job, with the same marks
    slippingSheet, ///< it moves half-way through the cut
    littleForce,   ///< the knife does not get through
    muchForce,     ///< it cuts the backing too
    wrongTool,     ///< the knife for die cuts is in the kiss cut's holder
    shortMedium,   ///< it ends before the last marks
    forgetfulStop, ///< a cutter with a memory, which a stop empties
    powerFailure,  ///< half-way through a pass: its memory and the place of the sheet are lost
};

inline constexpr std::array trainingFaults{
    TrainingFault::none,          TrainingFault::wrongWayRound, TrainingFault::scaledPrint,
    TrainingFault::smudgedMark,   TrainingFault::tornMark,      TrainingFault::otherSheet,
    TrainingFault::slippingSheet, TrainingFault::littleForce,   TrainingFault::muchForce,
    TrainingFault::wrongTool,     TrainingFault::shortMedium,   TrainingFault::forgetfulStop,
    TrainingFault::powerFailure};

/// "Printed at 97 percent": what is tried, in English and marked for translation.
const char* englishNameOf(TrainingFault fault);

/// The faults of print and sheet that belong to it. `base`: those that are there in any case.
RehearsalFaults withFault(RehearsalFaults base, TrainingFault fault);

/// The print as the medium takes it: cut short where the medium ends too soon.
std::shared_ptr<const SheetPicture> onMedium(std::shared_ptr<const SheetPicture> print, const Sheet& sheet,
                                             TrainingFault fault);

/// How far a sheet slips when it does, mm.
inline constexpr Point slip{0.9, -1.4};

/// How deep a knife went.
enum class CutDepth {
    tooShallow, ///< vinyl is not cut through
    right,
    tooDeep, ///< the backing is cut through
};

/// The force that the simulated medium needs, g, where the profile has `usual`.
double neededForce(TrainingFault fault, double usual);
CutDepth depthOf(double force, double needed);

/// Whether the cutter is one with a memory (CutMemory), whose lines may be lost.
bool mayLoseLines(TrainingFault fault);

/// What is seen when the stickers are weeded, and what to do: a sentence without a full stop. Empty where all
/// is as it should be.
std::string sentenceOnWeeding(TrainingFault fault, CutDepth depth);

/// The same of lines that a cutter has lost, or cut once more.
std::string sentenceOnLines(std::size_t missing, std::size_t twice);

} // namespace hasami
