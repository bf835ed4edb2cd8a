#include "nesting/shape/prepare.h"

#include "base/error.h"
#include "base/translation.h"
#include "geometry/region_operations.h"
#include "nesting/shape/outline.h"
#include "nesting/shape/placed.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace hasami::nesting {

namespace {

using std::numbers::pi;
constexpr std::size_t searchPoints = 72; // of an outline in the search
constexpr double searchExtra = 0.002;    // of its area

/// How far an outline in the search may lie from the exact one, of its size: tips and bays that are told
/// closely cost time, which few copies have and thousands have not.
double searchOff(const Problem& problem) {
    double copies = 0;
    for (const Part& part : problem.parts)
        copies += part.copies;
    return 0.0005 * std::clamp(copies / 100, 1.0, 4.0);
}

double growth(const Problem& problem) {
    return problem.gap / 2 - slack;
}

Box boxOf(const std::vector<Loop>& loops) {
    Box box;
    for (const Loop& loop : loops)
        box.add(bounds(loop));
    return box;
}

/// Large circles inside, none in another: what a shape is to the search where overlaps are weighed.
class PoleFinder {
public:
    PoleFinder(const std::vector<Loop>& loops, int cells) : loops_(loops) {
        const Box box = boxOf(loops);
        step_ = std::max(box.width(), box.height()) / cells;
        for (int row = 0; row < cells; ++row)
            for (int column = 0; column < cells; ++column) {
                const Point p = box.least + Point{column + 0.5, row + 0.5} * step_;
                if (p.x >= box.most.x || p.y >= box.most.y)
                    break;
                if (const double depth = depthAt(p); depth > 0)
                    seeds_.push_back({p, depth});
            }
    }

    std::vector<Circle> find(double area) {
        std::vector<Circle> poles;
        double covered = 0;
        while (poles.size() < Placed::mostPoles && covered < 0.8 * area && !seeds_.empty()) {
            const auto deepest =
                std::max_element(seeds_.begin(), seeds_.end(),
                                 [](const Circle& a, const Circle& b) { return a.radius < b.radius; });
            Circle pole = climbed(*deepest, poles);
            if (!poles.empty() && pole.radius < poles.front().radius * 0.08)
                break;
            poles.push_back(pole);
            covered += pi * pole.radius * pole.radius;
            for (Circle& seed : seeds_)
                seed.radius = std::min(seed.radius, distance(seed.centre, pole.centre) - pole.radius);
            std::erase_if(seeds_, [](const Circle& seed) { return seed.radius <= 0; });
        }
        if (poles.empty())
            poles.push_back(thinnest());
        return poles;
    }

private:
    /// Distance to the rim, negative outside.
    double depthAt(Point p) const {
        double nearest = 1e300;
        bool isInside = false;
        for (const Loop& loop : loops_)
            for (std::size_t i = 0, j = loop.size() - 1; i < loop.size(); j = i++) {
                const Point a = loop[j], b = loop[i];
                nearest = std::min(nearest, distanceToSegment(p, a, b));
                if ((a.y > p.y) != (b.y > p.y) && p.x < (b.x - a.x) * (p.y - a.y) / (b.y - a.y) + a.x)
                    isInside = !isInside;
            }
        return isInside ? nearest : -nearest;
    }

    double freeAt(Point p, const std::vector<Circle>& poles) const {
        double room = depthAt(p);
        for (const Circle& pole : poles)
            room = std::min(room, distance(p, pole.centre) - pole.radius);
        return room;
    }

    Circle climbed(Circle from, const std::vector<Circle>& poles) const {
        double step = step_;
        for (int halving = 0; halving < 5; ++halving) {
            step /= 2;
            for (bool goesOn = true; goesOn;) {
                goesOn = false;
                for (const Point way : {Point{1, 0}, {-1, 0}, {0, 1}, {0, -1}}) {
                    const Point p = from.centre + way * step;
                    if (const double room = freeAt(p, poles); room > from.radius * (1 + 1e-9)) {
                        from = {p, room};
                        goesOn = true;
                    }
                }
            }
        }
        return from;
    }

    /// Too thin for the grid: in the middle of some corner.
    Circle thinnest() const {
        Circle best{loops_.front().front(), 1e-6};
        for (const Loop& loop : loops_)
            for (std::size_t i = 0; i < loop.size(); ++i) {
                const Point p =
                    (loop[i] + loop[(i + 1) % loop.size()] + loop[(i + 2) % loop.size()]) * (1.0 / 3);
                if (const double depth = depthAt(p); depth > best.radius)
                    best = {p, depth};
            }
        return best;
    }

    const std::vector<Loop>& loops_;
    double step_ = 0;
    std::vector<Circle> seeds_; // with the room that each has left
};

Shape shapeOf(const std::vector<Loop>& net, double by, double off, int poleCells) {
    Shape shape;
    shape.exact = grown(net, by);
    const Box box = boxOf(shape.exact);
    shape.loops = simplifiedOutward(shape.exact,
                                    {searchPoints, searchExtra, off * std::max(box.width(), box.height())});
    for (const Loop& loop : shape.loops) {
        shape.area += signedArea(loop);
        for (const Point p : loop)
            shape.radius = std::max(shape.radius, length(p));
    }
    shape.poles = PoleFinder(shape.loops, poleCells).find(shape.area);
    shape.hull = hullOf(shape.loops);
    shape.spread = std::sqrt(std::sqrt(std::abs(signedArea(shape.hull))) * std::max(shape.radius, 1e-6));
    return shape;
}

std::vector<Loop> mirrored(std::vector<Loop> loops) {
    for (Loop& loop : loops) {
        for (Point& p : loop)
            p.x = -p.x;
        std::reverse(loop.begin(), loop.end());
    }
    return loops;
}

/// How much room is left of the medium where the hull is turned so; negative: it does not fit.
double roomLeft(const Loop& hull, double turn, const Box& room) {
    const double c = std::cos(turn), s = std::sin(turn);
    Box box;
    for (const Point p : hull)
        box.add(Point{c * p.x - s * p.y, s * p.x + c * p.y});
    return std::min(room.width() - box.width(), room.height() - box.height());
}

/// Turns to begin with: even ones, sides of the hull along the medium's, and those that it just fits at.
std::vector<double> goodTurns(const Loop& hull, const Box& room) {
    std::vector<double> turns;
    const auto add = [&](double turn) {
        turn = std::remainder(turn, 2 * pi);
        const bool isKnown = std::any_of(turns.begin(), turns.end(), [&](double known) {
            return std::abs(std::remainder(known - turn, 2 * pi)) < 0.005;
        });
        if (!isKnown && roomLeft(hull, turn, room) >= 0)
            turns.push_back(turn);
    };
    for (int quarter = 0; quarter < 4; ++quarter)
        add(quarter * pi / 2);
    std::vector<std::pair<double, double>> sides; // length, direction
    for (std::size_t i = 0; i < hull.size(); ++i) {
        const Point d = hull[(i + 1) % hull.size()] - hull[i];
        sides.emplace_back(-length(d), std::atan2(d.y, d.x));
    }
    std::sort(sides.begin(), sides.end());
    for (std::size_t i = 0; i < std::min<std::size_t>(sides.size(), 4); ++i)
        for (int quarter = 0; quarter < 4; ++quarter)
            add(-sides[i].second + quarter * pi / 2);
    for (int i = 0; i < 16; ++i)
        add(i * pi / 8);
    if (turns.size() >= 4)
        return turns;
    // It may fit only askew: where the most room is left.
    constexpr int steps = 1440;
    double best = 0, most = -1e300;
    for (int i = 0; i < steps; ++i)
        if (const double left = roomLeft(hull, i * pi / steps, room); left > most) {
            most = left;
            best = i * pi / steps;
        }
    double step = pi / steps;
    for (int halving = 0; halving < 24; ++halving, step /= 2)
        for (const double turn : {best - step, best + step})
            if (const double left = roomLeft(hull, turn, room); left > most) {
                most = left;
                best = turn;
            }
    add(best);
    add(best + pi);
    return turns;
}

std::vector<Loop> cleanedLoops(const Part& part) {
    if (part.outline.empty())
        throw InputError(sentence("%1 has no outline", part.id));
    std::vector<Loop> loops{cleaned(part.outline, false, sentence("the outline of %1", part.id))};
    for (std::size_t i = 0; i < part.openings.size(); ++i)
        loops.push_back(
            cleaned(part.openings[i], true, sentence("opening %1 of %2", std::to_string(i + 1), part.id)));
    if (loops.size() == 1)
        return loops;
    if (sidesCross(loops))
        throw InputError(sentence("an opening of %1 crosses its outline or another opening", part.id));
    double netArea = 0;
    for (const Loop& loop : loops)
        netArea += signedArea(loop);
    const double covered = area(enclosed({loops}, FillRule::evenOdd));
    if (netArea <= 0 || std::abs(covered - netArea) > 1e-3 * (std::abs(netArea) + perimeter(loops[0])))
        throw InputError(sentence("an opening of %1 reaches out of it or into another", part.id));
    return loops;
}

void moveBy(std::vector<Loop>& loops, Point by) {
    for (Loop& loop : loops)
        for (Point& p : loop)
            p = p + by;
}

/// The loops in a form that parts of one outline share: the largest point first, in tenths of a micrometre.
std::vector<std::pair<long long, long long>> canonical(const std::vector<Loop>& loops) {
    std::vector<std::pair<long long, long long>> all;
    for (const Loop& loop : loops) {
        std::vector<std::pair<long long, long long>> points;
        points.reserve(loop.size());
        for (const Point p : loop)
            points.emplace_back(std::llround(p.x * 1e4), std::llround(p.y * 1e4));
        std::rotate(points.begin(), std::max_element(points.begin(), points.end()), points.end());
        all.insert(all.end(), points.begin(), points.end());
        all.emplace_back(0x7fffffffffff, 0);
    }
    return all;
}

/// Openings that not even the smallest part can lie in only cost time.
void closeIdleOpenings(std::vector<Item>& items) {
    double smallest = 1e300;
    for (const Item& item : items)
        smallest = std::min(smallest, item.shapes.front().poles.front().radius);
    for (Item& item : items)
        for (Shape& shape : item.shapes)
            std::erase_if(shape.loops, [&](const Loop& loop) {
                if (signedArea(loop) > 0)
                    return false;
                Loop turned(loop.rbegin(), loop.rend());
                const std::vector<Loop> opening{turned};
                const bool isIdle = PoleFinder(opening, 24).find(1e300).front().radius < smallest * 0.98;
                if (isIdle)
                    shape.area += std::abs(signedArea(loop));
                return isIdle;
            });
}

} // namespace

std::vector<Item> prepared(const Problem& problem) {
    std::vector<Item> items;
    std::map<std::vector<std::pair<long long, long long>>, std::size_t> types; // to the first item of each
    const Box inside = room(problem);
    const int poleCells =
        int(std::clamp(std::sqrt(4e6 / (double(problem.parts.size() + 1) * searchPoints)), 16.0, 48.0));
    const double off = searchOff(problem);
    for (std::size_t i = 0; i < problem.parts.size(); ++i) {
        const Part& part = problem.parts[i];
        Item item;
        item.part = i;
        std::vector<Loop> loops = cleanedLoops(part);
        item.middle = bounds(loops.front()).centre();
        moveBy(loops, item.middle * -1);
        for (const Loop& loop : loops)
            item.netArea += signedArea(loop);
        const auto [known, isNew] = types.emplace(canonical(loops), i);
        item.type = known->second;
        if (!isNew)
            item.shapes.push_back(items[item.type].shapes.front());
        else
            item.shapes.push_back(shapeOf(loops, growth(problem), off, poleCells));
        if (part.mayMirror)
            item.shapes.push_back(shapeOf(mirrored(loops), growth(problem), off, poleCells));
        item.net = std::move(loops);
        item.turnsFreely = !part.rotations.has_value();
        if (part.rotations)
            item.turns = *part.rotations;
        else
            item.turns = goodTurns(item.shapes.front().hull, inside);
        std::erase_if(item.turns, [&](double turn) {
            return roomLeft(item.shapes.front().hull, turn, inside) < 0 &&
                   (!part.mayMirror || roomLeft(item.shapes.back().hull, turn, inside) < 0);
        });
        item.copies = part.copies;
        items.push_back(std::move(item));
    }
    for (const Pinned& pinned : problem.pinned)
        --items[pinned.part].copies;
    for (const Item& item : items)
        if (item.copies < 0)
            throw InputError(
                sentence("%1 is pinned more often than it has copies", problem.parts[item.part].id));
    if (!items.empty())
        closeIdleOpenings(items);
    return items;
}

Box room(const Problem& problem) {
    constexpr double longestRoll = 1e7; // mm
    const double edge = problem.margin - growth(problem) - 2 * slack;
    return {{edge, edge}, {problem.media.length.value_or(longestRoll) - edge, problem.media.width - edge}};
}

namespace {

/// What a pinned copy takes up, which stays as it lies also where its part may not lie so.
std::vector<Loop> exactOf(const Problem& problem, const Item& item, const Pose& pose) {
    if (pose.isMirrored && item.shapes.size() < 2)
        return grown(mirrored(item.net), growth(problem));
    return item.shapes[pose.isMirrored ? 1 : 0].exact;
}

} // namespace

std::vector<Obstacle> obstacles(const Problem& problem, const std::vector<Item>& items) {
    std::vector<Obstacle> all;
    for (std::size_t i = 0; i < problem.blocked.size(); ++i) {
        const std::string name = sentence("blocked area %1", std::to_string(i + 1));
        if (problem.blocked[i].outline.empty())
            throw InputError(sentence("%1 has no outline", name));
        all.push_back({problem.blocked[i].sheet,
                       grown({cleaned(problem.blocked[i].outline, false, name)}, growth(problem))});
    }
    const Box inside = room(problem);
    for (const Pinned& pinned : problem.pinned) {
        const Item& item = items[pinned.part];
        const Pose pose = poseOfShape(item, pinned.pose);
        Obstacle obstacle{pinned.sheet, exactOf(problem, item, pose)};
        Placed here(obstacle.loops, {});
        here.place(pose);
        const std::string& id = problem.parts[pinned.part].id;
        if (!inside.grownBy(slack).holds(here.box()))
            throw InputError(sentence("a pinned copy of %1 reaches out of the medium or its margin", id));
        for (const Obstacle& other : all) {
            Placed there(other.loops, {});
            there.place({});
            if (other.sheet == pinned.sheet && here.touches(there))
                throw InputError(sentence(
                    "a pinned copy of %1 comes too close to a blocked area or to another pinned part", id));
        }
        const Affine map = toSheet(pose);
        for (Loop& loop : obstacle.loops)
            for (Point& p : loop)
                p = map(p);
        all.push_back(std::move(obstacle));
    }
    for (Obstacle& obstacle : all) {
        double area = 0;
        for (const Loop& loop : obstacle.loops)
            area += signedArea(loop);
        obstacle.poles = PoleFinder(obstacle.loops, 24).find(area);
    }
    return all;
}

Box turnedBox(const Shape& shape, double turn) {
    const double c = std::cos(turn), s = std::sin(turn);
    Box box;
    for (const Point p : shape.hull)
        box.add(Point{c * p.x - s * p.y, s * p.x + c * p.y});
    return box;
}

bool mayTurn(const Item& item, double turn) {
    return item.turnsFreely || std::any_of(item.turns.begin(), item.turns.end(), [&](double allowed) {
               return std::abs(std::remainder(turn - allowed, 2 * std::numbers::pi)) < 1e-6;
           });
}

Affine toSheet(const Pose& pose) {
    return Affine::translation({pose.x, pose.y}) * Affine::rotation(pose.rotation);
}

namespace {

/// The middle of the outline, where the shape's frame begins, as the part's own turn moves it.
Point middleTurned(const Item& item, const Pose& pose) {
    const Point middle{pose.isMirrored ? -item.middle.x : item.middle.x, item.middle.y};
    return Affine::rotation(pose.rotation)(middle);
}

} // namespace

Pose poseOfPart(const Item& item, const Pose& ofShape) {
    const Point by = middleTurned(item, ofShape);
    return {ofShape.x - by.x, ofShape.y - by.y, ofShape.rotation, ofShape.isMirrored};
}

Pose poseOfShape(const Item& item, const Pose& ofPart) {
    const Point by = middleTurned(item, ofPart);
    return {ofPart.x + by.x, ofPart.y + by.y, ofPart.rotation, ofPart.isMirrored};
}

} // namespace hasami::nesting
