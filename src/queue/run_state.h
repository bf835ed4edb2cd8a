#pragma once

#include "machine/cut_run.h"
#include "machine/registration.h"
#include "rehearsal/training.h"

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

namespace hasami {

/// How far a real cutter came, as older versions kept it: in their own order of the lines.
struct MachineProgress {
    std::size_t pass = 0, line = 0; ///< that are sent next, from 0 on

    friend bool operator==(const MachineProgress&, const MachineProgress&) = default;
};

/// The state of a run, as it is kept on disk: what is needed to continue after the program or the machine has
/// stopped.
struct RunState {
    std::size_t sheet = 0;
    TrainingFault fault = TrainingFault::none;
    std::uint32_t seed = 1;         ///< of the print
    std::vector<MarkReading> marks; ///< as they were read; empty: not yet
    CutRecord record;               ///< what was cut; on a real cutter: what that received
    std::string lines;         ///< fingerprint of those that the record is of (CutLines); empty: not known
    std::optional<int> holder; ///< whose tool is in
    std::vector<std::size_t> pieces; ///< that are cut alone; empty: all
    std::optional<LineKind> kind;    ///< of line that is cut alone; none: all
    bool hasSlipped = false;
    std::optional<double> force;            ///< of the kiss cut, g, that a test cut has set
    std::optional<double> bladeDepth;       ///< mm, the same; 0: as it is set
    bool isOnCutter = false;                ///< a real cutter cuts the sheet
    std::optional<MachineProgress> machine; ///< what an older version kept in place of record
    std::string unknown;                    ///< what other versions keep with it: a JSON object, or empty

    friend bool operator==(const RunState&, const RunState&) = default;
};

std::string toJson(const RunState& state);
/// Throws InputError.
RunState runStateFromJson(std::string_view json);

} // namespace hasami
