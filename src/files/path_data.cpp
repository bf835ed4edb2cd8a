#include "files/path_data.h"

#include "base/number_text.h"

namespace hasami {

std::string pathData(const Curve& curve) {
    constexpr int decimals = 4; // of a millimetre
    const auto place = [](Point p) { return numberText(p.x, decimals) + " " + numberText(p.y, decimals); };
    std::string text = "M " + place(curve.start);
    for (const CurveSegment& s : curve.segments)
        text += s.straight ? " L " + place(s.end)
                           : " C " + place(s.control1) + " " + place(s.control2) + " " + place(s.end);
    return text + " Z";
}

} // namespace hasami
