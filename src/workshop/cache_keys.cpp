#include "workshop/cache_keys.h"

#include "artwork/colour_text.h"
#include "artwork/vector_page.h"

namespace hasami {

namespace {

void addShape(CacheKey& key, const PlainShape& shape) {
    key << double(shape.kind) << shape.margin << shape.radius << double(shape.sides) << double(shape.bySize)
        << shape.width << shape.height;
}

} // namespace

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
    return key << double(options.way) << double(options.colours) << options.level.value_or(-1)
               << options.shadow << options.smoothing << options.leastSpeck << options.leastOpening
               << options.tolerance.value_or(0) << double(options.takesBackdrop);
}

void addChoice(CacheKey& key, const EdgeOptions& options) {
    key << double(options.loops);
    addShape(key, options.shape);
    key << double(options.switches.size());
    for (const LoopSwitch& s : options.switches)
        key << s.centre.x << s.centre.y << s.size << double(s.isOpening) << double(s.isCut) << double(s.item);
}

void addTouchUps(CacheKey& key, const EdgeOptions& options) {
    const auto add = [&](Point p) { key << p.x << p.y; };
    key << double(options.touchUps.size());
    for (const TouchUp& touchUp : options.touchUps) {
        add(touchUp.from);
        add(touchUp.to);
        key << double(touchUp.beneath.size());
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
    key << recipe.border.width << colourText(recipe.border.colour) << double(recipe.border.onOpenings)
        << double(recipe.lines.size());
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
        << double(recipe.bleed.trims) << double(recipe.bleed.source);
}

std::size_t bytesOf(const std::vector<EdgeLoop>& loops) {
    std::size_t sum = 0;
    for (const EdgeLoop& loop : loops)
        sum += sizeof(EdgeLoop) + loop.curve.segments.size() * sizeof(CurveSegment);
    return sum;
}

void addShown(CacheKey& key, const Item& item) {
    const PixelBox shown = item.shown();
    key << item.asset << double(item.page) << double(shown.left) << double(shown.top) << double(shown.width)
        << double(shown.height);
}

void addOwn(CacheKey& key, const Item& item) {
    addShown(key, item);
    key << item.place.width << item.place.height;
}

CacheKey& operator<<(CacheKey& key, const Item& item) {
    addOwn(key, item);
    return key << item.place.at.x << item.place.at.y << item.place.turn << double(item.place.isMirrored);
}

std::size_t bytesOf(const Picture& picture) {
    std::size_t sum = sizeof(Picture) + picture.pixels.cells().size_bytes() + picture.iccProfile.size();
    if (picture.fine)
        sum += picture.fine->cells.cells().size_bytes();
    if (picture.page) {
        sum += picture.page->pdf ? picture.page->pdf->size() : 0;
        sum += bytesOf(picture.page->paint);
    }
    return sum;
}

} // namespace hasami
