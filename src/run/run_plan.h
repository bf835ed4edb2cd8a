#pragma once

#include "machine/registration.h"
#include "profile/profile.h"
#include "sheet/sheet.h"

#include <cstddef>
#include <span>
#include <vector>

namespace hasami {

/// What is done in a step of a run.
enum class RunTask { print, load, findMarks, changeTool, cut, weed };

/// What a machine does by itself; the operator does the rest.
struct MachineAbilities {
    bool prints = false;       ///< the sheet too
    bool findsMarks = false;   ///< by its sensor, in a sheet that is loaded; else the head is put over each
    bool hasFirstTool = false; ///< else the operator is asked for every tool, the first one too
    bool mayLoseLines = false; ///< it has a memory, and does not say how much of that was cut
};

/// The kinds of line that are cut without a change of the tool.
struct RunPass {
    int holder = 1;
    std::vector<LineKind> kinds;

    friend bool operator==(const RunPass&, const RunPass&) = default;
};

/// A row of the plan.
struct RunStep {
    RunTask task = RunTask::print;
    std::size_t pass = 0; ///< of changeTool and cut

    friend bool operator==(const RunStep&, const RunStep&) = default;
};

/// "Find marks": in English and marked for translation. A cut is called by its kinds of line instead.
const char* englishNameOf(const RunStep& step);

/// The steps of a run, in order, and the passes that they cut.
struct RunPlan {
    std::vector<RunPass> passes;
    std::vector<RunStep> steps;

    bool has(RunTask task) const;
};

/// What the sheet is to go through.
struct RunScope {
    bool isPrinted = true; ///< here, where the machine prints
    bool isCut = true;
    bool hasMarks = true;
};

/// `kinds`: that are cut, in the order of the work. Neighbours whose tools share a holder are one pass.
RunPlan planOf(const RunScope& scope, std::span<const LineKind> kinds, const Cutter& cutter,
               const MachineAbilities& machine);

/// The marks that are looked for: by a sensor all, by hand four at most, the first and the last ones.
std::vector<MarkReading> marksToFind(const Sheet& sheet, const MachineAbilities& machine);

} // namespace hasami
