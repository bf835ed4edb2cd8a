#include "machine/program.h"

#include "geometry/curve_place.h"
#include "machine/tool_path.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <optional>

namespace hasami {

namespace {

class ProgramWriter {
public:
    explicit ProgramWriter(const Cutter& cutter) : cutter_(cutter) {}

    void add(const RouteLine& line) {
        if (kind_ != line.kind)
            steps_.push_back(SelectTool{line.kind});
        kind_ = line.kind;
        const Tool& tool = cutter_.tool(line.kind);
        std::vector<Cut> once;
        for (const Subpath& run : line.runs) {
            const double whole = lengthOf(run.start, run.segments);
            once.push_back({line.kind, line.piece, line.line, 0,
                            toolPath(run, tool.bladeOffset, tool.overcut),
                            whole + (run.isClosed ? std::min(tool.overcut, whole) : 0)});
        }
        for (int pass = 0; pass < tool.passes; ++pass)
            for (Cut& cut : once) {
                cut.pass = pass;
                travelTo(cut.path.front());
                at_ = cut.path.back();
                steps_.emplace_back(cut);
            }
    }

    CutProgram end() {
        if (kind_)
            travelTo({});
        return std::move(steps_);
    }

private:
    void travelTo(Point to) { steps_.push_back(Travel{*kind_, at_, to}); }

    const Cutter& cutter_;
    CutProgram steps_;
    std::optional<LineKind> kind_;
    Point at_;
};

} // namespace

CutProgram programOf(const std::vector<RouteLine>& route, const Cutter& cutter) {
    ProgramWriter writer(cutter);
    for (const RouteLine& line : route)
        writer.add(line);
    return writer.end();
}

namespace {

/// Of a straight way from standstill to standstill.
double secondsAlong(double length, double speed, double acceleration) {
    if (acceleration <= 0)
        return length / speed;
    return length * acceleration < speed * speed ? 2 * std::sqrt(length / acceleration)
                                                 : length / speed + speed / acceleration;
}

/// Where a path turns so sharply that it is gone through in parts.
double secondsAlong(const std::vector<Point>& path, double length, double speed, double acceleration) {
    if (acceleration <= 0 || path.size() < 3)
        return secondsAlong(length, speed, acceleration);
    constexpr double sharp = 30 * std::numbers::pi / 180;
    double seconds = 0, run = 0, whole = 0;
    for (std::size_t i = 1; i < path.size(); ++i) {
        run += distance(path[i - 1], path[i]);
        if (i + 1 < path.size()) {
            const Point in = path[i] - path[i - 1], out = path[i + 1] - path[i];
            if (std::abs(std::atan2(cross(in, out), dot(in, out))) < sharp)
                continue;
        }
        seconds += secondsAlong(run, speed, acceleration);
        whole += run;
        run = 0;
    }
    return seconds + std::max(0.0, length - whole) / speed;
}

} // namespace

double secondsOf(const CutStep& step, const Cutter& cutter) {
    const double acceleration = cutter.acceleration;
    if (const auto* travel = std::get_if<Travel>(&step))
        return secondsAlong(distance(travel->from, travel->to), cutter.tool(LineKind::kiss).speed,
                            acceleration);
    if (const auto* cut = std::get_if<Cut>(&step))
        return secondsPerLift +
               secondsAlong(cut->path, cut->length, cutter.tool(cut->kind).speed, acceleration);
    return 0; // see secondsToChange
}

double secondsToChange(const CutProgram& program, std::size_t step, const Cutter& cutter) {
    const auto* selected = std::get_if<SelectTool>(&program[step]);
    if (!selected)
        return 0;
    for (std::size_t i = step; i-- > 0;)
        if (const auto* before = std::get_if<SelectTool>(&program[i]))
            return cutter.tool(before->kind).holder == cutter.tool(selected->kind).holder ? 0
                                                                                          : cutter.toolChange;
    return 0; // the first one is there
}

} // namespace hasami
