#include "base/error.h"
#include "edge/colour.h"
#include "edge/find_edge.h"
#include "edge/line_fits.h"
#include "geometry/fit_loops.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <memory>
#include <optional>
#include <tuple>

namespace hasami {

namespace {

/// The borders between areas of one label, as a planar map. Between the centres of two neighbouring pixels of
/// different labels runs a border; in a cell between four centres those on its sides are joined, two and two,
/// or, where three or four areas meet, all in a junction. From junction to junction (or round in a circle)
/// run the chains, each with an area on either side.
class BorderMap {
public:
    BorderMap(const Grid<Rgba>& pixels, const Grid<std::uint8_t>& labels, std::span<const Rgba> colours,
              const std::stop_token& stop)
        : pixels_(pixels), labels_(labels), colours_(colours), stop_(stop), width_(labels.width() + 1),
          height_(labels.height() + 1) {
        followAll();
    }

    /// Its right side lies in `right`, its left in `left` (x right, y down). In pixels.
    struct Chain {
        std::vector<Point> points;
        std::size_t vague = 0; ///< how many of the points have no true edge to go by
        bool isClosed = false;
        std::uint8_t right = 0, left = 0;
        // Of an open one: where it leaves its first junction, and where it comes to its last.
        std::size_t firstCell = 0, lastCell = 0;
        int firstSide = 0, lastSide = 0;
    };
    const std::vector<Chain>& chains() const { return chains_; }

    /// Chains one after the other around an area, with the area on their right; `true`: run forwards.
    using Round = std::vector<std::pair<std::size_t, bool>>;
    std::vector<Round> rounds() const;

private:
    // A cell (x, y) lies between the centres of the pixels (x - 1, y - 1) and (x, y). Its sides, clockwise on
    // screen from the top; side s runs from corner s to corner s + 1, the top left one being the first.
    struct Step {
        int x, y;
    };
    static constexpr std::array<Step, 4> cornerAt{{{-1, -1}, {0, -1}, {0, 0}, {-1, 0}}};
    static constexpr std::array<Step, 4> beyond{{{0, -1}, {1, 0}, {0, 1}, {-1, 0}}};

    std::uint8_t labelAt(int x, int y) const {
        const bool isInside = x >= 0 && y >= 0 && x < labels_.width() && y < labels_.height();
        return isInside ? labels_.at(x, y) : std::uint8_t{0};
    }
    std::uint8_t corner(int x, int y, int number) const {
        const Step& at = cornerAt[std::size_t(number % 4)];
        return labelAt(x + at.x, y + at.y);
    }
    bool isCrossed(int x, int y, int side) const { return corner(x, y, side) != corner(x, y, side + 1); }
    std::size_t cellNumber(int x, int y) const {
        return std::size_t(y) * std::size_t(width_) + std::size_t(x);
    }

    int crossings(int x, int y) const {
        int count = 0;
        for (int side = 0; side < 4; ++side)
            count += isCrossed(x, y, side);
        return count;
    }

    /// Whether three or four areas meet there.
    bool isJunction(int x, int y) const {
        const int count = crossings(x, y);
        return count == 3 ||
               (count == 4 && corner(x, y, 0) != corner(x, y, 2) && corner(x, y, 1) != corner(x, y, 3));
    }

    /// The side that a border which comes in through `side` goes out by. REQUIRES: no junction.
    int exitFrom(int x, int y, int side) const {
        if (crossings(x, y) == 2) {
            for (int other = 0; other < 4; ++other)
                if (other != side && isCrossed(x, y, other))
                    return other;
        }
        // Four crossings: the corners that are alike hang together; both pairs alike: the top left one's
        // does.
        const bool joinsFirst = corner(x, y, 0) == corner(x, y, 2);
        constexpr std::array aroundOdd{1, 0, 3, 2};  // sides 0 and 1 around corner 1, 2 and 3 around corner 3
        constexpr std::array aroundEven{3, 2, 1, 0}; // sides 3 and 0 around corner 0, 1 and 2 around corner 2
        return joinsFirst ? aroundOdd[std::size_t(side)] : aroundEven[std::size_t(side)];
    }

    struct Crossing {
        Point place;
        bool isVague = false;
    };
    Crossing crossing(int x, int y, int side) const;
    Point junctionPoint(int x, int y) const;
    std::optional<double> partOf(int x, int y, int nextX, int nextY) const;

    bool& seen(int x, int y, int side) {
        // Each crossing is the side of two cells: kept at the one to the right or below.
        if (side == 1)
            return seen(x + 1, y, 3);
        if (side == 2)
            return seen(x, y + 1, 0);
        return (side == 0 ? seenTop_ : seenLeft_)[cellNumber(x, y)];
    }

    void followAll();
    void follow(int x, int y, int side, bool fromJunction);

    const Grid<Rgba>& pixels_;
    const Grid<std::uint8_t>& labels_;
    std::span<const Rgba> colours_;
    const std::stop_token& stop_;
    int width_, height_; // of the cells
    std::unique_ptr<bool[]> seenTop_, seenLeft_;
    std::vector<Chain> chains_;
};

/// How far from one pixel's centre to the next the border runs: where what is of the second makes up half.
/// Nothing where colours pass into each other.
std::optional<double> BorderMap::partOf(int x, int y, int nextX, int nextY) const {
    const auto isInside = [&](int px, int py) {
        return px >= 0 && py >= 0 && px < labels_.width() && py < labels_.height();
    };
    if (!isInside(x, y) || !isInside(nextX, nextY))
        return 0.5; // the picture's own rim
    const Rgba p = pixels_.at(x, y), q = pixels_.at(nextX, nextY);
    constexpr double least = 0.02;
    if (std::abs(p.coverage - q.coverage) > 16)
        return std::clamp((p.coverage - 127.5) / (double(p.coverage) - q.coverage), least, 1 - least);
    // The colours of both sides, a little away from the border where those are still of the same area.
    const auto sideColour = [&](int px, int py, int dx, int dy, std::uint8_t label) {
        for (const int away : {3, 2})
            if (isInside(px + away * dx, py + away * dy) &&
                labels_.at(px + away * dx, py + away * dy) == label)
                return Colour(pixels_.at(px + away * dx, py + away * dy));
        return Colour(colours_[label]);
    };
    const int dx = nextX - x, dy = nextY - y;
    const Colour from = sideColour(x, y, -dx, -dy, labels_.at(x, y));
    const Colour axis = sideColour(nextX, nextY, dx, dy, labels_.at(nextX, nextY)) - from;
    const double whole = dot(axis, axis);
    constexpr float leastStep = 24; // levels
    if (whole < leastStep * leastStep)
        return {};
    const double atP = dot(Colour(p) - from, axis) / whole, atQ = dot(Colour(q) - from, axis) / whole;
    if (atQ - atP < 0.05)
        return {};
    return std::clamp((0.5 - atP) / (atQ - atP), least, 1 - least);
}

BorderMap::Crossing BorderMap::crossing(int x, int y, int side) const {
    if (side == 1)
        return crossing(x + 1, y, 3);
    if (side == 2)
        return crossing(x, y + 1, 0);
    const Step a = cornerAt[0], b = cornerAt[side == 0 ? 1 : 3];
    const Point from{x + a.x + 0.5, y + a.y + 0.5}, to{x + b.x + 0.5, y + b.y + 0.5};
    const auto part = partOf(x + a.x, y + a.y, x + b.x, y + b.y);
    return {between(from, to, part.value_or(0.5)), !part};
}

Point BorderMap::junctionPoint(int x, int y) const {
    Point sum;
    int count = 0;
    for (int side = 0; side < 4; ++side)
        if (isCrossed(x, y, side)) {
            sum = sum + crossing(x, y, side).place;
            ++count;
        }
    return sum * (1.0 / count);
}

/// From a cell out through a side, up to the next junction or round to the same crossing.
void BorderMap::follow(int x, int y, int side, bool fromJunction) {
    Chain chain;
    chain.isClosed = !fromJunction;
    chain.firstCell = cellNumber(x, y);
    chain.firstSide = side;
    // Going out through a side, its first corner lies on the left, its second on the right.
    chain.left = corner(x, y, side);
    chain.right = corner(x, y, side + 1);
    if (fromJunction)
        chain.points.push_back(junctionPoint(x, y));
    while (!seen(x, y, side)) {
        seen(x, y, side) = true;
        const auto [place, isVague] = crossing(x, y, side);
        chain.points.push_back(place);
        chain.vague += isVague;
        x += beyond[std::size_t(side)].x;
        y += beyond[std::size_t(side)].y;
        const int entered = (side + 2) % 4;
        if (isJunction(x, y)) {
            chain.points.push_back(junctionPoint(x, y));
            chain.lastCell = cellNumber(x, y);
            chain.lastSide = entered;
            break;
        }
        side = exitFrom(x, y, entered);
    }
    chains_.push_back(std::move(chain));
}

void BorderMap::followAll() {
    const std::size_t all = std::size_t(width_ + 1) * std::size_t(height_ + 1);
    seenTop_ = std::make_unique<bool[]>(all);
    seenLeft_ = std::make_unique<bool[]>(all);
    for (const bool junctions : {true, false})
        for (int y = 0; y < height_; ++y) {
            throwIfStopped(stop_);
            for (int x = 0; x < width_; ++x) {
                if (crossings(x, y) == 0 || isJunction(x, y) != junctions)
                    continue;
                for (int side = 0; side < 4; ++side)
                    if (isCrossed(x, y, side) && !seen(x, y, side))
                        follow(x, y, side, junctions);
            }
        }
}

std::vector<BorderMap::Round> BorderMap::rounds() const {
    // Where each chain end is: by cell and side. `true`: it leaves from there when run forwards.
    std::map<std::pair<std::size_t, int>, std::pair<std::size_t, bool>> ends;
    for (std::size_t i = 0; i < chains_.size(); ++i)
        if (!chains_[i].isClosed) {
            ends[{chains_[i].firstCell, chains_[i].firstSide}] = {i, true};
            ends[{chains_[i].lastCell, chains_[i].lastSide}] = {i, false};
        }
    std::vector<Round> found;
    std::vector<std::array<bool, 2>> done(chains_.size(), {false, false});
    for (std::size_t i = 0; i < chains_.size(); ++i)
        for (const bool forwards : {true, false}) {
            if (done[i][forwards] || (forwards ? chains_[i].right : chains_[i].left) == 0)
                continue;
            Round round;
            std::size_t chain = i;
            bool direction = forwards;
            while (!done[chain][direction]) {
                done[chain][direction] = true;
                round.emplace_back(chain, direction);
                const Chain& c = chains_[chain];
                if (c.isClosed)
                    break;
                // Into the junction through `side`, the area on the right: it holds the side's first corner.
                // Around it, corner by corner, to the next crossed side.
                const std::size_t cell = direction ? c.lastCell : c.firstCell;
                const int side = direction ? c.lastSide : c.firstSide;
                const int x = int(cell % std::size_t(width_)), y = int(cell / std::size_t(width_));
                int out = (side + 3) % 4;
                while (!isCrossed(x, y, out))
                    out = (out + 3) % 4;
                std::tie(chain, direction) = ends.at({cell, out});
            }
            found.push_back(std::move(round));
        }
    return found;
}

/// The chains' curves in mm, from each one's first point.
std::vector<Curve> fitted(std::span<const BorderMap::Chain> chains, const Item& item,
                          const EdgeOptions& options, const std::stop_token& stop) {
    constexpr double scatterOfColours = 0.08, scatterOfGradients = 0.6; // pixels
    const Affine toMillimetres = item.fromPixels();
    const double pixel = std::max(item.place.width / item.pixelWidth, item.place.height / item.pixelHeight);
    std::vector<Loop> placed;
    std::vector<FoundLine> lines;
    std::vector<Chain> borders;
    for (const BorderMap::Chain& chain : chains) {
        Loop& points = placed.emplace_back();
        points.reserve(chain.points.size());
        for (const Point p : chain.points)
            points.push_back(toMillimetres(p));
        const bool isVague = chain.vague * 3 > chain.points.size();
        lines.push_back({points, chain.isClosed, isVague ? scatterOfGradients : scatterOfColours, 1});
        borders.push_back({points, chain.isClosed});
    }
    return fitChains(borders, fitsFor(lines, pixel, fitTolerance(item, options), options), stop);
}

void add(Curve& curve, const Curve& chain, bool forwards) {
    const Curve way = forwards ? chain : reversed(chain);
    if (curve.segments.empty())
        curve.start = way.start;
    curve.segments.insert(curve.segments.end(), way.segments.begin(), way.segments.end());
}

} // namespace

std::vector<EdgeLoop> findColourLoops(const Item& item, const Grid<Rgba>& pixels,
                                      const ColourRegions& regions, const EdgeOptions& options,
                                      const std::stop_token& stop) {
    const double ofPixel = item.place.width / item.pixelWidth * item.place.height / item.pixelHeight;
    Grid<std::uint8_t> labels = regions.labels;
    mergeSpecks(labels, options.leastSpeck / ofPixel, stop);
    const BorderMap map(pixels, labels, regions.colours, stop);
    const std::vector<Curve> chains = fitted(map.chains(), item, options, stop);
    std::vector<EdgeLoop> loops;
    for (const BorderMap::Round& round : map.rounds()) {
        EdgeLoop loop;
        for (const auto& [chain, forwards] : round)
            if (!chains[chain].segments.empty())
                add(loop.curve, chains[chain], forwards);
        if (loop.curve.segments.empty())
            continue;
        const auto& [first, forwards] = round.front();
        const BorderMap::Chain& chain = map.chains()[first];
        loop.colour = regions.colours[forwards ? chain.right : chain.left];
        const Loop flat = flatten(loop.curve, flatteningTolerance);
        loop.facts = {signedArea(flat), bounds(flat), 0};
        loop.facts.depth = loop.facts.area < 0 ? 1 : 0;
        loops.push_back(std::move(loop));
    }
    std::stable_sort(loops.begin(), loops.end(), [](const EdgeLoop& a, const EdgeLoop& b) {
        return std::abs(a.facts.area) > std::abs(b.facts.area);
    });
    return loops;
}

} // namespace hasami
