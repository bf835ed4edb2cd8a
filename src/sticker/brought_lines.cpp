#include "sticker/brought_lines.h"

#include "edge/paint_outline.h"

#include <algorithm>

namespace hasami {

namespace {

constexpr double sameEnd = 0.05; // mm

void addOnce(std::vector<std::string>& names, const std::string& name) {
    if (std::find(names.begin(), names.end(), name) == names.end())
        names.push_back(name);
}

/// The run as a closed curve, if its ends meet.
std::optional<Curve> closedCurve(const Subpath& run) {
    Curve curve{run.start, run.segments};
    const double gap = distance(curve.segments.back().end, curve.start);
    if (gap == 0)
        return curve;
    if (gap <= sameEnd) {
        CurveSegment& last = curve.segments.back();
        const Point from = curve.segments.size() > 1 ? curve.segments.end()[-2].end : curve.start;
        if (last.straight) {
            last = straightSegment(from, curve.start);
        } else {
            last.control2 = last.control2 + (curve.start - last.end);
            last.end = curve.start;
        }
        return curve;
    }
    if (!run.isClosed)
        return {};
    curve.segments.push_back(straightSegment(curve.segments.back().end, curve.start));
    return curve;
}

/// Outer lines clockwise, those in an odd number of others of their kind the other way.
void orient(std::vector<CutLine>& lines) {
    std::vector<Loop> loops;
    std::vector<Box> boxes;
    for (const CutLine& line : lines) {
        loops.push_back(flatten(line.curve, flatteningTolerance));
        boxes.push_back(bounds(loops.back()));
    }
    for (std::size_t i = 0; i < lines.size(); ++i) {
        bool isOpening = false;
        for (std::size_t j = 0; j < lines.size(); ++j)
            if (j != i && lines[j].kind == lines[i].kind && boxes[j].meets(boxes[i]) &&
                std::abs(signedArea(loops[j])) > std::abs(signedArea(loops[i])) &&
                contains(loops[j], loops[i].front()))
                isOpening = !isOpening;
        if ((signedArea(loops[i]) < 0) != isOpening)
            lines[i].curve = reversed(lines[i].curve);
        lines[i].role = isOpening ? LineRole::opening : LineRole::outer;
    }
}

} // namespace

std::optional<SpotMeaning> meaningOf(std::string_view spot, const Profile& profile) {
    for (const LineKind kind : lineKinds)
        if (profile.names.of(kind).name == spot)
            return SpotMeaning{kind, true};
    for (const LineKind kind : lineKinds)
        if (!spot.empty() && plainName(profile.names.of(kind).name) == plainName(spot))
            return SpotMeaning{kind, false};
    return {};
}

BroughtLines broughtLines(const Item& item, const PaintList& paint, const Profile& profile, bool takesAlike) {
    BroughtLines brought;
    constexpr double slack = 0.05; // mm that a line may stand out from the part shown
    const Affine map = fromPage(item, paint);
    const Box shown = bounds(item).grownBy(slack);
    for (const PaintItem& painted : paint.items) {
        const auto meaning = meaningOf(painted.spot, profile);
        if (!meaning || !painted.shape.stroke)
            continue;
        if (!meaning->isExact)
            addOnce(brought.alike, painted.spot);
        if (!meaning->isExact && !takesAlike)
            continue;
        addOnce(brought.spots, painted.spot);
        for (const Subpath& run : hasami::map(painted.shape.path, map * painted.shape.stroke->toPage)) {
            if (run.segments.empty())
                continue;
            const auto closed = closedCurve(run);
            const Curve curve = closed ? *closed : Curve{run.start, run.segments};
            Box box = bounds(flatten(curve, flatteningTolerance));
            box.add(curve.segments.back().end);
            if (!item.crop || shown.holds(box))
                (closed ? brought.lines : brought.open)
                    .push_back({meaning->kind, LineRole::outer, curve, !closed, {}, ofFile});
        }
    }
    const auto area = [](const CutLine& line) {
        return std::abs(signedArea(flatten(line.curve, flatteningTolerance)));
    };
    std::stable_sort(brought.lines.begin(), brought.lines.end(),
                     [&](const CutLine& a, const CutLine& b) { return area(a) > area(b); });
    orient(brought.lines);
    return brought;
}

std::vector<std::string> strokeSpots(const PaintList& paint) {
    std::vector<std::string> names;
    for (const PaintItem& painted : paint.items)
        if (painted.shape.stroke && !painted.spot.empty())
            addOnce(names, painted.spot);
    return names;
}

} // namespace hasami
