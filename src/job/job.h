#pragma once

#include "artwork/arrange.h"
#include "artwork/artwork.h"
#include "base/shared.h"
#include "drawing/draw.h"
#include "geometry/length_text.h"
#include "job/output_plan.h"
#include "job/prices.h"
#include "lettering/open_fonts.h"
#include "profile/profile.h"
#include "sheet/sheet.h"
#include "sticker/sticker.h"

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace hasami {

/// Bounds that fields, files and commands share.
struct Limits {
    static constexpr double leastSize = 1, mostSize = 10'000;            ///< a design's width and height, mm
    static constexpr double mostInset = -50, mostOffset = 100;           ///< cut line from the edge, mm
    static constexpr double mostBorder = 100;                            ///< its width, mm
    static constexpr std::size_t mostLines = 8;                          ///< of a recipe
    static constexpr double leastCornerLimit = 2, mostCornerLimit = 100; ///< of sharp corners, in offsets
    static constexpr double mostChoke = 5;                               ///< of a special ink, mm
    static constexpr double mostBleed = 50, mostLiftTab = 50;            ///< mm
    static constexpr double leastTab = 0.05, longestTab = 20;            ///< mm
    static constexpr std::size_t mostDrawnPoints = 100;                  ///< of a cut line
    static constexpr int mostTabs = 1000;                                ///< of a sticker
    static constexpr double mostBridge = 50;                             ///< mm
    static constexpr double mostSmoothing = 5;                           ///< of the edge, mm
    static constexpr std::size_t mostSwitches = 100'000;                 ///< of loops
    static constexpr std::size_t mostTouchUps = 10'000, mostPiecesByHand = 10'000; ///< of lines
    static constexpr int mostSides = 24;                                           ///< of a regular polygon
    static constexpr double leastCapHeight = 0.5, mostCapHeight = 5000;            ///< of lettering, mm
    static constexpr double mostSpace = 1000, mostWeight = 20;     ///< between letters, grown by, mm
    static constexpr double mostGap = 1000;                        ///< mm
    static constexpr double leastMedium = 20, mostMedium = 20'000; ///< its width or length, mm
    static constexpr int mostCopies = 100'000, mostSets = 10'000, mostInRow = 10'000;
    static constexpr double mostPrice = 1'000'000;
    static constexpr std::size_t mostTracks = 50, mostUsedAreas = 1000, mostLaid = 200'000;
    static constexpr int mostSheets = 10'000;
    static constexpr double farthestLaid = 100'000;          ///< mm on a sheet
    static constexpr double leastTurnStep = 0.1;             ///< degrees
    static constexpr double leastDots = 20, mostDots = 2400; ///< an inch, of pictures that are written
    static constexpr std::size_t mostOutputs = 50;
    static constexpr std::size_t mostDesigns = 10'000, mostItems = 1000, mostGuides = 200;
};

/// Artwork and the recipe that turns it into a sticker.
struct Design {
    std::string id; ///< unique in its job; never shown
    std::string name;
    Artwork artwork;
    Recipe recipe;
    int count = 1;
    std::vector<Guide> guides = {}; ///< only for arranging
    bool fills = false;             ///< in place of the count: as many as a sheet holds, of a roll one row
    Turning turning = {};           ///< in a nest

    friend bool operator==(const Design&, const Design&) = default;
};

/// Assets by their SHA-256.
using Assets = std::map<std::string, std::shared_ptr<const Asset>>;

/// The document. A value that is copied in a few microseconds: undo, saving and background work all use
/// copies, which share designs, assets and laid pieces until they change them. It holds what people decided,
/// never what was computed from it.
struct Job {
    /// What sheets say of themselves, from outside: not kept in the file.
    std::string name; ///< its file's without the ending
    std::string day;  ///< when it is made: "2026-11-29"
    /// Tells its prints from those of an edited job of the same name, in their codes; empty: nothing does.
    std::string printId;
    Profile profile = startProfile();
    SharedElements<Design> designs;
    SheetPlan plan;
    OutputPlan outputs;
    Prices prices;
    LengthUnit unit = LengthUnit::millimetre; ///< that lengths are shown in, and plain numbers are typed in
    Shared<Assets> assets;

    const Design* find(std::string_view id) const;
    Design* find(std::string_view id); ///< to be changed

    friend bool operator==(const Job&, const Job&) = default;
};

/// What was read of an artwork file.
struct NewPicture {
    std::shared_ptr<const Asset> asset;
    int pixelWidth = 0, pixelHeight = 0;
    double pixelsPerMillimetre = 0; ///< 0: unknown

    int page = 1; ///< of the file, counted from 1

    /// Of vector art.
    struct Vector {
        double width = 0, height = 0;         ///< of the page, mm
        std::vector<std::string> strokeSpots; ///< names of the spot colours that strokes are in
    };
    std::optional<Vector> vector = {};
    std::vector<std::string> spots = {}; ///< names of its spot colours, channels and layers

    /// Width and height in mm, as the file says or at 300 dots an inch.
    Point naturalSize() const;
};

/// An id that no design of the job has.
std::string newDesignId(const Job& job);

/// Adds a design of one picture at `width` (or its natural size, where nothing is given), with a new id and
/// the start recipe, and gives it back. Where the file brings cut lines under their right names, they are the
/// start; so are special inks that it brings under theirs. Throws InputError if the size would leave the
/// limits.
Design& addDesign(Job& job, const NewPicture& picture, std::optional<double> width = {});

/// Puts a copy of the design behind it, with a new id, and gives it back. The copy of "bee" is "bee 2", its
/// copy "bee 3": the next number that no design of that name has. REQUIRES: the design is in the job.
Design& duplicateDesign(Job& job, std::string_view id);

/// Takes a design out, with its stickers on the sheet.
void removeDesign(Job& job, std::string_view id);

/// Moves the design so that it comes before the one that was at `place`, or last. REQUIRES: the design is in
/// the job.
void moveDesign(Job& job, std::string_view id, std::size_t place);

/// Gives the design another picture in place of one of its items, as wide and turned as that was; the recipe
/// stays, and the crop where both pictures have the same pixels. Throws InputError if the size would leave
/// the limits. REQUIRES: the design and its item are in the job.
void replaceArtwork(Job& job, std::string_view id, std::size_t item, const NewPicture& picture);

/// Adds a design of own artwork, with a new id and the start recipe, and gives it back.
Design& addDesign(Job& job, const Item& own);

/// Lays own artwork in front of a design's other items: an item that lies nowhere yet in their middle, at its
/// size. Throws InputError if there are too many. REQUIRES: the design is in the job.
void addOwnItem(Job& job, std::string_view id, Item item);

/// Lays a picture in front of a design's other items, in their middle, no larger than they are. Throws
/// InputError if there are too many. REQUIRES: the design is in the job.
void addItem(Job& job, std::string_view id, const NewPicture& picture);

/// Takes an item out, with what was switched and touched up on it. REQUIRES: it is not the only one.
void removeItem(Design& design, std::size_t item);

/// Moves an item behind or in front of others, to another number.
void restackItem(Design& design, std::size_t from, std::size_t to);

/// Gives the design's plain shape to all designs that share it. REQUIRES: the design is in the job.
void keepSharedShape(Job& job, std::string_view id);

/// Lets another design have the same plain shape from now on, given by its size, or its own again. REQUIRES:
/// both are in the job.
void shareShape(Job& job, std::string_view id, std::string_view with, bool isShared);

/// What an item's picture is made of. REQUIRES: it is of a design of the job.
const std::shared_ptr<const Asset>& assetOf(const Job& job, const Item& item);

/// Where a job's fonts and pictures are found: among its assets; fonts that they do not hold by `others`.
/// What is given here must live as long as what is given back.
FontSource fontSourceOf(const Assets& assets, OpenFonts& open, FontSource others = {});
AssetSource assetSourceOf(const Assets& assets);

/// Whether both give the same prints and cuts.
bool makesTheSame(const Job& one, const Job& other);

/// A copy that holds only the assets that its designs use.
Job withoutUnusedAssets(Job job);

} // namespace hasami
