#include "files/cut_svg.h"

#include "files/svg_text.h"

namespace hasami {

std::string cutSvg(const Job& job, const Made& made, std::size_t sheetIndex, const LineKinds& kinds) {
    const Sheet& sheet = made.layout.sheets.at(sheetIndex);
    std::string text = svgStart({{0, 0}, {sheet.length, job.plan.medium.width}});
    const std::vector<RouteLine> lines = routeOf(job, made, sheet, kinds);
    for (std::size_t i = 0; i < lines.size(); ++i) {
        if (i == 0 || lines[i].kind != lines[i - 1].kind)
            text += (i > 0 ? svgGroupEnd() : "") + svgGroupStart(kindName(lines[i].kind));
        for (const Subpath& run : lines[i].runs)
            text += svgLine(run);
    }
    text += (lines.empty() ? "" : svgGroupEnd()) + svgGroupStart("marks");
    for (const Mark& mark : sheet.marks) {
        if (const auto radius = dotRadius(mark))
            text += svgDot(mark.centre, *radius);
        else
            for (const Curve& rim : mark.ink)
                text += svgLine({rim.start, rim.segments, true});
    }
    return text + svgGroupEnd() + svgEnd();
}

} // namespace hasami
