#include "machine/program.h"

#include "geometry/curve_place.h"
#include "machine/tool_path.h"

#include <algorithm>
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

double secondsOf(const CutStep& step, const Cutter& cutter) {
    if (const auto* travel = std::get_if<Travel>(&step))
        return distance(travel->from, travel->to) / cutter.tool(LineKind::kiss).speed;
    if (const auto* cut = std::get_if<Cut>(&step))
        return secondsPerLift + cut->length / cutter.tool(cut->kind).speed;
    return 0; // another tool is there at once, or waits for a person
}

} // namespace hasami
