#include "drawing/clip.h"

#include "drawing/figure_outline.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace hasami {

Item clippedTo(const Item& item, const Figure& figure, Point at, const AssetSource& assets) {
    PictureFill fill;
    fill.file = *item.file();
    fill.isVector = item.isVector();
    fill.place = item.place;
    fill.place.at = item.place.at - at;
    fill.isFitted = false;
    OwnArtwork own;
    own.what = figure;
    own.fill = fill;
    return movedBy(newItem(std::move(own), item.name, {}, assets), at);
}

std::pair<Figure, Point> figureOf(const std::vector<Curve>& edge) {
    Box box;
    for (const Curve& curve : edge)
        box.add(bounds(flatten(curve, 1e-4)));
    Figure figure;
    figure.kind = FigureKind::outline;
    figure.width = box.width();
    figure.height = box.height();
    const Affine toUnits =
        Affine::scaling(1 / box.width(), 1 / box.height()) * Affine::translation(box.least * -1);
    figure.outline.reserve(edge.size());
    for (const Curve& curve : edge)
        figure.outline.push_back(map(curve, toUnits));
    return {figure, box.least};
}

std::pair<Figure, Point> figureIn(const Box& box, FigureKind kind, bool isRegular, int points) {
    Figure figure;
    figure.kind = kind;
    figure.points = points;
    figure.width = box.width();
    figure.height = box.height();
    if (isRegular) {
        // A polygon's own box, with a corner on top.
        Box own;
        for (int i = 0; i < (kind == FigureKind::polygon ? points : 4); ++i) {
            const double angle =
                2 * std::numbers::pi * i / (kind == FigureKind::polygon ? points : 4) - std::numbers::pi / 2;
            own.add(Point{std::cos(angle), std::sin(angle)});
        }
        const double factor = std::min(box.width() / own.width(), box.height() / own.height());
        figure.width = own.width() * factor;
        figure.height = own.height() * factor;
    }
    return {figure, box.centre() - Point{figure.width / 2, figure.height / 2}};
}

} // namespace hasami
