#include "machine/registration.h"

#include "codes/read_code.h"

#include <Eigen/Dense>

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace hasami {

namespace {

constexpr double mostScale = 0.011;       // of a length: media stretch by less than a percent
constexpr double mostShear = 0.004;       // radians between the sheet's axes
constexpr double mostDisagreement = 0.15; // mm, of four marks on an affine map
constexpr double twistless = 0.06;        // mm: with less an affine map is the better one, it averages noise
constexpr double alikeEnough = 0.35;      // mm: a mark that is less off its neighbours' map stays
constexpr double mostLoadTurn = 0.07;     // radians: nobody puts a sheet in like that
constexpr std::size_t neighbours = 7;     // that a mark is compared with, itself among them

struct PointPair {
    Point from, to;
};

std::vector<PointPair> usedOf(const std::vector<MarkReading>& marks) {
    std::vector<PointPair> pairs;
    for (const MarkReading& mark : marks)
        if (mark.found && !mark.isDropped)
            pairs.push_back({mark.expected, *mark.found});
    return pairs;
}

Point middleOf(std::span<const PointPair> pairs) {
    Point sum;
    for (const PointPair& pair : pairs)
        sum = sum + pair.from;
    return sum * (1.0 / double(pairs.size()));
}

/// By least squares, with a twist or without. REQUIRES: three pairs, with a twist four.
SheetMap::Part fitted(std::span<const PointPair> pairs, bool withTwist) {
    const Point centre = middleOf(pairs);
    Eigen::MatrixXd left(pairs.size(), withTwist ? 4 : 3);
    Eigen::MatrixXd right(pairs.size(), 2);
    for (Eigen::Index i = 0; i < left.rows(); ++i) {
        const Point p = pairs[std::size_t(i)].from - centre;
        left(i, 0) = 1;
        left(i, 1) = p.x;
        left(i, 2) = p.y;
        if (withTwist)
            left(i, 3) = p.x * p.y;
        right(i, 0) = pairs[std::size_t(i)].to.x;
        right(i, 1) = pairs[std::size_t(i)].to.y;
    }
    const Eigen::MatrixXd s = left.colPivHouseholderQr().solve(right);
    SheetMap::Part part;
    part.centre = centre;
    part.affine =
        Affine{s(1, 0), s(1, 1), s(2, 0), s(2, 1), s(0, 0), s(0, 1)} * Affine::translation(centre * -1);
    if (withTwist)
        part.twist = {s(3, 0), s(3, 1)};
    return part;
}

/// A turn, a scale and a shift. REQUIRES: two pairs at different places.
Affine similarityOf(const PointPair& a, const PointPair& b) {
    const Point from = b.from - a.from, to = b.to - a.to;
    const double squared = dot(from, from);
    const double c = dot(from, to) / squared, s = cross(from, to) / squared;
    return Affine::translation(a.to) * Affine{c, s, -s, c, 0, 0} * Affine::translation(a.from * -1);
}

Point mapped(const SheetMap::Part& part, Point p) {
    const Point d = p - part.centre;
    return part.affine(p) + part.twist * (d.x * d.y);
}

double residualOf(const SheetMap::Part& part, std::span<const PointPair> pairs) {
    double squares = 0;
    for (const PointPair& pair : pairs)
        squares += dot(mapped(part, pair.from) - pair.to, mapped(part, pair.from) - pair.to);
    return std::sqrt(squares / double(pairs.size()));
}

struct Shape {
    double along, across, shear;
};
Shape shapeOf(const Affine& map) {
    const Point x{map.a, map.b}, y{map.c, map.d};
    return {length(x), length(y), dot(x, y) / (length(x) * length(y))};
}

bool isPlausible(const Affine& map) {
    const Shape shape = shapeOf(map);
    return std::abs(shape.along - 1) <= mostScale && std::abs(shape.across - 1) <= mostScale &&
           std::abs(shape.shear) <= mostShear && map.determinant() > 0;
}

/// Whether three places span a triangle that says something about both axes.
bool spanPlane(Point a, Point b, Point c) {
    const double longest = std::max({distance(a, b), distance(b, c), distance(a, c)});
    return std::abs(cross(b - a, c - a)) > 0.02 * longest * longest;
}

/// The pairs nearest to a place, at most so many.
std::vector<PointPair> nearestTo(Point place, std::vector<PointPair> pairs, std::size_t count) {
    std::ranges::sort(pairs, {}, [&](const PointPair& pair) { return distance(place, pair.from); });
    pairs.resize(std::min(count, pairs.size()));
    return pairs;
}

/// The affine map through three of the pairs for which the median of the distances squared is least, and
/// that median. REQUIRES: four pairs.
std::pair<SheetMap::Part, double> leastMedian(const std::vector<PointPair>& pairs) {
    std::pair<SheetMap::Part, double> best{{}, std::numeric_limits<double>::infinity()};
    std::vector<double> squares(pairs.size());
    for (std::size_t i = 0; i < pairs.size(); ++i)
        for (std::size_t j = i + 1; j < pairs.size(); ++j)
            for (std::size_t k = j + 1; k < pairs.size(); ++k) {
                if (!spanPlane(pairs[i].from, pairs[j].from, pairs[k].from))
                    continue;
                const SheetMap::Part part = fitted(std::array{pairs[i], pairs[j], pairs[k]}, false);
                for (std::size_t p = 0; p < pairs.size(); ++p) {
                    const Point off = mapped(part, pairs[p].from) - pairs[p].to;
                    squares[p] = dot(off, off);
                }
                // Of n points on a map of three parameters, the one that breaks down last.
                const auto middle = squares.begin() + std::ptrdiff_t(squares.size() / 2 + 1);
                std::nth_element(squares.begin(), middle, squares.end());
                if (*middle < best.second)
                    best = {part, *middle};
            }
    return best;
}

void dropAmongMany(std::vector<MarkReading>& marks, const std::vector<PointPair>& used) {
    for (MarkReading& mark : marks) {
        if (!mark.found)
            continue;
        const auto [part, squared] = leastMedian(nearestTo(mark.expected, used, neighbours));
        // Rousseeuw and Leroy, "Robust Regression and Outlier Detection", 1987.
        const double deviation = 1.4826 * (1 + 5.0 / double(neighbours - 3)) * std::sqrt(squared);
        mark.isDropped =
            distance(mapped(part, mark.expected), *mark.found) > std::max(alikeEnough, 2.5 * deviation);
    }
}

/// Of four marks that disagree, the one without which the others lie as a print can. False: there is not
/// exactly one.
bool dropOneOfFour(std::vector<MarkReading>& marks) {
    MarkReading* wrong = nullptr;
    std::size_t count = 0;
    for (MarkReading& mark : marks) {
        if (!mark.found)
            continue;
        mark.isDropped = true;
        if (const auto rest = usedOf(marks);
            spanPlane(rest[0].from, rest[1].from, rest[2].from) && isPlausible(fitted(rest, false).affine)) {
            wrong = &mark;
            ++count;
        }
        mark.isDropped = false;
    }
    if (count != 1)
        return false;
    wrong->isDropped = true;
    return true;
}

/// Places along the feed where marks stand in pairs; empty where there are other marks too, or less than
/// three pairs.
std::vector<double> pairsAlong(const std::vector<MarkReading>& marks) {
    std::vector<double> places;
    places.reserve(marks.size());
    for (const MarkReading& mark : marks)
        places.push_back(mark.expected.x);
    std::ranges::sort(places);
    std::vector<double> pairs;
    for (std::size_t i = 0; i + 1 < places.size(); i += 2) {
        if (places[i + 1] - places[i] > 0.01)
            return {};
        pairs.push_back(places[i]);
    }
    return places.size() % 2 == 0 && pairs.size() >= 3 ? pairs : std::vector<double>{};
}

/// From pair to pair. A mark that was not found is where its neighbours have it.
SheetMap inSections(const std::vector<MarkReading>& marks, const std::vector<double>& places) {
    const std::vector<PointPair> used = usedOf(marks);
    std::vector<PointPair> all;
    all.reserve(marks.size());
    for (const MarkReading& mark : marks)
        all.push_back(
            {mark.expected, mark.found && !mark.isDropped
                                ? *mark.found
                                : mapped(fitted(nearestTo(mark.expected, used, 5), false), mark.expected)});
    std::vector<SheetMap::Part> parts;
    for (std::size_t i = 0; i + 1 < places.size(); ++i) {
        std::vector<PointPair> corners;
        for (const PointPair& pair : all)
            if (std::abs(pair.from.x - places[i]) < 0.01 || std::abs(pair.from.x - places[i + 1]) < 0.01)
                corners.push_back(pair);
        parts.push_back(fitted(corners, true));
    }
    return {std::move(parts), {places.begin() + 1, places.end() - 1}};
}

std::size_t leastMarks(std::size_t marks) {
    return marks <= 3 ? marks : std::max<std::size_t>(3, (marks + 1) / 2);
}

/// How each mark lies to the map of its neighbours, and the root mean square of that.
void measure(Registration& registration) {
    const std::vector<PointPair> used = usedOf(registration.marks);
    const bool isLocal = registration.model == MapModel::sections;
    double squares = 0;
    for (MarkReading& mark : registration.marks) {
        if (!mark.found)
            continue;
        const Point there =
            used.size() < 3 ? registration.map(mark.expected)
            : isLocal       ? mapped(fitted(nearestTo(mark.expected, used, neighbours), false), mark.expected)
                            : mapped(fitted(used, false), mark.expected);
        mark.residual = distance(there, *mark.found);
        if (!mark.isDropped)
            squares += mark.residual * mark.residual;
    }
    registration.residual = std::sqrt(squares / double(std::max<std::size_t>(1, used.size())));
}

void describe(Registration& registration, const Affine& whole, Point middle) {
    const Shape shape = shapeOf(whole);
    registration.scaleAlong = shape.along;
    registration.scaleAcross = shape.across;
    registration.turn = std::atan2(whole.b, whole.a) * 180 / std::numbers::pi;
    registration.shift = whole(middle) - middle;
    if (registration.fault != RunFault::none || isPlausible(whole))
        return;
    const bool isScaled = std::abs(shape.shear) <= mostShear &&
                          std::abs(shape.along - shape.across) <= mostScale && whole.determinant() > 0;
    registration.fault = isScaled ? RunFault::scaled : RunFault::disagreement;
}

} // namespace

Point SheetMap::operator()(Point sheet) const {
    const auto part = std::ranges::upper_bound(breaks_, sheet.x) - breaks_.begin();
    return mapped(parts_[std::size_t(part)], sheet);
}

double SheetMap::turnAt(Point sheet) const {
    const Point along = (*this)(sheet + Point{0.5, 0}) - (*this)(sheet - Point{0.5, 0});
    return std::atan2(along.y, along.x);
}

std::string_view modelName(MapModel model) {
    constexpr std::array<std::string_view, 5> names{"none", "similarity", "affine", "bilinear", "sections"};
    return names[std::size_t(model)];
}

std::size_t Registration::found() const {
    return std::size_t(
        std::ranges::count_if(marks, [](const MarkReading& mark) { return mark.found && !mark.isDropped; }));
}

std::vector<int> Registration::dropped() const {
    std::vector<int> ids;
    for (const MarkReading& mark : marks)
        if (mark.isDropped)
            ids.push_back(mark.id);
    return ids;
}

Registration registrationOf(std::vector<MarkReading> readings) {
    Registration registration;
    registration.marks = std::move(readings);
    std::vector<MarkReading>& marks = registration.marks;
    for (MarkReading& mark : marks)
        mark.isDropped = false;
    std::vector<PointPair> used = usedOf(marks);
    if (marks.empty())
        return registration;
    if (used.size() >= 5)
        dropAmongMany(marks, used);
    else if (used.size() == 4 && residualOf(fitted(used, false), used) > mostDisagreement &&
             !dropOneOfFour(marks))
        registration.fault = RunFault::disagreement;
    used = usedOf(marks);
    if (used.size() < std::max<std::size_t>(2, leastMarks(marks.size())))
        registration.fault = RunFault::tooFewMarks;
    if (used.size() < 2) {
        if (!used.empty())
            registration.map = SheetMap({{Affine::translation(used[0].to - used[0].from), {}, {}}}, {});
        return registration;
    }
    if (used.size() == 2) {
        registration.model = MapModel::similarity;
        const Affine map = similarityOf(used[0], used[1]);
        registration.map = SheetMap({{map, {}, {}}}, {});
        describe(registration, map, middleOf(used));
        return registration;
    }
    const SheetMap::Part whole = fitted(used, false);
    const std::vector<double> places = pairsAlong(marks);
    if (!places.empty()) {
        registration.model = MapModel::sections;
        registration.map = inSections(marks, places);
    } else {
        const bool isTwisted = used.size() >= 4 && residualOf(whole, used) > twistless;
        registration.model = isTwisted ? MapModel::bilinear : MapModel::affine;
        registration.map = SheetMap({isTwisted ? fitted(used, true) : whole}, {});
    }
    measure(registration);
    describe(registration, whole.affine, middleOf(used));
    if (registration.residual > alikeEnough && registration.fault == RunFault::none)
        registration.fault = RunFault::disagreement;
    return registration;
}

namespace {

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
    const auto code = std::ranges::find(sheet.lead, LeadMark::Kind::code, &LeadMark::kind);
    if (code == sheet.lead.end())
        return {};
    const SensorView view =
        sensor(registration.map(code->box.centre()), std::max(code->box.width(), code->box.height()) + 4);
    Grid<std::uint8_t> picture(view.light.width(), view.light.height());
    for (std::size_t i = 0; i < picture.cells().size(); ++i)
        picture.cells()[i] = std::uint8_t(std::clamp(view.light.cells()[i] * 255, 0.0F, 255.0F));
    return readCode(picture);
}

} // namespace hasami
