#include "edge/paint_outline.h"

#include "base/error.h"
#include "edge/found_loops.h"
#include "edge/line_fits.h"
#include "geometry/box_sets.h"
#include "geometry/fit_curves.h"
#include "raster/level_lines.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <iterator>
#include <map>
#include <numeric>
#include <optional>
#include <utility>

namespace hasami {

namespace {

constexpr double flatteningOfPaint = 0.002; // mm: the fit takes 0.005 more, and 0.01 is promised
constexpr double leastOpacity = 0.05;       // fainter paint is not seen as part of the art
constexpr double levelOfMasked = 255 * leastOpacity;
constexpr double sameBox = 0.05; // mm
constexpr std::size_t unitedAtOnce = 64;
constexpr Box ofUse{{-50'000, -50'000}, {50'000, 50'000}}; // mm; what files draw farther out, no page shows

Region loopsOf(const PaintShape& shape, const Affine& map) {
    Region loops;
    if (shape.stroke) {
        const Affine whole = map * shape.stroke->toPage;
        const double scale = std::max(std::hypot(whole.a, whole.b), std::hypot(whole.c, whole.d));
        if (!(scale > 0))
            return loops;
        loops.loops = strokeLoops(shape.path, shape.stroke->style, flatteningOfPaint / scale);
        for (Loop& loop : loops.loops)
            for (Point& p : loop)
                p = whole(p);
        return loops;
    }
    for (const Subpath& run : hasami::map(shape.path, map))
        loops.loops.push_back(flatten(run, flatteningOfPaint));
    return loops;
}

/// The area of a shape, in the units that `map` leads to. Each is resolved by itself, so that no two take
/// away from each other.
Region areaOf(const PaintShape& shape, const Affine& map) {
    Region loops = loopsOf(shape, map);
    for (Loop& loop : loops.loops)
        loop = cutTo(loop, ofUse);
    return enclosed(loops, shape.stroke ? FillRule::nonZero : shape.rule);
}

bool covers(const PaintShape& shape, const Box& box, double within) {
    if (shape.stroke || shape.path.size() != 1)
        return false;
    Loop loop = flatten(shape.path.front(), flatteningOfPaint);
    const Box around = bounds(loop);
    return around.grownBy(within).holds(box) &&
           std::abs(signedArea(loop)) > 0.9999 * around.width() * around.height();
}

/// The box of what a page shows of a shape, within a tenth of a millimetre.
Box boxOf(const PaintShape& shape) {
    constexpr double roughly = 0.1; // mm
    const Affine toPage = shape.stroke ? shape.stroke->toPage : Affine{};
    Box box;
    for (const Subpath& run : map(shape.path, toPage))
        box.add(bounds(flatten(run, roughly)));
    const double width = shape.stroke ? shape.stroke->style.width : 0;
    return box.grownBy(width / 2 * std::sqrt(std::abs(toPage.determinant())));
}

/// Whether what is painted from an item on reaches three edges of the page or all four.
bool reachesEdges(const PaintList& paint, std::size_t from, const Box& page, double within) {
    Box reach;
    for (std::size_t i = from; i < paint.items.size(); ++i) {
        const PaintItem& item = paint.items[i];
        if (item.opacity <= leastOpacity)
            continue;
        Box box = boxOf(item.shape);
        for (int clip = item.clip; clip >= 0 && !box.isEmpty();
             clip = paint.clips[std::size_t(clip)].parent) {
            const Box by = boxOf(paint.clips[std::size_t(clip)].shape);
            box = {{std::max(box.least.x, by.least.x), std::max(box.least.y, by.least.y)},
                   {std::min(box.most.x, by.most.x), std::min(box.most.y, by.most.y)}};
        }
        reach.add(box);
    }
    const int edges = int(reach.least.x <= page.least.x + within) +
                      int(reach.least.y <= page.least.y + within) +
                      int(reach.most.x >= page.most.x - within) + int(reach.most.y >= page.most.y - within);
    return edges >= 3;
}

/// Unites as it goes, each time as many as were united as often, so that what is large is seldom gone through
/// again.
class Union {
public:
    void add(Region region, std::size_t times = 0) {
        if (parts_.size() <= times)
            parts_.resize(times + 1);
        parts_[times].push_back(std::move(region));
        if (parts_[times].size() >= unitedAtOnce)
            add(uniteSimple(std::exchange(parts_[times], {})), times + 1);
    }
    Region take() {
        std::vector<Region> all;
        for (std::vector<Region>& united : parts_)
            std::move(united.begin(), united.end(), std::back_inserter(all));
        return all.size() == 1 ? std::move(all.front()) : uniteSimple(all);
    }

private:
    std::vector<std::vector<Region>> parts_; // by how often they were united
};

/// All as one. What meets nothing else stays as it is.
Region united(std::vector<Region> parts) {
    std::erase_if(parts, [](const Region& part) { return part.isEmpty(); });
    std::vector<Box> boxes;
    boxes.reserve(parts.size());
    for (const Region& part : parts)
        boxes.push_back(bounds(part));
    const std::vector<std::size_t> sets = setsOf(boxes);
    std::map<std::size_t, Union> unions;
    for (std::size_t i = 0; i < parts.size(); ++i)
        unions[sets[i]].add(std::move(parts[i]));
    Region all;
    for (auto& [set, of] : unions) {
        Region one = of.take();
        std::move(one.loops.begin(), one.loops.end(), std::back_inserter(all.loops));
    }
    return all;
}

bool sharesLayer(const PaintItem& a, const PaintItem& b) {
    return a.clip == b.clip && a.colour == b.colour && a.opacity == b.opacity;
}

Rgba seenOnWhite(const PaintItem& item) {
    const auto mixed = [&](std::uint8_t part) {
        return std::uint8_t(std::lround(255 - (255 - part) * item.opacity));
    };
    return {mixed(item.colour.red), mixed(item.colour.green), mixed(item.colour.blue), 255};
}

class PaintedArea {
public:
    PaintedArea(const Item& item, const PaintList& paint, const Picture& picture, const std::stop_token& stop)
        : item_(item), paint_(paint), picture_(picture), stop_(stop), fromPixels_(item.fromPixels()),
          map_(fromPage(item, paint)), page_{{0, 0}, {paint.width, paint.height}},
          clips_(paint.clips.size()) {}

    Region from(std::size_t firstItem) {
        // What shares its clip is clipped at once.
        std::map<std::pair<int, bool>, std::vector<Region>> groups;
        for (std::size_t i = firstItem; i < paint_.items.size(); ++i) {
            throwIfStopped(stop_);
            const PaintItem& item = paint_.items[i];
            if (item.opacity > leastOpacity)
                groups[{item.clip, item.isMasked}].push_back(areaOf(item.shape, map_));
        }
        std::vector<Region> all;
        for (auto& [how, group] : groups) {
            throwIfStopped(stop_);
            const auto [clip, isMasked] = how;
            Region area = united(std::move(group));
            if (const Region* within = clipArea(clip))
                area = intersection(area, *within);
            all.push_back(isMasked ? intersection(area, visible()) : std::move(area));
        }
        return withinShown(united(std::move(all)));
    }

    /// What is seen of each colour, those in front first. Faint colours are seen on white.
    std::vector<std::pair<Rgba, Region>> byColour(std::size_t firstItem) {
        std::vector<Layer> layers = layersFrom(firstItem);
        std::vector<std::pair<Rgba, std::vector<Region>>> seen;
        for (std::size_t i = layers.size(); i-- > 0;) {
            throwIfStopped(stop_);
            Region inFront;
            for (std::size_t j = i + 1; j < layers.size(); ++j)
                if (layers[j].box.meets(layers[i].box))
                    inFront.loops.insert(inFront.loops.end(), layers[j].area.loops.begin(),
                                         layers[j].area.loops.end());
            auto found = std::find_if(seen.begin(), seen.end(),
                                      [&](const auto& of) { return of.first == layers[i].colour; });
            if (found == seen.end())
                found = seen.insert(seen.end(), {layers[i].colour, {}});
            found->second.push_back(inFront.isEmpty() ? layers[i].area : difference(layers[i].area, inFront));
        }
        std::vector<std::pair<Rgba, Region>> areas;
        areas.reserve(seen.size());
        for (auto& [colour, regions] : seen)
            areas.emplace_back(colour, withinShown(united(std::move(regions))));
        return areas;
    }

private:
    /// Neighbours in the stack that share colour and clip.
    struct Layer {
        Rgba colour;
        Region area;
        Box box;
    };

    std::vector<Layer> layersFrom(std::size_t firstItem) {
        std::vector<Layer> layers;
        for (std::size_t i = firstItem; i < paint_.items.size();) {
            throwIfStopped(stop_);
            const PaintItem& first = paint_.items[i];
            std::vector<Region> group;
            for (; i < paint_.items.size() && sharesLayer(paint_.items[i], first); ++i)
                group.push_back(areaOf(paint_.items[i].shape, map_));
            if (first.opacity <= leastOpacity)
                continue;
            Region area = united(std::move(group));
            if (const Region* within = clipArea(first.clip))
                area = intersection(area, *within);
            const Box box = bounds(area);
            layers.push_back({seenOnWhite(first), std::move(area), box});
        }
        return layers;
    }

    Region withinShown(Region area) const {
        Region own = regionOf(item_.shownBox());
        const Affine back = inverse(item_.toDesign());
        const Box box = bounds(own), around = boundsOfMapped(bounds(area), back);
        if (area.isEmpty() || box.holds(around))
            return area;
        for (Point& p : own.loops.front())
            p = item_.toDesign()(p);
        if (signedArea(own.loops.front()) < 0)
            std::reverse(own.loops.front().begin(), own.loops.front().end());
        return intersection(area, own);
    }

    /// The area that a clip and those it lies in leave; nothing if that is the whole page.
    const Region* clipArea(int index) {
        std::vector<std::size_t> chain; // the innermost first, up to one that is known
        for (int at = index; at >= 0; at = paint_.clips[std::size_t(at)].parent) {
            if (covers(paint_.clips[std::size_t(at)].shape, page_, sameBox))
                continue;
            chain.push_back(std::size_t(at));
            if (clips_[chain.back()])
                break;
        }
        const Region* outer = nullptr;
        while (!chain.empty()) {
            throwIfStopped(stop_);
            std::optional<Region>& area = clips_[chain.back()];
            if (!area) {
                area = areaOf(paint_.clips[chain.back()].shape, map_);
                if (outer)
                    area = intersection(*area, *outer);
            }
            outer = &*area;
            chain.pop_back();
        }
        return outer;
    }

    /// Where the page, as drawn, shows anything.
    const Region& visible() {
        if (!visible_) {
            visible_.emplace();
            visible_->loops = levelLines(coverageOf(picture_), levelOfMasked, stop_);
            for (Loop& loop : visible_->loops)
                for (Point& p : loop)
                    p = fromPixels_(p);
        }
        return *visible_;
    }

    const Item& item_;
    const PaintList& paint_;
    const Picture& picture_;
    const std::stop_token& stop_;
    Affine fromPixels_, map_;
    Box page_;
    std::vector<std::optional<Region>> clips_;
    std::optional<Region> visible_;
};

} // namespace

Affine fromPage(const Item& item, const PaintList& paint) {
    return item.toDesign() *
           Affine::scaling(item.place.width / paint.width, item.place.height / paint.height);
}

std::size_t backdropItems(const PaintList& paint) {
    if (paint.hasNoBackdrop)
        return 0;
    constexpr double point = 25.4 / 72; // mm: the boxes of EPS files are rounded to whole ones
    const Box page{{0, 0}, {paint.width, paint.height}};
    const double within = std::min(point, 0.02 * std::min(paint.width, paint.height)) + 0.01;
    std::size_t count = 0;
    for (const PaintItem& item : paint.items) {
        const bool isClipped =
            item.clip >= 0 && !covers(paint.clips[std::size_t(item.clip)].shape, page, within);
        if (item.kind != PaintItem::Kind::plain || item.isMasked || isClipped ||
            item.opacity <= leastOpacity || !covers(item.shape, page, within))
            break;
        ++count;
    }
    return count == paint.items.size() || reachesEdges(paint, count, page, within) ? 0 : count;
}

Region paintedArea(const Item& item, const PaintList& paint, const Picture& picture, bool withBackdrop,
                   const std::stop_token& stop) {
    return PaintedArea(item, paint, picture, stop).from(withBackdrop ? 0 : backdropItems(paint));
}

bool hasPlainColours(const PaintList& paint) {
    constexpr std::size_t mostLayers = 3000;
    std::size_t layers = 0;
    for (std::size_t i = backdropItems(paint); i < paint.items.size(); ++i) {
        const PaintItem& item = paint.items[i];
        if (item.kind != PaintItem::Kind::plain || item.isMasked)
            return false;
        layers += i == 0 || !sharesLayer(item, paint.items[i - 1]);
    }
    return layers > 0 && layers <= mostLayers;
}

namespace {

/// For all loops.
std::array<FitOptions, 1> fitFor(const Item& item, const EdgeOptions& options) {
    const double tolerance = fitTolerance(item, options);
    return {{{tolerance, scatterOfBumps * options.smoothing, std::max(2 * tolerance, options.smoothing)}}};
}

} // namespace

std::vector<EdgeLoop> findPaintColourLoops(const Item& item, const PaintList& paint, const Picture& picture,
                                           const EdgeOptions& options, const std::stop_token& stop) {
    std::vector<EdgeLoop> loops;
    PaintedArea painted(item, paint, picture, stop);
    for (auto& [colour, area] : painted.byColour(backdropItems(paint)))
        for (EdgeLoop& loop :
             fittedLoops(sifted(std::move(area.loops), options), fitFor(item, options), stop)) {
            loop.colour = colour;
            loop.facts.depth = loop.facts.area < 0 ? 1 : 0; // as other colours' areas count for nothing
            loops.push_back(std::move(loop));
        }
    std::stable_sort(loops.begin(), loops.end(), [](const EdgeLoop& a, const EdgeLoop& b) {
        return std::abs(a.facts.area) > std::abs(b.facts.area);
    });
    return loops;
}

std::vector<EdgeLoop> findPaintLoops(const Item& item, const PaintList& paint, const Picture& picture,
                                     const EdgeOptions& options, const std::stop_token& stop) {
    Region area = paintedArea(item, paint, picture, options.takesBackdrop, stop);
    return fittedLoops(sifted(std::move(area.loops), options), fitFor(item, options), stop);
}

} // namespace hasami
