#pragma once

#include "sheet/closest.h"
#include "sheet/sheet.h"

namespace hasami {

/// The pieces that lie where they can't, each pair once, sheet by sheet: closer together than the gap, out of
/// the area for work, or on what is kept free. O(n log n), and for near pairs their points. Throws Stopped.
std::vector<Conflict> findConflicts(const Layout& layout, const std::vector<Copies>& copies,
                                    const SheetPlan& plan, const Profile& profile,
                                    const std::stop_token& stop = {});

/// All pieces that conflicts are about, by number, sheet after sheet, in order.
std::vector<std::size_t> misplaced(const Layout& layout);

/// The area of a laid piece.
Body bodyOf(const LaidPiece& piece, const std::vector<Copies>& copies);

/// What lies around pieces of one sheet that are being moved: all others, and what is kept free.
class Surroundings {
public:
    /// `moved`: the numbers of the pieces among those laid.
    Surroundings(const std::vector<LaidPiece>& laid, const std::vector<Copies>& copies, const SheetPlan& plan,
                 const Profile& profile, int sheet, const std::vector<std::size_t>& moved);

    /// Whether the body, moved, keeps its distance from all and lies in the area for work.
    bool isFree(const Body& body, Point by = {}) const;

    /// The others that it comes too close to, by number.
    std::vector<std::size_t> tooClose(const Body& body) const;

    /// The shortest move found after which all bodies lie free, as they are to each other; nothing where
    /// there is no room for them on the sheet.
    std::optional<Point> nearestFree(const std::vector<Body>& bodies) const;

    /// The shortest ways to the nearest others, at most `most`, none longer than `reach`.
    std::vector<ShortestWay> waysToNearest(const Body& body, std::size_t most, double reach) const;

private:
    bool areFree(const std::vector<Body>& bodies, Point by) const;

    std::vector<Body> bodies_;
    std::vector<std::size_t> numbers_; // of the pieces; behind them what is kept free
    Box area_;
    double gap_;
};

} // namespace hasami
