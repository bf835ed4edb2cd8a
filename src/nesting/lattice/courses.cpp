#include "nesting/lattice/courses.h"

#include "nesting/shape/placed.h"
#include "nesting/shape/wide.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace hasami::nesting {

namespace {

using std::numbers::pi;
constexpr double cell = 0.3; // mm along a course, between the points of its rim
constexpr float none = 1e9F;
constexpr std::size_t lookBack = 3;     // courses that the next one may meet
constexpr double mostTransitions = 1e8; // from course to course for each number of copies: some 0.2 s

/// Parts side by side; in the frame of courses these run along y and follow each other along x.
struct Course {
    double turn = 0, pitch = 0;
    double offset = 0; ///< of the first part's box from the edge
    std::size_t count = 0;

    Box box;                        ///< of one part that is turned so
    std::vector<float> front, back; ///< how far it reaches at the middle of each cell

    Pose poseAt(double x, std::size_t k) const {
        return {x, offset - box.least.y + double(k) * pitch, turn, false};
    }
};

/// Wherever they begin.
using LooseLanes = float __attribute__((vector_size(32), aligned(4)));

/// How far behind another course one must lie. As many cells as a multiple of `lanes`.
HASAMI_WIDE float stepBehind(const Course& before, const Course& behind) {
    Lanes most{};
    for (std::size_t i = 0; i < before.front.size(); i += lanes) {
        const Lanes apart = *reinterpret_cast<const LooseLanes*>(&before.front[i]) -
                            *reinterpret_cast<const LooseLanes*>(&behind.back[i]);
        most = apart > most ? apart : most;
    }
    float step = 0;
    for (std::size_t i = 0; i < lanes; ++i)
        step = std::max(step, most[i]);
    return step;
}

/// Courses in a room so wide, and the order in which they reach least far.
class Mason {
public:
    Mason(const Shape& shape, std::size_t copies, double room)
        : shape_(shape), copies_(copies), room_(room),
          cells_(std::size_t(std::clamp(room / cell, 100.0, 10'000.0)) / lanes * lanes),
          cell_(room / double(cells_)),
          mostCourses_(std::size_t(std::sqrt(mostTransitions / double(copies)))) {}

    /// The rows of a pattern as they follow each other.
    void addRows(const Pattern& pattern);
    /// As many at this pitch as there is room for: at either edge, and amid.
    void addFull(double turn, double pitch);

    std::size_t size() const { return courses_.size(); }
    std::size_t mostCourses() const { return mostCourses_; }

    /// Nothing where they don't hold all copies, or it is over.
    std::vector<Course> bestOrder(const std::function<bool()>& isOver) const;

    /// How far they reach, and the poses, in the frame of courses; nothing where it is over.
    Yield laid(const std::vector<Course>& order, const std::function<bool()>& isOver) const;

private:
    /// The best way to lay a number of copies with a certain course last.
    struct State {
        float x = none, reach = none;
        std::int32_t before = -1, copiesBefore = 0; // the course before and its number of copies
    };

    void add(double turn, double pitch, double offset, std::size_t count);
    void tellRim(Course& course) const;
    std::vector<State> states(const std::vector<float>& steps, const std::function<bool()>& isOver) const;

    const Shape& shape_;
    std::size_t copies_;
    double room_;
    std::size_t cells_;
    double cell_;
    std::size_t mostCourses_, mostCount_ = 0;
    std::vector<Course> courses_;
};

void Mason::add(double turn, double pitch, double offset, std::size_t count) {
    const bool isKnown = std::any_of(courses_.begin(), courses_.end(), [&](const Course& known) {
        return known.count == count && std::abs(std::remainder(known.turn - turn, 2 * pi)) < 1e-3 &&
               std::abs(known.pitch - pitch) < 1e-3 * pitch && std::abs(known.offset - offset) < 0.01 * pitch;
    });
    if (isKnown || count == 0 || courses_.size() >= mostCourses_)
        return;
    Course course{turn, pitch, offset, count, turnedBox(shape_, turn), {}, {}};
    tellRim(course);
    courses_.push_back(std::move(course));
    mostCount_ = std::max(mostCount_, count);
}

void Mason::addRows(const Pattern& pattern) {
    double y = pattern.origin - turnedBox(shape_, pattern.turn).least.y;
    constexpr int rows = 12;
    for (int k = 0; k < rows; ++k) {
        const double turn = pattern.turn + (pattern.isDouble && k % 2 == 1 ? pi : 0);
        const Box box = turnedBox(shape_, turn);
        constexpr double hair = 1e-9; // what should be 0 is
        const double raw = std::remainder(y + box.least.y, pattern.pitch);
        const double offset = raw < -hair ? raw + pattern.pitch : std::max(0.0, raw);
        if (const double rest = room_ - box.height() - offset; rest >= 0)
            add(turn, pattern.pitch, offset, std::min(copies_, std::size_t(rest / pattern.pitch + hair) + 1));
        y += pattern.shift[k % 2];
    }
}

void Mason::addFull(double turn, double pitch) {
    const double rest = room_ - turnedBox(shape_, turn).height();
    if (rest < 0)
        return;
    const double count = std::min(double(copies_), std::floor(rest / pitch + 1e-9) + 1);
    const double left = std::max(0.0, rest - (count - 1) * pitch);
    for (const double share : {0.0, 0.5, 1.0})
        add(turn, pitch, share * left, std::size_t(count));
}

void Mason::tellRim(Course& course) const {
    course.front.assign(cells_, -none);
    course.back.assign(cells_, none);
    const double c = std::cos(course.turn), s = std::sin(course.turn);
    const auto turned = [&](Point p) { return Point{c * p.x - s * p.y, s * p.x + c * p.y}; };
    const auto tellSide = [&](Point a, Point b) {
        if (a.y > b.y)
            std::swap(a, b);
        const double slope = b.y > a.y ? (b.x - a.x) / (b.y - a.y) : 0;
        for (std::size_t k = 0; k < course.count; ++k) {
            const double up = course.poseAt(0, k).y;
            const int first = std::max(0, int(std::ceil((a.y + up) / cell_ - 0.5)));
            const int last = std::min(int(cells_) - 1, int(std::floor((b.y + up) / cell_ - 0.5)));
            for (int i = first; i <= last; ++i) {
                const auto x = float(a.x + ((i + 0.5) * cell_ - up - a.y) * slope);
                float &front = course.front[std::size_t(i)], &back = course.back[std::size_t(i)];
                front = std::max(front, x);
                back = std::min(back, x);
            }
        }
    };
    for (const Loop& loop : shape_.loops)
        for (std::size_t i = 0; i < loop.size(); ++i)
            tellSide(turned(loop[i]), turned(loop[(i + 1) % loop.size()]));
}

std::vector<Mason::State> Mason::states(const std::vector<float>& steps,
                                        const std::function<bool()>& isOver) const {
    const std::size_t n = courses_.size();
    std::vector<State> states((copies_ + mostCount_) * n);
    for (std::size_t b = 0; b < n; ++b) {
        const auto x = float(-courses_[b].box.least.x);
        states[courses_[b].count * n + b] = {x, x + float(courses_[b].box.most.x), -1, 0};
    }
    for (std::size_t count = 1; count < copies_; ++count) {
        if (isOver())
            return {};
        for (std::size_t a = 0; a < n; ++a) {
            const State here = states[count * n + a];
            if (here.x >= none)
                continue;
            const bool hasBefore = here.before >= 0;
            const std::size_t before = hasBefore ? std::size_t(here.before) : a;
            const float beforeX = hasBefore ? states[std::size_t(here.copiesBefore) * n + before].x : here.x;
            for (std::size_t b = 0; b < n; ++b) {
                const float x = std::max({float(-courses_[b].box.least.x), here.x + steps[a * n + b],
                                          beforeX + steps[before * n + b]});
                State& there = states[(count + courses_[b].count) * n + b];
                if (x < there.x)
                    there = {x, std::max(here.reach, x + float(courses_[b].box.most.x)), std::int32_t(a),
                             std::int32_t(count)};
            }
        }
    }
    return states;
}

std::vector<Course> Mason::bestOrder(const std::function<bool()>& isOver) const {
    const std::size_t n = courses_.size();
    if (n == 0)
        return {};
    std::vector<float> steps;
    steps.reserve(n * n);
    for (const Course& before : courses_) {
        if (isOver())
            return {};
        for (const Course& behind : courses_)
            steps.push_back(stepBehind(before, behind));
    }
    const std::vector<State> all = states(steps, isOver);
    if (all.empty())
        return {};
    const auto best = std::min_element(all.begin() + std::ptrdiff_t(copies_ * n), all.end(),
                                       [](const State& a, const State& b) { return a.reach < b.reach; });
    if (best->reach >= none)
        return {};
    std::vector<Course> order;
    for (auto i = std::ptrdiff_t(best - all.begin());;) {
        order.push_back(courses_[std::size_t(i) % n]);
        const State& state = all[std::size_t(i)];
        if (state.before < 0)
            break;
        i = state.copiesBefore * std::ptrdiff_t(n) + state.before;
    }
    std::reverse(order.begin(), order.end());
    return order;
}

Yield Mason::laid(const std::vector<Course>& order, const std::function<bool()>& isOver) const {
    if (order.empty())
        return {};
    Yield yield{0, {}};
    std::vector<std::vector<Placed>> laid;
    std::vector<double> at;
    for (const Course& course : order) {
        if (isOver())
            return {};
        std::vector<Placed> parts(course.count, Placed(shape_));
        for (Placed& part : parts)
            part.turn(course.turn);
        const auto isFreeAt = [&](double x) {
            for (std::size_t k = 0; k < course.count; ++k) {
                const Pose pose = course.poseAt(x, k);
                parts[k].moveTo({pose.x, pose.y});
                for (std::size_t j = laid.size() - std::min(laid.size(), lookBack + 1); j < laid.size(); ++j)
                    for (const Placed& other : laid[j])
                        if (parts[k].isNear(other) && parts[k].touches(other))
                            return false;
            }
            return true;
        };
        // Rims are known at points: between them courses may lie a little closer, or farther apart.
        const double first = -course.box.least.x;
        double free = first;
        for (std::size_t k = 1; k <= std::min(lookBack, laid.size()); ++k)
            free = std::max(free, at[at.size() - k] + double(stepBehind(order[at.size() - k], course)));
        double taken = std::max(first, free - cell), by = cell / 10;
        while (!isFreeAt(free)) {
            taken = free;
            free += by;
            by *= 1.3;
        }
        for (constexpr double close = 1e-5; free - taken > close;) {
            const double middle = (free + taken) / 2;
            (isFreeAt(middle) ? free : taken) = middle;
        }
        isFreeAt(free);
        at.push_back(free);
        laid.push_back(parts);
        yield.length = std::max(yield.length, free + course.box.most.x);
        for (std::size_t k = 0; k < course.count; ++k)
            yield.poses.push_back(course.poseAt(free, k));
    }
    return yield;
}

/// Only those that reach least far, as many as there are copies.
Yield nearest(const Shape& shape, const std::vector<Pose>& poses, std::size_t copies) {
    std::vector<std::pair<double, Pose>> byReach;
    byReach.reserve(poses.size());
    for (const Pose& pose : poses)
        byReach.emplace_back(pose.x + turnedBox(shape, pose.rotation).most.x, pose);
    std::stable_sort(byReach.begin(), byReach.end(),
                     [](const auto& a, const auto& b) { return a.first < b.first; });
    Yield yield{byReach[copies - 1].first, {}};
    for (std::size_t i = 0; i < copies; ++i)
        yield.poses.push_back(byReach[i].second);
    return yield;
}

} // namespace

Yield bestCourses(const Item& item, const Shape& shape, const Ground& ground, std::size_t copies,
                  std::span<const Pattern> patterns, double bound, const std::function<bool()>& isOver) {
    const Weaver weaver(shape, ground, copies);
    std::vector<std::pair<double, double>> pitches; // of turns
    for (const double turn : turnsToTry(item, 2 * pi))
        for (const double frame : {0.0, pi / 2})
            if (!isOver() && !(item.turnsFreely && frame > 0))
                pitches.emplace_back(turn + frame, weaver.leastPitch(turn + frame));
    // A frame that lies along the roll is turned by a quarter.
    const auto laid = [&](double room, double frame) {
        Mason mason(shape, copies, room);
        const auto addFull = [&](double turn, double pitch) {
            if (mayTurn(item, turn - frame))
                mason.addFull(turn, pitch);
        };
        for (const Pattern& pattern : patterns) {
            constexpr double shareOfPatterns = 0.6;
            if (isOver() || double(mason.size()) > shareOfPatterns * double(mason.mostCourses()))
                break;
            if (mayTurn(item, pattern.turn - frame) &&
                (!pattern.isDouble || mayTurn(item, pattern.turn + pi - frame)))
                mason.addRows(pattern);
            addFull(pattern.turn, pattern.pitch);
            if (pattern.isDouble)
                addFull(pattern.turn + pi, pattern.pitch);
        }
        for (const auto& [turn, pitch] : pitches)
            if (!isOver())
                addFull(turn, pitch);
        return mason.laid(mason.bestOrder(isOver), isOver);
    };
    Yield best{bound, {}};
    const double across = ground.room.height();
    if (const Yield there = laid(across, 0); !there.poses.empty())
        if (Yield trimmed = nearest(shape, there.poses, copies); trimmed.length < best.length)
            best = std::move(trimmed);
    // Along the roll: ever shorter ones, as long as all courses lie side by side on it.
    constexpr int tries = 12;
    constexpr double firstStep = 0.01, leastStep = 0.0005; // of the length
    double tooShort = 0;
    for (int i = 0; i < tries && !isOver(); ++i) {
        const double length = std::max(best.length * (1 - firstStep), (best.length + tooShort) / 2);
        if (length > best.length * (1 - leastStep))
            break;
        Yield there = laid(length, pi / 2);
        if (!(there.length <= across)) {
            tooShort = length;
            continue;
        }
        for (Pose& pose : there.poses)
            pose = {pose.y, across - pose.x, pose.rotation - pi / 2, false};
        best = nearest(shape, there.poses, copies);
    }
    return best;
}

} // namespace hasami::nesting
