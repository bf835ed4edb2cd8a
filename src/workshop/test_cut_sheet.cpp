#include "workshop/test_cut_sheet.h"

#include <algorithm>

namespace hasami {

std::optional<TestCut> testCutOn(const Job& job, const Made& made, std::size_t number) {
    const Sheet& sheet = made.layout.sheets.at(number);
    std::vector<Box> taken = keptFree(job.plan, job.profile, int(number));
    const std::vector<Copies> copies = copiesOf(job, made.designs);
    for (const Piece& piece : sheet.pieces)
        for (const Copies& one : copies)
            if (one.design == piece.design)
                taken.push_back(boundsOf(one, piece.place));
    Box usable = usablePart(job.plan, job.profile); // of a roll up to its end, far behind the sheet
    usable.most.x = std::min(usable.most.x, sheet.length - job.profile.cutter.reach.trailing);
    const auto place = placeForTestCut(sheet, usable, taken);
    return place ? std::optional(testCutAt(*place, job.profile.cutter.tool(LineKind::kiss))) : std::nullopt;
}

} // namespace hasami
