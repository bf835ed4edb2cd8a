#include "job/job.h"

#include "artwork/picture.h"
#include "base/error.h"
#include "geometry/length_text.h"
#include "sticker/brought_lines.h"

#include <algorithm>
#include <set>

namespace hasami {

namespace {

std::string newId(const Job& job) {
    for (std::size_t n = job.designs.size() + 1;; ++n) {
        std::string id = "design-" + std::to_string(n);
        if (!job.find(id))
            return id;
    }
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

} // namespace

const Design* Job::find(std::string_view id) const {
    const auto found =
        std::find_if(designs.begin(), designs.end(), [&](const Design& d) { return d.id == id; });
    return found == designs.end() ? nullptr : &*found;
}

Design* Job::find(std::string_view id) {
    return const_cast<Design*>(std::as_const(*this).find(id));
}

Point NewPicture::naturalSize() const {
    if (vector)
        return {vector->width, vector->height};
    const double density = pixelsPerMillimetre > 0 ? pixelsPerMillimetre : usualPixelsPerMillimetre;
    return {pixelWidth / density, pixelHeight / density};
}

Design& addDesign(Job& job, const NewPicture& picture, std::optional<double> width) {
    const Point size = picture.naturalSize();
    Item item{picture.asset->sha256,    picture.asset->name,        picture.pixelWidth, picture.pixelHeight,
              {{0, 0}, size.x, size.y}, picture.vector.has_value(), picture.page};
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
        throw InputError(picture.asset->name + " would be " + lengthText(item.place.width) + " x " +
                         lengthText(item.place.height) + "; Hasami makes stickers from 1 mm to 10 m");
    Design design;
    design.id = newId(job);
    design.name = withoutEnding(picture.asset->name);
    design.artwork.items.push_back(std::move(item));
    takeBroughtLines(design.recipe, picture, job.profile);
    job.assets[picture.asset->sha256] = picture.asset;
    job.designs.push_back(std::move(design));
    return job.designs.back();
}

Design& duplicateDesign(Job& job, std::string_view id) {
    Design copy = *job.find(id);
    copy.id = newId(job);
    copy.name += " copy";
    const auto behind = job.designs.begin() + (job.find(id) - job.designs.data()) + 1;
    return *job.designs.insert(behind, std::move(copy));
}

void moveDesign(Job& job, std::string_view id, std::size_t place) {
    const auto from = job.designs.begin() + (job.find(id) - job.designs.data());
    const auto to = job.designs.begin() + std::ptrdiff_t(std::min(place, job.designs.size()));
    if (from < to)
        std::rotate(from, from + 1, to);
    else
        std::rotate(to, from, from + 1);
}

void replaceArtwork(Job& job, std::string_view id, const NewPicture& picture) {
    const double width = bounds(job.find(id)->artwork).width();
    Job other;
    Design& design = *job.find(id);
    design.artwork = addDesign(other, picture, width).artwork;
    job.assets[picture.asset->sha256] = picture.asset;
}

void keepSharedShape(Job& job, std::string_view id) {
    const PlainShape shape = job.find(id)->recipe.edge.shape;
    if (shape.shared == 0)
        return;
    for (Design& design : job.designs)
        if (design.recipe.edge.shape.shared == shape.shared)
            design.recipe.edge.shape = shape;
}

void shareShape(Job& job, std::string_view id, std::string_view with, bool isShared) {
    Design &design = *job.find(id), &other = *job.find(with);
    if (!isShared) {
        other.recipe.edge.shape.shared = 0;
        return;
    }
    PlainShape& shape = design.recipe.edge.shape;
    if (shape.shared == 0) {
        for (const Design& d : job.designs)
            shape.shared = std::max(shape.shared, d.recipe.edge.shape.shared);
        ++shape.shared;
    }
    if (!shape.bySize)
        shape = withOwnSize(bounds(design.artwork), shape);
    other.recipe.edge.way = EdgeWay::shape;
    other.recipe.edge.shape = shape;
    keepSharedShape(job, id);
}

Job withoutUnusedAssets(Job job) {
    std::set<std::string> used;
    for (const Design& design : job.designs)
        for (const Item& item : design.artwork.items)
            used.insert(item.asset);
    std::erase_if(job.assets, [&](const auto& entry) { return !used.contains(entry.first); });
    return job;
}

} // namespace hasami
