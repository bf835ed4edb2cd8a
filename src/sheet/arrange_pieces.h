#pragma once

#include "artwork/arrange.h"
#include "sheet/conflicts.h"

namespace hasami {

/// Changes of laid pieces by hand. `numbers` are those of the pieces that are meant, in order; other pieces
/// stay where they are. What was moved by hand is pinned: a nest leaves it there.
class PieceArrangement {
public:
    PieceArrangement(std::vector<LaidPiece> laid, const std::vector<Copies>& copies, const SheetPlan& plan,
                     const Profile& profile)
        : laid_(std::move(laid)), copies_(copies), plan_(plan), profile_(profile) {}

    const std::vector<LaidPiece>& laid() const { return laid_; }

    using Numbers = std::vector<std::size_t>;
    Box boxOf(const Numbers& numbers) const;

    void move(const Numbers& numbers, Point by, std::optional<int> sheet = {});
    void turn(const Numbers& numbers, double degrees); ///< about the middle of them all
    void pin(const Numbers& numbers, bool isPinned);

    /// On a side or the middle of the box around them; a lone one on that of the area for work. They are
    /// pushed apart where they would lie on each other.
    void align(const Numbers& numbers, Alignment alignment);

    /// Copies of them, each in the nearest free place; gives their numbers. Those that find none are left
    /// out.
    Numbers duplicate(const Numbers& numbers);

    /// Moves the pieces, as they lie to each other, to the nearest place where they keep their distance from
    /// all. False, and nothing is moved, where there is none on the sheet.
    bool makeRoom(const Numbers& numbers);

    /// The same for each by itself. Gives how many found no place.
    std::size_t pushApart(const Numbers& numbers);

private:
    Surroundings around(int sheet, const Numbers& numbers) const {
        return {laid_, copies_, plan_, profile_, sheet, numbers};
    }

    std::vector<LaidPiece> laid_;
    const std::vector<Copies>& copies_;
    const SheetPlan& plan_;
    const Profile& profile_;
};

} // namespace hasami
