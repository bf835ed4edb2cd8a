#include "sticker/open_lines.h"

#include <algorithm>
#include <span>
#include <utility>

namespace hasami {

namespace {

/// The stretches of a straight line from side to side, or from top to bottom, that lie inside.
std::vector<std::pair<Point, Point>> across(const Region& region, const Fold& fold) {
    const Box box = bounds(region);
    const bool isLevel = fold.isAcross;
    const double at =
        isLevel ? box.least.y + box.height() * fold.at / 100 : box.least.x + box.width() * fold.at / 100;
    std::vector<double> crossings;
    for (const Loop& loop : region.loops)
        for (std::size_t i = 0; i < loop.size(); ++i) {
            const Point a = loop[i], b = loop[(i + 1) % loop.size()];
            const double from = isLevel ? a.y : a.x, to = isLevel ? b.y : b.x;
            if ((from < at) == (to < at))
                continue;
            const Point p = between(a, b, (at - from) / (to - from));
            crossings.push_back(isLevel ? p.x : p.y);
        }
    std::ranges::sort(crossings);
    std::vector<std::pair<Point, Point>> pieces;
    for (std::size_t i = 0; i + 1 < crossings.size(); i += 2)
        pieces.push_back(isLevel ? std::pair(Point{crossings[i], at}, Point{crossings[i + 1], at})
                                 : std::pair(Point{at, crossings[i]}, Point{at, crossings[i + 1]}));
    return pieces;
}

} // namespace

Affine fromDrawn(const Item& item) {
    const Box box = item.wholeBox();
    const double side = std::max(box.width(), box.height());
    return item.toDesign() * Affine::scaling(side, side);
}

int itemToDrawOn(const Artwork& artwork, Point place) {
    for (std::size_t i = artwork.items.size(); i-- > 0;)
        if (bounds(artwork.items[i]).holds({place, place}))
            return int(i);
    return 0;
}

std::optional<CutLine> drawnLine(const LineRecipe& line, std::size_t recipe, const Artwork& artwork) {
    const DrawnCourse& drawn = line.drawn;
    if (!drawn.isThere() || drawn.item < 0 || std::size_t(drawn.item) >= artwork.items.size())
        return {};
    const Affine map = fromDrawn(artwork.items[std::size_t(drawn.item)]);
    Curve curve{map(drawn.points.front()), {}};
    Point last = curve.start;
    for (const Point part : std::span(drawn.points).subspan(1)) {
        const Point next = map(part);
        curve.segments.push_back(straightSegment(std::exchange(last, next), next));
    }
    CutLine cut{line.kind, LineRole::outer, std::move(curve), true, {}, recipe};
    if (line.kind == LineKind::perforated)
        cut.tabs = tabsOnOpenLine(cut.curve, line.tabs);
    return cut;
}

std::vector<CutLine> openLines(const Recipe& recipe, const Artwork& artwork, const Region& inside) {
    std::vector<CutLine> lines;
    for (std::size_t i = 0; i < recipe.lines.size(); ++i) {
        const LineRecipe& line = recipe.lines[i];
        if (!line.isCut)
            continue;
        if (line.course == LineCourse::fold)
            for (const auto& [from, to] : across(inside, line.fold))
                lines.push_back(
                    {line.kind, LineRole::outer, {from, {straightSegment(from, to)}}, true, {}, i});
        if (line.course == LineCourse::drawn)
            if (auto cut = drawnLine(line, i, artwork))
                lines.push_back(std::move(*cut));
    }
    return lines;
}

} // namespace hasami
