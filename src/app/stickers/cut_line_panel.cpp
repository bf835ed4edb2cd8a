#include "app/stickers/cut_line_panel.h"

#include "app/controls/design_controls.h"
#include "app/paint/line_names.h"
#include "app/words/words.h"
#include "sticker/corner_limit.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace hasami {

namespace {

constexpr PlainShapeKind shapes[] = {PlainShapeKind::box, PlainShapeKind::rounded, PlainShapeKind::ellipse,
                                     PlainShapeKind::circle, PlainShapeKind::polygon};
QStringList shapeNames() {
    return translatedList(
        {N_("Box"), N_("Box with round corners"), N_("Ellipse"), N_("Circle"), N_("Regular polygon")});
}

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
    kind_ = choice(N_("Kind"), N_("What the knife does along this line"), kindNames(),
                   [](Design&, LineRecipe& changed, int place) {
                       changed.kind = lineKinds[std::size_t(place)];
                       if (changed.kind != LineKind::crease && changed.course == LineCourse::fold)
                           changed.course = LineCourse::edge;
                   });
    addCourse();
    drawing_ = quietText();
    layout_->addWidget(drawing_);
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

QComboBox* CutLinePanel::choice(const char* name, const char* effect, const QStringList& names,
                                std::function<void(Design&, LineRecipe&, int)> chosen) {
    return designChoice(document(), layout_, name, effect, names,
                        [this, chosen = std::move(chosen)](Design& design, int place) {
                            chosen(design, lineOf(design), place);
                        });
}

void CutLinePanel::addCourse() {
    course_ = choice(N_("Runs along"), N_("What the line follows"),
                     {tr("The edge"), tr("A plain shape"), tr("A straight fold"), tr("As you draw it")},
                     [](Design&, LineRecipe& line, int place) {
                         line.course = LineCourse(place);
                         if (line.course == LineCourse::fold)
                             line.kind = LineKind::crease;
                     });
    offset_ = row({N_("Offset"), N_("Outward leaves a white margin around the artwork, inward cuts into it"),
                   QuantityKind::length, Limits::mostInset, Limits::mostOffset, -3, 15, 0.1},
                  [](LineRecipe& line, double value) { line.offset = value; });
    corners_ = choice(N_("Corners"), N_("What the offset makes of the artwork's corners"),
                      {tr("Round"), tr("Sharp"), tr("Flat")},
                      [](Design&, LineRecipe& line, int place) { line.corners.form = CornerForm(place); });
    limit_ = row({N_("Sharp corner limit"),
                  N_("A corner that would reach farther than this many offsets is cut flat"),
                  QuantityKind::number, Limits::leastCornerLimit, Limits::mostCornerLimit, 2, 10, 0.5},
                 [](LineRecipe& line, double value) { line.corners.limit = value; });
    keepCorners_ = new QPushButton;
    keepCorners_->setObjectName("Keep all corners");
    keepCorners_->setAccessibleName(tr("Keep all corners"));
    keepCorners_->setProperty("role", "small");
    keepCorners_->setToolTip(tr("Raises the limit until every corner of the artwork stays sharp"));
    connect(keepCorners_, &QPushButton::clicked, this, &CutLinePanel::keepCorners);
    layout_->addWidget(keepCorners_);
    shape_ = choice(N_("Shape of the line"),
                    N_("Around the artwork's edge; its sides can be dragged on the bench"), shapeNames(),
                    [](Design&, LineRecipe& line, int place) { line.shape.kind = shapes[place]; });
    margin_ = row({N_("Margin"), N_("From the edge out to the shape; inward where negative"),
                   QuantityKind::length, Limits::mostInset, Limits::mostOffset, -10, 20, 0.25},
                  [](LineRecipe& line, double value) { line.shape.margin = value; });
    radius_ = row({N_("Corner radius"), N_("How round the box's corners are"), QuantityKind::length, 0,
                   Limits::mostSize, 0, 25, 0.25},
                  [](LineRecipe& line, double value) { line.shape.radius = value; });
    sides_ = row({N_("Sides"), N_("How many sides the polygon has"), QuantityKind::count, 3,
                  Limits::mostSides, 3, 12, 1},
                 [](LineRecipe& line, double value) { line.shape.sides = int(value); });
    fold_ = choice(N_("Direction"), N_("Which way the label is folded"),
                   {tr("From top to bottom"), tr("From side to side")},
                   [](Design&, LineRecipe& line, int place) { line.fold.isAcross = place == 1; });
    foldAt_ = row({N_("Place of the fold"), N_("How far through the sticker it is folded"),
                   QuantityKind::percent, 0, 100, 0, 100, 1},
                  [](LineRecipe& line, double value) { line.fold.at = value; });
}

/// The limit that keeps every corner of the edge; nothing where none is cut off, or none keeps them.
std::optional<double> CutLinePanel::limitForAll(double limit) {
    const MadeDesign* made = document().newest(document().selected());
    const CutCorners cut = made ? cornersBeyond(made->sticker->edge, limit) : CutCorners{};
    const double needed = std::ceil(cut.needed * 10) / 10;
    return cut.count > 0 && needed <= Limits::mostCornerLimit ? std::optional(needed) : std::nullopt;
}

void CutLinePanel::keepCorners() {
    const std::string id = document().selected();
    document().endRun();
    document().change(tr("Keep all corners"), [&](Job& job) {
        if (Design* design = job.find(id))
            if (const auto needed = limitForAll(lineOf(*design).corners.limit))
                lineOf(*design).corners.limit = *needed;
    });
}

void CutLinePanel::addTabs() {
    tabs_ = choice(N_("Tabs"), N_("What holds the sticker until it is popped out"),
                   {tr("A number for each piece"), tr("By a pattern"), tr("Placed by hand")},
                   [this](Design& design, LineRecipe& line, int place) {
                       if (TabRule::Way(place) == TabRule::Way::byHand)
                           takeByHand(design, line, document().newest(design.id));
                       else
                           line.tabs.way = TabRule::Way(place);
                   });
    count_ =
        row({N_("Count"), N_("Tabs on each line around a loose piece; openings get them as close together"),
             QuantityKind::count, leastTabs, Limits::mostTabs, leastTabs, 24, 1},
            [](LineRecipe& line, double value) { line.tabs.count = int(value); });
    cut_ =
        row({N_("Cut between tabs"), N_("The length cut from tab to tab, adjusted so that whole periods fit"),
             QuantityKind::length, Limits::leastTab, Limits::mostSize, 1, 30, 0.25},
            [](LineRecipe& line, double value) { line.tabs.cut = value; });
    tab_ = row({N_("Length of a tab"),
                N_("How much is left uncut: longer holds better, shorter pops more cleanly"),
                QuantityKind::length, Limits::leastTab, Limits::longestTab, 0.2, 4, 0.1},
               [](LineRecipe& line, double value) { line.tabs.length = value; });
    lift_ = row({N_("Lift tab"), N_("A small ear on this line, this wide, to peel from"),
                 QuantityKind::length, 0, Limits::mostLiftTab, 0, 20, 0.5, N_("none")},
                [](LineRecipe& line, double value) { line.liftTab.size = value; });
    liftAt_ = row({N_("Where the ear stands"), N_("Clockwise from the right"), QuantityKind::angle, -360, 360,
                   0, 360, 5},
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
    const bool isDrawn = line.course == LineCourse::drawn;
    const bool isThrough = isPerforated || line.kind == LineKind::die;
    const auto pick = [](QComboBox* box, int place) { box->setCurrentIndex(place); };
    pick(kind_, int(line.kind));
    pick(course_, int(line.course));
    pick(corners_, int(line.corners.form));
    pick(shape_, int(std::find(std::begin(shapes), std::end(shapes), line.shape.kind) - std::begin(shapes)));
    pick(fold_, line.fold.isAcross ? 1 : 0);
    pick(tabs_, int(line.tabs.way));
    showFor(corners_, byEdge);
    showFor(shape_, byShape);
    showFor(fold_, isFold);
    showFor(tabs_, isPerforated && !isDrawn);
    show(offset_, byEdge, start.offset, line.offset);
    const bool isSharp = byEdge && line.corners.form == CornerForm::sharp;
    show(limit_, isSharp, start.corners.limit, line.corners.limit);
    const auto needed = isSharp ? limitForAll(line.corners.limit) : std::nullopt;
    keepCorners_->setVisible(needed.has_value());
    if (needed)
        keepCorners_->setText(tr("Keep all corners: limit %1").arg(limit_->words(*needed)));
    show(margin_, byShape && !line.shape.bySize, start.shape.margin, line.shape.margin);
    show(radius_, byShape && line.shape.kind == PlainShapeKind::rounded, start.shape.radius,
         line.shape.radius);
    show(sides_, byShape && line.shape.kind == PlainShapeKind::polygon, start.shape.sides, line.shape.sides);
    drawing_->setVisible(isDrawn);
    drawing_->setText(
        !line.drawn.isThere()
            ? tr("Click on the bench where the line starts, then where it ends.")
            : tr("Drag its ends. Press the line for a corner; with Ctrl, click to draw it on."));
    show(foldAt_, isFold, start.fold.at, line.fold.at);
    show(count_, isPerforated && !isDrawn && line.tabs.way == TabRule::Way::count, start.tabs.count,
         line.tabs.count);
    show(cut_, isPerforated && (isDrawn || line.tabs.way == TabRule::Way::pattern), start.tabs.cut,
         line.tabs.cut);
    show(tab_, isPerforated, start.tabs.length, line.tabs.length);
    show(lift_, isThrough && !isFold && !isDrawn, start.liftTab.size, line.liftTab.size);
    show(liftAt_, isThrough && !isDrawn && line.liftTab.size > 0, start.liftTab.at, line.liftTab.at);
}

} // namespace hasami
