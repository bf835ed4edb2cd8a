#include "files/hpgl.h"

#include "base/number_text.h"

#include <cmath>

namespace hasami {

namespace {

constexpr double unitsPerMillimetre = 40;
constexpr double drawingTolerance = 0.01;    // mm, below half a unit
constexpr std::size_t pointsPerCommand = 50; // small machines have small buffers

struct Units {
    long x, y;
    friend bool operator==(const Units&, const Units&) = default;
};

std::string text(Units at) {
    return std::to_string(at.x) + "," + std::to_string(at.y);
}

std::string lineText(const Subpath& run, double width) {
    const auto toUnits = [&](Point p) {
        return Units{std::lround(p.x * unitsPerMillimetre), std::lround((width - p.y) * unitsPerMillimetre)};
    };
    std::vector<Units> points;
    for (const Point p : flatten(run, drawingTolerance))
        if (points.empty() || !(toUnits(p) == points.back()))
            points.push_back(toUnits(p));
    if (points.size() == 1 || (run.isClosed && !(points.back() == points.front())))
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
    for (const LineKind kind : kindsOn(made, sheet)) {
        const Profile::LineStyle& style = job.profile.style(kind);
        file += "SP" + std::to_string(style.holder) + ";";
        if (style.force)
            file += "FS" + numberText(*style.force, 0) + ";";
        file += "VS" + numberText(style.speed / 10, 1) + ";\n";
        for (const Piece& piece : sheet.pieces)
            for (const CutLine& line : made.find(piece.design)->sticker->lines)
                if (line.kind == kind)
                    for (const Subpath& run : map(strokesOf(line, job.profile), piece.place))
                        file += lineText(run, job.plan.medium.width);
    }
    return file + "PU0,0;SP0;\n";
}

} // namespace hasami
