#include "files/cut_svg.h"

#include "files/svg_text.h"

namespace hasami {

std::string cutSvg(const Job& job, const Made& made, std::size_t sheetIndex) {
    const Sheet& sheet = made.layout.sheets.at(sheetIndex);
    std::string text = svgStart({{0, 0}, {sheet.length, job.plan.medium.width}});
    for (const LineKind kind : kindsOn(made, sheet)) {
        text += svgGroupStart(kindName(kind));
        for (const Piece& piece : sheet.pieces)
            for (const CutLine& line : made.find(piece.design)->sticker->lines)
                if (line.kind == kind)
                    for (const Subpath& run : map(strokesOf(line, job.profile), piece.place))
                        text += svgLine(run);
        text += svgGroupEnd();
    }
    text += svgGroupStart("marks");
    for (const Mark& mark : sheet.marks)
        text += svgDot(mark.centre, mark.radius);
    return text + svgGroupEnd() + svgEnd();
}

} // namespace hasami
