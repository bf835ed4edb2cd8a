#include "machine/register_sheet.h"

#include "base/error.h"
#include "codes/read_code.h"
#include "machine/mark_shape.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace hasami {

namespace {

constexpr double mostLoadTurn = 0.07; // radians: nobody puts a sheet in like that

/// Where the marks found so far have a place.
struct Prediction {
    Point place;
    double turn = 0, doubt = 0; ///< radians; mm: how far off it may be
};

Prediction predicted(Point expected, const std::vector<PointPair>& known, const MarkSearch& search) {
    if (known.empty())
        return {expected, 0, search.first};
    const std::vector<PointPair> near = nearestTo(expected, known, 4);
    const double way = distance(expected, near.front().from);
    const Prediction alike{expected + near[0].to - near[0].from, 0,
                           std::max(search.first, search.least + search.part * way)};
    if (near.size() == 1)
        return alike;
    const PointPair& far = *std::ranges::max_element(
        near, {}, [&](const PointPair& pair) { return distance(pair.from, near[0].from); });
    Affine map = similarityOf(near[0], far);
    if (near.size() >= 3 && spanPlane(near[0].from, near[1].from, near[2].from))
        map = fitted(near, false).affine;
    if (!isPlausible(map) || std::abs(std::atan2(map.b, map.a)) > mostLoadTurn)
        return alike; // one of them is wrong
    return {map(expected), std::atan2(map.b, map.a), search.least + search.part / 2 * way};
}

/// Windows in a spiral around a place, nearest first.
std::vector<Point> spiral(double radius, double step) {
    std::vector<Point> offsets;
    const int rings = int(std::ceil(radius / step));
    for (int i = -rings; i <= rings; ++i)
        for (int j = -rings; j <= rings; ++j)
            if (const Point offset{i * step, j * step}; length(offset) <= radius + step * 0.71)
                offsets.push_back(offset);
    std::ranges::stable_sort(offsets, {}, [](Point offset) { return length(offset); });
    return offsets;
}

std::optional<Point> searched(const MarkShapeModel& shape, const Sensor& sensor, const Prediction& where,
                              const std::stop_token& stop) {
    constexpr double around = 4; // mm beside the mark in a window
    const double side = shape.size() + 2 * around;
    std::optional<Point> nearest;
    for (const Point offset : spiral(where.doubt, 2 * around - 1.5)) {
        if (stop.stop_requested())
            return nearest;
        if (nearest && length(offset) - around > distance(*nearest, where.place))
            break; // what is farther out is farther away
        for (const Sighting& sighting :
             shape.findIn(sensor(where.place + shape.middle(where.turn) + offset, side), where.turn)) {
            const double off = distance(sighting.place, where.place);
            if (off <= where.doubt && (!nearest || off < distance(*nearest, where.place)))
                nearest = sighting.place;
        }
    }
    return nearest;
}

std::vector<PointPair> knownBut(const std::vector<MarkReading>& marks, std::size_t except) {
    std::vector<MarkReading> others = marks;
    others[except].found.reset();
    return usedOf(others);
}

} // namespace

Registration registerSheet(std::span<const Mark> marks, const Sensor& sensor, const MarkSearch& search,
                           const std::stop_token& stop) {
    std::vector<MarkShapeModel> shapes;
    std::vector<MarkReading> readings;
    for (const Mark& mark : marks) {
        shapes.emplace_back(mark.ink, mark.centre);
        readings.push_back({mark.id, mark.centre, {}});
    }
    const auto look = [&](std::size_t i, double doubt) {
        Prediction where = predicted(readings[i].expected, knownBut(readings, i), search);
        where.doubt = std::min(where.doubt, doubt);
        readings[i].found = searched(shapes[i], sensor, where, stop);
    };
    for (std::size_t i = 0; i < readings.size(); ++i)
        look(i, search.first);
    Registration registration = registrationOf(readings);
    // Those that were missed or disagree may be where the others have them.
    bool isNew = false;
    for (std::size_t i = 0; i < readings.size() && registration.found() >= 2; ++i) {
        const MarkReading& reading = registration.marks[i];
        if (reading.found && !reading.isDropped)
            continue;
        const Point there = registration.map(reading.expected);
        constexpr double close = 2; // mm
        const Prediction where{there, registration.map.turnAt(reading.expected), close};
        const auto found = searched(shapes[i], sensor, where, stop);
        isNew |= found.has_value();
        readings[i].found = found ? found : reading.found;
    }
    return isNew ? registrationOf(std::move(readings)) : registration;
}

namespace {

/// Whether the wedge at the leading edge is printed there, or where it is after half a turn. Nothing where
/// neither is seen.
std::optional<bool> arrowIsAhead(const Sheet& sheet, const Registration& registration, const Sensor& sensor) {
    const auto arrow = std::ranges::find(sheet.lead, LeadMark::Kind::arrow, &LeadMark::kind);
    if (arrow == sheet.lead.end())
        return {};
    const Point place = arrow->box.centre();
    const MarkShapeModel shape(arrow->ink, place);
    const auto isAt = [&](Point at, double turn) {
        const Point bed = registration.map(at);
        return shape.fitAt(sensor(bed, shape.size() + 6), bed, registration.map.turnAt(at) + turn)
            .has_value();
    };
    if (isAt(place, 0))
        return true;
    Point sum;
    for (const Mark& mark : sheet.marks)
        sum = sum + mark.centre;
    const Point opposite = sum * (2.0 / double(sheet.marks.size())) - place;
    return isAt(opposite, std::numbers::pi) ? std::optional(false) : std::nullopt;
}

/// Where the medium begins beside the first mark, mm of the sheet along the feed, looked for between two
/// places; nothing where there is no clear edge.
std::optional<double> mediumBegin(const Registration& registration, const Sensor& sensor, double from,
                                  double to, double across) {
    const Point middle{(from + to) / 2, across};
    const SensorView view = sensor(registration.map(middle), std::abs(to - from) + 16);
    constexpr double step = 0.25, bright = 0.6; // the bed is dark
    const double half = view.light.width() / view.pixelsPerMillimetre / 2 - 1;
    for (int i = 0; i * step < 2 * half; ++i) {
        const double x = middle.x - half + i * step;
        const auto isBright = [&](double at) {
            double sum = 0;
            for (int k = -4; k <= 4; ++k)
                sum += view.at(registration.map({at, across + k * 0.4}));
            return sum / 9 > bright;
        };
        if (!isBright(x - step) && isBright(x))
            return x;
    }
    return {};
}

/// By what is printed at the leading edge; by the margin before the first mark, where the one behind the last
/// is another.
bool liesBackwards(const Sheet& sheet, const Registration& registration, const Sensor& sensor) {
    if (const auto isAhead = arrowIsAhead(sheet, registration, sensor))
        return !*isAhead;
    Box marks;
    for (const Mark& mark : sheet.marks)
        marks.add(mark.centre);
    const double turned = marks.least.x + marks.most.x - sheet.length; // where the trailing edge would be
    constexpr double distinct = 6;                                     // mm
    if (std::abs(turned) < distinct || sheet.marks.empty())
        return false;
    const auto begin = mediumBegin(registration, sensor, std::min(0.0, turned), std::max(0.0, turned),
                                   sheet.marks.front().centre.y);
    return begin && std::abs(*begin - turned) < std::abs(*begin);
}

/// Whether there is no medium where the last marks should be.
bool endsTooSoon(const Sheet& sheet, const Registration& registration, const Sensor& sensor) {
    double last = 0;
    for (const Mark& mark : sheet.marks)
        last = std::max(last, mark.centre.x);
    constexpr double dark = 0.5; // the bed
    return std::ranges::all_of(registration.marks, [&](const MarkReading& mark) {
        if (mark.expected.x < last - 1)
            return true;
        constexpr double around = 14; // mm, more than a smudge
        const SensorView view = sensor(registration.map(mark.expected), around);
        return !mark.found &&
               std::ranges::all_of(view.light.cells(), [](float light) { return light < float(dark); });
    });
}

Mark turnedByHalf(const Mark& mark, Point centre) {
    const Affine half =
        Affine::translation(centre) * Affine::scaling(-1, -1) * Affine::translation(centre * -1);
    Mark turned{mark.id, half(mark.centre), {}, {}};
    for (const Curve& curve : mark.ink)
        turned.ink.push_back(map(curve, half));
    return turned;
}

/// Of three marks, whether there is one in the corner that has none on the sheet.
bool hasMarkInEmptyCorner(const Sheet& sheet, const Registration& registration, const Sensor& sensor,
                          const MarkSearch& search, const std::stop_token& stop) {
    if (sheet.marks.size() != 3 || registration.found() != 2)
        return false;
    const Mark corner =
        turnedByHalf(sheet.marks[0], between(sheet.marks[1].centre, sheet.marks[2].centre, 0.5));
    const MarkShapeModel shape(corner.ink, corner.centre);
    return searched(shape, sensor, predicted(corner.centre, usedOf(registration.marks), search), stop)
        .has_value();
}

/// Whether the marks are where half a turn of the medium takes them.
bool hasTurnedMarks(const Sheet& sheet, double width, const Sensor& sensor, const MarkSearch& search,
                    const std::stop_token& stop) {
    std::vector<Mark> turned;
    for (const Mark& mark : sheet.marks)
        turned.push_back(turnedByHalf(mark, {sheet.length / 2, width / 2}));
    const Registration registration = registerSheet(std::span(turned), sensor, search, stop);
    return registration.fault == RunFault::none && registration.found() >= 3;
}

const LeadMark* codeOf(const Sheet& sheet) {
    const auto code = std::ranges::find(sheet.lead, LeadMark::Kind::code, &LeadMark::kind);
    return code != sheet.lead.end() ? &*code : nullptr;
}

double sideOf(const LeadMark& code) {
    return std::max(code.box.width(), code.box.height());
}

std::optional<std::string> codeSeen(const SensorView& view) {
    Grid<std::uint8_t> picture(view.light.width(), view.light.height());
    for (std::size_t i = 0; i < picture.cells().size(); ++i)
        picture.cells()[i] = std::uint8_t(std::clamp(view.light.cells()[i] * 255, 0.0F, 255.0F));
    return readCode(picture);
}

} // namespace

Registration registerSheet(const Sheet& sheet, double width, const Sensor& sensor, const MarkSearch& search,
                           const std::stop_token& stop) {
    Registration registration = registerSheet(std::span(sheet.marks), sensor, search, stop);
    if (stop.stop_requested() || sheet.marks.empty())
        return registration;
    const bool isKnown = registration.fault == RunFault::none && registration.found() >= 2;
    if (isKnown ? liesBackwards(sheet, registration, sensor)
                : hasMarkInEmptyCorner(sheet, registration, sensor, search, stop) ||
                      hasTurnedMarks(sheet, width, sensor, search, stop))
        registration.fault = RunFault::wrongWayRound;
    else if (registration.fault == RunFault::tooFewMarks && endsTooSoon(sheet, registration, sensor))
        registration.fault = RunFault::mediumShort;
    return registration;
}

std::optional<std::string> codeRead(const Sheet& sheet, const Registration& registration,
                                    const Sensor& sensor) {
    const LeadMark* code = codeOf(sheet);
    constexpr double around = 4; // mm: what a map leaves open
    return code ? codeSeen(sensor(registration.map(code->box.centre()), sideOf(*code) + around))
                : std::nullopt;
}

std::optional<std::string> codeAlongEdge(const Sheet& sheet, double width, const Sensor& sensor,
                                         const std::stop_token& stop) {
    const LeadMark* code = codeOf(sheet);
    if (!code)
        return {};
    constexpr double around = 16, step = 8; // mm: each code lies whole in one of the windows
    const int windows = int(std::ceil(width / step));
    for (int i = 0; i <= windows; ++i) {
        throwIfStopped(stop);
        if (auto read = codeSeen(sensor({code->box.centre().x, i * step}, sideOf(*code) + around)))
            return read;
    }
    return {};
}

} // namespace hasami
