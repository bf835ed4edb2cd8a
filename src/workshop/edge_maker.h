#pragma once

#include "edge/colour_regions.h"
#include "edge/find_edge.h"
#include "edge/touch_up.h"
#include "sticker/brought_lines.h"
#include "workshop/make_all.h"

#include <stop_token>

namespace hasami {

/// Finds what runs around artwork, step by step, each kept by what it was made from. Pictures are asked for
/// when something has to be made of them. All throw InputError and Stopped.
class EdgeMaker {
public:
    EdgeMaker(const Job& job, const PictureSource& pictures, Cache& cache, std::stop_token stop)
        : job_(job), pictures_(pictures), cache_(cache), stop_(std::move(stop)) {}

    /// Of all items together, in mm of the design.
    std::vector<Curve> edge(const Design& design, double tolerance);

    /// The cut lines that the design's files bring, with what was done to them by hand.
    std::vector<CutLine> brought(const Design& design);

    /// Whether it shows a backdrop, which is no part of it.
    bool showsBackdrop(const Design& design);
    /// Whether that shines through its rim: it was found pixel by pixel.
    bool rimIsMixed(const Design& design);

    /// Whether what lies under it shows through, at its rim too.
    bool isSeeThrough(const Design& design);

    /// Where it shows anything, where the edge is found by something else.
    std::optional<std::vector<Curve>> printedBeside(const Design& design);

    /// What a picture shows beside its edge, too small to be cut around: dots of letters, dust. In front of a
    /// backdrop, which is left out, it would be so too.
    std::vector<Curve> specks(const Design& design);

    /// Where it shows anything, with all openings; parts and openings smaller than that (mm²) are passed
    /// over.
    std::vector<Curve> printedBy(const Design& design, double leastPart);

    static double toleranceOf(const Design& design);

    /// Of one item, in its own frame: the lines as found, with what was done by hand, those that its file
    /// brings, and its coverage.
    std::shared_ptr<const std::vector<EdgeLoop>> loops(const Item& item, const EdgeOptions& options);
    std::shared_ptr<const TouchedLines> touched(const Item& item, const EdgeOptions& options);
    std::shared_ptr<const BroughtLines> allBrought(const Item& item);
    std::shared_ptr<const EdgePreview> preview(const Item& item, const EdgeOptions& options);

    std::shared_ptr<const MadeDesign::Source> source(const Item& item);
    std::shared_ptr<const Picture> whole(const Item& item);

    /// What brought lines are known by, where that matters.
    void addSpots(CacheKey& key, const EdgeOptions& options) const;

private:
    void addSpots(CacheKey& key) const;
    std::vector<Curve> printedBy(const Item& item, double leastPart);
    std::vector<EdgeLoop> loopsBrought(const Item& item);
    bool bringsSlitsAlone(const Item& item);
    std::vector<EdgeLoop> loopsBesideSlits(const Item& item, EdgeOptions options);
    std::vector<EdgeLoop> colourLoops(const Item& item, const EdgeOptions& options);
    std::shared_ptr<const Picture> shown(const Item& item); ///< the part that is, as a picture of its own
    std::shared_ptr<const ColourRegions> colours(const Item& item, const EdgeOptions& options);
    std::shared_ptr<const Coverage> coverage(const Item& item, const EdgeOptions& options);

    const Job& job_;
    const PictureSource& pictures_;
    Cache& cache_;
    std::stop_token stop_;
    std::pair<std::string, int> which_;   // asset and page of
    std::shared_ptr<const Picture> last_; // the picture asked for last
};

} // namespace hasami
