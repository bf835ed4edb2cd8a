#pragma once

#include "rehearsal/training.h"
#include "run/run_event.h"

#include <cstdint>
#include <string>
#include <string_view>

namespace hasami {

/// A run as it is kept on disk: what is needed to continue after the program or the machine has stopped.
struct RunState : KeptRun {
    std::size_t sheet = 0;
    TrainingFault fault = TrainingFault::none;
    std::uint32_t seed = 1; ///< of the print
    bool hasSlipped = false;
    bool isOnCutter = false; ///< a real cutter cuts the sheet
    std::string unknown;     ///< what other versions keep with it: a JSON object, or empty

    friend bool operator==(const RunState&, const RunState&) = default;
};

std::string toJson(const RunState& state);
/// Throws InputError.
RunState runStateFromJson(std::string_view json);

} // namespace hasami
