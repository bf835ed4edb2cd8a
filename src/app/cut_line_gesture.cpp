#include "app/cut_line_gesture.h"

#include "app/paint_design.h"
#include "app/theme.h"
#include "geometry/curve_lengths.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

const QString run = "drag cut line";

} // namespace

const LineRecipe* CutLineGesture::line() const {
    const Design* design = document_.selectedDesign();
    if (!design || line_() >= design->recipe.lines.size() || design->recipe.edge.way == EdgeWay::lines)
        return nullptr;
    return &design->recipe.lines[line_()];
}

std::vector<CutLine> CutLineGesture::cuts() const {
    std::vector<CutLine> cuts;
    const LineRecipe* recipe = line();
    if (!recipe)
        return cuts;
    for (const CutLine& cut : stickerOf(document_, document_.selected()).lines)
        if (cut.recipe == line_() && cut.kind == recipe->kind)
            cuts.push_back(cut);
    return cuts;
}

/// Of a line that is a plain shape around the edge, its own box; empty of any other.
Box CutLineGesture::shapeBox() const {
    const LineRecipe* recipe = line();
    Box box;
    if (recipe && recipe->course == LineCourse::shape && !recipe->shape.bySize)
        for (const CutLine& cut : cuts())
            box.add(bounds(flatten(cut.curve, flatteningTolerance)));
    return box;
}

std::vector<Point> CutLineGesture::tabMiddles() const {
    std::vector<Point> middles;
    for (const CutLine& cut : cuts()) {
        const CurveLengths lengths(cut.curve);
        for (const Tab& tab : cut.tabs)
            middles.push_back(pointAt(cut.curve, lengths.placeAt((tab.from + tab.to) / 2)));
    }
    return middles;
}

CutLineGesture::Target CutLineGesture::at(Point place, double reach) const {
    const std::vector<Point> tabs = tabMiddles();
    for (std::size_t i = 0; i < tabs.size(); ++i)
        if (distance(tabs[i], place) <= reach * 1.5)
            return {Target::What::tab, i};
    if (const Box box = shapeBox(); !box.isEmpty()) {
        const double off[] = {place.x - box.least.x, place.y - box.least.y, place.x - box.most.x,
                              place.y - box.most.y};
        const bool isBeside = box.grownBy(reach).meets({place, place});
        for (std::size_t side = 0; side < 4; ++side)
            if (isBeside && std::abs(off[side]) <= reach)
                return {Target::What::side, side};
    }
    if (const LineRecipe* recipe = line(); recipe && recipe->kind == LineKind::perforated)
        for (const CutLine& cut : cuts())
            if (distance(pointAt(cut.curve, nearestPlace(cut.curve, place)), place) <= reach)
                return {Target::What::line, 0};
    return {};
}

void CutLineGesture::change(const QString& label, const std::function<void(Design&, LineRecipe&)>& change,
                            const QString& run) {
    const std::string id = document_.selected();
    const std::size_t number = line_();
    document_.change(
        label,
        [&](Job& job) {
            if (Design* design = job.find(id); design && number < design->recipe.lines.size())
                change(*design, design->recipe.lines[number]);
        },
        run);
}

Point CutLineGesture::partsOf(const Design& design, Point place) const {
    const Box box = bounds(design.artwork);
    return (place - box.least) * (1 / std::max(box.width(), box.height()));
}

/// From now on the tabs lie where they are, in the order that they are painted in.
void CutLineGesture::takeByHand(Design& design, LineRecipe& line) const {
    line.tabs.way = TabRule::Way::byHand;
    line.tabs.places.clear();
    for (const Point middle : tabMiddles())
        line.tabs.places.push_back(partsOf(design, middle));
}

bool CutLineGesture::press(Point place, double reach) {
    dragged_ = at(place, reach);
    if (dragged_.what == Target::What::nothing)
        return false;
    document_.endRun();
    if (dragged_.what == Target::What::line) {
        change("Add a tab", [&](Design& design, LineRecipe& line) {
            takeByHand(design, line);
            line.tabs.places.push_back(partsOf(design, place));
        });
        dragged_ = {};
        return true;
    }
    pressed_ = place;
    from_ = line()->stretch;
    if (dragged_.what == Target::What::tab)
        change(
            "Move a tab", [&](Design& design, LineRecipe& line) { takeByHand(design, line); }, run);
    return true;
}

void CutLineGesture::move(Point place) {
    if (!pressed_)
        return;
    const Point by = place - *pressed_;
    if (dragged_.what == Target::What::tab)
        return change(
            "Move a tab",
            [&](Design& design, LineRecipe& line) {
                if (dragged_.number < line.tabs.places.size())
                    line.tabs.places[dragged_.number] = partsOf(design, place);
            },
            run);
    change(
        "Draw the line's side",
        [&](Design&, LineRecipe& line) {
            Stretch& to = line.stretch = from_;
            switch (dragged_.number) {
            case 0:
                to.left -= by.x;
                break;
            case 1:
                to.top -= by.y;
                break;
            case 2:
                to.right += by.x;
                break;
            default:
                to.bottom += by.y;
            }
        },
        run);
}

void CutLineGesture::release() {
    if (pressed_)
        document_.endRun();
    stop();
}

void CutLineGesture::stop() {
    pressed_.reset();
    dragged_ = under_ = {};
}

bool CutLineGesture::hover(Point place, double reach) {
    const Target before = under_;
    under_ = pressed_ ? dragged_ : at(place, reach);
    return !(under_ == before);
}

Qt::CursorShape CutLineGesture::cursor() const {
    switch (under_.what) {
    case Target::What::nothing:
        return Qt::ArrowCursor;
    case Target::What::tab:
        return Qt::PointingHandCursor;
    case Target::What::line:
        return Qt::CrossCursor;
    case Target::What::side:
        return under_.number % 2 == 0 ? Qt::SizeHorCursor : Qt::SizeVerCursor;
    }
    return Qt::ArrowCursor;
}

bool CutLineGesture::key(int key) {
    if (key == Qt::Key_Escape && pressed_) {
        stop();
        document_.endRun();
        document_.undo();
        return true;
    }
    if ((key != Qt::Key_Delete && key != Qt::Key_Backspace) || under_.what != Target::What::tab || pressed_)
        return false;
    document_.endRun();
    change("Take a tab away", [&](Design& design, LineRecipe& line) {
        takeByHand(design, line);
        line.tabs.places.erase(line.tabs.places.begin() + std::ptrdiff_t(under_.number));
    });
    under_ = {};
    return true;
}

void CutLineGesture::paint(QPainter& painter, double pixelsPerMillimetre) const {
    painter.setRenderHint(QPainter::Antialiasing);
    const double knob = 4 / pixelsPerMillimetre;
    const auto tint = [&](bool isUnder) {
        QPen pen(isUnder ? Qt::white : colour::indigo, 1.5);
        pen.setCosmetic(true);
        painter.setPen(pen);
        painter.setBrush(isUnder ? colour::indigo : QColor(Qt::white));
    };
    const std::vector<Point> tabs = tabMiddles();
    for (std::size_t i = 0; i < tabs.size(); ++i) {
        tint(under_ == Target{Target::What::tab, i});
        painter.drawEllipse(QPointF(tabs[i].x, tabs[i].y), knob, knob);
    }
    const Box box = shapeBox();
    if (box.isEmpty())
        return;
    const Point middle = box.centre();
    const Point knobs[] = {
        {box.least.x, middle.y}, {middle.x, box.least.y}, {box.most.x, middle.y}, {middle.x, box.most.y}};
    for (std::size_t side = 0; side < 4; ++side) {
        tint(under_ == Target{Target::What::side, side});
        painter.drawRect(QRectF(knobs[side].x - knob, knobs[side].y - knob, 2 * knob, 2 * knob));
    }
}

} // namespace hasami
