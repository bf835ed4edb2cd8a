#include "files/cut_dxf.h"

#include "files/dxf.h"

namespace hasami {

std::string cutDxf(const Job& job, const Made& made, std::size_t sheetIndex, const LineKinds& kinds) {
    const Sheet& sheet = made.layout.sheets.at(sheetIndex);
    std::vector<std::string> layers;
    for (const LineKind kind : kindsOn(made, sheet))
        if (holds(kinds, kind))
            layers.emplace_back(kindName(kind));
    layers.emplace_back("marks");
    DxfDrawing drawing({{0, 0}, {sheet.length, job.plan.medium.width}}, std::move(layers));
    for (const RouteLine& line : routeOf(job, made, sheet, kinds))
        for (const Subpath& run : line.runs)
            drawing.add(kindName(line.kind), run);
    for (const Mark& mark : sheet.marks) {
        if (const auto radius = dotRadius(mark))
            drawing.addCircle("marks", mark.centre, *radius);
        else
            for (const Curve& rim : mark.ink)
                drawing.add("marks", {rim.start, rim.segments, true});
    }
    return drawing.text();
}

} // namespace hasami
