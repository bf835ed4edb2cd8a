#include "machine/sensor.h"

#include <algorithm>
#include <cmath>
#include <random>

namespace hasami {

namespace {

/// One row or column of weights that sum up to 1.
std::vector<float> gaussian(double deviation) {
    const int reach = int(std::ceil(2.5 * deviation));
    std::vector<float> weights;
    float sum = 0;
    for (int i = -reach; i <= reach; ++i)
        sum +=
            weights.emplace_back(float(deviation > 0 ? std::exp(-0.5 * i * i / (deviation * deviation)) : 1));
    for (float& weight : weights)
        weight /= sum;
    return weights;
}

Grid<float> blurred(const Grid<float>& light, double deviation) {
    const std::vector<float> weights = gaussian(deviation);
    const int reach = int(weights.size() / 2);
    const auto along = [&](const Grid<float>& from, int dx, int dy) {
        Grid<float> to(from.width(), from.height());
        for (int y = 0; y < from.height(); ++y)
            for (int x = 0; x < from.width(); ++x) {
                float sum = 0;
                for (int i = 0; i < int(weights.size()); ++i)
                    sum += weights[std::size_t(i)] *
                           from.at(std::clamp(x + (i - reach) * dx, 0, from.width() - 1),
                                   std::clamp(y + (i - reach) * dy, 0, from.height() - 1));
                to.at(x, y) = sum;
            }
        return to;
    };
    return along(along(light, 1, 0), 0, 1);
}

} // namespace

double SensorView::at(Point bed) const {
    const double x = std::clamp((bed.x - first.x) * pixelsPerMillimetre, 0.0, double(light.width() - 1));
    const double y = std::clamp((bed.y - first.y) * pixelsPerMillimetre, 0.0, double(light.height() - 1));
    const int left = int(x), top = int(y);
    const int right = std::min(left + 1, light.width() - 1), bottom = std::min(top + 1, light.height() - 1);
    const double u = x - left, v = y - top;
    return (double(light.at(left, top)) * (1 - u) + double(light.at(right, top)) * u) * (1 - v) +
           (double(light.at(left, bottom)) * (1 - u) + double(light.at(right, bottom)) * u) * v;
}

Sensor simulatedSensor(const PrintedSheet& sheet, const SensorFaults& faults) {
    return [&sheet, faults](Point centre, double side) {
        const Point middle = sheet.pixelOf(centre);
        const int half = int(std::ceil(side / 2 * sheet.pixelsPerMillimetre()));
        const int left = int(std::lround(middle.x)) - half, top = int(std::lround(middle.y)) - half;
        SensorView view{Grid<float>(2 * half + 1, 2 * half + 1), sheet.placeOf(left, top),
                        sheet.pixelsPerMillimetre()};
        for (int y = 0; y < view.light.height(); ++y)
            for (int x = 0; x < view.light.width(); ++x) {
                const int column = left + x, row = top + y;
                if (column < 0 || row < 0 || column >= sheet.width() || row >= sheet.height())
                    continue; // beyond the bed nothing shines
                const Rgb rgb = sheet.at(column, row);
                // ITU-R BT.601's luma.
                view.light.at(x, y) =
                    (0.299F * float(rgb[0]) + 0.587F * float(rgb[1]) + 0.114F * float(rgb[2])) / 255;
            }
        view.light = blurred(view.light, faults.blur * view.pixelsPerMillimetre);
        if (faults.noise > 0) {
            // The same place looks the same each time.
            std::seed_seq seed{faults.seed, std::uint32_t(left), std::uint32_t(top)};
            std::minstd_rand random(seed);
            // Uniform with the same deviation: after the blur of edges nothing tells it from a normal one.
            const float reach = float(faults.noise / 100 * std::sqrt(3.0));
            std::uniform_real_distribution<float> noise(-reach, reach);
            for (float& light : view.light.cells())
                light += noise(random);
        }
        return view;
    };
}

} // namespace hasami
