#include "artwork/arrange.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace hasami {

namespace {

Point middleOf(const Item& item) {
    return item.place.at + Point{item.place.width / 2, item.place.height / 2};
}

void moveMiddle(Item& item, Point to) {
    item.place.at = to - Point{item.place.width / 2, item.place.height / 2};
}

double withinHalfTurn(double degrees) {
    const double rest = std::fmod(degrees, 360.0);
    return rest > 180 ? rest - 360 : rest <= -180 ? rest + 360 : rest;
}

/// Scaled along its own sides, the middle of what is shown staying.
Item stretched(Item item, double across, double down) {
    const Point before = bounds(item).centre();
    item.place.width *= across;
    item.place.height *= down;
    const Point by = before - bounds(item).centre();
    return movedBy(std::move(item), by);
}

std::optional<Item> stretchedTo(const Item& item, double wanted, bool isWidth) {
    const Affine map = item.toDesign();
    const Box shown = item.shownBox();
    const double ofWidth = shown.width() * std::abs(isWidth ? map.a : map.b);
    const double ofHeight = shown.height() * std::abs(isWidth ? map.c : map.d);
    const bool alongWidth = std::abs(isWidth ? map.a : map.b) >= std::abs(isWidth ? map.c : map.d);
    const double factor = alongWidth ? (wanted - ofHeight) / ofWidth : (wanted - ofWidth) / ofHeight;
    if (!(factor > 0))
        return {};
    return alongWidth ? stretched(item, factor, 1) : stretched(item, 1, factor);
}

/// The smallest bend within reach that brings one of three places to a line.
std::optional<std::pair<double, double>> bendTo(std::array<double, 3> places,
                                                const std::vector<double>& lines, double reach) {
    std::optional<std::pair<double, double>> best; // bend, line
    for (const double line : lines)
        for (const double place : places)
            if (std::abs(line - place) <= (best ? std::abs(best->first) - 1e-9 : reach))
                best = {line - place, line};
    return best;
}

} // namespace

Item movedBy(Item item, Point by) {
    item.place.at = item.place.at + by;
    return item;
}

Item turnedBy(Item item, double degrees, Point about) {
    Affine turn = Affine::rotation(degrees * std::numbers::pi / 180);
    if (degrees / 90 == std::round(degrees / 90)) { // quarter turns leave no dust
        turn.a = turn.d = std::round(turn.a);
        turn.b = std::round(turn.b);
        turn.c = -turn.b;
    }
    const Point middle = about + turn(middleOf(item) - about);
    item.place.turn = withinHalfTurn(item.place.turn + degrees);
    moveMiddle(item, middle);
    return item;
}

Item mirroredAt(Item item, double at) {
    const Point middle = middleOf(item);
    item.place.turn = withinHalfTurn(-item.place.turn);
    item.place.isMirrored = !item.place.isMirrored;
    moveMiddle(item, {2 * at - middle.x, middle.y});
    return item;
}

Item scaledBy(Item item, double factor, Point about) {
    item.place.at = about + (item.place.at - about) * factor;
    item.place.width *= factor;
    item.place.height *= factor;
    return item;
}

std::optional<Item> stretchedToWidth(const Item& item, double width) {
    return stretchedTo(item, width, true);
}

std::optional<Item> stretchedToHeight(const Item& item, double height) {
    return stretchedTo(item, height, false);
}

Item cropped(Item item, const PixelBox& part) {
    item.crop = part;
    if (part == PixelBox{0, 0, item.pixelWidth, item.pixelHeight})
        item.crop.reset();
    return item;
}

std::optional<PixelBox> partIn(const Item& item, const Box& box) {
    constexpr int least = 4; // pixels; less has no edge
    const Box inPixels = boundsOfMapped(box, inverse(item.fromPixels()));
    const PixelBox now = item.shown();
    const auto within = [](double place, int most) {
        return std::clamp(int(std::lround(std::clamp(place, -1e6, 1e6))), 0, most);
    };
    const int left = within(inPixels.least.x, now.width), right = within(inPixels.most.x, now.width);
    const int top = within(inPixels.least.y, now.height), bottom = within(inPixels.most.y, now.height);
    if (right - left < least || bottom - top < least)
        return {};
    return PixelBox{now.left + left, now.top + top, right - left, bottom - top};
}

Point alignmentMove(const Box& box, const Box& within, Alignment alignment) {
    switch (alignment) {
    case Alignment::left:
        return {within.least.x - box.least.x, 0};
    case Alignment::middle:
        return {within.centre().x - box.centre().x, 0};
    case Alignment::right:
        return {within.most.x - box.most.x, 0};
    case Alignment::top:
        return {0, within.least.y - box.least.y};
    case Alignment::centre:
        return {0, within.centre().y - box.centre().y};
    case Alignment::bottom:
        return {0, within.most.y - box.most.y};
    }
    return {};
}

Snap snapped(const Box& box, Point move, const std::vector<Box>& others, const std::vector<Guide>& guides,
             double reach) {
    std::vector<double> x, y;
    for (const Guide& guide : guides)
        (guide.isUpright ? x : y).push_back(guide.at);
    for (const Box& other : others) {
        x.insert(x.end(), {other.least.x, other.centre().x, other.most.x});
        y.insert(y.end(), {other.least.y, other.centre().y, other.most.y});
    }
    const Box moved = box.movedBy(move);
    Snap snap{move, {}, {}};
    if (const auto bend = bendTo({moved.least.x, moved.centre().x, moved.most.x}, x, reach)) {
        snap.move.x += bend->first;
        snap.x = bend->second;
    }
    if (const auto bend = bendTo({moved.least.y, moved.centre().y, moved.most.y}, y, reach)) {
        snap.move.y += bend->first;
        snap.y = bend->second;
    }
    return snap;
}

} // namespace hasami
