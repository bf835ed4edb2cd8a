#include "app/document/live_edge.h"

#include "app/document/step_state.h"
#include "files/paint_sticker.h"

namespace hasami {

namespace {

bool showSamePictures(const Artwork& a, const Artwork& b) {
    return std::equal(a.items.begin(), a.items.end(), b.items.begin(), b.items.end(),
                      [](const Item& p, const Item& q) {
                          return p.source() == q.source() && p.page() == q.page() && p.crop == q.crop;
                      });
}

/// Touch-ups change the fitted line, which the level line knows nothing of.
bool differByTouchUpsAlone(EdgeOptions made, const EdgeOptions& wanted) {
    made.touchUps = wanted.touchUps;
    return made == wanted;
}

/// A coverage by another way is not known before it is made.
bool haveSameCoverage(const EdgeOptions& made, const EdgeOptions& wanted) {
    if (wanted.way == EdgeWay::colours || wanted.way == EdgeWay::lines)
        return false; // those are not level lines
    return wanted.way == EdgeWay::shape || (made.way == wanted.way && made.shadow == wanted.shadow);
}

/// Of own artwork, in mm of the design.
QPainterPath outlinesOf(const Item& item) {
    const Drawing& drawing = *item.own()->drawing->drawing;
    const Affine place = item.toDesign() * Affine::scaling(item.place.width / drawing.width,
                                                           item.place.height / drawing.height);
    QPainterPath path;
    for (const DrawnArea& area : drawing.areas)
        path.addPath(toQt(place).map(painterPath(area.rims)));
    return path;
}

QPainterPath pathOf(const Artwork& artwork, const std::vector<std::shared_ptr<const EdgePreview>>& previews,
                    const EdgeOptions& options) {
    if (options.way == EdgeWay::shape)
        return painterPath(std::vector<Curve>{shapeAround(bounds(foregroundOf(artwork)), options.shape)});
    QPainterPath path;
    for (std::size_t i = 0; i < artwork.items.size(); ++i) {
        if (artwork.items[i].isBackground)
            continue;
        const Affine toDesign = artwork.items[i].toDesign();
        if (!previews[i]) {
            path.addPath(outlinesOf(artwork.items[i]));
            continue;
        }
        for (const Loop& loop : roughEdge(artwork.items[i].upright(), *previews[i], forItem(options, i))) {
            QPolygonF polygon;
            polygon.reserve(qsizetype(loop.size()) + 1);
            for (const Point own : loop) {
                const Point p = toDesign(own);
                polygon << QPointF(p.x, p.y);
            }
            polygon << polygon.front();
            path.addPolygon(polygon);
        }
    }
    return path;
}

} // namespace

const QPainterPath& LiveEdge::of(const Design& design, const MadeDesign* made) {
    static const QPainterPath none;
    const bool usable = made && made->previews.size() == design.artwork.items.size() &&
                        showSamePictures(made->artwork, design.artwork) &&
                        haveSameCoverage(made->recipe.edge, design.recipe.edge);
    if (!usable ||
        (made->artwork == design.artwork && differByTouchUpsAlone(made->recipe.edge, design.recipe.edge)) ||
        isMadeFor(RecipeStep::edge, design, made)) {
        kept_.erase(design.id);
        return none;
    }
    Kept& kept = kept_[design.id];
    if (!(kept.artwork == design.artwork && kept.options == design.recipe.edge &&
          kept.previews == made->previews))
        kept = {design.artwork, design.recipe.edge, made->previews,
                pathOf(design.artwork, made->previews, design.recipe.edge)};
    return kept.path;
}

} // namespace hasami
