#include "files/hpgl.h"

#include "base/error.h"
#include "base/number_text.h"
#include "base/translation.h"

#include <algorithm>
#include <charconv>
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

/// A tool without a force takes what is set at the machine: where another one has sent a force, "FS;" takes
/// that back.
std::string forceText(const Tool& tool, bool wasForceSent) {
    return tool.force ? "FS" + numberText(*tool.force, 0) + ";" : wasForceSent ? "FS;" : "";
}

std::string toolText(const Tool& tool, bool wasForceSent) {
    return "SP" + std::to_string(tool.holder) + ";" + forceText(tool, wasForceSent) + "VS" +
           numberText(tool.speed / 10, 1) + ";\n";
}

/// In this file, or in one that was sent for an earlier tool.
bool sendsForce(const Cutter& cutter) {
    return std::ranges::any_of(cutter.tools, [](const Tool& tool) { return tool.force.has_value(); });
}

/// From mm of the sheet to mm along the cutter's axes.
Affine toAxes(const CutAxes& axes, double width, std::optional<Point> origin) {
    const Affine map = (axes.isTurned ? Affine{0, 1, 1, 0, 0, 0} : Affine{}) *
                       (axes.isMirrored ? Affine{} : Affine{1, 0, 0, -1, 0, width});
    return origin ? Affine::translation(Point{} - map(*origin)) * map : map;
}

std::string lineText(const std::vector<Point>& path, const Affine& toAxes) {
    std::vector<Units> points;
    for (const Point p : path) {
        const Point along = toAxes(p);
        const Units at{std::lround(along.x * unitsPerMillimetre), std::lround(along.y * unitsPerMillimetre)};
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

std::string cutHpgl(const Job& job, const Made& made, std::size_t sheetIndex, const LineKinds& kinds) {
    const Sheet& sheet = made.layout.sheets.at(sheetIndex);
    const bool isFromMark =
        job.profile.cutter.axes.origin == CutAxes::Origin::firstMark && !sheet.marks.empty();
    return hpglOf(programOf(job, made, sheet, kinds), job.profile.cutter, job.plan.medium.width,
                  isFromMark ? std::optional(sheet.marks.front().centre) : std::nullopt);
}

std::string hpglOf(const CutProgram& program, const Cutter& cutter, double width,
                   std::optional<Point> origin) {
    const Affine map = toAxes(cutter.axes, width, origin);
    std::string file = "IN;PA;\n";
    for (const CutStep& step : program)
        if (const auto* select = std::get_if<SelectTool>(&step))
            file += toolText(cutter.tool(select->kind), sendsForce(cutter));
        else if (const auto* cut = std::get_if<Cut>(&step))
            file += lineText(cut->path, map);
    return file + "PU0,0;SP0;\n";
}

std::string testCutHpgl(const TestCut& test, const SheetMap& sheet, const Cutter& cutter, double width,
                        std::optional<Point> origin) {
    const Affine map = toAxes(cutter.axes, width, origin);
    std::string file = "IN;PA;\n";
    Tool tool = cutter.tool(LineKind::kiss);
    for (const TestDrop& drop : test.drops) {
        tool.force = drop.force;
        file += toolText(tool, true);
        for (std::vector<Point> path : drop.paths) {
            for (Point& place : path)
                place = sheet(place);
            file += lineText(path, map);
        }
    }
    return file + forceText(cutter.tool(LineKind::kiss), true) + "PU0,0;SP0;\n";
}

std::size_t cutsIn(std::string_view hpgl) {
    std::size_t cuts = 0;
    for (std::size_t end = hpgl.find('\n'); end != std::string_view::npos; end = hpgl.find('\n')) {
        const std::string_view line = hpgl.substr(0, end);
        cuts += line.starts_with("PU") && line.find("PD") != std::string_view::npos ? 1 : 0;
        hpgl.remove_prefix(end + 1);
    }
    return cuts;
}

Point placeOfHead(std::string_view answer, const Cutter& cutter, double width, std::optional<Point> origin) {
    const auto refuse = [&] {
        throw InputError(sentence("The machine's answer \"%1\" is no position", std::string(answer)));
    };
    std::array<double, 2> units{};
    const char* at = answer.data();
    const char* const end = at + answer.size();
    for (std::size_t i = 0; i < units.size(); ++i) {
        while (at < end && (*at == ' ' || *at == '+' || (i > 0 && *at == ',')))
            ++at;
        const auto [behind, error] = std::from_chars(at, end, units[i]);
        if (error != std::errc())
            refuse();
        at = behind;
    }
    const Point along{units[0] / unitsPerMillimetre, units[1] / unitsPerMillimetre};
    return inverse(toAxes(cutter.axes, width, origin))(along);
}

} // namespace hasami
