#include "job/job.h"

#include "artwork/arrange.h"
#include "artwork/picture.h"
#include "base/error.h"
#include "base/translation.h"
#include "geometry/length_text.h"
#include "sticker/brought_lines.h"

#include <algorithm>
#include <numeric>
#include <set>
#include <utility>

namespace hasami {

namespace {

std::optional<std::size_t> placeOf(const Job& job, std::string_view id) {
    for (std::size_t i = 0; i < job.designs.size(); ++i)
        if (job.designs[i].id == id)
            return i;
    return {};
}

std::string withoutEnding(const std::string& fileName) {
    const auto dot = fileName.find_last_of('.');
    return dot == std::string::npos || dot == 0 ? fileName : fileName.substr(0, dot);
}

void takeBroughtLines(Recipe& recipe, const NewPicture& picture, const Profile& profile) {
    const auto isLine = [&](const std::string& spot) {
        const auto meaning = meaningOf(spot, profile);
        return meaning && meaning->isExact;
    };
    if (!picture.vector ||
        std::none_of(picture.vector->strokeSpots.begin(), picture.vector->strokeSpots.end(), isLine))
        return;
    recipe.edge.way = EdgeWay::lines;
    recipe.edge.loops = LoopChoice::all;
}

/// As the artist has drawn them.
void takeBroughtInks(Recipe& recipe, const NewPicture& picture, const Profile& profile) {
    for (const InkKind ink : inkKinds)
        if (std::ranges::find(picture.spots, profile.names.of(ink).name) != picture.spots.end())
            recipe.inks.push_back({ink, InkArea::brought, 0});
}

} // namespace

std::string newDesignId(const Job& job) {
    for (std::size_t n = job.designs.size() + 1;; ++n) {
        std::string id = "design-" + std::to_string(n);
        if (!job.find(id))
            return id;
    }
}

const Design* Job::find(std::string_view id) const {
    const auto place = placeOf(*this, id);
    return place ? &designs[*place] : nullptr;
}

Design* Job::find(std::string_view id) {
    const auto place = placeOf(*this, id);
    return place ? &designs[*place] : nullptr;
}

Point NewPicture::naturalSize() const {
    if (vector)
        return {vector->width, vector->height};
    const double density = pixelsPerMillimetre > 0 ? pixelsPerMillimetre : usualPixelsPerMillimetre;
    return {pixelWidth / density, pixelHeight / density};
}

namespace {

void checkRoom(const Design& design) {
    if (design.artwork.items.size() >= Limits::mostItems)
        throw InputError(sentence("%1 has %2 artworks, the most that a design holds", design.name,
                                  std::to_string(Limits::mostItems)));
}

} // namespace

Design& addDesign(Job& job, const NewPicture& picture, std::optional<double> width) {
    const Point size = picture.naturalSize();
    Item item{picture.asset->name, picture.pixelWidth, picture.pixelHeight, {{0, 0}, size.x, size.y}};
    const FileContent content{picture.asset->sha256, picture.page};
    if (picture.vector)
        item.content = FilePage{content};
    else
        item.content = FilePicture{content};
    const double least = std::min(item.place.width, item.place.height);
    const double most = std::max(item.place.width, item.place.height);
    double factor = 1;
    if (width)
        factor = *width / item.place.width;
    // A natural size that makes no sense (a wrong resolution in the file) is not the user's fault: fit it in.
    else if (most > Limits::mostSize)
        factor = Limits::mostSize / most;
    else if (least < Limits::leastSize)
        factor = Limits::leastSize / least;
    item.place.width *= factor;
    item.place.height *= factor;
    if (least * factor < Limits::leastSize * (1 - 1e-9) || most * factor > Limits::mostSize * (1 + 1e-9))
        throw InputError(sentence("%1 would be %2 x %3; Hasami makes stickers from 1 mm to 10 m",
                                  picture.asset->name, lengthText(item.place.width),
                                  lengthText(item.place.height)));
    Design design;
    design.id = newDesignId(job);
    design.name = withoutEnding(picture.asset->name);
    design.artwork.items.push_back(std::move(item));
    const Placement& place = design.artwork.items.front().place;
    design.recipe = startingFor(StickerUse::stickers, {}, std::max(place.width, place.height));
    takeBroughtLines(design.recipe, picture, job.profile);
    takeBroughtInks(design.recipe, picture, job.profile);
    job.assets.edit()[picture.asset->sha256] = picture.asset;
    job.designs.push_back(std::move(design));
    return job.designs.back();
}

Design& addDesign(Job& job, const Item& own) {
    Design design;
    design.id = newDesignId(job);
    design.name = own.name;
    design.artwork.items.push_back(own);
    design.recipe = startingFor(StickerUse::stickers, {}, std::max(own.place.width, own.place.height));
    job.designs.push_back(std::move(design));
    return job.designs.back();
}

void addOwnItem(Job& job, std::string_view id, Item item) {
    Design& design = *job.find(id);
    checkRoom(design);
    if (!design.artwork.items.empty() && item.place.at == Point{}) {
        const Box within = bounds(design.artwork);
        item = movedBy(item, within.centre() - bounds(item).centre());
    }
    design.artwork.items.push_back(std::move(item));
}

const std::shared_ptr<const Asset>& assetOf(const Job& job, const Item& item) {
    return item.own() ? item.own()->drawing : job.assets->at(item.file()->asset);
}

FontSource fontSourceOf(const Assets& assets, OpenFonts& open, FontSource others) {
    return [&assets, &open, others = std::move(others)](const FontChoice& choice) {
        const auto found = assets.find(choice.asset);
        if (found != assets.end())
            return open.open(found->second, choice.face);
        return others ? others(choice) : nullptr;
    };
}

AssetSource assetSourceOf(const Assets& assets) {
    return [&assets](const std::string& sha256) {
        const auto found = assets.find(sha256);
        return found == assets.end() ? nullptr : found->second;
    };
}

namespace {

/// "bee 2" of "bee", "bee 3" of "bee 2": the next number that no design has.
std::string nameOfCopy(const Job& job, const std::string& name) {
    std::string base = name;
    std::size_t number = 1;
    const std::size_t space = name.rfind(' ');
    constexpr std::size_t mostDigits = 6;
    if (space != std::string::npos && space > 0 && name.size() - space - 1 <= mostDigits) {
        const std::string digits = name.substr(space + 1);
        const bool isNumber =
            !digits.empty() && digits.front() != '0' &&
            std::all_of(digits.begin(), digits.end(), [](char c) { return c >= '0' && c <= '9'; });
        if (isNumber && digits != "1") {
            number = std::stoul(digits);
            base.resize(space);
        }
    }
    const auto isTaken = [&](const std::string& wanted) {
        return std::any_of(job.designs.begin(), job.designs.end(),
                           [&](const Design& design) { return design.name == wanted; });
    };
    std::string next;
    do
        next = base + " " + std::to_string(++number);
    while (isTaken(next));
    return next;
}

} // namespace

Design& duplicateDesign(Job& job, std::string_view id) {
    Design copy = *job.find(id);
    copy.id = newDesignId(job);
    copy.name = nameOfCopy(job, copy.name);
    return job.designs.insert(*placeOf(job, id) + 1, std::move(copy));
}

void removeDesign(Job& job, std::string_view id) {
    std::erase_if(job.plan.laid.edit(), [&](const LaidPiece& piece) { return piece.design == id; });
    if (const auto place = placeOf(job, id))
        job.designs.erase(*place);
}

void moveDesign(Job& job, std::string_view id, std::size_t place) {
    const std::size_t from = *placeOf(job, id), to = std::min(place, job.designs.size());
    job.designs.move(from, from < to ? to - 1 : to);
}

void replaceArtwork(Job& job, std::string_view id, std::size_t number, const NewPicture& picture) {
    Item& item = job.find(id)->artwork.items[number];
    Job other;
    Item fresh = addDesign(other, picture, item.place.width).artwork.items.front();
    const double height = fresh.place.height;
    fresh.place = item.place;
    fresh.place.height = height;
    if (fresh.pixelWidth == item.pixelWidth && fresh.pixelHeight == item.pixelHeight)
        fresh.crop = item.crop;
    item = std::move(fresh);
    job.assets.edit()[picture.asset->sha256] = picture.asset;
}

void addItem(Job& job, std::string_view id, const NewPicture& picture) {
    Design& design = *job.find(id);
    checkRoom(design);
    Job other;
    Item item = addDesign(other, picture).artwork.items.front();
    const Box within = bounds(design.artwork);
    const double factor =
        std::min({1.0, within.width() / item.place.width, within.height() / item.place.height});
    const double least = std::min(item.place.width, item.place.height);
    item = scaledBy(std::move(item), std::max(factor, Limits::leastSize / least), {});
    design.artwork.items.push_back(movedBy(item, within.centre() - bounds(item).centre()));
    job.assets.edit()[picture.asset->sha256] = picture.asset;
}

namespace {

/// Gives switches, touch-ups and drawn lines the new numbers of their items; without a number they go.
template <class Renumber>
void renumber(Recipe& recipe, const Renumber& newNumber) {
    const auto inAll = [&](auto& all) {
        std::erase_if(all, [&](auto& told) {
            const std::optional<std::size_t> number = newNumber(std::size_t(told.item));
            told.item = int(number.value_or(0));
            return !number;
        });
    };
    inAll(recipe.edge.switches);
    inAll(recipe.edge.touchUps);
    for (LineRecipe& line : recipe.lines) {
        const std::optional<std::size_t> number = newNumber(std::size_t(line.drawn.item));
        line.drawn = number ? DrawnCourse{std::move(line.drawn.points), int(*number)} : DrawnCourse{};
    }
}

} // namespace

void removeItem(Design& design, std::size_t item) {
    design.artwork.items.erase(design.artwork.items.begin() + std::ptrdiff_t(item));
    renumber(design.recipe, [&](std::size_t i) -> std::optional<std::size_t> {
        if (i == item)
            return {};
        return i > item ? i - 1 : i;
    });
}

void restackItem(Design& design, std::size_t from, std::size_t to) {
    std::vector<std::size_t> order(design.artwork.items.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    order.erase(order.begin() + std::ptrdiff_t(from));
    order.insert(order.begin() + std::ptrdiff_t(to), from);
    std::vector<Item> items;
    items.reserve(order.size());
    for (const std::size_t i : order)
        items.push_back(std::move(design.artwork.items[i]));
    design.artwork.items = std::move(items);
    renumber(design.recipe, [&](std::size_t i) -> std::optional<std::size_t> {
        const auto at = std::find(order.begin(), order.end(), i);
        return at == order.end() ? std::nullopt : std::optional(std::size_t(at - order.begin()));
    });
}

void keepSharedShape(Job& job, std::string_view id) {
    const PlainShape shape = job.find(id)->recipe.edge.shape;
    if (shape.shared == 0)
        return;
    for (std::size_t i = 0; i < job.designs.size(); ++i)
        if (std::as_const(job).designs[i].recipe.edge.shape.shared == shape.shared)
            job.designs[i].recipe.edge.shape = shape;
}

void shareShape(Job& job, std::string_view id, std::string_view with, bool isShared) {
    Design &design = *job.find(id), &other = *job.find(with);
    if (!isShared) {
        other.recipe.edge.shape.shared = 0;
        return;
    }
    PlainShape& shape = design.recipe.edge.shape;
    if (shape.shared == 0) {
        for (const Design& d : std::as_const(job).designs)
            shape.shared = std::max(shape.shared, d.recipe.edge.shape.shared);
        ++shape.shared;
    }
    if (!shape.bySize)
        shape = withOwnSize(bounds(design.artwork), shape);
    other.recipe.edge.way = EdgeWay::shape;
    other.recipe.edge.shape = shape;
    keepSharedShape(job, id);
}

bool makesTheSame(const Job& one, const Job& other) {
    return one.profile == other.profile && one.designs == other.designs && one.plan == other.plan &&
           one.assets == other.assets && one.name == other.name &&
           one.outputs.colours == other.outputs.colours;
}

Job withoutUnusedAssets(Job job) {
    std::set<std::string> used;
    for (const Design& design : std::as_const(job).designs)
        for (const Item& item : design.artwork.items)
            for (const std::string& asset : assetsOf(item))
                used.insert(asset);
    used.insert(job.outputs.colours);
    std::erase_if(job.assets.edit(), [&](const auto& entry) { return !used.contains(entry.first); });
    return job;
}

} // namespace hasami
