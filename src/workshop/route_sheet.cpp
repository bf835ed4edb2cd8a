#include "workshop/route_sheet.h"

namespace hasami {

std::vector<RouteLine> routeOf(const Job& job, const Made& made, const Sheet& sheet,
                               const std::stop_token& stop) {
    std::vector<RouteLine> lines;
    for (std::size_t i = 0; i < sheet.pieces.size(); ++i) {
        const Piece& piece = sheet.pieces[i];
        for (const CutLine& line : made.find(piece.design)->sticker->lines)
            lines.push_back({line.kind, i, map(strokesOf(line, job.profile), piece.place)});
    }
    std::vector<RouteLine> ordered = route(std::move(lines), stop);
    for (const CutLine& line : sheet.lines)
        cutLast(ordered, {line.kind, sheet.pieces.size(), strokesOf(line, job.profile)});
    return ordered;
}

} // namespace hasami
