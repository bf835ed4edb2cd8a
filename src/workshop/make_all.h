#pragma once

#include "artwork/picture.h"
#include "job/job.h"
#include "sticker/bleed_picture.h"
#include "sticker/ink_layers.h"
#include "workshop/cache.h"

#include <cstdint>
#include <functional>
#include <memory>
#include <set>
#include <stop_token>
#include <string>
#include <vector>

namespace hasami {

/// Gives the decoded picture of an asset, which it may keep. Called from any thread. Throws InputError, and
/// Stopped where the token asks for it.
using PictureSource =
    std::function<std::shared_ptr<const Picture>(const Asset&, const PictureWish&, const std::stop_token&)>;

struct MadeDesign {
    std::string design;                     ///< its id
    Artwork artwork;                        ///< what it was made of,
    Recipe recipe;                          ///< and how
    std::shared_ptr<const Sticker> sticker; ///< always there, empty where there is trouble
    std::string trouble;                    ///< a sentence, where no line could be made

    std::vector<Remark> remarks; ///< on all steps, in their order

    /// What nothing else may enter, see keepOutOf.
    std::shared_ptr<const Region> outline = {};

    /// The bleed's colours, where it has the artwork's own.
    std::shared_ptr<const BleedPicture> bleed = {};

    /// Special inks, in the profile's order from the medium up.
    std::vector<std::shared_ptr<const PrintedInk>> inks = {};

    /// What the file of an item says of itself.
    struct Source {
        int pages = 1;
        Point naturalSize;        ///< mm, at 300 dots an inch where the file does not say
        bool hasBackdrop = false; ///< of vector art: a plain paint fills the page behind all else
        std::set<std::string> spots = {}, layers = {}; ///< spot colours and channels of them; layers

        /// What it draws in that spot colour, or has as a channel or a layer of its name.
        bool brings(const std::string& ink) const { return spots.contains(ink) || layers.contains(ink); }
    };
    std::vector<Source> sources; ///< one for each item

    /// Spot colours, or layers of their names, that are not printed with the artwork: of cut lines and
    /// special inks that it brings.
    std::set<std::string> leftOut = {};

    /// What its artwork has that a PDF/X-4 may not, in English and marked for translation; empty: nothing.
    std::string notX4 = {};

    /// All lines of each item, cut or not, as found and with what was done by hand, in the item's own frame
    /// (Item::upright); none of a plain shape.
    std::vector<std::shared_ptr<const std::vector<EdgeLoop>>> found, loops;

    /// For finding the edge again while a slider moves: one for each item, or none where there is trouble;
    /// nullptr for own artwork, whose outlines are the edge.
    std::vector<std::shared_ptr<const EdgePreview>> previews;
};

/// What is to be laid out of a design. REQUIRES: `made` was made from it.
Copies copiesOf(const Design& design, const MadeDesign& made);

/// Of all designs. REQUIRES: they were made from the job's, in its order.
std::vector<Copies> copiesOf(const Job& job, const std::vector<MadeDesign>& designs);

/// Everything computed from a job, for one of its revisions.
struct Made {
    std::uint64_t revision = 0;
    std::vector<MadeDesign> designs; ///< in the job's order
    Layout layout;
    double plainLength = 0; ///< that plain rows of the same pieces would use of the medium, mm
    std::string trouble;    ///< a sentence, where the whole or the sheet could not be made

    const MadeDesign* find(std::string_view design) const;
};

/// A sentence on a piece that lies where it can't, without a full stop.
std::string conflictText(const Job& job, const Layout& layout, const Conflict& conflict);

/// The kinds of line that the sheet and its pieces have, in the order of the work.
std::vector<LineKind> kindsOn(const Made& made, const Sheet& sheet);

/// What the code at a sheet's leading edge holds: the job's name, the sheet's number, from 1 on, and the
/// job's printId where it has one: "NAME/1", "NAME/1.7F3A".
std::string codeTextOf(const Job& job, std::size_t sheet);

/// What is printed at the leading edge of each sheet beside the marks, and a remark on what has no room
/// there. Throws InputError where a code can't hold the job's name.
void addLead(Layout& layout, const Job& job);

/// For those who show results while the rest is being made.
struct Progress {
    std::string first;                           ///< the design that is made before the others
    std::function<void(const MadeDesign&)> made; ///< called as each is there
};

/// Job in, everything made out. A pure function: the cache only saves time. A design that can't be made, for
/// whatever reason, has a sentence as its trouble and no pieces; where the sheet can't be laid out, that is
/// the trouble of the whole. Throws Stopped.
Made makeAll(const Job& job, std::uint64_t revision, const PictureSource& pictures, Cache& cache,
             const std::stop_token& stop = {}, const Progress& progress = {});

} // namespace hasami
