#include "job/split.h"

#include "artwork/arrange.h"
#include "base/error.h"
#include "base/translation.h"
#include "drawing/clip.h"
#include "geometry/region_operations.h"
#include "sticker/open_lines.h"

#include <algorithm>

namespace hasami {

namespace {

constexpr double flatteningOfParts = 0.01; // mm
constexpr double leastTogether = 0.001;    // mm: less is none
constexpr double airAround = 0.5;          // mm of a crop beyond a part's outline
constexpr double gapBetween = 5;           // mm between artwork that is gathered

Box boxOf(const std::vector<Curve>& part) {
    Box box;
    for (const Curve& curve : part)
        box.add(bounds(flatten(curve, flatteningOfParts)));
    return box;
}

/// By rows: a part that begins above the middle of the row's first is in that row.
void sortForReading(std::vector<std::vector<Curve>>& parts) {
    std::vector<std::pair<Box, std::size_t>> order;
    order.reserve(parts.size());
    for (std::size_t i = 0; i < parts.size(); ++i)
        order.emplace_back(boxOf(parts[i]), i);
    std::ranges::sort(order, {}, [](const auto& part) { return part.first.centre().y; });
    for (auto from = order.begin(); from != order.end();) {
        const double end = from->first.most.y;
        const auto to =
            std::find_if(from, order.end(), [&](const auto& part) { return part.first.centre().y > end; });
        std::sort(from, to, [](const auto& a, const auto& b) { return a.first.least.x < b.first.least.x; });
        from = to;
    }
    std::vector<std::vector<Curve>> sorted;
    sorted.reserve(parts.size());
    for (const auto& [box, place] : order)
        sorted.push_back(std::move(parts[place]));
    parts = std::move(sorted);
}

class Splitting {
public:
    Splitting(const Job& job, const Design& design, std::vector<std::vector<Curve>> parts)
        : assets_(assetSourceOf(*job.assets)), design_(design), parts_(std::move(parts)) {
        boxes_.reserve(parts_.size());
        for (const std::vector<Curve>& part : parts_)
            boxes_.push_back(boxOf(part));
    }

    Design part(std::size_t number) const {
        Design part = design_;
        const Box box = boxes_[number].grownBy(airAround);
        const bool isAlone = !reachesInto(box, number);
        part.artwork.items.clear();
        std::vector<std::optional<std::size_t>> numbers;
        for (const Item& item : design_.artwork.items) {
            const auto share = shareOf(item, number, box, isAlone);
            numbers.push_back(share ? std::optional(part.artwork.items.size()) : std::nullopt);
            if (share)
                part.artwork.items.push_back(*share);
        }
        keepByHand(part, numbers);
        keepDrawn(part, numbers, box);
        const Box whole = bounds(part.artwork);
        for (Item& item : part.artwork.items)
            item = movedBy(item, whole.least * -1);
        part.guides.clear();
        part.name = design_.name + " " + std::to_string(number + 1);
        return part;
    }

private:
    /// Whether another part's outline lies within a box.
    bool reachesInto(const Box& box, std::size_t own) const {
        for (std::size_t i = 0; i < parts_.size(); ++i) {
            if (i == own || !boxes_[i].meets(box))
                continue;
            for (const Curve& curve : parts_[i])
                for (const Point p : flatten(curve, flatteningOfParts))
                    if (box.meets({p, p}))
                        return true;
        }
        return false;
    }

    std::optional<Item> shareOf(const Item& item, std::size_t number, const Box& box, bool isAlone) const {
        const Box shown = bounds(item);
        if (!shown.meets(box))
            return {};
        if (box.holds(shown))
            return item;
        if (!isAlone && item.file()) {
            const auto [figure, at] = hasami::figureOf(parts_[number]);
            return clippedTo(item, figure, at, assets_);
        }
        if (item.own())
            return isAmongOthers(item, box) ? shareOfWhole(item, number) : shareOfOutlines(item, number);
        const auto pixels = partIn(item, box);
        return pixels ? std::optional(cropped(item, *pixels)) : std::nullopt;
    }

    bool isAmongOthers(const Item& item, const Box& box) const {
        return std::ranges::any_of(design_.artwork.items, [&](const Item& other) {
            return &other != &item && !other.isBackground && bounds(other).meets(box);
        });
    }

    /// Own artwork that lies on others stays whole, with the part nearest to its middle.
    std::optional<Item> shareOfWhole(const Item& item, std::size_t number) const {
        const Point middle = bounds(item).centre();
        const auto nearest = std::ranges::min_element(
            boxes_, {}, [&](const Box& box) { return distance(box.centre(), middle); });
        return nearest == boxes_.begin() + std::ptrdiff_t(number) ? std::optional(item) : std::nullopt;
    }

    /// What of own artwork lies in the part, as a figure of its outline with the same fill.
    Item shareOfOutlines(const Item& item, std::size_t number) const {
        const auto [figure, at] = hasami::figureOf(parts_[number]);
        OwnArtwork own = *item.own();
        if (auto* picture = std::get_if<PictureFill>(&own.fill);
            picture && item.place.turn == 0 && !item.place.isMirrored) {
            const Drawing& drawing = *own.drawing->drawing;
            const double scale = item.place.width / drawing.width;
            if (picture->isFitted)
                for (const DrawnArea& area : drawing.areas)
                    if (const auto* drawn = std::get_if<PictureFill>(&area.fill))
                        picture->place = drawn->place;
            picture->isFitted = false;
            picture->place.at = picture->place.at * scale + item.place.at - at;
            picture->place.width *= scale;
            picture->place.height *= scale;
        }
        own.what = figure;
        const auto noFonts = [](const FontChoice&) { return nullptr; };
        return movedBy(newItem(std::move(own), item.name, noFonts, assets_), at);
    }

    /// Switches and touch-ups stay with their items.
    static void keepByHand(Design& part, const std::vector<std::optional<std::size_t>>& numbers) {
        const auto renumber = [&](auto& all) {
            std::erase_if(all, [&](auto& one) {
                const auto number = numbers.at(std::size_t(one.item));
                one.item = int(number.value_or(0));
                return !number;
            });
        };
        renumber(part.recipe.edge.switches);
        renumber(part.recipe.edge.touchUps);
    }

    /// Lines that were drawn stay with the part that they lie on.
    void keepDrawn(Design& part, const std::vector<std::optional<std::size_t>>& numbers,
                   const Box& box) const {
        std::erase_if(part.recipe.lines, [&](LineRecipe& line) {
            if (line.course != LineCourse::drawn)
                return false;
            const auto item = std::size_t(line.drawn.item);
            if (item >= numbers.size() || !numbers[item])
                return true;
            Box drawn;
            for (Point& point : line.drawn.points) {
                point = fromDrawn(design_.artwork.items[item])(point);
                drawn.add(point);
            }
            if (!drawn.meets(box))
                return true;
            const Affine map = inverse(fromDrawn(part.artwork.items[*numbers[item]]));
            for (Point& point : line.drawn.points)
                point = map(point);
            line.drawn.item = int(*numbers[item]);
            return false;
        });
    }

    AssetSource assets_;
    const Design& design_;
    std::vector<std::vector<Curve>> parts_;
    std::vector<Box> boxes_;
};

} // namespace

std::vector<std::vector<Curve>> partsOf(const std::vector<Curve>& edge, double together) {
    std::vector<std::vector<Curve>> parts;
    std::vector<Region> grown;
    for (const Curve& curve : edge) {
        const Loop loop = flatten(curve, flatteningOfParts);
        if (signedArea(loop) <= 0)
            continue;
        parts.push_back({curve}); // outer lines of an edge lie apart
        if (together > leastTogether)
            grown.push_back(grownSimple({{loop}}, together / 2));
    }
    if (!grown.empty()) {
        const Region joined = withoutOpenings(uniteSimple(grown));
        std::vector<std::vector<Curve>> sets(joined.loops.size());
        for (std::vector<Curve>& part : parts) {
            const Point within = part.front().start; // by half the distance
            const auto around =
                std::ranges::find_if(joined.loops, [&](const Loop& loop) { return contains(loop, within); });
            sets.at(std::size_t(around - joined.loops.begin())).push_back(std::move(part.front()));
        }
        std::erase_if(sets, [](const auto& set) { return set.empty(); });
        parts = std::move(sets);
    }
    sortForReading(parts);
    return parts;
}

std::vector<std::string> splitDesign(Job& job, std::string_view id, const std::vector<Curve>& edge,
                                     double together) {
    const Design design = *std::as_const(job).find(id);
    std::vector<std::vector<Curve>> parts = partsOf(edge, together);
    if (parts.size() < 2)
        return {};
    if (job.designs.size() + parts.size() > Limits::mostDesigns)
        throw InputError(sentence("%1 has %2 parts, more than a job can have designs", design.name,
                                  std::to_string(parts.size())));
    const std::size_t count = parts.size();
    const Splitting splitting(job, design, std::move(parts));
    std::size_t place = 0;
    while (job.designs[place].id != id)
        ++place;
    std::vector<std::string> ids;
    for (std::size_t i = 0; i < count; ++i) {
        Design part = splitting.part(i);
        if (part.artwork.items.empty())
            continue;
        part.id = newDesignId(job);
        ids.push_back(part.id);
        job.designs.push_back(std::move(part));
        job.designs.move(job.designs.size() - 1, place + ids.size());
    }
    removeDesign(job, id);
    return ids;
}

void gatherDesigns(Job& job, std::string_view id, const std::vector<std::string>& others) {
    Design whole = *std::as_const(job).find(id);
    for (const std::string& other : others) {
        const Design& design = *std::as_const(job).find(other);
        if (whole.artwork.items.size() + design.artwork.items.size() > Limits::mostItems)
            throw InputError(sentence("%1 would have more than %2 artworks, the most that a design holds",
                                      whole.name, std::to_string(Limits::mostItems)));
        const Box box = bounds(whole.artwork), own = bounds(design.artwork);
        const Point by{box.most.x + gapBetween - own.least.x, box.least.y - own.least.y};
        const int first = int(whole.artwork.items.size());
        for (const Item& item : design.artwork.items)
            whole.artwork.items.push_back(movedBy(item, by));
        const auto append = [first](auto& all, auto more) {
            for (auto& one : more) {
                one.item += first;
                all.push_back(one);
            }
        };
        append(whole.recipe.edge.switches, design.recipe.edge.switches);
        append(whole.recipe.edge.touchUps, design.recipe.edge.touchUps);
    }
    *job.find(id) = whole;
    for (const std::string& other : others)
        removeDesign(job, other);
}

} // namespace hasami
