#include "geometry/crossings.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace hasami {

namespace {

constexpr double straightWithin = 1e-6; // mm
constexpr double point = 1e-7;          // mm: pieces smaller than this are not looked into

/// A cubic with both its ends.
struct Piece {
    Point a, b, c, d;

    Box hull() const {
        Box box;
        for (const Point p : {a, b, c, d})
            box.add(p);
        return box;
    }

    bool isStraight() const {
        // How far a cubic lies off its chord is at most 3/4 of how far its controls do.
        return std::max(distanceToSegment(b, a, d), distanceToSegment(c, a, d)) <= straightWithin;
    }

    /// It never turns back along its chord, so that it can't meet itself.
    bool runsForth() const {
        const Point chord = d - a;
        return dot(b - a, chord) >= 0 && dot(c - b, chord) >= 0 && dot(d - c, chord) >= 0;
    }

    Piece reversed() const { return {d, c, b, a}; }

    std::pair<Piece, Piece> halves() const {
        const Point ab = between(a, b, 0.5), bc = between(b, c, 0.5), cd = between(c, d, 0.5);
        const Point abc = between(ab, bc, 0.5), bcd = between(bc, cd, 0.5), middle = between(abc, bcd, 0.5);
        return {{a, ab, abc, middle}, {middle, bcd, cd, d}};
    }
};

bool segmentsMeet(Point a, Point b, Point c, Point d) {
    const auto side = [](Point from, Point to, Point p) { return cross(to - from, p - from); };
    const double c1 = side(a, b, c), d1 = side(a, b, d), a1 = side(c, d, a), b1 = side(c, d, b);
    if (c1 == 0 && d1 == 0) { // on one line
        Box one, other;
        one.add(a);
        one.add(b);
        other.add(c);
        other.add(d);
        return one.meets(other);
    }
    // Zero counts as positive, so that a way through a corner is one crossing.
    return (c1 >= 0) != (d1 >= 0) && (a1 >= 0) != (b1 >= 0);
}

bool meet(const Piece& one, const Piece& other) {
    const Box a = one.hull(), b = other.hull();
    if (!a.meets(b))
        return false;
    const bool oneIsStraight = one.isStraight(), otherIsStraight = other.isStraight();
    if (oneIsStraight && otherIsStraight)
        return segmentsMeet(one.a, one.d, other.a, other.d);
    const bool splitsOne =
        !oneIsStraight && (otherIsStraight || a.width() + a.height() >= b.width() + b.height());
    const auto [first, second] = (splitsOne ? one : other).halves();
    return splitsOne ? meet(first, other) || meet(second, other) : meet(one, first) || meet(one, second);
}

/// Whether a piece and the one that goes on from its end meet anywhere else.
bool meetBeyondJoint(const Piece& before, const Piece& behind) {
    const Point joint = before.d;
    const auto isBehind = [&](Point way) {
        return length(way) > 0.01 && dot(before.a - joint, way) <= 0 && dot(before.b - joint, way) <= 0 &&
               dot(before.c - joint, way) <= 0 && dot(behind.b - joint, way) >= 0 &&
               dot(behind.c - joint, way) >= 0 && dot(behind.d - joint, way) >= 0;
    };
    const double reach = distance(before.a, joint) + distance(joint, behind.d);
    if (reach < point || isBehind(unit(joint - before.a) + unit(behind.d - joint)) ||
        isBehind(unit(joint - before.c) + unit(behind.b - joint)))
        return false;
    if (before.isStraight() && behind.isStraight()) {
        // Two straight ones from one joint: only back along each other.
        const Point in = before.a - joint, out = behind.d - joint;
        return std::abs(cross(in, out)) <= straightWithin * std::min(length(in), length(out)) &&
               dot(in, out) > 0;
    }
    const auto [far, near] = before.halves();
    const auto [next, beyond] = behind.halves();
    return meet(far, behind) || meet(near, beyond) || meetBeyondJoint(near, next);
}

/// Whether two pieces meet elsewhere than in the ends that they share.
bool meetBeyondEnds(const Piece& one, Piece other) {
    if (one.a == other.a || one.d == other.d)
        other = other.reversed();
    const bool goesOn = one.d == other.a, comesFrom = other.d == one.a;
    if (goesOn && comesFrom) {
        const auto [first, second] = one.halves();
        const auto [third, last] = other.halves();
        return meet(first, third) || meet(second, last) || meetBeyondJoint(second, third) ||
               meetBeyondJoint(last, first);
    }
    if (goesOn)
        return meetBeyondJoint(one, other);
    return comesFrom ? meetBeyondJoint(other, one) : meet(one, other);
}

bool meetsItself(const Piece& piece) {
    if (piece.runsForth() ||
        distance(piece.a, piece.b) + distance(piece.b, piece.c) + distance(piece.c, piece.d) < point)
        return false;
    const auto [first, second] = piece.halves();
    return meetsItself(first) || meetsItself(second) || meetBeyondJoint(first, second);
}

struct Placed {
    Piece piece;
    Box hull;
    PieceOfCurve place;
};

std::vector<Placed> piecesOf(std::span<const Curve> curves) {
    std::vector<Placed> pieces;
    for (std::size_t i = 0; i < curves.size(); ++i) {
        Point from = curves[i].start;
        for (std::size_t k = 0; k < curves[i].segments.size(); ++k) {
            const CurveSegment& s = curves[i].segments[k];
            const Piece piece{from, s.control1, s.control2, s.end};
            pieces.push_back({piece, piece.hull(), {i, k}});
            from = s.end;
        }
    }
    return pieces;
}

/// Pieces that follow each other, and those of two curves that end in one point, may meet there.
bool crossEachOther(const Placed& one, const Placed& other, std::span<const Curve> curves) {
    if (one.place.curve == other.place.curve) {
        const std::size_t count = curves[one.place.curve].segments.size();
        const bool areNeighbours = (one.place.segment + 1) % count == other.place.segment ||
                                   (other.place.segment + 1) % count == one.place.segment;
        if (!areNeighbours)
            return meet(one.piece, other.piece);
    }
    return meetBeyondEnds(one.piece, other.piece);
}

/// The pieces that a sweep to the right has met and not left behind, in strips across it, so that a piece is
/// compared with those near it alone.
class OpenPieces {
public:
    explicit OpenPieces(const std::vector<Placed>& pieces) {
        for (const Placed& piece : pieces)
            whole_.add(piece.hull);
        strips_.resize(1 + std::size_t(std::sqrt(double(pieces.size()))));
    }

    /// Calls `found(other)` once for each open piece whose hull meets this one's, then opens this one.
    void meet(const Placed& piece, const auto& found) {
        const std::size_t first = stripOf(piece.hull.least.y), last = stripOf(piece.hull.most.y);
        for (std::size_t i = first; i <= last; ++i) {
            std::vector<const Placed*>& strip = strips_[i];
            std::erase_if(strip,
                          [&](const Placed* other) { return other->hull.most.x < piece.hull.least.x; });
            for (const Placed* other : strip)
                // Once: in the first strip that both lie in.
                if (other->hull.meets(piece.hull) && i == std::max(first, stripOf(other->hull.least.y)))
                    found(*other);
            strip.push_back(&piece);
        }
    }

private:
    std::size_t stripOf(double y) const {
        const double share = whole_.height() > 0 ? (y - whole_.least.y) / whole_.height() : 0;
        return std::min(std::size_t(share * double(strips_.size())), strips_.size() - 1);
    }

    Box whole_;
    std::vector<std::vector<const Placed*>> strips_;
};

} // namespace

std::vector<Crossing> crossingsOf(std::span<const Curve> curves) {
    std::vector<Placed> pieces = piecesOf(curves);
    std::sort(pieces.begin(), pieces.end(),
              [](const Placed& a, const Placed& b) { return a.hull.least.x < b.hull.least.x; });
    std::vector<Crossing> crossings;
    OpenPieces open(pieces);
    for (const Placed& piece : pieces) {
        if (meetsItself(piece.piece))
            crossings.push_back({piece.place, piece.place});
        open.meet(piece, [&](const Placed& other) {
            if (crossEachOther(other, piece, curves))
                crossings.push_back({other.place, piece.place});
        });
    }
    return crossings;
}

} // namespace hasami
