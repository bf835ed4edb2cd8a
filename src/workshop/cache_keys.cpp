#include "workshop/cache_keys.h"

#include "artwork/vector_page.h"
#include "job/recipe_fields.h"

namespace hasami {

std::size_t bytesOf(const std::vector<Curve>& edge) {
    std::size_t sum = sizeof(std::vector<Curve>);
    for (const Curve& curve : edge)
        sum += sizeof(Curve) + curve.segments.size() * sizeof(CurveSegment);
    return sum;
}

std::size_t bytesOf(const Sticker& sticker) {
    std::size_t sum = sizeof(Sticker) + bytesOf(sticker.edge);
    if (sticker.border)
        sum += bytesOf(sticker.border->under) + bytesOf(sticker.border->over);
    if (sticker.bleed)
        sum += bytesOf(sticker.bleed->area) + bytesOf(sticker.bleed->source);
    sum += bytesOf(sticker.within) + bytesOf(sticker.printed);
    for (const CutLine& line : sticker.lines)
        sum += sizeof(CutLine) + line.curve.segments.size() * sizeof(CurveSegment);
    return sum;
}

CacheKey& operator<<(CacheKey& key, const EdgeOptions& options) {
    addFields(key, options, Fields<EdgeOptions>::finding);
    return key;
}

void addChoice(CacheKey& key, const EdgeOptions& options) {
    addFields(key, options, Fields<EdgeOptions>::choice);
}

void addTouchUps(CacheKey& key, const EdgeOptions& options) {
    addFields(key, options, Fields<EdgeOptions>::byHand);
}

void addBorderAndLines(CacheKey& key, const Recipe& recipe) {
    addFields(key, recipe.border);
    addFields(key, recipe.lines);
    addFields(key, recipe.bleed);
}

std::size_t bytesOf(const std::vector<EdgeLoop>& loops) {
    std::size_t sum = 0;
    for (const EdgeLoop& loop : loops)
        sum += sizeof(EdgeLoop) + loop.curve.segments.size() * sizeof(CurveSegment);
    return sum;
}

void addShown(CacheKey& key, const Item& item) {
    const PixelBox shown = item.shown();
    key << item.source() << double(item.page()) << double(shown.left) << double(shown.top)
        << double(shown.width) << double(shown.height);
}

void addOwn(CacheKey& key, const Item& item) {
    addShown(key, item);
    key << item.place.width << item.place.height;
}

CacheKey& operator<<(CacheKey& key, const Item& item) {
    addOwn(key, item);
    return key << item.place.at.x << item.place.at.y << item.place.turn << double(item.place.isMirrored)
               << double(item.isBackground);
}

std::size_t bytesOf(const Picture& picture) {
    std::size_t sum = sizeof(Picture) + picture.pixels.cells().size_bytes() + picture.iccProfile.size();
    if (picture.fine)
        sum += picture.fine->samples().size();
    for (const SpotPlate& spot : picture.spotPlates)
        sum += spot.amounts.cells().size();
    if (picture.page) {
        sum += picture.page->pdf ? picture.page->pdf->size() : 0;
        sum += bytesOf(picture.page->paint);
    }
    return sum;
}

} // namespace hasami
