#pragma once

#include "machine/cut_run.h"

namespace hasami::test {

inline Subpath squareAt(Point corner, double side) {
    const Curve curve = polygonOf(Box{corner, corner + Point{side, side}});
    return {curve.start, curve.segments, true};
}

/// Pieces side by side, each with a square of every kind of line, the inner kinds first; kinds that are cut
/// through in two passes.
struct SquareWork {
    struct Line {
        LineKind kind = LineKind::kiss;
        int holder = 1;
    };
    SquareWork(std::size_t pieces, const std::vector<Line>& kinds) {
        for (std::size_t line = 0; line < kinds.size(); ++line) {
            const auto [kind, holder] = kinds[line];
            const bool isThrough = kind >= LineKind::perforated;
            cutter.tools[std::size_t(kind)] = {holder, isThrough ? 80.0 : 200.0, {}, {}, isThrough ? 2 : 1, 0,
                                               0};
            const double out = 2 * double(line);
            for (std::size_t i = 0; i < pieces; ++i)
                lines.push_back(
                    {kind, i, line, {squareAt({20.0 * double(i) + 6 - out, 8 - out}, 4 + 2 * out)}});
        }
        program = programOf(route(lines), cutter);
    }
    Cutter cutter;
    std::vector<RouteLine> lines;
    CutProgram program;
};

} // namespace hasami::test
