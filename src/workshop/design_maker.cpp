#include "workshop/design_maker.h"

#include "artwork/colour_text.h"
#include "artwork/vector_page.h"
#include "base/translation.h"
#include "base/work_queue.h"
#include "edge/paint_outline.h"
#include "geometry/length_text.h"
#include "job/recipe_fields.h"
#include "sheet/keep_out.h"
#include "sticker/brought_ink.h"
#include "sticker/pale_fringe.h"
#include "workshop/cache_keys.h"

#include <algorithm>

namespace hasami {

namespace {

std::string textOnLost(std::size_t lost) {
    return countedSentence(
        "%1 stretch touched up by hand is left out, since the line beneath it runs elsewhere now: "
        "put it back, or redraw it",
        "%1 stretches touched up by hand are left out, since the lines beneath them run elsewhere "
        "now: put them back, or redraw them",
        lost);
}

const char* whyNoEdge(EdgeWay way) {
    switch (way) {
    case EdgeWay::lines:
        return N_("%1 brings no cut lines: find the edge another way, or draw them in the file as strokes in "
                  "a spot "
                  "colour named as in the machine's profile");
    case EdgeWay::backdrop:
        return N_("Nothing in %1 stands out from its backdrop: find the edge another way, or use a picture "
                  "with more "
                  "contrast");
    case EdgeWay::colours:
        return N_("No colour in %1 covers enough to be cut: lower the size of specks, or find the edge "
                  "another way");
    case EdgeWay::brightness:
        return N_("Nothing in %1 is dark or light enough for an edge: move the level, or find the edge "
                  "another way");
    default:
        return N_(
            "Nothing in %1 is clear enough for an edge: lower the level, find the edge another way, or use a "
            "picture that shows something");
    }
}

/// Between the ends of the open line that comes closest to being closed; nothing where all are plainly open.
std::optional<double> leastGap(const std::vector<CutLine>& open) {
    constexpr double plain = 1, share = 0.02; // mm; of the line's length
    std::optional<double> least;
    for (const CutLine& line : open) {
        const double gap = distance(line.curve.start, line.curve.segments.back().end);
        if (gap < std::max(plain, share * cutLength(line)) && gap < cutLength(line) / 4 &&
            (!least || gap < *least))
            least = gap;
    }
    return least;
}

std::string whyEmpty(const Design& design, const Sticker& sticker) {
    if (sticker.edge.empty())
        return sentence(whyNoEdge(design.recipe.edge.way), design.name);
    const auto& lines = design.recipe.lines;
    const auto goesAround = [](const LineRecipe& line) {
        return line.isCut && (line.course == LineCourse::edge || line.course == LineCourse::shape);
    };
    if (std::ranges::none_of(lines, goesAround))
        return sentence("No line around %1 is to be cut: tick one in Cut lines", design.name);
    return sentence("The inward offset leaves nothing of %1: make it smaller", design.name);
}

} // namespace

MadeDesign DesignMaker::make(const Design& design) {
    MadeDesign made;
    made.design = design.id;
    made.artwork = design.artwork;
    made.recipe = design.recipe;
    const auto outcome = outcomeOf(sentence("%1 can't be made", design.name), [&] {
        makeInto(made, design);
        return true;
    });
    if (outcome.isStopped())
        throw Stopped();
    if (!outcome.value) {
        made.trouble = outcome.failure;
        made.sticker = std::make_shared<const Sticker>();
    }
    return made;
}

void DesignMaker::makeInto(MadeDesign& made, const Design& design) {
    made.sticker = sticker(design);
    made.outline = cache_.findOrMake<Region>(
        stickerKey("keep out", design), [&] { return keepOutOf(*made.sticker); },
        [](const Region& region) {
            std::size_t points = 0;
            for (const Loop& loop : region.loops)
                points += loop.size();
            return points * sizeof(Point);
        });
    addEdges(made, design);
    made.remarks.insert(made.remarks.end(), made.sticker->remarks.begin(), made.sticker->remarks.end());
    addBleed(made, design);
    addRemarksOnColours(made, design);
    for (const InkKind ink : job_.profile.printer.inkOrder.inks())
        for (const InkLayer& layer : design.recipe.inks)
            if (layer.ink == ink && !made.sticker->isEmpty())
                addInk(made, design, layer);
    addRemarkOnEps(made, design);
    if (!made.sticker->isEmpty())
        addRemarkOnFringe(made, design);
    if (made.sticker->isEmpty())
        made.trouble = whyEmpty(design, *made.sticker);
}

void DesignMaker::addEdges(MadeDesign& made, const Design& design) {
    const EdgeOptions& all = design.recipe.edge;
    std::ptrdiff_t lost = 0;
    for (std::size_t i = 0; i < design.artwork.items.size(); ++i) {
        const Item& item = design.artwork.items[i];
        const EdgeOptions options = forItem(all, i);
        made.sources.push_back(*edges_.source(item));
        made.previews.push_back(edges_.preview(item, options));
        if (options.way == EdgeWay::shape)
            continue;
        if (item.isBackground) { // nothing of it is cut
            made.found.push_back(std::make_shared<const std::vector<EdgeLoop>>());
            made.loops.push_back(made.found.back());
            continue;
        }
        made.found.push_back(edges_.loops(item, options));
        const auto lines = edges_.touched(item, options);
        made.loops.emplace_back(lines, &lines->loops);
        lost += std::count(lines->loopOf.begin(), lines->loopOf.end(), std::nullopt);
    }
    if (lost > 0)
        made.remarks.push_back({FindingCode::touchUpLost, RecipeStep::edge, textOnLost(std::size_t(lost))});
    const std::vector<std::string> inks = inksBrought(design);
    for (std::size_t i = 0; i < design.artwork.items.size(); ++i) {
        const Item& item = design.artwork.items[i];
        for (const std::string& ink : inks)
            if (item.isVector() && made.sources[i].brings(ink))
                made.leftOut.insert(ink);
        if (item.own()) {
            addRemarksOn(made, item);
        } else if (item.isVector()) {
            if (all.way == EdgeWay::lines) {
                const auto brought = edges_.allBrought(item);
                made.leftOut.insert(brought->spots.begin(), brought->spots.end());
            }
            addRemarksOn(made, item, all);
        } else {
            addRemarksOnChannels(made, item, made.sources[i].spots, inks);
        }
    }
}

void DesignMaker::addRemarksOnChannels(MadeDesign& made, const Item& item,
                                       const std::set<std::string>& channels,
                                       const std::vector<std::string>& inks) {
    for (const std::string& channel : channels)
        if (std::ranges::find(inks, channel) == inks.end())
            made.remarks.push_back(
                {FindingCode::channelLeftOut, RecipeStep::inks,
                 channel.empty()
                     ? sentence("%1 has a channel without a name beside its colours, which is not printed",
                                item.name)
                     : sentence(
                           "%1 has a channel \"%2\" beside its colours, which is not printed: to print "
                           "it, give a special ink of the profile that name, and take it from the artwork",
                           item.name, channel)});
}

void DesignMaker::addRemarksOn(MadeDesign& made, const Item& item) {
    const Drawing& drawing = *item.own()->drawing->drawing;
    if (!drawing.lacking.empty())
        made.remarks.push_back({FindingCode::fontMissing, RecipeStep::artwork,
                                sentence("No font on this machine has %1 of \"%2\": they are left out",
                                         drawing.lacking, item.name)});
    if (drawing.lostFont)
        made.remarks.push_back(
            {FindingCode::fontMissing, RecipeStep::artwork,
             sentence("The font %1 of \"%2\" is not on this machine: its last outlines are kept, until you "
                      "choose another font",
                      drawing.lostFont->family + " " + drawing.lostFont->style, item.name)});
    for (const DrawnArea& area : drawing.areas)
        for (const std::string& spot : spotsOf(area.fill))
            if (!made.leftOut.contains(spot) && addRemarkOnSpot(made, item.name, spot, RecipeStep::artwork))
                return;
}

void DesignMaker::addRemarksOnColours(MadeDesign& made, const Design& design) const {
    if (made.sticker->border && !design.recipe.border.colour.spot.empty())
        addRemarkOnSpot(made, translated("The border"), design.recipe.border.colour.spot, RecipeStep::border);
    if (made.sticker->bleed && design.recipe.bleed.colour && !design.recipe.bleed.colour->spot.empty())
        addRemarkOnSpot(made, translated("The bleed"), design.recipe.bleed.colour->spot, RecipeStep::bleed);
}

/// Whether print files use a spot colour for something else: cut lines, special inks, marks.
bool DesignMaker::isTaken(const std::string& spot) const {
    const SpotNames& names = job_.profile.names;
    const auto hasIt = [&](const SpotColour& taken) { return taken.name == spot; };
    return std::ranges::any_of(names.lines, hasIt) || std::ranges::any_of(names.inks, hasIt) ||
           (!spot.empty() && spot == job_.profile.marks.colour.spot);
}

/// Whether paint in the spot colour would come on the plate of a cut line, a special ink or marks.
bool DesignMaker::addRemarkOnSpot(MadeDesign& made, const std::string& what, const std::string& spot,
                                  RecipeStep step) const {
    if (spot == "All") { // ISO 32000-1, 8.6.6.4
        made.remarks.push_back(
            {FindingCode::spotNameTaken, step,
             sentence("%1 is painted in \"All\", the colour of every plate, those of the cut lines too: give "
                      "it a colour of its own",
                      what)});
        return true;
    }
    if (!isTaken(spot))
        return false;
    made.remarks.push_back(
        {FindingCode::spotNameTaken, step,
         sentence("%1 is painted in \"%2\", which print files use for what is cut or for a special ink: "
                  "give that colour another name, or find the edge by the lines in the file",
                  what, spot)});
    return true;
}

void DesignMaker::addRemarksOn(MadeDesign& made, const Item& item, const EdgeOptions& options) {
    const auto add = [&](FindingCode code, const std::string& sentence) {
        made.remarks.push_back({code, RecipeStep::edge, sentence});
    };
    const auto drawn = edges_.whole(item);
    const VectorPage& page = *drawn->page;
    const BroughtLines brought = broughtLines(item, page.paint, job_.profile, false);
    if (options.way == EdgeWay::lines)
        if (const auto gap = leastGap(edges_.allBrought(item)->open))
            add(FindingCode::openLine,
                sentence("%1 has a cut line whose ends are %2 apart: it is cut as drawn, "
                         "open. Close it if it goes around something",
                         item.name, lengthText(*gap)));
    if (options.way != EdgeWay::lines && !brought.alike.empty())
        add(FindingCode::nameDoubtful, sentence("\"%1\" in %2 is nearly the name of a cut line: to cut it, "
                                                "find the edge by the lines in the file",
                                                brought.alike.front(), item.name));
    for (const std::string& sentence : page.remarks)
        add(FindingCode::drawnAsPicture, sentence);
    std::set<std::string> painted = page.mixedSpots;
    for (const PaintItem& paint : page.paint.items)
        painted.insert(paint.spot);
    for (const std::string& spot : page.spots)
        if (!painted.contains(spot) && isTaken(spot)) // on a layer that is not shown
            made.leftOut.insert(spot);
    for (const std::string& spot : painted)
        if (!made.leftOut.contains(spot) && addRemarkOnSpot(made, item.name, spot, RecipeStep::edge))
            break;
    if (!page.notX4.empty() && made.notX4.empty())
        made.notX4 = page.notX4;
    if (!page.missingFonts.empty())
        add(FindingCode::fontMissing,
            sentence(
                "%1 does not hold the font %2, and its text may be printed in another: export it with its "
                "fonts, or as outlines",
                item.name, page.missingFonts.front()));
}

/// A line along the edge shows a light rim once the cut is a little off; one that runs inside it does not.
void DesignMaker::addRemarkOnFringe(MadeDesign& made, const Design& design) {
    constexpr double inside = -0.25, outside = 0.05; // mm
    const bool runsAlong = std::ranges::any_of(design.recipe.lines, [&](const LineRecipe& line) {
        return line.isCut && line.course == LineCourse::edge && line.offset > inside &&
               line.offset <= outside;
    });
    if (!runsAlong || design.recipe.border.width > 0 || design.recipe.edge.way == EdgeWay::shape ||
        std::ranges::all_of(design.artwork.items, &Item::isVector))
        return;
    const auto fringe = paleFringe(design.artwork, *made.sticker, picturesOf(design, made.leftOut));
    if (fringe)
        made.remarks.push_back(
            {FindingCode::paleFringe, RecipeStep::cutLines,
             sentence(
                 "The artwork has a light rim of about %1 along its edge, which shows where the cut is a "
                 "little off",
                 lengthText(std::round(fringe->width * 10) / 10)),
             fringe->width});
}

void DesignMaker::addBleed(MadeDesign& made, const Design& design) {
    if (!made.sticker->bleed || design.recipe.bleed.colour)
        return;
    const CacheKey key = stickerKey("bleed", design);
    made.bleed = cache_.findOrMake<BleedPicture>(
        key,
        [&] {
            return bleedPicture(design.artwork, *made.sticker, design.recipe.bleed,
                                picturesOf(design, made.leftOut, true), stop_);
        },
        [](const BleedPicture& bleed) { return bytesOf(bleed); });
    if (made.bleed->lacksInks)
        made.remarks.push_back(
            {FindingCode::bleedColours, RecipeStep::bleed,
             translated("The bleed is in red, green and blue, not in the artwork's own inks, "
                        "since Ghostscript can't draw these")});
}

/// PostScript knows nothing of transparency.
void DesignMaker::addRemarkOnEps(MadeDesign& made, const Design& design) {
    const bool isAsked = std::ranges::any_of(job_.outputs.outputs, [](const PlannedOutput& output) {
        return output.what == PlannedOutput::What::print && output.print == PrintFormat::eps;
    });
    if (!isAsked || made.sticker->isEmpty())
        return;
    const auto pictures = picturesOf(design, made.leftOut);
    const bool isTransparent = std::ranges::any_of(pictures, [](const auto& picture) {
        return picture->page ? picture->page->isTransparent : picture->hasCoverage;
    });
    if (isTransparent)
        made.remarks.push_back(
            {FindingCode::epsFlattened, RecipeStep::artwork,
             translated("What is transparent in the artwork becomes a picture of 300 dots an "
                        "inch in the EPS: a PDF keeps it as it is")});
}

/// The names of special inks that are printed as the artwork brings them.
std::vector<std::string> DesignMaker::inksBrought(const Design& design) const {
    std::vector<std::string> names;
    for (const InkLayer& layer : design.recipe.inks)
        if (layer.area == InkArea::brought)
            names.push_back(job_.profile.names.of(layer.ink).name);
    return names;
}

BroughtInk DesignMaker::broughtInk(const Item& item, const std::string& ink) {
    const auto plateOf = [&](const Picture& picture) {
        const auto plate = std::ranges::find(picture.spotPlates, ink, &SpotPlate::name);
        return plate == picture.spotPlates.end() ? Grid<std::uint8_t>() : plate->amounts;
    };
    const auto whole = edges_.whole(item);
    if (!whole->page)
        return {plateOf(*whole)};
    const VectorPage& page = *whole->page;
    const bool isLayer = !page.spots.contains(ink);
    if (isLayer && !page.layers.contains(ink))
        return {};
    PictureWish wish{item.page(), {}, !isLayer};
    if (isLayer)
        wish.onlyLayer = ink;
    const auto drawn = pictures_(*assetOf(job_, item), wish, stop_);
    PaintList paint = drawn->page->paint;
    if (!isLayer)
        std::erase_if(paint.items, [&](const PaintItem& painted) { return painted.spot != ink; });
    BroughtInk brought{isLayer ? coverageOf(*drawn) : plateOf(*drawn)};
    if (!page.mixedSpots.contains(ink))
        brought.painted = paintedArea(item, paint, *drawn, true, stop_);
    return brought;
}

PrintedInk DesignMaker::printedInk(const MadeDesign& made, const Design& design, const InkLayer& layer) {
    const double tolerance = EdgeMaker::toleranceOf(design);
    if (layer.area != InkArea::brought) {
        constexpr double leastPart = 0.05; // mm²
        return printInk(design.artwork, *made.sticker, edges_.printedBy(design, leastPart), layer,
                        picturesOf(design, made.leftOut), tolerance, stop_);
    }
    std::vector<BroughtInk> brought;
    for (const Item& item : design.artwork.items)
        brought.push_back(broughtInk(item, job_.profile.names.of(layer.ink).name));
    return printBroughtInk(design.artwork, *made.sticker, layer, brought, tolerance, stop_);
}

void DesignMaker::addInk(MadeDesign& made, const Design& design, const InkLayer& layer) {
    CacheKey key = stickerKey("ink", design);
    addFields(key, layer);
    if (layer.area == InkArea::brought)
        key << job_.profile.names.of(layer.ink).name;
    const auto ink = cache_.findOrMake<PrintedInk>(
        key, [&] { return printedInk(made, design, layer); },
        [](const PrintedInk& printed) {
            return sizeof(PrintedInk) + bytesOf(printed.area) +
                   (printed.graded ? printed.graded->amounts.cells().size() : 0);
        });
    made.inks.push_back(ink);
    if (!ink->area.empty())
        return;
    const std::string name = translated(englishNameOf(layer.ink));
    const bool isBrought =
        layer.area != InkArea::brought || std::ranges::any_of(design.artwork.items, [&](const Item& item) {
            return edges_.source(item)->brings(job_.profile.names.of(layer.ink).name);
        });
    made.remarks.push_back(
        {FindingCode::inkLost, RecipeStep::inks,
         isBrought
             ? sentence("Nothing is left of %1: use a smaller choke, or print it elsewhere", name)
             : sentence("The artwork brings no %1, which would be in the spot colour \"%2\", or a channel "
                        "or layer of that name: print it elsewhere",
                        name, job_.profile.names.of(layer.ink).name)});
}

namespace {

/// Which its picture in red, green and blue does not show.
bool hasOwnColours(const VectorPage& page) {
    return page.paint.hasInks || (page.paint.isTagged && !page.profile.empty());
}

} // namespace

/// As they are printed, one for each item.
std::vector<std::shared_ptr<const Picture>>
DesignMaker::picturesOf(const Design& design, const std::set<std::string>& leftOut, bool withInks) {
    std::vector<std::shared_ptr<const Picture>> pictures;
    for (const Item& item : design.artwork.items) {
        PictureWish wish{item.page()};
        if (item.isVector()) {
            wish.leftOut = leftOut;
            wish.withInks = withInks && hasOwnColours(*edges_.whole(item)->page);
        }
        pictures.push_back(pictures_(*assetOf(job_, item), wish, stop_));
    }
    return pictures;
}

CacheKey DesignMaker::stickerKey(std::string_view what, const Design& design) const {
    CacheKey key(what);
    key << double(design.artwork.items.size());
    for (const Item& item : design.artwork.items)
        key << item;
    const Recipe& recipe = design.recipe;
    key << recipe.edge << recipe.bridge;
    addChoice(key, recipe.edge);
    addTouchUps(key, recipe.edge);
    addBorderAndLines(key, recipe);
    edges_.addSpots(key, recipe.edge);
    return key;
}

std::shared_ptr<const Sticker> DesignMaker::sticker(const Design& design) {
    const CacheKey key = stickerKey("sticker", design);
    return cache_.findOrMake<Sticker>(
        key,
        [&] {
            const double tolerance = EdgeMaker::toleranceOf(design);
            const std::vector<Curve> edge = edges_.edge(design, tolerance);
            std::optional<std::vector<Curve>> printed = edges_.printedBeside(design);
            if (!printed && edges_.rimIsMixed(design)) {
                const std::vector<Curve> specks = edges_.specks(design);
                if (!specks.empty())
                    printed = edge;
                for (const Curve& speck : specks)
                    printed->push_back(speck);
            }
            return makeSticker(design.artwork, edge, design.recipe,
                               {tolerance, edges_.showsBackdrop(design),
                                edges_.rimIsMixed(design) || edges_.isSeeThrough(design),
                                edges_.brought(design), std::move(printed)},
                               stop_);
        },
        [](const Sticker& s) { return bytesOf(s); });
}

} // namespace hasami
