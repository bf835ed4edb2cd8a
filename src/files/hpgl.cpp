#include "files/hpgl.h"

#include "base/number_text.h"
#include "workshop/route_sheet.h"

#include <cmath>
#include <variant>

namespace hasami {

namespace {

constexpr double unitsPerMillimetre = 40;
constexpr std::size_t pointsPerCommand = 50; // small machines have small buffers

struct Units {
    long x, y;
    friend bool operator==(const Units&, const Units&) = default;
};

std::string text(Units at) {
    return std::to_string(at.x) + "," + std::to_string(at.y);
}

std::string toolText(const Tool& tool) {
    std::string text = "SP" + std::to_string(tool.holder) + ";";
    if (tool.force)
        text += "FS" + numberText(*tool.force, 0) + ";";
    return text + "VS" + numberText(tool.speed / 10, 1) + ";\n";
}

std::string lineText(const std::vector<Point>& path, double width) {
    std::vector<Units> points;
    for (const Point p : path) {
        const Units at{std::lround(p.x * unitsPerMillimetre),
                       std::lround((width - p.y) * unitsPerMillimetre)};
        if (points.empty() || !(at == points.back()))
            points.push_back(at);
    }
    if (points.size() == 1)
        points.push_back(points.front());
    std::string line = "PU" + text(points.front()) + ";";
    for (std::size_t i = 1; i < points.size(); ++i) {
        const bool starts = (i - 1) % pointsPerCommand == 0;
        line += (starts ? (i > 1 ? ";PD" : "PD") : ",") + text(points[i]);
    }
    return line + ";\n";
}

} // namespace

std::string cutHpgl(const Job& job, const Made& made, std::size_t sheetIndex) {
    const Sheet& sheet = made.layout.sheets.at(sheetIndex);
    std::string file = "IN;PA;\n";
    for (const CutStep& step : programOf(job, made, sheet))
        if (const auto* select = std::get_if<SelectTool>(&step))
            file += toolText(job.profile.cutter.tool(select->kind));
        else if (const auto* cut = std::get_if<Cut>(&step))
            file += lineText(cut->path, job.plan.medium.width);
    return file + "PU0,0;SP0;\n";
}

} // namespace hasami
