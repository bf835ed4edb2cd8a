#pragma once

#include "geometry/curve.h"
#include "geometry/path.h"

#include <optional>
#include <span>
#include <string>
#include <vector>

namespace hasami {

/// A sticker that is held by fewer hangs loose.
inline constexpr int leastTabs = 3;

/// Uncut tabs that hold a perforated line until it is popped out. Lengths in mm.
struct TabRule {
    enum class Way {
        count,   ///< this many on each outer line, spread evenly
        pattern, ///< cut a length, leave a length, in whole periods
        byHand,  ///< where they were put
    };
    Way way = Way::count;
    int count = 5;
    double cut = 8;                 ///< between two tabs of a pattern: about, so that whole periods go round
    double length = 0.8;            ///< of a tab
    std::vector<Point> places = {}; ///< by hand: their middles, in parts of the artwork's longer side

    friend bool operator==(const TabRule&, const TabRule&) = default;
};

/// A stretch of a line that is left uncut, as lengths along it from its start: from < to.
struct Tab {
    double from = 0, to = 0;

    friend bool operator==(const Tab&, const Tab&) = default;
};

/// The tabs on each of the closed lines that share a rule, in order. By count: that many on each outer
/// line, since each goes around a piece of its own; on an opening as many as lie as close; on a short line no
/// more than leave three quarters of it cut. By pattern: in whole periods. At least three on each line that
/// has room for three. Each moves by half a period at most to lie clear of corners, of bends tighter than a
/// millimetre and of the line's start, where there is such a place; none lies across the start. `artwork` is
/// the box that places by hand are relative to. O(length of the lines in tenths of a millimetre).
std::vector<std::vector<Tab>> placeTabs(std::span<const Curve> lines, const TabRule& rule,
                                        const Box& artwork);

/// Those of a line that is open at both ends, which are cut: in whole periods of a cut and a tab, however the
/// rule puts them.
std::vector<Tab> tabsOnOpenLine(const Curve& line, const TabRule& rule);

/// How many each line has if it has room for them; none are asked of tabs that were put by hand.
std::vector<int> tabsAskedFor(std::span<const Curve> lines, const TabRule& rule);

/// A sentence where the tabs on one of the lines are too few to hold what it goes around, or fewer than were
/// asked for. REQUIRES: as many of both.
std::optional<std::string> whyLoose(std::span<const std::vector<Tab>> tabs, std::span<const int> asked);

/// The rule with tabs where they lie now, to be changed by hand.
TabRule asByHand(std::span<const Curve> lines, std::span<const std::vector<Tab>> tabs, const TabRule& rule,
                 const Box& artwork);

/// What is cut of a line: all of it, or what its tabs leave.
std::vector<Subpath> betweenTabs(const Curve& line, std::span<const Tab> tabs, bool isOpen = false);

/// The tabs themselves, as stretches of the line.
std::vector<Subpath> tabStretches(const Curve& line, std::span<const Tab> tabs);

} // namespace hasami
