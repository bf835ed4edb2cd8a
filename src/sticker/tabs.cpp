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

/// Tabs on one line, in looks along it: how many, and how far apart they lie.
struct Spread {
    int count = 0;
    double period = 0, tab = 0;
    double apart = 0; ///< the least between the middles of two of them
};

/// Where tabs lie best when they lie evenly: the turn of the whole pattern that leaves the most of them free,
/// and them the freest. None lies across the line's start.
std::vector<double> evenly(const Looks& looks, const Spread& spread) {
    const double half = spread.tab / 2, room = spread.period - spread.tab;
    std::size_t bestFree = 0, bestRoom = 0;
    double best = spread.period / 2;
    const int turns = std::clamp(int(room), 1, 400);
    for (int turn = 0; turn < turns; ++turn) {
        // From the middle on, so that of turns as good the one farthest from the start wins.
        const double phase = half + std::fmod(room / 2 + room * turn / turns, room);
        std::size_t free = 0, freest = looks.count();
        for (int i = 0; i < spread.count; ++i) {
            const std::size_t f = looks.freedom(std::size_t(std::lround(phase + spread.period * i)));
            free += f > 0;
            freest = std::min(freest, f);
        }
        freest = std::min(freest, std::size_t(spread.period / 8)); // farther is no better
        if (free > bestFree || (free == bestFree && freest > bestRoom)) {
            bestFree = free;
            bestRoom = freest;
            best = phase;
        }
    }
    std::vector<double> middles;
    middles.reserve(std::size_t(spread.count));
    for (int i = 0; i < spread.count; ++i)
        middles.push_back(best + spread.period * i);
    return middles;
}

/// Moves those that should not lie where they are to the nearest place where they may, clear of both
/// neighbours, by half a period at most; without one, they stay.
std::vector<double> movedClear(const Looks& looks, std::vector<double> middles, const Spread& spread) {
    const double n = double(looks.count());
    for (std::size_t i = 0; i < middles.size(); ++i) {
        const double before = i > 0 ? middles[i - 1] : middles.back() - n;
        const double after = i + 1 < middles.size() ? middles[i + 1] : middles.front() + n;
        const double least = std::max(before + spread.apart, 0.0), most = std::min(after - spread.apart, n);
        const auto fits = [&](double at) {
            return at >= least && at <= most && looks.freedom(std::size_t(at)) > 0;
        };
        if (looks.freedom(std::size_t(std::lround(middles[i]))) > 0)
            continue;
        for (int away = 1; away <= int(spread.period / 2); ++away) {
            const double back = std::round(middles[i]) - away, on = std::round(middles[i]) + away;
            if (fits(on) || fits(back)) {
                middles[i] = fits(on) ? on : back;
                break;
            }
        }
    }
    return middles;
}

/// As many as are wanted, or as lie `cut` apart at least.
std::vector<Tab> onLine(const Curve& line, int wanted, double tab, double cut) {
    const Looks looks(line, tab);
    Spread spread{std::min(wanted, int(looks.whole() / (tab + cut) + 1e-9)), 0, tab / looks.step()};
    std::vector<Tab> tabs;
    if (spread.count < 1)
        return tabs;
    spread.period = double(looks.count()) / spread.count;
    spread.apart = std::min((tab + cut) / looks.step(), spread.period);
    for (const double at : movedClear(looks, evenly(looks, spread), spread)) {
        const double middle = at * looks.step();
        tabs.push_back({middle - tab / 2, middle + tab / 2});
    }
    return tabs;
}

std::vector<double> lengthsOf(std::span<const Curve> lines) {
    std::vector<double> lengths;
    for (const Curve& line : lines)
        lengths.push_back(CurveLengths(line).whole());
    return lengths;
}

/// The count on outer lines, as close as on the longest of them on openings.
std::vector<int> countsAskedFor(std::span<const Curve> lines, int count) {
    const std::vector<double> lengths = lengthsOf(lines);
    const auto isOuter = [](const Curve& line) { return signedArea(flatten(line, flatteningTolerance)) > 0; };
    std::vector<bool> areOuter;
    std::transform(lines.begin(), lines.end(), std::back_inserter(areOuter), isOuter);
    if (std::none_of(areOuter.begin(), areOuter.end(), [](bool outer) { return outer; }))
        areOuter.assign(areOuter.size(), true);
    double longest = 0;
    for (std::size_t i = 0; i < lengths.size(); ++i)
        if (areOuter[i])
            longest = std::max(longest, lengths[i]);
    std::vector<int> asked;
    for (std::size_t i = 0; i < lengths.size(); ++i) {
        const double share = areOuter[i] || longest <= 0 ? 1 : std::min(lengths[i] / longest, 1.0);
        asked.push_back(std::max(int(std::round(count * share)), leastTabs));
    }
    return asked;
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
    const bool isPattern = rule.way == TabRule::Way::pattern;
    const std::vector<int> asked = tabsAskedFor(lines, rule);
    std::vector<std::vector<Tab>> tabs;
    for (std::size_t i = 0; i < lines.size(); ++i) {
        const int most = isPattern ? asked[i] : int(CurveLengths(lines[i]).whole() / (4 * rule.length));
        tabs.push_back(onLine(lines[i], std::min(asked[i], std::max(most, leastTabs)), rule.length,
                              isPattern ? std::min(leastCut, rule.cut / 2) : leastCut));
    }
    return tabs;
}

std::vector<int> tabsAskedFor(std::span<const Curve> lines, const TabRule& rule) {
    if (rule.way == TabRule::Way::byHand)
        return std::vector<int>(lines.size(), 0);
    if (rule.way == TabRule::Way::count)
        return countsAskedFor(lines, rule.count);
    std::vector<int> asked;
    for (const double length : lengthsOf(lines))
        asked.push_back(std::max(int(std::lround(length / (rule.cut + rule.length))), leastTabs));
    return asked;
}

std::optional<std::string> whyLoose(std::span<const std::vector<Tab>> tabs, std::span<const int> asked) {
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
    for (std::size_t i = 0; i < tabs.size(); ++i)
        if (tabs[i].size() < std::size_t(std::max(asked[i], 0)))
            return sentence("A perforated line has room for %1 of its %2 tabs: ask for fewer, or make them "
                            "shorter",
                            std::to_string(tabs[i].size()), std::to_string(asked[i]));
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
