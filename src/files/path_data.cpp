#include "files/path_data.h"

#include "base/number_text.h"

namespace hasami {

std::string pathData(const Subpath& run) {
    constexpr int decimals = 4; // of a millimetre
    const auto place = [](Point p) { return numberText(p.x, decimals) + " " + numberText(p.y, decimals); };
    std::string text = "M " + place(run.start);
    for (const CurveSegment& s : drawnSegments(run))
        text += s.straight ? " L " + place(s.end)
                           : " C " + place(s.control1) + " " + place(s.control2) + " " + place(s.end);
    return run.isClosed ? text + " Z" : text;
}

} // namespace hasami
