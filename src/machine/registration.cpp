#include "machine/registration.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numbers>

namespace hasami {

namespace {

constexpr double mostDisagreement = 0.15; // mm, of four marks on an affine map
constexpr double twistless = 0.06;        // mm: with less an affine map is the better one, it averages noise
constexpr double alikeEnough = 0.35;      // mm: a mark that is less off its neighbours' map stays
constexpr std::size_t neighbours = 7;     // that a mark is compared with, itself among them

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
    const MapShape shape = shapeOf(whole);
    registration.scaleAlong = shape.along;
    registration.scaleAcross = shape.across;
    registration.turn = std::atan2(whole.b, whole.a) * 180 / std::numbers::pi;
    registration.shift = whole(middle) - middle;
    if (registration.fault != RunFault::none || isPlausible(whole))
        return;
    const bool isScaled = std::abs(shape.shear) <= MapShape::mostShear &&
                          std::abs(shape.along - shape.across) <= MapShape::mostScale &&
                          whole.determinant() > 0;
    registration.fault = isScaled ? RunFault::scaled : RunFault::disagreement;
}

} // namespace

std::vector<PointPair> usedOf(const std::vector<MarkReading>& marks) {
    std::vector<PointPair> pairs;
    for (const MarkReading& mark : marks)
        if (mark.found && !mark.isDropped)
            pairs.push_back({mark.expected, *mark.found});
    return pairs;
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

} // namespace hasami
