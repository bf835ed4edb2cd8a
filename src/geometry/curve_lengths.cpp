#include "geometry/curve_lengths.h"

#include <algorithm>
#include <cmath>

namespace hasami {

CurveLengths::CurveLengths(const Curve& curve) : curve_(curve), before_{0} {
    for (std::size_t i = 0; i < curve.segments.size(); ++i) {
        const Point from = startOf(curve, i);
        const CurveSegment& s = curve.segments[i];
        std::array<double, steps> sums{};
        Point last = from;
        double sum = 0;
        for (std::size_t k = 0; k < steps; ++k) {
            const Point p = pointAt(from, s, double(k + 1) / double(steps));
            sums[k] = sum += distance(last, p);
            last = p;
        }
        lengths_.push_back(sums);
        before_.push_back(before_.back() + sum);
    }
}

CurvePlace CurveLengths::placeAt(double length) const {
    length = std::fmod(length, whole());
    if (length < 0)
        length += whole();
    const auto after = std::upper_bound(before_.begin(), before_.end(), length);
    const auto segment = std::min(std::size_t(after - before_.begin()), curve_.segments.size()) - 1;
    const auto& sums = lengths_[segment];
    const double within = std::min(length - before_[segment], sums.back());
    const auto step = std::size_t(std::lower_bound(sums.begin(), sums.end(), within) - sums.begin());
    const double from = step == 0 ? 0 : sums[step - 1], span = sums[step] - from;
    return {segment, (double(step) + (span > 0 ? (within - from) / span : 0)) / double(steps)};
}

double CurveLengths::lengthAt(const CurvePlace& place) const {
    const auto& sums = lengths_[place.segment];
    const double position = place.t * double(steps);
    const auto step = std::min(std::size_t(position), steps - 1);
    const double from = step == 0 ? 0 : sums[step - 1];
    return before_[place.segment] + from + (sums[step] - from) * (position - double(step));
}

} // namespace hasami
