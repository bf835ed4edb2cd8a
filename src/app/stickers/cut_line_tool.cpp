#include "app/stickers/cut_line_tool.h"

#include "app/document/step_state.h"
#include "app/kit/theme.h"
#include "app/paint/paint_design.h"
#include "app/words/words.h"
#include "geometry/curve_lengths.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <utility>

namespace hasami {

namespace {

const QString run = "drag cut line";

} // namespace

const LineRecipe* CutLineTool::line() const {
    const Design* design = document_.selectedDesign();
    if (!design || line_() >= design->recipe.lines.size() ||
        bringsAllLines(*design, document_.newest(design->id)))
        return nullptr;
    return &design->recipe.lines[line_()];
}

std::vector<CutLine> CutLineTool::cuts() const {
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
Box CutLineTool::shapeBox() const {
    const LineRecipe* recipe = line();
    Box box;
    if (recipe && recipe->course == LineCourse::shape && !recipe->shape.bySize)
        for (const CutLine& cut : cuts())
            box.add(bounds(flatten(cut.curve, flatteningTolerance)));
    return box;
}

std::vector<Point> CutLineTool::tabMiddles() const {
    std::vector<Point> middles;
    for (const CutLine& cut : cuts()) {
        const CurveLengths lengths(cut.curve);
        for (const Tab& tab : cut.tabs)
            middles.push_back(pointAt(cut.curve, lengths.placeAt((tab.from + tab.to) / 2)));
    }
    return middles;
}

CutLineTool::Target CutLineTool::at(Point place, double reach) const {
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

void CutLineTool::change(const QString& label, const std::function<void(Design&, LineRecipe&)>& change,
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

Point CutLineTool::partsOf(const Design& design, Point place) const {
    const Box box = bounds(design.artwork);
    return (place - box.least) * (1 / std::max(box.width(), box.height()));
}

/// Where the tabs are to be: as put by hand, which what is made may not have followed yet, or as they lie.
std::vector<Point> CutLineTool::places() const {
    const LineRecipe* recipe = line();
    if (!recipe || recipe->kind != LineKind::perforated || recipe->tabs.way != TabRule::Way::byHand)
        return tabMiddles();
    const Box box = bounds(document_.selectedDesign()->artwork);
    std::vector<Point> places;
    for (const Point part : recipe->tabs.places)
        places.push_back(box.least + part * std::max(box.width(), box.height()));
    return places;
}

/// The one that keys act on.
std::optional<std::size_t> CutLineTool::held(const std::vector<Point>& of) const {
    std::optional<Point> at = held_;
    if (under_.what == Target::What::tab)
        if (const auto middles = tabMiddles(); under_.number < middles.size())
            at = middles[under_.number];
    if (!at || of.empty())
        return {};
    const auto nearest = std::min_element(
        of.begin(), of.end(), [&](Point a, Point b) { return distance(a, *at) < distance(b, *at); });
    return std::size_t(nearest - of.begin());
}

bool CutLineTool::walk(int by) {
    const std::vector<Point> middles = tabMiddles();
    if (middles.empty())
        return false;
    const auto from = held(middles);
    const std::size_t count = middles.size();
    const std::size_t first = by > 0 ? 0 : count - 1;
    held_ = middles[from ? (*from + count + std::size_t(by > 0 ? 1 : count - 1)) % count : first];
    under_ = {};
    return true;
}

/// So far along the line that the place is on.
Point CutLineTool::alongLine(Point from, double by) const {
    Point to = from;
    double nearest = std::numeric_limits<double>::max();
    for (const CutLine& cut : cuts()) {
        const CurvePlace place = nearestPlace(cut.curve, from);
        const double off = distance(pointAt(cut.curve, place), from);
        if (off >= nearest)
            continue;
        nearest = off;
        const CurveLengths lengths(cut.curve);
        to = pointAt(cut.curve, lengths.placeAt(lengths.lengthAt(place) + by));
    }
    return to;
}

/// From now on the tabs lie there.
void CutLineTool::put(const QString& label, const std::vector<Point>& places, const QString& run) {
    change(
        label,
        [&](Design& design, LineRecipe& line) {
            line.tabs.way = TabRule::Way::byHand;
            line.tabs.places.clear();
            for (const Point place : places)
                line.tabs.places.push_back(partsOf(design, place));
        },
        run);
}

bool CutLineTool::moveHeld(double by) {
    std::vector<Point> all = places();
    const auto tab = held(all);
    if (!tab)
        return false;
    all[*tab] = alongLine(all[*tab], by);
    put(tr("Move a tab"), all, "move tab by keys");
    held_ = all[*tab];
    under_ = {};
    return true;
}

/// Half-way to the next along the line.
bool CutLineTool::addBehindHeld() {
    const std::vector<Point> middles = tabMiddles();
    const auto tab = held(middles);
    if (!tab)
        return false;
    for (const CutLine& cut : cuts()) {
        const CurvePlace place = nearestPlace(cut.curve, middles[*tab]);
        if (distance(pointAt(cut.curve, place), middles[*tab]) > 0.01)
            continue;
        const CurveLengths lengths(cut.curve);
        const double from = lengths.lengthAt(place);
        double gap = lengths.whole();
        for (const Tab& other : cut.tabs)
            if (const double ahead =
                    std::fmod((other.from + other.to) / 2 - from + 2 * lengths.whole(), lengths.whole());
                ahead > 0.01 && ahead < lengths.whole() - 0.01)
                gap = std::min(gap, ahead);
        std::vector<Point> all = middles;
        all.push_back(pointAt(cut.curve, lengths.placeAt(from + gap / 2)));
        document_.endRun();
        put(tr("Add a tab"), all);
        held_ = all.back();
        under_ = {};
        return true;
    }
    return false;
}

bool CutLineTool::removeHeld() {
    std::vector<Point> all = places();
    const auto tab = held(all);
    if (!tab)
        return false;
    document_.endRun();
    all.erase(all.begin() + std::ptrdiff_t(*tab));
    put(tr("Take a tab away"), all);
    held_.reset();
    under_ = {};
    return true;
}

bool CutLineTool::press(const PointerPlace& pointer) {
    const Point place = pointer.at;
    dragged_ = at(place, pointer.reach());
    if (dragged_.what == Target::What::nothing)
        return false;
    document_.endRun();
    if (dragged_.what == Target::What::line) {
        std::vector<Point> all = tabMiddles();
        all.push_back(place);
        put(tr("Add a tab"), all);
        dragged_ = {};
        return true;
    }
    pressed_ = place;
    held_ = place;
    from_ = line()->stretch;
    if (dragged_.what == Target::What::tab)
        put(tr("Move a tab"), tabMiddles(), run);
    return true;
}

void CutLineTool::move(const PointerPlace& pointer) {
    const Point place = pointer.at;
    under_ = pressed_ ? dragged_ : at(place, pointer.reach());
    if (!pressed_)
        return;
    const Point by = place - *pressed_;
    if (dragged_.what == Target::What::tab) {
        held_ = place;
        return change(
            tr("Move a tab"),
            [&](Design& design, LineRecipe& line) {
                if (dragged_.number < line.tabs.places.size())
                    line.tabs.places[dragged_.number] = partsOf(design, place);
            },
            run);
    }
    change(
        tr("Drag the line's side"),
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

void CutLineTool::release(const PointerPlace&) {
    if (!pressed_)
        return;
    document_.endRun();
    const std::optional<Point> held = held_;
    stop();
    held_ = held;
}

void CutLineTool::stop() {
    pressed_.reset();
    held_.reset();
    dragged_ = under_ = {};
}

std::optional<Qt::CursorShape> CutLineTool::cursor() const {
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

bool CutLineTool::key(int key, bool shift) {
    const double step = shift ? 5 : 0.5; // mm
    if (pressed_) {
        if (key != Qt::Key_Escape)
            return false;
        stop();
        document_.cancelRun();
        return true;
    }
    switch (key) {
    case Qt::Key_PageDown:
        return walk(1);
    case Qt::Key_PageUp:
        return walk(-1);
    case Qt::Key_Right:
    case Qt::Key_Down:
        return moveHeld(step);
    case Qt::Key_Left:
    case Qt::Key_Up:
        return moveHeld(-step);
    case Qt::Key_Insert:
        return addBehindHeld();
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        return removeHeld();
    case Qt::Key_Escape:
        return std::exchange(held_, std::nullopt).has_value();
    default:
        return false;
    }
}

void CutLineTool::paint(QPainter& painter, double pixelsPerMillimetre) const {
    painter.setRenderHint(QPainter::Antialiasing);
    const double knob = 4 / pixelsPerMillimetre;
    const auto tint = [&](bool isUnder) {
        QPen pen(isUnder ? Qt::white : colour::indigo, 1.5);
        pen.setCosmetic(true);
        painter.setPen(pen);
        painter.setBrush(isUnder ? colour::indigo : QColor(Qt::white));
    };
    const std::vector<Point> tabs = tabMiddles();
    const auto heldTab = held(tabs);
    for (std::size_t i = 0; i < tabs.size(); ++i) {
        tint(heldTab == i);
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
