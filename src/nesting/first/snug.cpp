#include "nesting/first/snug.h"

#include "geometry/region_operations.h"
#include "nesting/layout/random.h"
#include "nesting/shape/placed.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <memory>
#include <numbers>
#include <optional>

namespace hasami::nesting {

namespace {

using std::numbers::pi;
constexpr double longestOutline = 50'000; // mm
constexpr double sliver = 0.004;          // mm: what is narrower is no room
constexpr double alongAngle = 3e-3;       // radians, and
constexpr double alongApart = 0.03;       // mm: sides that lie along each other
constexpr std::size_t mostCopies = 200, mostCorners = 10'000, mostCornersOfOne = 400;
constexpr int mostDead = 60;       // corners given up at a time
constexpr double looseness = 0.05; // in which order the partial layouts come
constexpr double deadWeight = 0.2; // of a corner given up
constexpr double hopeless = 0.45;  // misfit when half of the pieces lie

double angleOf(Point direction) {
    return std::atan2(direction.y, direction.x);
}

/// Between 0 and a whole turn.
double positiveAngle(double angle) {
    const double turn = std::fmod(angle, 2 * pi);
    return turn < -1e-9 ? turn + 2 * pi : turn;
}

/// A corner: its point, the directions of the sides that come and go, and the angle inside.
struct Corner {
    Point at;
    double in = 0, out = 0, inside = 0;
};

Corner cornerOf(const Loop& loop, std::size_t i) {
    const Point before = loop[(i + loop.size() - 1) % loop.size()], at = loop[i],
                after = loop[(i + 1) % loop.size()];
    const double in = angleOf(at - before), out = angleOf(after - at);
    return {at, in, out, positiveAngle(in + pi - out)};
}

struct WallSide {
    Point a, direction;
    double length = 0;
};

std::vector<WallSide> sidesOf(const std::vector<Loop>& loops) {
    std::vector<WallSide> sides;
    for (const Loop& loop : loops)
        for (std::size_t i = 0; i < loop.size(); ++i) {
            const Point a = loop[i], b = loop[(i + 1) % loop.size()];
            sides.push_back({a, unit(b - a), distance(a, b)});
        }
    return sides;
}

/// An outline as it comes to lie.
struct Piece {
    std::size_t item = 0;
    Pose pose;
};

/// Some of the pieces laid.
struct State {
    Region free; // and without slivers:
    Region room;
    std::vector<Piece> pieces;
    std::vector<std::shared_ptr<const Placed>> placed;
    std::vector<int> left;       // copies of each item
    std::vector<WallSide> sides; // of all that lies there and of the room, the free area to their left
    std::vector<Point> dead;
    double around = 0; // of the pieces' outlines
    double front = 0;  // how much of all outlines lies along nothing
};

/// A piece that could be laid next.
struct Candidate {
    Piece piece;
    std::size_t state = 0; // of those followed
    double misfit = 0;     // the part of all outlines that lies along nothing
    double rank = 0;
};

class Snug {
public:
    Snug(const Ground& ground, const Start& rows)
        : ground_(ground), rows_(rows), inside_(ground.room.grownBy(-slack)) {
        if (ground.isRoll())
            inside_.most.x = inside_.least.x + rows.spots.length + 1;
        for (const Item& item : ground.items) {
            corners_.emplace_back();
            for (const Loop& loop : item.net)
                for (std::size_t i = 0; i < loop.size(); ++i)
                    corners_.back().push_back(cornerOf(loop, i));
            sides_.push_back(sidesOf(item.net));
            double around = 0;
            for (const Loop& loop : item.net)
                around += perimeter(loop);
            around_.push_back(around);
            probes_.emplace_back(item.shapes.front().exact, std::vector<Circle>{});
        }
    }

    /// Whether areas of that size can be computed.
    bool fits() const { return std::max(inside_.width(), inside_.height()) < longestOutline; }

    /// Whether the pieces don't seem to be made for each other.
    bool isHopeless() const { return isHopeless_; }

    /// Follows the best `width` partial layouts from one piece to the next.
    std::optional<Start> find(std::size_t width, Random& random, const std::function<bool()>& isOver) {
        std::vector<State> states{begin()};
        for (std::size_t count = rows_.copies.size(); count > 0; --count) {
            std::vector<Candidate> candidates;
            for (State& state : states) {
                findCandidates(state, std::size_t(&state - states.data()), candidates, isOver);
                if (isOver())
                    return std::nullopt;
            }
            for (Candidate& candidate : candidates)
                candidate.rank = candidate.misfit * (1 + looseness * random.unit()) *
                                 (1 + deadWeight * double(states[candidate.state].dead.size()));
            std::sort(candidates.begin(), candidates.end(),
                      [](const Candidate& a, const Candidate& b) { return a.rank < b.rank; });
            std::vector<State> next;
            std::vector<double> known;
            for (const Candidate& candidate : candidates) {
                // The same pieces in another order come to the same.
                if (std::any_of(known.begin(), known.end(),
                                [&](double misfit) { return std::abs(misfit - candidate.misfit) < 1e-9; }))
                    continue;
                if (isOver())
                    return std::nullopt;
                State state = laying(states[candidate.state], candidate.piece);
                if (state.room.isEmpty() && count > 1)
                    continue;
                known.push_back(candidate.misfit);
                next.push_back(std::move(state));
                if (next.size() == width)
                    break;
            }
            if (next.empty())
                return std::nullopt;
            states = std::move(next);
            isHopeless_ |= width > 10 && count == rows_.copies.size() / 2 + 1 &&
                           misfitOf(states.front().front, states.front().around) > hopeless;
        }
        std::optional<Start> best;
        for (const State& state : states) {
            Start start = startOf(state);
            if (!best || start.spots.length < best->spots.length)
                best = std::move(start);
        }
        return best;
    }

private:
    /// The part of all outlines, the medium's foremost edge with them, that lies along nothing.
    double misfitOf(double front, double around) const { return front / (around + inside_.height()); }

    State begin() const {
        State state;
        state.free.loops = {{inside_.least,
                             {inside_.most.x, inside_.least.y},
                             inside_.most,
                             {inside_.least.x, inside_.most.y}}};
        for (const Obstacle& obstacle : ground_.obstacles) {
            if (obstacle.sheet > 0)
                continue;
            Region within;
            for (const Loop& loop : obstacle.loops)
                within.loops.push_back(cutTo(loop, inside_.grownBy(1)));
            state.free = difference(state.free, within);
            auto placed = std::make_shared<Placed>(obstacle.loops, std::vector<Circle>{});
            placed->place({});
            state.placed.push_back(std::move(placed));
        }
        state.room = state.free;
        state.sides = sidesOf(state.free.loops);
        for (const WallSide& side : state.sides)
            state.front += isWall(side) ? 0 : side.length;
        state.left.resize(ground_.items.size());
        for (const std::size_t item : rows_.copies)
            ++state.left[item];
        return state;
    }

    /// The corner where the sides meet that lie along its own, which come from areas taken with rounding.
    Corner exact(const State& state, Corner corner) const {
        const auto along = [&](double angle) {
            const Point direction{std::cos(angle), std::sin(angle)};
            const WallSide* best = nullptr;
            for (const WallSide& side : state.sides) {
                const double begin = dot(direction, side.a - corner.at), end = begin + side.length;
                if (dot(direction, side.direction) > 1 - alongAngle * alongAngle / 2 && begin < 0.05 &&
                    end > -0.05 &&
                    std::abs(cross(direction, side.a - corner.at)) < 0.01 + alongAngle * std::abs(begin) &&
                    (!best || side.length > best->length))
                    best = &side;
            }
            return best;
        };
        const WallSide *in = along(corner.in), *out = along(corner.out);
        if (!in || !out)
            return corner;
        const double apart = cross(in->direction, out->direction);
        const Point at = in->a + in->direction * (cross(out->a - in->a, out->direction) / apart);
        if (!(distance(at, corner.at) < 0.05))
            return corner;
        corner.at = at;
        corner.in = angleOf(in->direction);
        corner.out = angleOf(out->direction);
        corner.inside = positiveAngle(corner.in + pi - corner.out);
        return corner;
    }

    /// The foremost corner that is not given up.
    std::optional<Corner> foremost(const State& state) const {
        std::optional<Corner> best;
        for (const Loop& loop : state.room.loops)
            for (std::size_t i = 0; i < loop.size(); ++i) {
                const Point p = loop[i];
                if (best && !(p.x < best->at.x - 1e-3 || (p.x < best->at.x + 1e-3 && p.y < best->at.y)))
                    continue;
                const Corner corner = cornerOf(loop, i);
                const bool isDead = std::any_of(state.dead.begin(), state.dead.end(),
                                                [&](Point dead) { return distance(dead, p) < 0.01; });
                if (corner.inside < pi - 1e-3 && !isDead)
                    best = corner;
            }
        return best;
    }

    void findCandidates(State& state, std::size_t number, std::vector<Candidate>& candidates,
                        const std::function<bool()>& isOver) {
        const std::size_t before = candidates.size();
        for (int given = 0; given < mostDead && candidates.size() == before && !isOver(); ++given) {
            const std::optional<Corner> corner = foremost(state);
            if (!corner)
                return;
            findCandidatesAt(state, exact(state, *corner), candidates);
            if (candidates.size() == before)
                state.dead.push_back(corner->at);
        }
        for (std::size_t i = before; i < candidates.size(); ++i)
            candidates[i].state = number;
    }

    void findCandidatesAt(const State& state, const Corner& corner, std::vector<Candidate>& candidates) {
        const std::vector<WallSide> sides = sidesOf(state.room.loops);
        for (std::size_t item = 0; item < ground_.items.size(); ++item) {
            if (state.left[item] == 0)
                continue;
            for (const Corner& own : corners_[item]) {
                if (own.inside > corner.inside + alongAngle)
                    continue;
                if (ground_.items[item].turnsFreely) {
                    offer(state, sides, corner, item, own, corner.out - own.out, candidates);
                    if (corner.inside - own.inside > alongAngle)
                        offer(state, sides, corner, item, own, corner.in - own.in, candidates);
                } else {
                    for (const double turn : ground_.items[item].turns)
                        offer(state, sides, corner, item, own, turn, candidates);
                }
            }
        }
    }

    void offer(const State& state, const std::vector<WallSide>& sides, const Corner& corner, std::size_t item,
               const Corner& own, double turn, std::vector<Candidate>& candidates) {
        // Within the corner: its one side turned on from the corner's, the other not beyond.
        const double from = std::remainder(own.out + turn - corner.out, 2 * pi);
        if (from < -alongAngle || from + own.inside > corner.inside + alongAngle)
            return;
        const double c = std::cos(turn), s = std::sin(turn);
        const Point turned{c * own.at.x - s * own.at.y, s * own.at.x + c * own.at.y};
        const Piece piece{item, {corner.at.x - turned.x, corner.at.y - turned.y, turn, false}};
        Placed& here = probes_[item];
        here.place(piece.pose);
        if (!ground_.room.grownBy(slack).holds(here.box()) || here.box().most.x > inside_.most.x)
            return;
        for (const auto& other : state.placed)
            if (here.touches(*other))
                return;
        const Along along = alongside(sides, piece);
        const double front = state.front + around_[item] - along.all - along.ofFront;
        candidates.push_back({piece, 0, misfitOf(front, state.around + around_[item])});
    }

    /// The length of the piece's outline along those sides, and that of it which is not along the room's own.
    struct Along {
        double all = 0, ofFront = 0;
    };
    Along alongside(const std::vector<WallSide>& sides, const Piece& piece) const {
        const double c = std::cos(piece.pose.rotation), s = std::sin(piece.pose.rotation);
        const auto turned = [&](Point p) { return Point{c * p.x - s * p.y, s * p.x + c * p.y}; };
        Along along;
        for (const WallSide& own : sides_[piece.item]) {
            const Point direction = turned(own.direction);
            const Point a = turned(own.a) + Point{piece.pose.x, piece.pose.y};
            for (const WallSide& side : sides) {
                if (dot(direction, side.direction) < 1 - alongAngle * alongAngle / 2 ||
                    std::abs(cross(direction, side.a - a)) > alongApart)
                    continue;
                const double begin = dot(direction, side.a - a);
                const double length =
                    std::max(0.0, std::min(own.length, begin + side.length) - std::max(0.0, begin));
                along.all += length;
                along.ofFront += isWall(side) ? 0 : length;
            }
        }
        return along;
    }

    State laying(const State& from, const Piece& piece) const {
        State state = from;
        Region taken{ground_.items[piece.item].net};
        const Affine map = toSheet(piece.pose);
        for (Loop& loop : taken.loops)
            for (Point& p : loop)
                p = map(p);
        state.free = differenceSimple(state.free, taken);
        for (WallSide side : sidesOf(taken.loops))
            state.sides.push_back({side.a + side.direction * side.length, side.direction * -1, side.length});
        std::erase_if(state.free.loops, [](const Loop& loop) { return std::abs(signedArea(loop)) < 0.01; });
        state.room = withoutSlivers(state.free, sliver);
        auto placed =
            std::make_shared<Placed>(ground_.items[piece.item].shapes.front().exact, std::vector<Circle>{});
        placed->place(piece.pose);
        state.placed.push_back(std::move(placed));
        state.pieces.push_back(piece);
        --state.left[piece.item];
        state.around += around_[piece.item];
        state.front = 0;
        for (const WallSide& side : sidesOf(state.room.loops))
            state.front += isWall(side) ? 0 : side.length;
        return state;
    }

    /// Along the medium's edge, or at the end of what is in use.
    bool isWall(const WallSide& side) const {
        const Point b = side.a + side.direction * side.length;
        const auto liesAlong = [](double one, double other, double edge) {
            return std::abs(one - edge) < 0.01 && std::abs(other - edge) < 0.01;
        };
        return liesAlong(side.a.y, b.y, inside_.least.y) || liesAlong(side.a.y, b.y, inside_.most.y) ||
               liesAlong(side.a.x, b.x, inside_.most.x);
    }

    Start startOf(const State& state) const {
        Start start;
        start.notPlaced = rows_.notPlaced;
        start.isDense = true;
        double most = ground_.room.least.x;
        const std::size_t obstacles = state.placed.size() - state.pieces.size();
        for (std::size_t i = 0; i < state.pieces.size(); ++i) {
            start.copies.push_back(state.pieces[i].item);
            start.spots.at.push_back({0, state.pieces[i].pose});
            most = std::max(most, state.placed[obstacles + i]->box().most.x);
        }
        start.spots.length = most - ground_.room.least.x;
        return start;
    }

    const Ground& ground_;
    const Start& rows_;
    Box inside_;
    std::vector<std::vector<Corner>> corners_; // of each item
    std::vector<std::vector<WallSide>> sides_;
    std::vector<double> around_;
    std::vector<Placed> probes_;
    bool isHopeless_ = false;
};

/// So that looking along all their sides takes no time to speak of.
bool areSimple(const std::vector<Item>& items) {
    std::size_t all = 0;
    for (const Item& item : items) {
        std::size_t own = 0;
        for (const Loop& loop : item.net)
            own += loop.size();
        if (own > mostCornersOfOne)
            return false;
        all += own;
    }
    return all <= mostCorners;
}

} // namespace

void findSnugStarts(const Ground& ground, const Start& rows, std::uint64_t seed, std::size_t mostWidth,
                    const std::function<bool()>& isOver, const std::function<void(const Start&)>& offer) {
    if (ground.problem.gap > 0 || rows.copies.empty() || rows.copies.size() > mostCopies ||
        !areSimple(ground.items))
        return;
    Snug snug(ground, rows);
    Random random(seed);
    for (std::size_t width = 1; width <= mostWidth && snug.fits() && !isOver() && !snug.isHopeless();
         width = 3 * width + 1)
        if (const std::optional<Start> start = snug.find(width, random, isOver))
            offer(*start);
}

} // namespace hasami::nesting
