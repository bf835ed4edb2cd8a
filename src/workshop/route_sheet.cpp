#include "workshop/route_sheet.h"

#include <algorithm>

namespace hasami {

bool holds(const LineKinds& kinds, LineKind kind) {
    return kinds.empty() || std::ranges::find(kinds, kind) != kinds.end();
}

std::vector<RouteLine> routeOf(const Job& job, const Made& made, const Sheet& sheet, const LineKinds& kinds,
                               const std::stop_token& stop) {
    std::vector<RouteLine> lines;
    for (std::size_t i = 0; i < sheet.pieces.size(); ++i) {
        const Piece& piece = sheet.pieces[i];
        const std::vector<CutLine>& own = made.find(piece.design)->sticker->lines;
        for (std::size_t k = 0; k < own.size(); ++k)
            if (holds(kinds, own[k].kind))
                lines.push_back({own[k].kind, i, k, map(strokesOf(own[k], job.profile), piece.place)});
    }
    std::vector<RouteLine> ordered = route(std::move(lines), stop);
    for (std::size_t k = 0; k < sheet.lines.size(); ++k)
        if (holds(kinds, sheet.lines[k].kind))
            cutLast(ordered,
                    {sheet.lines[k].kind, sheet.pieces.size(), k, strokesOf(sheet.lines[k], job.profile)});
    return ordered;
}

CutProgram programOf(const Job& job, const Made& made, const Sheet& sheet, const LineKinds& kinds,
                     const std::stop_token& stop) {
    return programOf(routeOf(job, made, sheet, kinds, stop), job.profile.cutter);
}

} // namespace hasami
