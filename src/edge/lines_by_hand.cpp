#include "edge/lines_by_hand.h"

#include <algorithm>

namespace hasami {

EdgeLoop replaced(const EdgeLoop& found, const std::vector<Laid>& laid) {
    EdgeLoop touched{found.facts, {}, {}, found.colour};
    const auto add = [&](const std::vector<CurveSegment>& pieces, bool byHand) {
        for (const CurveSegment& s : pieces) {
            touched.curve.segments.push_back(s);
            touched.byHand.push_back(byHand);
        }
    };
    for (std::size_t i = 0; i < laid.size(); ++i) {
        add(laid[i].path, true);
        const CurvePlace& next = laid[(i + 1) % laid.size()].from;
        if (distance(pointAt(found.curve, laid[i].to), pointAt(found.curve, next)) > 1e-4) // mm
            add(stretch(found.curve, laid[i].to, next), false);
    }
    touched.curve.start = touched.curve.segments.back().end;
    return touched;
}

std::vector<Run> runsByHand(const EdgeLoop& line) {
    const std::size_t n = line.byHand.size();
    const auto found = std::find(line.byHand.begin(), line.byHand.end(), false);
    if (n == 0)
        return {};
    if (found == line.byHand.end())
        return {{0, n}};
    std::vector<Run> runs;
    const auto start = std::size_t(found - line.byHand.begin());
    for (std::size_t k = 1; k <= n; ++k) {
        const std::size_t i = (start + k) % n;
        if (!line.byHand[i])
            continue;
        if (line.byHand[(i + n - 1) % n])
            ++runs.back().count;
        else
            runs.push_back({i, 1});
    }
    return runs;
}

} // namespace hasami
