#include "nesting/lattice/weaver.h"

#include "nesting/shape/placed.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace hasami::nesting {

namespace {

using std::numbers::pi;
constexpr int cellsOfPitch = 64; // steps of its pitch at which a row's rim is known

/// How far a shape reaches along x at each height, in cells of y.
struct Rim {
    double least = 1e300, most = -1e300; // y
    std::vector<double> front, back; // largest and least x, each for a cell of the pitch, all parts of a row
};

bool isUneven(const Pattern& p) {
    return p.isDouble || p.shift[0] != p.shift[1] || p.step[0] != p.step[1];
}

double areaOf(const Pattern& p) {
    return p.pitch * (p.step[0] + p.step[1]);
}

template <class Do>
void eachSide(const Shape& shape, double turn, Do act) {
    const double c = std::cos(turn), s = std::sin(turn);
    const auto turned = [&](Point p) { return Point{c * p.x - s * p.y, s * p.x + c * p.y}; };
    for (const Loop& loop : shape.loops)
        for (std::size_t i = 0; i < loop.size(); ++i)
            act(turned(loop[i]), turned(loop[(i + 1) % loop.size()]));
}

/// Tells the range of x that a side has in each cell of y; cells wrap where `wraps`.
template <class Do>
void spread(Point a, Point b, double from, double cell, int cells, bool wraps, Do act) {
    if (a.y > b.y)
        std::swap(a, b);
    const int first = int(std::floor((a.y - from) / cell)), last = int(std::floor((b.y - from) / cell));
    const auto xAt = [&](double y) {
        return b.y > a.y ? a.x + (b.x - a.x) * std::clamp((y - a.y) / (b.y - a.y), 0.0, 1.0) : a.x;
    };
    for (int i = first; i <= last; ++i) {
        const double x0 = i == first ? a.x : xAt(from + i * cell),
                     x1 = i == last ? b.x : xAt(from + (i + 1) * cell);
        const int index = wraps ? ((i % cells) + cells) % cells : std::clamp(i, 0, cells - 1);
        const double low = b.y > a.y ? std::min(x0, x1) : std::min(a.x, b.x);
        const double high = b.y > a.y ? std::max(x0, x1) : std::max(a.x, b.x);
        act(index, low, high);
    }
}

Rim rimOf(const Shape& shape, double turn, double pitch) {
    Rim rim;
    rim.front.assign(cellsOfPitch, -1e300);
    rim.back.assign(cellsOfPitch, 1e300);
    const double cell = pitch / cellsOfPitch;
    eachSide(shape, turn, [&](Point a, Point b) {
        rim.least = std::min(rim.least, a.y);
        rim.most = std::max(rim.most, a.y);
        spread(a, b, 0, cell, cellsOfPitch, true, [&](int i, double low, double high) {
            rim.front[std::size_t(i)] = std::max(rim.front[std::size_t(i)], high);
            rim.back[std::size_t(i)] = std::min(rim.back[std::size_t(i)], low);
        });
    });
    return rim;
}

/// For each shift, in cells, how far a row must lie behind another one.
std::vector<double> stepsBehind(const Rim& before, const Rim& behind) {
    std::vector<double> steps(cellsOfPitch, 0);
    for (std::size_t shift = 0; shift < cellsOfPitch; ++shift)
        for (std::size_t i = 0; i < cellsOfPitch; ++i)
            steps[shift] = std::max(steps[shift], before.front[(i + shift) % cellsOfPitch] - behind.back[i]);
    return steps;
}

} // namespace

std::vector<double> turnsToTry(const Item& item, double whole) {
    std::vector<double> turns = item.turns;
    constexpr double degrees = pi / 180, step = 3 * degrees;
    const int count = int(std::lround(whole / step));
    for (int i = 0; item.turnsFreely && i < count; ++i)
        turns.push_back(i * 37 % count * step);
    return turns;
}

double Weaver::leastPitch(double turn) const {
    // In cells of x, how high the shape is from its lowest to its highest point.
    constexpr int cells = 96;
    const Box box = turnedBox(shape_, turn);
    const double cell = box.width() / cells;
    std::vector<double> low(cells, 1e300), high(cells, -1e300);
    eachSide(shape_, turn, [&](Point a, Point b) {
        // Cells along x in place of y.
        spread({a.y, a.x}, {b.y, b.x}, box.least.x, cell, cells, false, [&](int i, double from, double to) {
            low[std::size_t(i)] = std::min(low[std::size_t(i)], from);
            high[std::size_t(i)] = std::max(high[std::size_t(i)], to);
        });
    });
    double most = 0;
    for (std::size_t i = 0; i < cells; ++i)
        most = std::max(most, high[i] - low[i]);
    // That is too much where sides run along the row: as close as the shapes themselves allow.
    Placed one(shape_), other(shape_);
    one.turn(turn);
    one.moveTo({});
    other.turn(turn);
    const auto isFreeAt = [&](double pitch) {
        other.moveTo({0, pitch});
        return !one.polesMeet(other) && !one.touches(other);
    };
    double free = most * (1 + 1e-6), near = free;
    while (near > most * 0.5 && isFreeAt(near)) {
        free = near;
        near *= 0.98;
    }
    while (free - near > 1e-4 * most) {
        const double middle = (free + near) / 2;
        (isFreeAt(middle) ? free : near) = middle;
    }
    return free;
}

void Weaver::gather(double turn, bool mayBeDouble, bool isLengthwise,
                    std::vector<std::pair<double, Pattern>>& all, const std::function<bool()>& isOver) const {
    const Box box = turnedBox(shape_, turn);
    const double roomAlongRow = isLengthwise ? along_ : across_;
    const double least = leastPitch(turn);
    if (!isLengthwise && box.height() > roomAlongRow)
        return;
    std::vector<double> pitches;
    for (const double factor : {1.0, 1.05, 1.1, 1.2, 1.35, 1.5, 1.75, 2.0})
        pitches.push_back(least * factor);
    if (!isLengthwise) // so that a row fills the medium
        for (int count = int(std::min(1e6, (roomAlongRow - box.height()) / least)); count >= 1; --count) {
            const double pitch = (roomAlongRow - box.height()) / count;
            if (pitch > least * 2.2)
                break;
            pitches.push_back(pitch * (1 - 1e-9));
        }
    for (const double pitch : pitches)
        for (const bool isDouble : {false, true})
            if ((!isDouble || mayBeDouble) && !isOver())
                weave({turn, isDouble, isLengthwise, pitch, {0, 0}, {0, 0}, 0}, all);
}

bool Weaver::isFree(const Pattern& pattern) const {
    Placed first(shape_), second(shape_);
    const double frame = pattern.isLengthwise ? -pi / 2 : 0;
    first.turn(pattern.turn + frame);
    second.turn(pattern.turn + frame);
    Placed firstHalf = first, secondHalf = second;
    if (pattern.isDouble) {
        firstHalf.turn(pattern.turn + frame + pi);
        secondHalf.turn(pattern.turn + frame + pi);
    }
    const int reach = std::max(1, int(std::ceil(2 * shape_.radius / pattern.pitch)));
    const int rowsReach = std::max(
        1, int(std::ceil(4 * shape_.radius / std::max(1e-9, pattern.step[0] + pattern.step[1]))) + 1);
    if (reach > 60 || rowsReach > 60)
        return false;
    for (const int parity : {0, 1}) {
        if (parity == 1 && !isUneven(pattern))
            break;
        Placed& here = pattern.isDouble && parity == 1 ? firstHalf : first;
        here.moveTo({});
        Point row{};
        for (int k = 0; k <= rowsReach; ++k) {
            Placed& there = pattern.isDouble && (parity + k) % 2 == 1 ? secondHalf : second;
            for (int i = -reach - 1; i <= reach + 1; ++i) {
                if (k == 0 && i <= 0)
                    continue;
                const double nearest = std::round(-row.y / pattern.pitch);
                const Point at{row.x, row.y + (k == 0 ? i : nearest + i) * pattern.pitch};
                if (length(at) > 2 * shape_.radius)
                    continue;
                there.moveTo(pattern.isLengthwise ? Point{at.y, -at.x} : at);
                if (here.polesMeet(there) || here.touches(there))
                    return false;
            }
            row = row + Point{pattern.step[(parity + k) % 2], pattern.shift[(parity + k) % 2]};
        }
    }
    return true;
}

Pattern Weaver::descend(Pattern pattern, bool turnsFreely, Random& random, int tries,
                        const std::function<bool()>& isOver) const {
    double now = yieldOf(pattern, false).length, size = 0.02;
    double area = areaOf(pattern);
    int idle = 0;
    for (int i = 0; i < tries && !isOver(); ++i) {
        Pattern other = pattern;
        const double reach = size * pattern.pitch;
        const std::size_t which = random.below(2);
        const auto both = [&](double* values, double by) {
            values[which] += by;
            if (!pattern.isDouble)
                values[1 - which] = values[0] == values[1] ? values[which] : values[1 - which];
        };
        switch (random.below(6)) {
        case 0:
            both(other.step, -reach * random.unit());
            break;
        case 1:
            other.pitch -= reach * random.bell() * 0.5;
            both(other.step, reach * random.bell() * 0.5);
            break;
        case 2:
            both(other.shift, reach * random.bell());
            both(other.step, -reach * random.unit() * 0.5);
            break;
        case 3:
            if (turnsFreely)
                other.turn += size * 0.5 * random.bell();
            both(other.step, -reach * random.unit() * 0.5);
            break;
        case 4:
            other.origin += reach * 4 * random.bell();
            break;
        default:
            if (turnsFreely)
                other.turn += size * 0.5 * random.bell();
            other.pitch -= reach * random.unit() * 0.5;
            both(other.shift, reach * random.bell());
        }
        if (other.pitch <= 0 || other.step[0] < 0 || other.step[1] < 0)
            continue;
        const double there = yieldOf(other, false).length, areaThere = areaOf(other);
        const bool isBetter = there < now - 1e-9 || (there <= now && areaThere < area);
        if (isBetter && isFree(other)) {
            pattern = other;
            now = there;
            area = areaThere;
            idle = 0;
            size = std::min(0.05, size * 1.2);
        } else if (++idle > 30) {
            size = std::max(1e-5, size * 0.7);
            idle = 0;
        }
    }
    return pattern;
}

void Weaver::weave(Pattern pattern, std::vector<std::pair<double, Pattern>>& all) const {
    const double cell = pattern.pitch / cellsOfPitch;
    const Rim one = rimOf(shape_, pattern.turn, pattern.pitch);
    const std::vector<double> alike = stepsBehind(one, one);
    const auto offer = [&](Pattern p) {
        for (const double start : {0.0, 0.5}) {
            p.origin = start * p.pitch;
            const double length = yieldOf(p, false).length;
            if (length < 1e299)
                all.emplace_back(length, p);
        }
    };
    if (!pattern.isDouble) {
        for (std::size_t shift = 0; shift < cellsOfPitch; shift += 2) {
            Pattern p = pattern;
            p.step[0] = p.step[1] = alike[shift];
            p.shift[0] = p.shift[1] = double(shift) * cell;
            // Rows two apart may be closer than that lets them.
            if (alike[(2 * shift) % cellsOfPitch] > 2 * alike[shift])
                continue;
            offer(p);
            const std::size_t back = (cellsOfPitch - shift) % cellsOfPitch;
            p.step[1] = alike[back]; // to and fro
            p.shift[1] = -p.shift[0];
            if (alike[0] <= p.step[0] + p.step[1])
                offer(p);
        }
        return;
    }
    const Rim other = rimOf(shape_, pattern.turn + pi, pattern.pitch);
    const std::vector<double> there = stepsBehind(one, other), back = stepsBehind(other, one);
    const std::size_t first = std::size_t(std::min_element(there.begin(), there.end()) - there.begin());
    for (std::size_t s0 = 0; s0 < cellsOfPitch; s0 += 2) {
        if (there[s0] > there[first] * 1.15 + 0.02 * pattern.pitch)
            continue;
        double best = 1e300;
        std::size_t chosen = 0;
        for (std::size_t s1 = 0; s1 < cellsOfPitch; ++s1) {
            const double both = std::max(there[s0] + back[s1], alike[(s0 + s1) % cellsOfPitch]);
            if (both < best) {
                best = both;
                chosen = s1;
            }
        }
        // And the way straight back, where rows stay in place across.
        for (const std::size_t s1 : {chosen, (cellsOfPitch - s0) % cellsOfPitch}) {
            Pattern p = pattern;
            p.shift[0] = double(s0) * cell;
            p.shift[1] = s1 == (cellsOfPitch - s0) % cellsOfPitch ? -p.shift[0] : double(s1) * cell;
            p.step[0] = there[s0];
            p.step[1] = std::max(there[s0] + back[s1], alike[(s0 + s1) % cellsOfPitch]) - p.step[0];
            offer(p);
        }
    }
}

Yield Weaver::yieldOf(const Pattern& pattern, bool wantsPoses) const {
    Yield yield;
    const Box even = turnedBox(shape_, pattern.turn),
              odd{{-even.most.x, -even.most.y}, {-even.least.x, -even.least.y}};
    struct Part {
        double reach;
        Pose pose;
    };
    thread_local std::vector<Part> parts;
    parts.clear();
    const double rowsRoom = pattern.isLengthwise ? across_ : along_,
                 rowRoom = pattern.isLengthwise ? along_ : across_;
    Point row{0, pattern.origin - even.least.y};
    // The first row begins at the room's edge; the second may reach farther back, and then moves all.
    const Box& second = pattern.isDouble ? odd : even;
    row.x = std::max(-even.least.x, -second.least.x - pattern.step[0]);
    std::size_t rowsLeft = pattern.isLengthwise ? 10'000 : std::size_t(-1);
    const std::size_t rowsAcross =
        pattern.isLengthwise
            ? std::size_t(2 * (rowsRoom / std::max(1e-9, pattern.step[0] + pattern.step[1])) + 3)
            : 0;
    if (pattern.isLengthwise && rowsAcross > 5000)
        return yield;
    std::size_t fullBefore = 0;
    for (std::size_t k = 0; rowsLeft-- > 0; ++k) {
        const Box& box = pattern.isDouble && k % 2 == 1 ? odd : even;
        if (row.x + box.most.x > rowsRoom)
            break;
        double y = -box.least.y +
                   std::fmod(std::fmod(row.y + box.least.y, pattern.pitch) + pattern.pitch, pattern.pitch);
        const double turn = pattern.turn + (pattern.isDouble && k % 2 == 1 ? pi : 0);
        const std::size_t most =
            pattern.isLengthwise ? copies_ / std::max<std::size_t>(1, rowsAcross / 2) * 3 + 8 : copies_;
        std::size_t inRow = 0;
        for (; y + box.most.y <= rowRoom && inRow < most; y += pattern.pitch, ++inRow) {
            if (pattern.isLengthwise) {
                // Turned back by a quarter: rows along x, following each other along −y from the far side.
                parts.push_back({y + box.most.y, {y, across_ - row.x, turn - pi / 2, false}});
            } else {
                parts.push_back({row.x + box.most.x, {row.x, y, turn, false}});
            }
        }
        if (!pattern.isLengthwise) {
            if (parts.size() >= copies_ && ++fullBefore > 1)
                break;
            if (inRow == 0 && k > 1 && parts.size() < k / 4)
                break;
        }
        row = row + Point{pattern.step[k % 2], pattern.shift[k % 2]};
        if (pattern.step[0] + pattern.step[1] <= 0)
            break;
    }
    if (parts.size() < copies_) {
        if (along_ >= 1e299 || parts.empty())
            return yield;
        // Sheets: as many as needed, the last one in part.
        const std::size_t full = copies_ / parts.size(), rest = copies_ % parts.size();
        std::sort(parts.begin(), parts.end(), [](const Part& a, const Part& b) { return a.reach < b.reach; });
        yield.length = double(rest > 0 ? full : full - 1) * along_ +
                       (rest > 0 ? parts[rest - 1].reach : parts.back().reach);
    } else {
        const auto nth = parts.begin() + std::ptrdiff_t(copies_) - 1;
        std::nth_element(parts.begin(), nth, parts.end(),
                         [](const Part& a, const Part& b) { return a.reach < b.reach; });
        yield.length = nth->reach;
    }
    if (wantsPoses) {
        std::sort(parts.begin(), parts.end(), [](const Part& a, const Part& b) { return a.reach < b.reach; });
        for (std::size_t i = 0; i < std::min(parts.size(), copies_); ++i)
            yield.poses.push_back(parts[i].pose);
    }
    return yield;
}

} // namespace hasami::nesting
