#include "workshop/make_all.h"

#include "artwork/colour_text.h"
#include "artwork/vector_page.h"
#include "base/error.h"
#include "edge/paint_outline.h"
#include "edge/touch_up.h"
#include "sticker/brought_lines.h"

#include <algorithm>
#include <numeric>
#include <set>

namespace hasami {

namespace {

using Edge = std::vector<Curve>;

std::size_t bytesOf(const Edge& edge) {
    std::size_t sum = sizeof(Edge);
    for (const Curve& curve : edge)
        sum += sizeof(Curve) + curve.segments.size() * sizeof(CurveSegment);
    return sum;
}

std::size_t bytesOf(const Sticker& sticker) {
    std::size_t sum = sizeof(Sticker) + bytesOf(sticker.edge);
    if (sticker.border)
        sum += bytesOf(sticker.border->under) + bytesOf(sticker.border->over);
    if (sticker.bleed)
        sum += bytesOf(sticker.bleed->area);
    sum += bytesOf(sticker.within) + bytesOf(sticker.printed);
    for (const CutLine& line : sticker.lines)
        sum += sizeof(CutLine) + line.curve.segments.size() * sizeof(CurveSegment);
    return sum;
}

CacheKey& operator<<(CacheKey& key, const EdgeOptions& options) {
    // Without the choice of loops: that is made of those found.
    return key << double(options.way) << double(options.colours) << options.level.value_or(-1)
               << options.shadow << options.smoothing << options.leastSpeck << options.leastOpening
               << options.tolerance.value_or(0) << double(options.takesBackdrop);
}

void addShape(CacheKey& key, const PlainShape& shape) {
    key << double(shape.kind) << shape.margin << shape.radius << double(shape.sides) << double(shape.bySize)
        << shape.width << shape.height;
}

void addChoice(CacheKey& key, const EdgeOptions& options) {
    key << double(options.loops);
    addShape(key, options.shape);
    for (const LoopSwitch& s : options.switches)
        key << s.centre.x << s.centre.y << s.size << double(s.isOpening) << double(s.isCut) << double(s.item);
}

void addTouchUps(CacheKey& key, const EdgeOptions& options) {
    const auto add = [&](Point p) { key << p.x << p.y; };
    for (const TouchUp& touchUp : options.touchUps) {
        add(touchUp.from);
        add(touchUp.to);
        for (const Point p : touchUp.beneath)
            add(p);
        key << double(touchUp.item) << double(touchUp.path.size());
        for (const CurveSegment& s : touchUp.path) {
            add(s.control1);
            add(s.control2);
            add(s.end);
            key << double(s.straight);
        }
    }
}

void addBorderAndLines(CacheKey& key, const Recipe& recipe) {
    key << recipe.border.width << colourText(recipe.border.colour) << double(recipe.border.onOpenings);
    for (const LineRecipe& line : recipe.lines) {
        key << double(line.kind) << line.offset << double(line.corners.form) << line.corners.limit
            << double(line.isCut) << double(line.course);
        addShape(key, line.shape);
        key << line.stretch.left << line.stretch.top << line.stretch.right << line.stretch.bottom
            << double(line.foldsAcross) << line.foldAt << line.liftTab.size << line.liftTab.at
            << double(line.tabs.way) << double(line.tabs.count) << line.tabs.cut << line.tabs.length
            << double(line.tabs.places.size());
        for (const Point place : line.tabs.places)
            key << place.x << place.y;
    }
    key << recipe.bleed.amount << (recipe.bleed.colour ? colourText(*recipe.bleed.colour) : std::string())
        << double(recipe.bleed.trims);
}

std::size_t bytesOf(const std::vector<EdgeLoop>& loops) {
    std::size_t sum = 0;
    for (const EdgeLoop& loop : loops)
        sum += sizeof(EdgeLoop) + loop.curve.segments.size() * sizeof(CurveSegment);
    return sum;
}

/// Which part of which picture.
void addShown(CacheKey& key, const Item& item) {
    const PixelBox shown = item.shown();
    key << item.asset << double(item.page) << double(shown.left) << double(shown.top) << double(shown.width)
        << double(shown.height);
}

/// All that is found in an item's own frame depends on.
void addOwn(CacheKey& key, const Item& item) {
    addShown(key, item);
    key << item.place.width << item.place.height;
}

CacheKey& operator<<(CacheKey& key, const Item& item) {
    addOwn(key, item);
    return key << item.place.at.x << item.place.at.y << item.place.turn << double(item.place.isMirrored);
}

std::size_t bytesOf(const Picture& picture) {
    return picture.pixels.cells().size_bytes();
}

MadeDesign::Source sourceFacts(const Item& item, const Picture& picture) {
    if (picture.page) {
        const PaintList& paint = picture.page->paint;
        return {picture.pages, {paint.width, paint.height}, backdropItems(paint) > 0};
    }
    const double density =
        picture.pixelsPerMillimetre > 0 ? picture.pixelsPerMillimetre : usualPixelsPerMillimetre;
    return {picture.pages, {item.pixelWidth / density, item.pixelHeight / density}, false};
}

/// Makes one design after the other, each step kept by what it was made from.
class Maker {
public:
    Maker(const Job& job, const PictureSource& pictures, Cache& cache, const std::stop_token& stop)
        : job_(job), pictures_(pictures), cache_(cache), stop_(stop) {}

    MadeDesign make(const Design& design) {
        MadeDesign made;
        made.design = design.id;
        made.artwork = design.artwork;
        made.recipe = design.recipe;
        try {
            made.sticker = sticker(design);
            std::ptrdiff_t lost = 0;
            for (std::size_t i = 0; i < design.artwork.items.size(); ++i) {
                const Item& item = design.artwork.items[i];
                const EdgeOptions options = forItem(design.recipe.edge, i);
                made.sources.push_back(*source(item));
                made.previews.push_back(preview(item, options));
                if (options.way == EdgeWay::shape)
                    continue;
                made.found.push_back(loops(item, options));
                const auto lines = touched(item, options);
                made.loops.emplace_back(lines, &lines->loops);
                lost += std::count(lines->loopOf.begin(), lines->loopOf.end(), std::nullopt);
            }
            made.remark = remarkOnLost(lost);
            for (const std::string& sentence : made.sticker->remarks)
                addSentence(made.remark, sentence);
            for (const Item& item : design.artwork.items)
                if (item.isVector) {
                    if (design.recipe.edge.way == EdgeWay::lines)
                        made.leftOut.insert(allBrought(item)->spots.begin(), allBrought(item)->spots.end());
                    addRemarks(made.remark, item, design.recipe.edge);
                }
            if (made.sticker->bleed && !design.recipe.bleed.colour)
                made.bleed = bleed(design, *made.sticker, made.leftOut);
            for (const InkKind ink : job_.profile.inkOrder)
                for (const InkLayer& layer : design.recipe.inks)
                    if (layer.ink == ink && !made.sticker->isEmpty())
                        addInk(made, design, layer);
            if (made.sticker->isEmpty())
                made.trouble = whyEmpty(design, *made.sticker);
        } catch (const InputError& error) {
            made.trouble = error.what();
            made.sticker = std::make_shared<const Sticker>();
        }
        return made;
    }

private:
    static void addSentence(std::string& remark, const std::string& sentence) {
        remark += (remark.empty() ? "" : ". ") + sentence;
    }

    static std::string remarkOnLost(std::ptrdiff_t lost) {
        if (lost == 0)
            return {};
        return (lost == 1
                    ? "A stretch touched up by hand is left out, for the line beneath it runs elsewhere "
                      "now: put it back, or draw it anew"
                    : std::to_string(lost) +
                          " stretches touched up by hand are left out, for the lines "
                          "beneath them run elsewhere now: put them back, or draw them anew");
    }

    void addRemarks(std::string& remark, const Item& item, const EdgeOptions& options) {
        const auto add = [&](const std::string& sentence) { addSentence(remark, sentence); };
        const auto drawn = whole(item);
        const VectorPage& page = *drawn->page;
        const BroughtLines brought = broughtLines(item, page.paint, job_.profile, false);
        if (options.way == EdgeWay::lines && allBrought(item)->open > 0)
            add(item.name + " has cut lines whose ends don't meet; they are left out: close them");
        if (options.way != EdgeWay::lines && !brought.alike.empty())
            add("\"" + brought.alike.front() + "\" in " + item.name +
                " is all but the name of a cut line: to cut it, find the edge by the lines in the file");
        for (const std::string& sentence : page.remarks)
            add(sentence);
    }

    std::shared_ptr<const BleedPicture> bleed(const Design& design, const Sticker& sticker,
                                              const std::set<std::string>& leftOut) {
        CacheKey key = stickerKey("bleed", design);
        return cache_.findOrMake<BleedPicture>(
            key,
            [&] {
                return bleedPicture(design.artwork, sticker, design.recipe.bleed, picturesOf(design, leftOut),
                                    stop_);
            },
            [](const BleedPicture& made) {
                return bytesOf(made.picture) * (made.picture.fine ? 3 : 1); // fine colours take twice as much
            });
    }

    void addInk(MadeDesign& made, const Design& design, const InkLayer& layer) {
        CacheKey key = stickerKey("ink", design);
        key << double(layer.ink) << double(layer.area) << layer.choke << layer.threshold;
        for (const Rgba colour : layer.colours)
            key << colourText(colour);
        const auto ink = cache_.findOrMake<PrintedInk>(
            key,
            [&] {
                return printInk(design.artwork, *made.sticker, layer, picturesOf(design, made.leftOut),
                                toleranceOf(design), stop_);
            },
            [](const PrintedInk& printed) {
                return sizeof(PrintedInk) + bytesOf(printed.area) +
                       (printed.graded ? printed.graded->amounts.cells().size() : 0);
            });
        made.inks.push_back(ink);
        if (ink->area.empty())
            addSentence(made.remark, "No " + std::string(inkName(layer.ink)) + " ink is left of " +
                                         design.name + ": draw it in by less, or print it elsewhere");
    }

    /// As they are printed, one for each item.
    std::vector<std::shared_ptr<const Picture>> picturesOf(const Design& design,
                                                           const std::set<std::string>& leftOut) {
        std::vector<std::shared_ptr<const Picture>> pictures;
        for (const Item& item : design.artwork.items)
            pictures.push_back(pictures_(*job_.assets.at(item.asset),
                                         {item.page, item.isVector ? leftOut : std::set<std::string>()}));
        return pictures;
    }

    CacheKey stickerKey(std::string_view what, const Design& design) const {
        CacheKey key(what);
        for (const Item& item : design.artwork.items)
            key << item;
        const Recipe& recipe = design.recipe;
        key << recipe.edge << recipe.bridge;
        addChoice(key, recipe.edge);
        addTouchUps(key, recipe.edge);
        addBorderAndLines(key, recipe);
        addSpots(key, recipe.edge);
        return key;
    }

    std::shared_ptr<const Sticker> sticker(const Design& design) {
        const CacheKey key = stickerKey("sticker", design);
        return cache_.findOrMake<Sticker>(
            key,
            [&] {
                const double tolerance = toleranceOf(design);
                return makeSticker(
                    design.artwork, edge(design, tolerance), design.recipe,
                    {tolerance, showsBackdrop(design), brought(design), printedBeside(design)});
            },
            [](const Sticker& s) { return bytesOf(s); });
    }

    /// Whether it was told from a backdrop, which is no part of it.
    bool showsBackdrop(const Design& design) {
        const EdgeWay way = design.recipe.edge.way;
        if (way != EdgeWay::automatic && way != EdgeWay::backdrop && way != EdgeWay::brightness)
            return false;
        return std::any_of(design.artwork.items.begin(), design.artwork.items.end(), [&](const Item& item) {
            return !item.isVector && coverage(item, design.recipe.edge)->way != EdgeWay::transparency;
        });
    }

    /// Where it shows anything, where the edge is found by something else.
    std::optional<std::vector<Curve>> printedBeside(const Design& design) {
        const EdgeWay way = design.recipe.edge.way;
        if (way != EdgeWay::shape && way != EdgeWay::lines && way != EdgeWay::colours)
            return {};
        std::vector<Curve> all;
        for (const Item& item : design.artwork.items)
            for (const Curve& curve : printedBy(item))
                all.push_back(mapRim(curve, item.toDesign()));
        return all;
    }

    std::vector<Curve> printedBy(const Item& item) {
        if (!item.isVector && !shown(item)->hasCoverage)
            return {shapeAround(item.shownBox(), {PlainShapeKind::box, 0})};
        EdgeOptions options;
        options.way = item.isVector ? EdgeWay::paint : EdgeWay::transparency;
        options.takesBackdrop = true;
        options.loops = LoopChoice::all;
        return edgeOf(*loops(item, options), options, item.wholeBox());
    }

    static double toleranceOf(const Design& design) {
        double tolerance = 0;
        for (const Item& item : design.artwork.items)
            tolerance = std::max(tolerance, fitTolerance(item, design.recipe.edge));
        return tolerance;
    }

    Edge edge(const Design& design, double tolerance) {
        if (design.recipe.edge.way == EdgeWay::shape)
            return {shapeAround(bounds(design.artwork), design.recipe.edge.shape)};
        std::vector<Edge> edges;
        for (std::size_t i = 0; i < design.artwork.items.size(); ++i) {
            const Item& item = design.artwork.items[i];
            const EdgeOptions options = forItem(design.recipe.edge, i);
            edges.push_back(edgeOf(touched(item, options)->loops, options, item.wholeBox()));
            for (Curve& curve : edges.back())
                curve = mapRim(curve, item.toDesign());
        }
        return joinEdges(std::move(edges), tolerance);
    }

    /// The cut lines that the design's files bring, with what was done to them by hand.
    std::vector<CutLine> brought(const Design& design) {
        std::vector<CutLine> lines;
        if (design.recipe.edge.way != EdgeWay::lines)
            return lines;
        for (std::size_t n = 0; n < design.artwork.items.size(); ++n) {
            const Item& item = design.artwork.items[n];
            if (!item.isVector)
                continue;
            const EdgeOptions options = forItem(design.recipe.edge, n);
            const auto all = allBrought(item);
            const auto touchedLines = touched(item, options);
            std::vector<LoopFacts> facts;
            for (const EdgeLoop& loop : touchedLines->loops)
                facts.push_back(loop.facts);
            const std::vector<bool> isCut = chooseLoops(facts, options, item.wholeBox());
            for (std::size_t i = 0; i < facts.size(); ++i)
                if (isCut[i])
                    lines.push_back({all->lines[i].kind, all->lines[i].role,
                                     mapRim(touchedLines->loops[i].curve, item.toDesign())});
        }
        return lines;
    }

    /// In the item's own frame, as all that follows up to the coverage.
    std::shared_ptr<const BroughtLines> allBrought(const Item& item) {
        CacheKey key("brought");
        addOwn(key, item);
        addSpots(key);
        return cache_.findOrMake<BroughtLines>(
            key, [&] { return broughtLines(item.upright(), whole(item)->page->paint, job_.profile, true); },
            [](const BroughtLines& found) {
                std::size_t sum = sizeof(BroughtLines);
                for (const CutLine& line : found.lines)
                    sum += sizeof(CutLine) + line.curve.segments.size() * sizeof(CurveSegment);
                return sum;
            });
    }

    /// What brought lines are known by.
    void addSpots(CacheKey& key) const {
        for (const LineKind kind : lineKinds)
            key << job_.profile.style(kind).spot;
    }
    void addSpots(CacheKey& key, const EdgeOptions& options) const {
        if (options.way == EdgeWay::lines)
            addSpots(key);
    }

    std::vector<EdgeLoop> loopsBrought(const Item& item) {
        std::vector<EdgeLoop> loops;
        if (!item.isVector)
            return loops;
        for (const CutLine& line : allBrought(item)->lines) {
            const Loop loop = flatten(line.curve, flatteningTolerance);
            loops.push_back({{signedArea(loop), bounds(loop), line.role == LineRole::opening ? 1 : 0},
                             line.curve,
                             {},
                             {}});
        }
        return loops;
    }

    std::shared_ptr<const std::vector<EdgeLoop>> loops(const Item& item, const EdgeOptions& options) {
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
                    return loopsBrought(item);
                if (item.isVector && (options.way == EdgeWay::automatic || options.way == EdgeWay::paint)) {
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
    std::vector<EdgeLoop> colourLoops(const Item& item, const EdgeOptions& options) {
        const auto drawn = shown(item);
        if (options.colours == 0 && drawn->page && hasPlainColours(drawn->page->paint))
            return findPaintColourLoops(item.upright(), drawn->page->paint, *drawn, options, stop_);
        return findColourLoops(item.upright(), drawn->pixels, *colours(item, options), options, stop_);
    }

    std::shared_ptr<const TouchedLines> touched(const Item& item, const EdgeOptions& options) {
        CacheKey key("touched");
        addOwn(key, item);
        key << options;
        addSpots(key, options);
        addTouchUps(key, options);
        return cache_.findOrMake<TouchedLines>(
            key, [&] { return applyTouchUps(*loops(item, options), options.touchUps, item.wholeBox()); },
            [](const TouchedLines& lines) { return bytesOf(lines.loops); });
    }

    std::shared_ptr<const MadeDesign::Source> source(const Item& item) {
        CacheKey key("source");
        key << item.asset << double(item.page);
        return cache_.findOrMake<MadeDesign::Source>(
            key, [&] { return sourceFacts(item, *whole(item)); },
            [](const MadeDesign::Source& s) { return sizeof s; });
    }

    /// The part of the picture that is shown, as a picture of its own.
    std::shared_ptr<const Picture> shown(const Item& item) {
        if (!item.crop)
            return whole(item);
        CacheKey key("shown");
        addShown(key, item);
        return cache_.findOrMake<Picture>(
            key, [&] { return partOf(*whole(item), *item.crop); },
            [](const Picture& part) { return bytesOf(part); });
    }

    std::shared_ptr<const Picture> whole(const Item& item) {
        const std::pair which(item.asset, item.page);
        if (which_ != which)
            last_ = pictures_(*job_.assets.at(item.asset), {item.page});
        which_ = which;
        auto found = last_;
        if (item.isVector != bool(found->page))
            throw InputError(item.name + " is of another kind than the job says");
        if (found->pixels.width() != item.pixelWidth || found->pixels.height() != item.pixelHeight)
            throw InputError(item.name + " has another size in pixels than the job says");
        return found;
    }

    std::shared_ptr<const ColourRegions> colours(const Item& item, const EdgeOptions& options) {
        CacheKey key("colours");
        addShown(key, item);
        key << double(options.colours);
        return cache_.findOrMake<ColourRegions>(
            key, [&] { return findColours(*shown(item), options.colours, stop_); },
            [](const ColourRegions& found) { return found.labels.cells().size(); });
    }

    /// Of a plain shape, what would be found by itself; colours need no coverage, and what vector art paints
    /// is shown by its transparency.
    static EdgeWay wayOf(const Item& item, const EdgeOptions& options) {
        switch (options.way) {
        case EdgeWay::colours:
            return EdgeWay::transparency;
        case EdgeWay::automatic:
        case EdgeWay::shape:
        case EdgeWay::paint:
        case EdgeWay::lines:
            return item.isVector ? EdgeWay::transparency : EdgeWay::automatic;
        default:
            return options.way;
        }
    }

    std::shared_ptr<const Coverage> coverage(const Item& item, const EdgeOptions& options) {
        CacheKey key("coverage");
        addShown(key, item);
        key << double(wayOf(item, options)) << options.shadow;
        return cache_.findOrMake<Coverage>(
            key, [&] { return findCoverage(*shown(item), wayOf(item, options), options.shadow, stop_); },
            [](const Coverage& c) { return c.cells.cells().size(); });
    }

    std::shared_ptr<const EdgePreview> preview(const Item& item, const EdgeOptions& options) {
        CacheKey key("preview");
        addShown(key, item);
        key << double(wayOf(item, options)) << options.shadow;
        return cache_.findOrMake<EdgePreview>(
            key, [&] { return previewOf(*coverage(item, options)); },
            [](const EdgePreview& made) { return made.cells.cells().size(); });
    }

    static std::string whyEmpty(const Design& design, const Sticker& sticker) {
        if (sticker.edge.empty())
            return whyNoEdge(design);
        const auto& lines = design.recipe.lines;
        if (std::none_of(lines.begin(), lines.end(), [](const LineRecipe& line) { return line.isCut; }))
            return "No line of " + design.name + " is to be cut: tick one in Cut lines";
        return "The inward offset leaves nothing of " + design.name + ": make it smaller";
    }

    static std::string whyNoEdge(const Design& design) {
        switch (design.recipe.edge.way) {
        case EdgeWay::lines:
            return design.name + " brings no cut lines: find the edge another way, or draw them in the file "
                                 "as strokes in a "
                                 "spot colour named as the machine's profile says";
        case EdgeWay::backdrop:
            return "Nothing in " + design.name +
                   " stands out from its backdrop: find the edge another way, or use a picture with more "
                   "contrast";
        case EdgeWay::colours:
            return "No colour in " + design.name +
                   " covers enough to be cut: lower the size of specks, or find the edge another way";
        case EdgeWay::brightness:
            return "Nothing in " + design.name +
                   " is dark or light enough for an edge: move the level, or find the edge another way";
        default:
            return "Nothing in " + design.name +
                   " is clear enough for an edge: lower the level, find the edge another way, or use a "
                   "picture "
                   "that shows something";
        }
    }

    const Job& job_;
    const PictureSource& pictures_;
    Cache& cache_;
    std::stop_token stop_;
    std::pair<std::string, int> which_;   // asset and page of
    std::shared_ptr<const Picture> last_; // the picture asked for last
};

std::vector<std::size_t> orderOfMaking(const Job& job, std::string_view first) {
    std::vector<std::size_t> order(job.designs.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::stable_partition(order.begin(), order.end(),
                          [&](std::size_t i) { return job.designs[i].id == first; });
    return order;
}

} // namespace

const MadeDesign* Made::find(std::string_view design) const {
    const auto found =
        std::find_if(designs.begin(), designs.end(), [&](const MadeDesign& d) { return d.design == design; });
    return found == designs.end() ? nullptr : &*found;
}

std::vector<LineKind> kindsOn(const Made& made, const Sheet& sheet) {
    std::set<std::string_view> designs;
    for (const Piece& piece : sheet.pieces)
        designs.insert(piece.design);
    std::vector<LineKind> kinds;
    std::copy_if(lineKinds.begin(), lineKinds.end(), std::back_inserter(kinds), [&](LineKind kind) {
        return std::any_of(designs.begin(), designs.end(),
                           [&](std::string_view id) { return made.find(id)->sticker->has(kind); });
    });
    return kinds;
}

Made makeAll(const Job& job, std::uint64_t revision, const PictureSource& pictures, Cache& cache,
             const std::stop_token& stop, const Progress& progress) {
    Made made;
    made.revision = revision;
    made.designs.resize(job.designs.size());
    Maker maker(job, pictures, cache, stop);
    for (const std::size_t i : orderOfMaking(job, progress.first)) {
        throwIfStopped(stop);
        made.designs[i] = maker.make(job.designs[i]);
        if (progress.made)
            progress.made(made.designs[i]);
    }
    std::vector<Copies> copies;
    for (std::size_t i = 0; i < job.designs.size(); ++i) {
        const Sticker& sticker = *made.designs[i].sticker;
        copies.push_back({job.designs[i].id, sticker.isEmpty() ? Box{} : sticker.footprint,
                          job.designs[i].count, job.designs[i].recipe.isMirrored});
    }
    throwIfStopped(stop);
    made.layout = layOutRows(copies, job.plan, job.profile);
    return made;
}

} // namespace hasami
