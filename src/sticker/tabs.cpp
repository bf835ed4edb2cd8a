#include "sticker/tabs.h"

#include "base/translation.h"
#include "geometry/curve_lengths.h"

#include <algorithm>
#include <cmath>
#include <iterator>
#include <numbers>
#include <utility>

namespace hasami {

namespace {

constexpr double finestStep = 0.1;                        // mm along a line between two looks at it
constexpr double arm = 0.6;                               // mm on either side that a turn is seen over
constexpr double tightTurn = 35 * std::numbers::pi / 180; // over both arms; an arc of a millimetre's radius
constexpr double clearance = 0.3;                         // mm between a tab and a tight place
constexpr double leastCut = 0.5;                          // mm between two tabs

/// A line looked at in even steps, and where the middle of a tab may lie.
class Looks {
public:
    Looks(const Curve& line, double tab) : line_(line), lengths_(line), tab_(tab) {
        const double whole = lengths_.whole();
        count_ = std::max<std::size_t>(std::size_t(std::ceil(whole / std::min(finestStep, tab / 4))), 64);
        count_ = std::min<std::size_t>(count_, 2'000'000);
        step_ = whole / double(count_);
        findFree();
    }

    double whole() const { return lengths_.whole(); }
    double step() const { return step_; }
    std::size_t count() const { return count_; }

    /// How many steps away from the next place that a tab may not lie on; 0: it may not lie there.
    std::size_t freedom(std::size_t at) const { return freedom_[at % count_]; }

private:
    Point pointAt(double s) const { return hasami::pointAt(line_, lengths_.placeAt(s)); }

    bool isTight(std::size_t at) const {
        const double reach = std::min(arm, whole() / 40), s = double(at) * step_;
        const Point here = pointAt(s), in = here - pointAt(s - reach), out = pointAt(s + reach) - here;
        return std::abs(std::atan2(cross(in, out), dot(in, out))) > tightTurn;
    }

    void findFree() {
        std::vector<bool> taken(count_, false);
        const auto around = std::size_t(std::ceil((tab_ / 2 + std::min(clearance, tab_)) / step_));
        const auto take = [&](std::size_t at) {
            for (std::size_t k = at + count_ - std::min(around, count_); k <= at + count_ + around; ++k)
                taken[k % count_] = true;
        };
        take(0);
        for (std::size_t i = 0; i < count_; ++i)
            if (isTight(i))
                take(i);
        freedom_.assign(count_, 0);
        // From both sides, twice round, since the line is closed.
        std::size_t since = 0;
        for (std::size_t i = 0; i < 2 * count_; ++i)
            freedom_[i % count_] = since = taken[i % count_] ? 0 : since + 1;
        since = 0;
        for (std::size_t i = 2 * count_; i-- > 0;) {
            since = taken[i % count_] ? 0 : since + 1;
            freedom_[i % count_] = std::min(freedom_[i % count_], since);
        }
    }

    const Curve& line_;
    CurveLengths lengths_;
    double tab_, step_ = 0;
    std::size_t count_ = 0;
    std::vector<std::size_t> freedom_;
};

/// Where `wanted` tabs lie best when they lie evenly: the turn of the whole pattern that leaves the most of
/// them free, and them the freest.
std::vector<double> evenly(const Looks& looks, int wanted) {
    const double period = double(looks.count()) / wanted; // in looks
    std::size_t bestFree = 0, bestRoom = 0;
    double best = period / 2;
    const int turns = std::clamp(int(period), 1, 400);
    for (int turn = 0; turn < turns; ++turn) {
        // From the middle on, so that of turns as good the one farthest from the start wins.
        const double phase = std::fmod(period / 2 + period * turn / turns, period);
        std::size_t free = 0, room = looks.count();
        for (int i = 0; i < wanted; ++i) {
            const std::size_t f = looks.freedom(std::size_t(std::lround(phase + period * i)));
            free += f > 0;
            room = std::min(room, f);
        }
        room = std::min(room, std::size_t(period / 8)); // farther is no better
        if (free > bestFree || (free == bestFree && room > bestRoom)) {
            bestFree = free;
            bestRoom = room;
            best = phase;
        }
    }
    std::vector<double> middles;
    middles.reserve(std::size_t(wanted));
    for (int i = 0; i < wanted; ++i)
        middles.push_back(best + period * i);
    return middles;
}

/// Moves those that may not lie where they are to the nearest place where they may, clear of both neighbours;
/// without one, they are left out.
std::vector<std::size_t> movedClear(const Looks& looks, const std::vector<double>& middles, double tab) {
    const double apart = (tab + leastCut) / looks.step();
    std::vector<std::size_t> found;
    for (std::size_t i = 0; i < middles.size(); ++i) {
        const double n = double(looks.count());
        const double least = found.empty() ? middles.back() - n + apart : double(found.back()) + apart;
        const double most = i + 1 < middles.size()
                                ? middles[i + 1] - apart
                                : (found.empty() ? middles.front() : double(found.front())) + n - apart;
        for (std::size_t away = 0; away < looks.count() / 2; ++away) {
            const double before = std::round(middles[i] - double(away)),
                         after = std::round(middles[i] + double(away));
            if (before < least && after > most)
                break;
            const auto fits = [&](double at) {
                return at >= std::max(least, 0.0) && at <= most && looks.freedom(std::size_t(at)) > 0;
            };
            if (fits(after) || fits(before)) {
                found.push_back(std::size_t(fits(after) ? after : before));
                break;
            }
        }
    }
    return found;
}

std::vector<Tab> onLine(const Curve& line, int wanted, double tab) {
    const Looks looks(line, tab);
    const int most = int(looks.whole() / (tab + leastCut));
    wanted = std::min(wanted, most);
    std::vector<Tab> tabs;
    if (wanted < 1)
        return tabs;
    for (const std::size_t at : movedClear(looks, evenly(looks, wanted), tab)) {
        const double middle = double(at % looks.count()) * looks.step();
        tabs.push_back({middle - tab / 2, middle + tab / 2});
    }
    std::sort(tabs.begin(), tabs.end(), [](const Tab& a, const Tab& b) { return a.from < b.from; });
    return tabs;
}

/// How many on each: the count on outer lines, as close as on the longest of them on openings; on short ones
/// no more than leave three quarters of them cut; three at least.
std::vector<int> counts(std::span<const Curve> lines, const std::vector<double>& lengths,
                        const TabRule& rule) {
    const auto isOuter = [](const Curve& line) { return signedArea(flatten(line, flatteningTolerance)) > 0; };
    std::vector<bool> areOuter;
    std::transform(lines.begin(), lines.end(), std::back_inserter(areOuter), isOuter);
    if (std::none_of(areOuter.begin(), areOuter.end(), [](bool outer) { return outer; }))
        areOuter.assign(areOuter.size(), true);
    double longest = 0;
    for (std::size_t i = 0; i < lengths.size(); ++i)
        if (areOuter[i])
            longest = std::max(longest, lengths[i]);
    std::vector<int> wanted;
    for (std::size_t i = 0; i < lengths.size(); ++i) {
        const double share = areOuter[i] || longest <= 0 ? 1 : std::min(lengths[i] / longest, 1.0);
        const double most = lengths[i] / (4 * rule.length);
        wanted.push_back(std::max(int(std::min(std::round(rule.count * share), most)), leastTabs));
    }
    return wanted;
}

double longerSide(const Box& box) {
    return std::max({box.width(), box.height(), 1e-6});
}

/// Each on the line that it lies nearest to.
std::vector<std::vector<Tab>> byHand(std::span<const Curve> lines, const TabRule& rule, const Box& artwork) {
    std::vector<std::vector<Tab>> tabs(lines.size());
    std::vector<CurveLengths> lengths;
    for (const Curve& line : lines)
        lengths.emplace_back(line);
    for (const Point place : rule.places) {
        const Point at = artwork.least + place * longerSide(artwork);
        std::size_t nearest = 0;
        double least = -1, middle = 0;
        for (std::size_t i = 0; i < lines.size(); ++i) {
            const CurvePlace on = nearestPlace(lines[i], at);
            if (const double d = distance(pointAt(lines[i], on), at); least < 0 || d < least) {
                least = d;
                nearest = i;
                middle = lengths[i].lengthAt(on);
            }
        }
        const double whole = lengths[nearest].whole(), half = rule.length / 2;
        if (whole < 2 * rule.length)
            continue;
        middle = std::clamp(middle, half + 1e-3, whole - half - 1e-3);
        auto& on = tabs[nearest];
        const bool isClear = std::all_of(on.begin(), on.end(), [&](const Tab& other) {
            return middle - half > other.to || middle + half < other.from;
        });
        if (isClear)
            on.push_back({middle - half, middle + half});
    }
    for (auto& on : tabs)
        std::sort(on.begin(), on.end(), [](const Tab& a, const Tab& b) { return a.from < b.from; });
    return tabs;
}

Subpath stretchOf(const Curve& line, const CurveLengths& lengths, double from, double to) {
    const CurvePlace begin = lengths.placeAt(from), end = lengths.placeAt(to);
    return {pointAt(line, begin), stretch(line, begin, end), false};
}

} // namespace

std::vector<std::vector<Tab>> placeTabs(std::span<const Curve> lines, const TabRule& rule,
                                        const Box& artwork) {
    if (lines.empty())
        return {};
    if (rule.way == TabRule::Way::byHand)
        return byHand(lines, rule, artwork);
    std::vector<double> lengths;
    for (const Curve& line : lines)
        lengths.push_back(CurveLengths(line).whole());
    std::vector<int> wanted;
    if (rule.way == TabRule::Way::count)
        wanted = counts(lines, lengths, rule);
    else
        for (const double length : lengths)
            wanted.push_back(std::max(int(std::lround(length / (rule.cut + rule.length))), leastTabs));
    std::vector<std::vector<Tab>> tabs;
    for (std::size_t i = 0; i < lines.size(); ++i)
        tabs.push_back(onLine(lines[i], wanted[i], rule.length));
    return tabs;
}

std::optional<std::string> whyLoose(std::span<const std::vector<Tab>> tabs) {
    std::size_t fewest = leastTabs;
    for (const auto& on : tabs)
        fewest = std::min(fewest, on.size());
    if (fewest == 0)
        return translated(
            "A perforated line has no tab, so that what it goes around falls out: make the tabs "
            "shorter, or add some by hand");
    if (fewest < std::size_t(leastTabs))
        return translated(
            "Fewer than three tabs hold what a perforated line goes around, so that it may fall "
            "out: add tabs, or make them shorter");
    return {};
}

TabRule asByHand(std::span<const Curve> lines, std::span<const std::vector<Tab>> tabs, const TabRule& rule,
                 const Box& artwork) {
    TabRule own = rule;
    own.way = TabRule::Way::byHand;
    own.places.clear();
    for (std::size_t i = 0; i < lines.size(); ++i) {
        const CurveLengths lengths(lines[i]);
        for (const Tab& tab : tabs[i]) {
            const Point middle = pointAt(lines[i], lengths.placeAt((tab.from + tab.to) / 2));
            own.places.push_back((middle - artwork.least) * (1 / longerSide(artwork)));
        }
    }
    return own;
}

std::vector<Tab> tabsOnOpenLine(const Curve& line, const TabRule& rule) {
    const double length = CurveLengths(line).whole();
    const double count = std::max(std::round((length - rule.cut) / (rule.cut + rule.length)), 0.0);
    const double cut = (length - count * rule.length) / (count + 1);
    std::vector<Tab> tabs;
    for (double from = cut; tabs.size() < std::size_t(count) && cut > 0; from += cut + rule.length)
        tabs.push_back({from, from + rule.length});
    return tabs;
}

std::vector<Subpath> betweenTabs(const Curve& line, std::span<const Tab> tabs, bool isOpen) {
    if (tabs.empty())
        return {{line.start, line.segments, !isOpen}};
    const CurveLengths lengths(line);
    std::vector<Subpath> cut;
    if (isOpen) {
        double from = 0;
        for (const Tab& tab : tabs)
            cut.push_back(stretchOf(line, lengths, std::exchange(from, tab.to), tab.from));
        cut.push_back(stretchOf(line, lengths, from, lengths.whole()));
        return cut;
    }
    for (std::size_t i = 0; i < tabs.size(); ++i)
        cut.push_back(stretchOf(line, lengths, tabs[i].to, tabs[(i + 1) % tabs.size()].from));
    return cut;
}

std::vector<Subpath> tabStretches(const Curve& line, std::span<const Tab> tabs) {
    const CurveLengths lengths(line);
    std::vector<Subpath> left;
    for (const Tab& tab : tabs)
        left.push_back(stretchOf(line, lengths, tab.from, tab.to));
    return left;
}

} // namespace hasami
