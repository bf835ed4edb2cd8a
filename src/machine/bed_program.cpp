#include "machine/bed_program.h"

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

} // namespace hasami
