#pragma once

#include "nesting/nest.h"
#include "sheet/sheet.h"

namespace hasami {

/// What is to be nested of a layout, in the nesting's terms, and its results in the sheet's.
///
/// The medium is the area for work; tracks and used areas are blocked, pinned pieces pinned. Where the layout
/// was laid by a nest or by hand, the search begins from it. Of a design that fills a sheet, so many copies
/// are tried that one sheet can't hold them all; the fullest sheet is kept.
class SheetNest {
public:
    /// Throws Stopped. O(points), and what joining the parts of a sticker takes.
    SheetNest(const std::vector<Copies>& copies, const Layout& present, const SheetPlan& plan,
              const Profile& profile, const std::stop_token& stop = {});

    /// A sentence where there is nothing to nest; else empty.
    const std::string& trouble() const { return trouble_; }
    const nesting::Problem& problem() const { return problem_; }

    /// The pieces of a result, in the plan's terms.
    std::vector<LaidPiece> laid(const nesting::Nest& nest) const;

private:
    void addParts(const Layout& present, const SheetPlan& plan, const std::stop_token& stop);
    void addKeptFree(const SheetPlan& plan, const Profile& profile, int sheets);
    void addPlaces(const Layout& present);
    nesting::Pose poseOf(const LaidPiece& piece) const;

    std::vector<Copies> copies_; // in the order of the problem's parts
    bool fills_ = false;
    bool isBegun_ = false;
    Point origin_; // of the area for work
    nesting::Problem problem_;
    std::vector<int> pinnedCopies_; // of problem_.pinned
    std::string trouble_;
};

} // namespace hasami
