#pragma once

#include "machine/register_sheet.h"

#include <memory>
#include <optional>
#include <vector>

namespace hasami::test {

/// Marks of a shape with sizes as machines ask for.
inline MarkScheme schemeOf(MarkShape shape) {
    MarkScheme scheme;
    scheme.shape = shape;
    scheme.size = shape == MarkShape::dot || shape == MarkShape::square ? 6 : 12;
    scheme.lineWidth = 1;
    scheme.quiet = 3;
    scheme.distance = leastDistance(scheme) + 2;
    return scheme;
}

/// Ink of curves painted black, each pixel by 6 x 6 places.
inline void paint(SheetPicture& picture, const std::vector<Curve>& ink) {
    const Region region = flatten(ink, 0.005);
    const Box box = bounds(region);
    const double scale = picture.pixelsPerMillimetre;
    const int right = std::min(picture.pixels.width() - 1, int(box.most.x * scale));
    const int bottom = std::min(picture.pixels.height() - 1, int(box.most.y * scale));
    for (int row = std::max(0, int(box.least.y * scale)); row <= bottom; ++row)
        for (int column = std::max(0, int(box.least.x * scale)); column <= right; ++column) {
            int inside = 0;
            for (int k = 0; k < 36; ++k) {
                const Point p{(column + (k % 6 + 0.5) / 6) / scale, (row + (k / 6 + 0.5) / 6) / scale};
                bool isInside = false;
                for (const Loop& loop : region.loops)
                    isInside ^= contains(loop, p);
                inside += isInside;
            }
            const auto light = std::uint8_t(255 - 255 * inside / 36);
            if (inside > 0)
                picture.pixels.set(column, row, {light, light, light});
        }
}

/// A sheet with marks around a box of work, and the print of it.
struct PrintedMarks {
    explicit PrintedMarks(const MarkScheme& scheme, double length = 160, double width = 110) {
        sheet.length = length;
        sheet.work = {{26, 24}, {length - 36, width - 24}};
        sheet.marks = marksAround(sheet.work, scheme);
        medium = {{0, 0}, {length, width}};
        picture = std::make_shared<SheetPicture>();
        print();
    }
    /// Nothing but the marks and what stands at the leading edge.
    void print() {
        const double scale = picture->pixelsPerMillimetre;
        picture->pixels = PrintPixels(int(medium.width() * scale), int(medium.height() * scale));
        for (const Mark& mark : sheet.marks)
            paint(*picture, mark.ink);
        for (const LeadMark& mark : sheet.lead)
            paint(*picture, mark.ink);
    }
    Registration registered(const PrintError& error, const std::vector<Blemish>& blemishes = {},
                            double noise = 2, std::uint32_t seed = 11) {
        map.emplace(error, medium);
        const PrintedSheet printed(picture, *map, {{251, 249, 244}, noise, 1}, blemishes, seed);
        return registerSheet(sheet, medium.height(), simulatedSensor(printed, {0.06, noise / 2, seed}));
    }
    /// How far the cutter's map is off the truth at each place of the work, 4 mm apart.
    std::vector<double> errorsOf(const Registration& registration) const {
        std::vector<double> errors;
        for (double x = sheet.work.least.x; x <= sheet.work.most.x; x += 4)
            for (double y = sheet.work.least.y; y <= sheet.work.most.y; y += 4)
                errors.push_back(distance(registration.map({x, y}), (*map)({x, y})));
        return errors;
    }
    double mostOff(const Registration& registration) const {
        return std::ranges::max(errorsOf(registration));
    }

    Sheet sheet;
    Box medium;
    std::shared_ptr<SheetPicture> picture;
    std::optional<PrintMap> map;
};

} // namespace hasami::test
