#include "app/stickers/figure_panel.h"

#include "app/controls/design_controls.h"
#include "app/stickers/own_controls.h"
#include "app/words/words.h"

#include <QComboBox>
#include <QVBoxLayout>

#include <algorithm>

namespace hasami {

namespace {

Figure& figureOf(OwnArtwork& own) {
    return std::get<Figure>(own.what);
}

} // namespace

const std::vector<std::pair<FigureKind, const char*>>& figureNames() {
    static const std::vector<std::pair<FigureKind, const char*>> names{
        {FigureKind::rectangle, N_("Rectangle")},
        {FigureKind::ellipse, N_("Ellipse")},
        {FigureKind::polygon, N_("Polygon")},
        {FigureKind::star, N_("Star")},
        {FigureKind::ring, N_("Ring")},
        {FigureKind::arrow, N_("Arrow")},
        {FigureKind::bubble, N_("Speech bubble")},
        {FigureKind::ribbon, N_("Ribbon")},
        {FigureKind::leaf, N_("Leaf")},
        {FigureKind::heart, N_("Heart")},
        {FigureKind::outline, N_("Outline of artwork")}};
    return names;
}

FigurePanel::FigurePanel(ItemHand& hand, QWidget* parent) : QWidget(parent), hand_(hand) {
    auto* layout = pageLayout(this);
    QStringList names;
    for (const auto& [kind, name] : figureNames())
        names << tr(name);
    form_ = ownChoice(hand, layout, N_("Form"), N_("What shape it is, at the same size"), names,
                      [](OwnArtwork& own, int place) {
                          const FigureKind kind = figureNames().at(std::size_t(place)).first;
                          if (kind != FigureKind::outline || !figureOf(own).outline.empty())
                              figureOf(own).kind = kind;
                      });
    width_ = ownRow(hand, layout,
                    {N_("Shape width"), N_("Exactly, from side to side"), QuantityKind::length,
                     Limits::leastSize, Limits::mostSize, 5, 200, 0.5},
                    [](OwnArtwork& own, double value) { figureOf(own).width = value; });
    height_ = ownRow(hand, layout,
                     {N_("Shape height"), N_("Exactly, from top to bottom"), QuantityKind::length,
                      Limits::leastSize, Limits::mostSize, 5, 200, 0.5},
                     [](OwnArtwork& own, double value) { figureOf(own).height = value; });
    radius_ = ownRow(hand, layout,
                     {N_("Corner radius"), N_("How round the corners are"), QuantityKind::length, 0,
                      Limits::mostSize, 0, 25, 0.25},
                     [](OwnArtwork& own, double value) { figureOf(own).radius = value; });
    points_ = ownRow(hand, layout,
                     {N_("Corners"), N_("How many corners a polygon has, or points a star"),
                      QuantityKind::count, 3, Limits::mostSides, 3, 12, 1},
                     [](OwnArtwork& own, double value) { figureOf(own).points = int(value); });
    inner_ =
        ownRow(hand, layout,
               {N_("Inner size"),
                N_("Of a star how far its inner corners reach, of a ring its opening; of the outer size"),
                QuantityKind::percent, 1, 99, 5, 95, 1},
               [](OwnArtwork& own, double value) { figureOf(own).inner = value / 100; });
    hole_ = ownRow(hand, layout,
                   {N_("Hole"), N_("A round hole of this diameter, to hang a tag or a ring by"),
                    QuantityKind::length, 0, Limits::mostSize, 0, 60, 0.5, N_("none")},
                   [](OwnArtwork& own, double value) {
                       Figure& figure = figureOf(own);
                       if (figure.hole == 0) // first in the middle of the upper half
                           figure.holeAt = {0, -figure.height / 4};
                       figure.hole = value;
                   });
    holeAcross_ = ownRow(hand, layout,
                         {N_("Hole from the middle, across"),
                          N_("How far the hole is right of the shape's middle; left where negative"),
                          QuantityKind::length, -Limits::mostSize, Limits::mostSize, -50, 50, 0.5},
                         [](OwnArtwork& own, double value) { figureOf(own).holeAt.x = value; });
    holeDown_ = ownRow(hand, layout,
                       {N_("Hole from the middle, down"),
                        N_("How far the hole is below the shape's middle; above where negative"),
                        QuantityKind::length, -Limits::mostSize, Limits::mostSize, -50, 50, 0.5},
                       [](OwnArtwork& own, double value) { figureOf(own).holeAt.y = value; });
}

void FigurePanel::show(const OwnArtwork& own) {
    const Figure& figure = std::get<Figure>(own.what);
    const Figure start;
    const LengthUnit unit = hand_.document().job().unit;
    const auto& names = figureNames();
    const auto found =
        std::ranges::find_if(names, [&](const auto& name) { return name.first == figure.kind; });
    form_->setCurrentIndex(int(found - names.begin()));
    showBoth(*width_, figure.width, figure.width, unit);
    showBoth(*height_, figure.height, figure.height, unit);
    showBoth(*radius_, start.radius, figure.radius, unit);
    showBoth(*points_, start.points, figure.points, unit);
    showBoth(*inner_, start.inner * 100, figure.inner * 100, unit);
    showBoth(*hole_, 0, figure.hole, unit);
    showBoth(*holeAcross_, 0, figure.holeAt.x, unit);
    showBoth(*holeDown_, 0, figure.holeAt.y, unit);
    for (QuantityRow* row : {holeAcross_, holeDown_})
        row->setVisible(figure.hole > 0);
    const FigureKind kind = figure.kind;
    radius_->setVisible(kind == FigureKind::rectangle || kind == FigureKind::bubble);
    points_->setVisible(kind == FigureKind::polygon || kind == FigureKind::star);
    inner_->setVisible(kind == FigureKind::star || kind == FigureKind::ring);
}

} // namespace hasami
