#include "files/cut_svg.h"

#include "files/svg_text.h"

namespace hasami {

std::string cutSvg(const Made& made, std::size_t sheetIndex, const Medium& medium) {
    const Sheet& sheet = made.layout.sheets.at(sheetIndex);
    std::string text = svgStart({{0, 0}, {sheet.length, medium.width}});
    for (const LineKind kind : kindsOn(made, sheet)) {
        text += svgGroupStart(kindName(kind));
        for (const Piece& piece : sheet.pieces)
            for (const CutLine& line : made.find(piece.design)->sticker->lines)
                if (line.kind == kind)
                    text += svgLine(map(line.curve, piece.place));
        text += svgGroupEnd();
    }
    text += svgGroupStart("marks");
    for (const Mark& mark : sheet.marks)
        text += svgDot(mark.centre, mark.radius);
    return text + svgGroupEnd() + svgEnd();
}

} // namespace hasami
