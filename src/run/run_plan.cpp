#include "run/run_plan.h"

#include "base/translation.h"

#include <algorithm>
#include <array>

namespace hasami {

const char* englishNameOf(const RunStep& step) {
    if (step.task == RunTask::changeTool && step.pass == 0)
        return N_("Insert tool");
    constexpr std::array names{N_("Print"),       N_("Load"), N_("Find marks"),
                               N_("Change tool"), N_("Cut"),  N_("Weed")};
    return names[std::size_t(step.task)];
}

bool RunPlan::has(RunTask task) const {
    return std::ranges::find(steps, task, &RunStep::task) != steps.end();
}

RunPlan planOf(const RunScope& scope, std::span<const LineKind> kinds, const Cutter& cutter,
               const MachineAbilities& machine) {
    RunPlan plan;
    if (scope.isPrinted && machine.prints)
        plan.steps.push_back({RunTask::print});
    if (!scope.isCut)
        return plan;
    for (const LineKind kind : kinds) {
        const int holder = cutter.tool(kind).holder;
        if (plan.passes.empty() || plan.passes.back().holder != holder)
            plan.passes.push_back({holder, {}});
        plan.passes.back().kinds.push_back(kind);
    }
    if (machine.findsMarks)
        plan.steps.push_back({RunTask::load});
    if (scope.hasMarks)
        plan.steps.push_back({RunTask::findMarks});
    for (std::size_t pass = 0; pass < plan.passes.size(); ++pass) {
        if (pass > 0 || !machine.hasFirstTool)
            plan.steps.push_back({RunTask::changeTool, pass});
        plan.steps.push_back({RunTask::cut, pass});
    }
    plan.steps.push_back({RunTask::weed});
    return plan;
}

std::vector<MarkReading> marksToFind(const Sheet& sheet, const MachineAbilities& machine) {
    constexpr std::size_t most = 4; // that people touch
    std::vector<MarkReading> marks;
    for (std::size_t i = 0; i < sheet.marks.size(); ++i)
        if (machine.findsMarks || i < most / 2 || i + most / 2 >= sheet.marks.size()) {
            MarkReading mark;
            mark.id = sheet.marks[i].id;
            mark.expected = sheet.marks[i].centre;
            mark.isByHand = !machine.findsMarks;
            marks.push_back(mark);
        }
    return marks;
}

} // namespace hasami
