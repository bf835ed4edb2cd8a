#include "workshop/edge_maker.h"

#include "artwork/vector_page.h"
#include "base/error.h"
#include "base/translation.h"
#include "drawing/drawn_loops.h"
#include "edge/paint_outline.h"
#include "raster/half_covered.h"
#include "workshop/cache_keys.h"

#include <algorithm>
#include <utility>

namespace hasami {

namespace {

MadeDesign::Source sourceFacts(const Item& item, const Picture& picture) {
    if (picture.page) {
        const PaintList& paint = picture.page->paint;
        return {picture.pages,
                {paint.width, paint.height},
                backdropItems(paint) > 0,
                picture.page->spots,
                picture.page->layers};
    }
    const double density =
        picture.pixelsPerMillimetre > 0 ? picture.pixelsPerMillimetre : usualPixelsPerMillimetre;
    std::set<std::string> channels;
    for (const SpotPlate& spot : picture.spotPlates)
        channels.insert(spot.name);
    return {picture.pages, {item.pixelWidth / density, item.pixelHeight / density}, false, channels};
}

bool isFoundByPaint(const Item& item, const EdgeOptions& options) {
    return item.isVector() && (options.way == EdgeWay::automatic || options.way == EdgeWay::paint);
}

/// Of a plain shape, what would be found by itself; colours need no coverage, and what vector art paints
/// is shown by its transparency.
EdgeWay wayOf(const Item& item, const EdgeOptions& options) {
    switch (options.way) {
    case EdgeWay::colours:
        return EdgeWay::transparency;
    case EdgeWay::automatic:
    case EdgeWay::shape:
    case EdgeWay::paint:
    case EdgeWay::lines:
        return item.isVector() ? EdgeWay::transparency : EdgeWay::automatic;
    default:
        return options.way;
    }
}

} // namespace

bool EdgeMaker::showsBackdrop(const Design& design) {
    const EdgeOptions& options = design.recipe.edge;
    return rimIsMixed(design) ||
           std::any_of(design.artwork.items.begin(), design.artwork.items.end(), [&](const Item& item) {
               return !item.own() && isFoundByPaint(item, options) && !options.takesBackdrop &&
                      backdropItems(whole(item)->page->paint) > 0;
           });
}

bool EdgeMaker::rimIsMixed(const Design& design) {
    const EdgeOptions& options = design.recipe.edge;
    if (options.way != EdgeWay::automatic && options.way != EdgeWay::backdrop &&
        options.way != EdgeWay::brightness)
        return false;
    return std::any_of(design.artwork.items.begin(), design.artwork.items.end(), [&](const Item& item) {
        return !isFoundByPaint(item, options) && coverage(item, options)->way != EdgeWay::transparency;
    });
}

bool EdgeMaker::isSeeThrough(const Design& design) {
    return std::ranges::any_of(design.artwork.items, [&](const Item& item) {
        if (item.own()) // of solid colours
            return false;
        CacheKey key("see through");
        key << item.source() << double(item.page());
        return *cache_.findOrMake<bool>(
            key,
            [&] {
                const auto picture = whole(item);
                return picture->page ? picture->page->isTransparent
                                     : picture->hasCoverage && hasHalfCoveredParts(coverageOf(*picture));
            },
            [](bool) { return sizeof(bool); });
    });
}

std::optional<std::vector<Curve>> EdgeMaker::printedBeside(const Design& design) {
    const EdgeWay way = design.recipe.edge.way;
    const bool hasBackground = std::ranges::any_of(design.artwork.items, &Item::isBackground);
    if (way != EdgeWay::shape && way != EdgeWay::lines && way != EdgeWay::colours && !hasBackground)
        return {};
    return printedBy(design, EdgeOptions().leastSpeck);
}

std::vector<Curve> EdgeMaker::specks(const Design& design) {
    constexpr double least = 0.05;      // mm²
    constexpr std::size_t most = 2'000; // more is a texture
    std::vector<Curve> all;
    for (std::size_t i = 0; i < design.artwork.items.size(); ++i) {
        const Item& item = design.artwork.items[i];
        EdgeOptions options = forItem(design.recipe.edge, i);
        if (item.isBackground || isFoundByPaint(item, options) ||
            coverage(item, options)->way == EdgeWay::transparency)
            continue;
        const double leastOfEdge = std::exchange(options.leastSpeck, std::min(least, options.leastSpeck));
        for (const EdgeLoop& loop : *loops(item, options))
            if (loop.facts.depth == 0 && loop.facts.area < leastOfEdge)
                all.push_back(mapRim(loop.curve, item.toDesign()));
    }
    return all.size() <= most ? all : std::vector<Curve>();
}

std::vector<Curve> EdgeMaker::printedBy(const Design& design, double leastPart) {
    std::vector<Curve> all;
    for (const Item& item : design.artwork.items)
        for (const Curve& curve : printedBy(item, leastPart))
            all.push_back(mapRim(curve, item.toDesign()));
    return all;
}

std::vector<Curve> EdgeMaker::printedBy(const Item& item, double leastPart) {
    if (!item.isVector() && !shown(item)->hasCoverage)
        return {shapeAround(item.shownBox(), {PlainShapeKind::box, 0})};
    EdgeOptions options;
    options.way = item.isVector() ? EdgeWay::paint : EdgeWay::transparency;
    options.takesBackdrop = true;
    options.loops = LoopChoice::all;
    options.leastSpeck = options.leastOpening = leastPart;
    return edgeOf(*loops(item, options), options, item.wholeBox());
}

double EdgeMaker::toleranceOf(const Design& design) {
    double tolerance = 0;
    for (const Item& item : design.artwork.items)
        tolerance = std::max(tolerance, fitTolerance(item, design.recipe.edge));
    return tolerance;
}

std::vector<Curve> EdgeMaker::edge(const Design& design, double tolerance) {
    if (design.recipe.edge.way == EdgeWay::shape)
        return {shapeAround(bounds(foregroundOf(design.artwork)), design.recipe.edge.shape)};
    std::vector<std::vector<Curve>> edges;
    for (std::size_t i = 0; i < design.artwork.items.size(); ++i) {
        const Item& item = design.artwork.items[i];
        if (item.isBackground)
            continue;
        const EdgeOptions options = forItem(design.recipe.edge, i);
        edges.push_back(edgeOf(touched(item, options)->loops, options, item.wholeBox()));
        for (Curve& curve : edges.back())
            curve = mapRim(curve, item.toDesign());
    }
    return joinEdges(std::move(edges), tolerance, stop_);
}

std::vector<CutLine> EdgeMaker::brought(const Design& design) {
    std::vector<CutLine> lines;
    if (design.recipe.edge.way != EdgeWay::lines)
        return lines;
    for (std::size_t n = 0; n < design.artwork.items.size(); ++n) {
        const Item& item = design.artwork.items[n];
        if (!item.isVector())
            continue;
        const EdgeOptions options = forItem(design.recipe.edge, n);
        const auto all = allBrought(item);
        const auto touchedLines = touched(item, options);
        for (const CutLine& line : all->open)
            lines.push_back({line.kind, line.role, map(line.curve, item.toDesign()), true, {}, ofFile});
        if (all->lines.empty())
            continue;
        std::vector<LoopFacts> facts;
        for (const EdgeLoop& loop : touchedLines->loops)
            facts.push_back(loop.facts);
        const std::vector<bool> isCut = chooseLoops(facts, options, item.wholeBox());
        for (std::size_t i = 0; i < facts.size(); ++i)
            if (isCut[i])
                lines.push_back({all->lines[i].kind,
                                 all->lines[i].role,
                                 mapRim(touchedLines->loops[i].curve, item.toDesign()),
                                 false,
                                 {},
                                 ofFile});
    }
    return lines;
}

std::shared_ptr<const BroughtLines> EdgeMaker::allBrought(const Item& item) {
    CacheKey key("brought");
    addOwn(key, item);
    addSpots(key);
    return cache_.findOrMake<BroughtLines>(
        key, [&] { return broughtLines(item.upright(), whole(item)->page->paint, job_.profile, true); },
        [](const BroughtLines& found) {
            std::size_t sum = sizeof(BroughtLines);
            for (const auto* lines : {&found.lines, &found.open})
                for (const CutLine& line : *lines)
                    sum += sizeof(CutLine) + line.curve.segments.size() * sizeof(CurveSegment);
            return sum;
        });
}

void EdgeMaker::addSpots(CacheKey& key) const {
    for (const LineKind kind : lineKinds)
        key << job_.profile.names.of(kind).name;
}
void EdgeMaker::addSpots(CacheKey& key, const EdgeOptions& options) const {
    if (options.way == EdgeWay::lines)
        addSpots(key);
}

std::vector<EdgeLoop> EdgeMaker::loopsBrought(const Item& item) {
    std::vector<EdgeLoop> loops;
    if (!item.isVector())
        return loops;
    for (const CutLine& line : allBrought(item)->lines) {
        const Loop loop = flatten(line.curve, flatteningTolerance);
        loops.push_back(
            {{signedArea(loop), bounds(loop), line.role == LineRole::opening ? 1 : 0}, line.curve, {}, {}});
    }
    return loops;
}

bool EdgeMaker::bringsSlitsAlone(const Item& item) {
    if (!item.isVector() || item.own())
        return false;
    const auto brought = allBrought(item);
    return brought->lines.empty() && !brought->open.empty();
}

/// Around all else that is painted.
std::vector<EdgeLoop> EdgeMaker::loopsBesideSlits(const Item& item, EdgeOptions options) {
    const auto drawn = shown(item);
    const auto brought = allBrought(item);
    PaintList paint = drawn->page->paint;
    std::erase_if(paint.items, [&](const PaintItem& painted) {
        return std::ranges::find(brought->spots, painted.spot) != brought->spots.end();
    });
    options.way = EdgeWay::paint;
    options.loops = LoopChoice::outer;
    return findPaintLoops(item.upright(), paint, *drawn, options, stop_);
}

std::shared_ptr<const std::vector<EdgeLoop>> EdgeMaker::loops(const Item& item, const EdgeOptions& options) {
    throwIfStopped(stop_);
    CacheKey key("loops");
    addOwn(key, item);
    key << options;
    const Item own = item.upright();
    addSpots(key, options);
    return cache_.findOrMake<std::vector<EdgeLoop>>(
        key,
        [&] {
            if (options.way == EdgeWay::lines)
                return bringsSlitsAlone(item) ? loopsBesideSlits(item, options) : loopsBrought(item);
            if (item.own() && isFoundByPaint(item, options))
                return findDrawnLoops(own, options, stop_);
            if (isFoundByPaint(item, options)) {
                const auto drawn = shown(item);
                return findPaintLoops(own, drawn->page->paint, *drawn, options, stop_);
            }
            if (options.way == EdgeWay::colours)
                return colourLoops(item, options);
            return findLoops(own, *coverage(item, options), options, stop_);
        },
        [](const std::vector<EdgeLoop>& found) { return bytesOf(found); });
}

/// Exactly as painted, where a drawing's own colours are asked for.
std::vector<EdgeLoop> EdgeMaker::colourLoops(const Item& item, const EdgeOptions& options) {
    const auto drawn = shown(item);
    if (options.colours == 0 && drawn->page && hasPlainColours(drawn->page->paint))
        return findPaintColourLoops(item.upright(), drawn->page->paint, *drawn, options, stop_);
    return findColourLoops(item.upright(), drawn->pixels, *colours(item, options), options, stop_);
}

std::shared_ptr<const TouchedLines> EdgeMaker::touched(const Item& item, const EdgeOptions& options) {
    CacheKey key("touched");
    addOwn(key, item);
    key << options;
    addSpots(key, options);
    addTouchUps(key, options);
    return cache_.findOrMake<TouchedLines>(
        key, [&] { return applyTouchUps(*loops(item, options), options.touchUps, item.wholeBox()); },
        [](const TouchedLines& lines) { return bytesOf(lines.loops); });
}

std::shared_ptr<const MadeDesign::Source> EdgeMaker::source(const Item& item) {
    if (item.own()) {
        const Drawing& drawing = *item.own()->drawing->drawing;
        MadeDesign::Source source{1, {drawing.width, drawing.height}, false};
        for (const DrawnArea& area : drawing.areas)
            if (const auto* colour = std::get_if<PaintColour>(&area.fill); colour && !colour->spot.empty())
                source.spots.insert(colour->spot);
        return std::make_shared<const MadeDesign::Source>(std::move(source));
    }
    CacheKey key("source");
    key << item.source() << double(item.page());
    return cache_.findOrMake<MadeDesign::Source>(
        key, [&] { return sourceFacts(item, *whole(item)); },
        [](const MadeDesign::Source& s) { return sizeof s; });
}

std::shared_ptr<const Picture> EdgeMaker::shown(const Item& item) {
    if (!item.crop)
        return whole(item);
    CacheKey key("shown");
    addShown(key, item);
    return cache_.findOrMake<Picture>(
        key, [&] { return partOf(*whole(item), *item.crop); },
        [](const Picture& part) { return bytesOf(part); });
}

std::shared_ptr<const Picture> EdgeMaker::whole(const Item& item) {
    const std::pair which(item.source(), item.page());
    if (which_ != which) {
        last_ = nullptr;
        last_ = pictures_(*assetOf(job_, item), {item.page()}, stop_);
        which_ = which;
    }
    auto found = last_;
    if (item.isVector() != bool(found->page))
        throw InputError(sentence("%1 is of another kind than the job says", item.name));
    if (found->pixels.width() != item.pixelWidth || found->pixels.height() != item.pixelHeight)
        throw InputError(sentence("%1 has another size in pixels than the job says", item.name));
    return found;
}

std::shared_ptr<const ColourRegions> EdgeMaker::colours(const Item& item, const EdgeOptions& options) {
    CacheKey key("colours");
    addShown(key, item);
    key << double(options.colours);
    return cache_.findOrMake<ColourRegions>(
        key, [&] { return findColours(*shown(item), options.colours, stop_); },
        [](const ColourRegions& found) { return found.labels.cells().size(); });
}

std::shared_ptr<const Coverage> EdgeMaker::coverage(const Item& item, const EdgeOptions& options) {
    CacheKey key("coverage");
    addShown(key, item);
    key << double(wayOf(item, options)) << options.shadow;
    return cache_.findOrMake<Coverage>(
        key, [&] { return findCoverage(*shown(item), wayOf(item, options), options.shadow, stop_); },
        [](const Coverage& c) { return c.cells.cells().size(); });
}

std::shared_ptr<const EdgePreview> EdgeMaker::preview(const Item& item, const EdgeOptions& options) {
    if (item.own() && isFoundByPaint(item, options))
        return nullptr; // its outlines are at hand
    CacheKey key("preview");
    addShown(key, item);
    key << double(wayOf(item, options)) << options.shadow;
    return cache_.findOrMake<EdgePreview>(
        key, [&] { return previewOf(*coverage(item, options)); },
        [](const EdgePreview& made) { return made.cells.cells().size(); });
}

} // namespace hasami
