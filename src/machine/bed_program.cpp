#include "machine/bed_program.h"

#include <algorithm>

namespace hasami {

CutProgram onBed(CutProgram program, const SheetMap& map) {
    for (CutStep& step : program) {
        if (auto* travel = std::get_if<Travel>(&step)) {
            travel->from = map(travel->from);
            travel->to = map(travel->to);
        } else if (auto* cut = std::get_if<Cut>(&step)) {
            for (Point& place : cut->path)
                place = map(place);
        }
    }
    return program;
}

std::vector<CutProgram> byTool(const CutProgram& program, const Cutter& cutter) {
    std::vector<CutProgram> parts;
    int holder = 0;
    for (const CutStep& step : program) {
        const auto* select = std::get_if<SelectTool>(&step);
        if (select && (parts.empty() || cutter.tool(select->kind).holder != holder)) {
            holder = cutter.tool(select->kind).holder;
            parts.emplace_back();
        }
        if (!parts.empty())
            parts.back().push_back(step);
    }
    return parts;
}

std::size_t cutsOf(const CutProgram& program) {
    return std::size_t(std::ranges::count_if(
        program, [](const CutStep& step) { return std::holds_alternative<Cut>(step); }));
}

} // namespace hasami
