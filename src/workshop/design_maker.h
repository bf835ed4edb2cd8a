#pragma once

#include "sticker/brought_ink.h"
#include "workshop/edge_maker.h"

#include <set>

namespace hasami {

/// Makes designs, each step kept by what it was made from.
class DesignMaker {
public:
    DesignMaker(const Job& job, const PictureSource& pictures, Cache& cache, const std::stop_token& stop)
        : job_(job), pictures_(pictures), cache_(cache), stop_(stop), edges_(job, pictures, cache, stop) {}

    /// What can't be made has its trouble in a sentence. Throws Stopped.
    MadeDesign make(const Design& design);

private:
    void makeInto(MadeDesign& made, const Design& design);
    void addEdges(MadeDesign& made, const Design& design);
    void addRemarksOn(MadeDesign& made, const Item& item); ///< own artwork
    void addRemarksOn(MadeDesign& made, const Item& item, const EdgeOptions& options);
    bool isTaken(const std::string& spot) const;
    bool addRemarkOnSpot(MadeDesign& made, const std::string& what, const std::string& spot,
                         RecipeStep step) const;
    void addRemarksOnColours(MadeDesign& made, const Design& design) const;
    void addRemarkOnFringe(MadeDesign& made, const Design& design);
    void addRemarkOnEps(MadeDesign& made, const Design& design);
    void addBleed(MadeDesign& made, const Design& design);
    std::vector<std::string> inksBrought(const Design& design) const;
    static void addRemarksOnChannels(MadeDesign& made, const Item& item,
                                     const std::set<std::string>& channels,
                                     const std::vector<std::string>& inks);
    BroughtInk broughtInk(const Item& item, const std::string& ink);
    PrintedInk printedInk(const MadeDesign& made, const Design& design, const InkLayer& layer);
    void addInk(MadeDesign& made, const Design& design, const InkLayer& layer);
    std::vector<std::shared_ptr<const Picture>>
    picturesOf(const Design& design, const std::set<std::string>& leftOut, bool withInks = false);
    CacheKey stickerKey(std::string_view what, const Design& design) const;
    std::shared_ptr<const Sticker> sticker(const Design& design);

    const Job& job_;
    const PictureSource& pictures_;
    Cache& cache_;
    std::stop_token stop_;
    EdgeMaker edges_;
};

} // namespace hasami
