#include "app/stickers/cut_line_panel.h"

#include "app/controls/design_controls.h"
#include "app/paint/line_names.h"

#include <QComboBox>
#include <QLabel>
#include <QVBoxLayout>

namespace hasami {

namespace {

constexpr PlainShapeKind shapes[] = {PlainShapeKind::box, PlainShapeKind::rounded, PlainShapeKind::ellipse,
                                     PlainShapeKind::circle, PlainShapeKind::polygon};
const QStringList shapeNames{"Box", "Box with round corners", "Ellipse", "Circle", "Regular polygon"};

QStringList kindNames() {
    QStringList names;
    for (const LineKind kind : lineKinds)
        names << nameOf(kind);
    return names;
}

/// Tabs as they lie, so that they can be moved.
void takeByHand(Design& design, LineRecipe& line, const MadeDesign* made) {
    if (!made)
        return;
    const auto number = std::size_t(&line - design.recipe.lines.data());
    std::vector<Curve> curves;
    std::vector<std::vector<Tab>> tabs;
    for (const CutLine& cut : made->sticker->lines)
        if (cut.kind == LineKind::perforated && cut.recipe == number) {
            curves.push_back(cut.curve);
            tabs.push_back(cut.tabs);
        }
    line.tabs = asByHand(curves, tabs, line.tabs, bounds(design.artwork));
}

} // namespace

CutLinePanel::CutLinePanel(Document& document, std::function<std::size_t()> line, QWidget* parent)
    : StepPage(document, parent), line_(std::move(line)), layout_(pageLayout(this)) {
    kind_ = choice("Kind", "What the knife does along this line", kindNames(),
                   [](Design&, LineRecipe& changed, int place) {
                       changed.kind = lineKinds[std::size_t(place)];
                       if (changed.kind != LineKind::crease && changed.course == LineCourse::fold)
                           changed.course = LineCourse::edge;
                   });
    addCourse();
    addTabs();
}

LineRecipe& CutLinePanel::lineOf(Design& design) const {
    return design.recipe.lines[std::min(line_(), design.recipe.lines.size() - 1)];
}

QuantityRow* CutLinePanel::row(const QuantityRow::Description& description, const Set& set) {
    auto* made = designRow(document(), description, description.name,
                           [this, set](Design& design, double value) { set(lineOf(design), value); });
    layout_->addWidget(made);
    return made;
}

QComboBox* CutLinePanel::choice(const QString& name, const QString& effect, const QStringList& names,
                                std::function<void(Design&, LineRecipe&, int)> chosen) {
    return designChoice(document(), layout_, name, effect, names,
                        [this, chosen = std::move(chosen)](Design& design, int place) {
                            chosen(design, lineOf(design), place);
                        });
}

void CutLinePanel::addCourse() {
    course_ = choice("Runs along", "What the line follows", {"The edge", "A plain shape", "A straight fold"},
                     [](Design&, LineRecipe& line, int place) {
                         line.course = LineCourse(place);
                         if (line.course == LineCourse::fold)
                             line.kind = LineKind::crease;
                     });
    offset_ = row({"Offset", "Outward leaves a white margin around the artwork, inward cuts into it",
                   QuantityKind::length, Limits::mostInset, Limits::mostOffset, -3, 15, 0.1},
                  [](LineRecipe& line, double value) { line.offset = value; });
    corners_ = choice("Corners", "What the offset makes of the artwork's corners", {"Round", "Sharp", "Flat"},
                      [](Design&, LineRecipe& line, int place) { line.corners.form = CornerForm(place); });
    limit_ =
        row({"Sharp corner limit", "A corner that would reach farther than this many offsets is cut flat",
             QuantityKind::number, Limits::leastCornerLimit, Limits::mostCornerLimit, 2, 10, 0.5},
            [](LineRecipe& line, double value) { line.corners.limit = value; });
    shape_ =
        choice("Shape of the line", "Around the artwork's edge; its sides can be dragged on the bench",
               shapeNames, [](Design&, LineRecipe& line, int place) { line.shape.kind = shapes[place]; });
    margin_ = row({"Margin", "From the edge out to the shape; inward where negative", QuantityKind::length,
                   Limits::mostInset, Limits::mostOffset, -10, 20, 0.25},
                  [](LineRecipe& line, double value) { line.shape.margin = value; });
    radius_ = row({"Corner radius", "How round the box's corners are", QuantityKind::length, 0,
                   Limits::mostSize, 0, 25, 0.25},
                  [](LineRecipe& line, double value) { line.shape.radius = value; });
    sides_ =
        row({"Sides", "How many sides the polygon has", QuantityKind::count, 3, Limits::mostSides, 3, 12, 1},
            [](LineRecipe& line, double value) { line.shape.sides = int(value); });
    fold_ = choice("Direction", "Which way the label is folded", {"From top to bottom", "From side to side"},
                   [](Design&, LineRecipe& line, int place) { line.foldsAcross = place == 1; });
    foldAt_ = row({"Place of the fold", "How far through the sticker it is folded", QuantityKind::percent, 0,
                   100, 0, 100, 1},
                  [](LineRecipe& line, double value) { line.foldAt = value; });
}

void CutLinePanel::addTabs() {
    tabs_ = choice("Tabs", "What holds the sticker until it is popped out",
                   {"A number for each piece", "By a pattern", "Placed by hand"},
                   [this](Design& design, LineRecipe& line, int place) {
                       if (TabRule::Way(place) == TabRule::Way::byHand)
                           takeByHand(design, line, document().newest(design.id));
                       else
                           line.tabs.way = TabRule::Way(place);
                   });
    count_ = row({"Count", "Tabs on each line that a piece comes loose at; on openings as close",
                  QuantityKind::count, leastTabs, Limits::mostTabs, leastTabs, 24, 1},
                 [](LineRecipe& line, double value) { line.tabs.count = int(value); });
    cut_ = row({"Cut between tabs", "About so much is cut from tab to tab; whole periods go round",
                QuantityKind::length, Limits::leastTab, Limits::mostSize, 1, 30, 0.25},
               [](LineRecipe& line, double value) { line.tabs.cut = value; });
    tab_ = row({"Length of a tab", "So much is left uncut: longer holds better, shorter pops more cleanly",
                QuantityKind::length, Limits::leastTab, Limits::longestTab, 0.2, 4, 0.1},
               [](LineRecipe& line, double value) { line.tabs.length = value; });
    lift_ = row({"Lift tab", "A small ear on this line, this wide, to peel from", QuantityKind::length, 0,
                 Limits::mostLiftTab, 0, 20, 0.5, "none"},
                [](LineRecipe& line, double value) { line.liftTab.size = value; });
    liftAt_ =
        row({"Where the ear stands", "Clockwise from the right", QuantityKind::angle, -360, 360, 0, 360, 5},
            [](LineRecipe& line, double value) { line.liftTab.at = value; });
}

void CutLinePanel::showFor(QWidget* control, bool isShown) {
    control->setVisible(isShown);
    for (QLabel* label : findChildren<QLabel*>())
        if (label->buddy() == control)
            label->setVisible(isShown);
}

QuantityRow& CutLinePanel::mainNumber() {
    for (QuantityRow* candidate : {offset_, margin_, foldAt_})
        if (candidate->isVisibleTo(this))
            return *candidate;
    return *offset_;
}

QuantityRow* CutLinePanel::secondNumber() {
    for (QuantityRow* candidate : {count_, cut_, radius_, lift_})
        if (candidate->isVisibleTo(this))
            return candidate;
    return nullptr;
}

void CutLinePanel::showDesign(const Design& design, const MadeDesign*) {
    const LineRecipe& line = design.recipe.lines[std::min(line_(), design.recipe.lines.size() - 1)];
    const LineRecipe start;
    const auto show = [&](QuantityRow* control, bool isShown, double startValue, double value) {
        control->setUnit(document().job().unit);
        control->setStart(startValue);
        control->show(value);
        control->setVisible(isShown);
    };
    const bool byEdge = line.course == LineCourse::edge, byShape = line.course == LineCourse::shape,
               isFold = line.course == LineCourse::fold, isPerforated = line.kind == LineKind::perforated;
    const bool isThrough = isPerforated || line.kind == LineKind::die;
    const auto pick = [](QComboBox* box, int place) { box->setCurrentIndex(place); };
    pick(kind_, int(line.kind));
    pick(course_, int(line.course));
    pick(corners_, int(line.corners.form));
    pick(shape_, int(std::find(std::begin(shapes), std::end(shapes), line.shape.kind) - std::begin(shapes)));
    pick(fold_, line.foldsAcross ? 1 : 0);
    pick(tabs_, int(line.tabs.way));
    showFor(corners_, byEdge);
    showFor(shape_, byShape);
    showFor(fold_, isFold);
    showFor(tabs_, isPerforated);
    show(offset_, byEdge, start.offset, line.offset);
    show(limit_, byEdge && line.corners.form == CornerForm::sharp, start.corners.limit, line.corners.limit);
    show(margin_, byShape && !line.shape.bySize, start.shape.margin, line.shape.margin);
    show(radius_, byShape && line.shape.kind == PlainShapeKind::rounded, start.shape.radius,
         line.shape.radius);
    show(sides_, byShape && line.shape.kind == PlainShapeKind::polygon, start.shape.sides, line.shape.sides);
    show(foldAt_, isFold, start.foldAt, line.foldAt);
    show(count_, isPerforated && line.tabs.way == TabRule::Way::count, start.tabs.count, line.tabs.count);
    show(cut_, isPerforated && line.tabs.way == TabRule::Way::pattern, start.tabs.cut, line.tabs.cut);
    show(tab_, isPerforated, start.tabs.length, line.tabs.length);
    show(lift_, isThrough && !isFold, start.liftTab.size, line.liftTab.size);
    show(liftAt_, isThrough && line.liftTab.size > 0, start.liftTab.at, line.liftTab.at);
}

} // namespace hasami
