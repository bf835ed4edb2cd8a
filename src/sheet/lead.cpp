#include "sheet/lead.h"

#include "base/translation.h"
#include "lettering/text_outline.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr double fromWork = 2;                                  // mm between it and the work
constexpr double arrowSize = 6;                                 // mm along and across
constexpr double tickLength = 5, tickWidth = 0.5, fromEdge = 1; // mm
constexpr double capHeight = 2.5, besideText = 1;               // mm
constexpr double barHeight = 8;                                 // mm, of a code of bars
constexpr double finestModule = 0.25, moduleStep = 0.05;        // mm
constexpr double usualModules = 22; // of a square code's side: 31 letters and figures

/// A wedge that points to the leading edge.
LeadMark arrowAt(Point least) {
    LeadMark arrow{LeadMark::Kind::arrow, {least, least + Point{arrowSize, arrowSize}}, {}};
    arrow.ink = {polygonOf(Loop{{least.x, least.y + arrowSize / 2},
                                {least.x + arrowSize, least.y},
                                {least.x + arrowSize, least.y + arrowSize}})};
    return arrow;
}

/// A code's size with its quiet zone. Bars run along the medium, so that a code of bars is read across it.
struct CodeSize {
    double along, across, quiet;
};
CodeSize sizeOf(const LeadScheme& scheme, const Grid<std::uint8_t>& modules) {
    const double quiet = quietModules(scheme.code) * scheme.module;
    const double across = modules.width() * scheme.module + 2 * quiet;
    return scheme.code == CodeKind::code128
               ? CodeSize{barHeight, across, quiet}
               : CodeSize{modules.height() * scheme.module + 2 * quiet, across, quiet};
}

/// Each run of modules of a row is one rectangle. It stands upright on the printed page, whose leading edge
/// is on top: columns run back across the medium, rows away from the edge.
LeadMark codeAt(Point least, const LeadScheme& scheme, const Grid<std::uint8_t>& modules) {
    const CodeSize size = sizeOf(scheme, modules);
    const bool isBars = scheme.code == CodeKind::code128; // which have no quiet zone at their ends
    const double rowHeight = isBars ? size.along : scheme.module;
    const Point first{isBars ? least.x : least.x + size.quiet, least.y + size.across - size.quiet};
    LeadMark code{LeadMark::Kind::code, {least, least + Point{size.along, size.across}}, {}};
    for (int row = 0; row < modules.height(); ++row)
        for (int column = 0; column < modules.width();) {
            int end = column;
            while (end < modules.width() && modules.at(end, row))
                ++end;
            if (end > column)
                code.ink.push_back(
                    polygonOf(Box{first + Point{row * rowHeight, -end * scheme.module},
                                  first + Point{(row + 1) * rowHeight, -column * scheme.module}}));
            column = std::max(end, column + 1);
        }
    return code;
}

/// It stands as a code does.
std::optional<LeadMark> textIn(const std::string& line) {
    const TextOutline outline = outlineOfText(line, capHeight);
    const Affine turned{0, -1, 1, 0, 0, 0};
    LeadMark text{LeadMark::Kind::text, {}, {}};
    for (const Curve& rim : outline.rims)
        text.ink.push_back(map(rim, turned));
    if (text.ink.empty())
        return {};
    text.box = bounds(flatten(text.ink, flatteningTolerance)).grownBy(besideText);
    return text;
}

class LeadLayout {
public:
    explicit LeadLayout(const LeadRoom& room) : room_(room) {
        for (const Mark& mark : room.marks)
            for (const Curve& rim : mark.quiet)
                taken_.push_back(bounds(flatten(rim, 0.01)));
    }

    /// The free place nearest to one across, for a box that ends before the work.
    std::optional<Point> placeFor(double along, double across, double wanted) const {
        constexpr double step = 0.5; // mm
        const double x = room_.work.least.x - fromWork - along;
        if (x < 0)
            return {};
        const int steps = int((room_.most - room_.least) / step);
        for (int i = 0; i <= steps; ++i)
            for (const double y : {wanted - i * step, wanted + i * step})
                if (const Box box{{x, y}, {x + along, y + across}};
                    y >= room_.least && y + across <= room_.most && isFree(box))
                    return box.least;
        return {};
    }

    bool isFree(const Box& box) const {
        return std::none_of(taken_.begin(), taken_.end(), [&](const Box& taken) { return taken.meets(box); });
    }

    void take(const Box& box) { taken_.push_back(box); }

private:
    const LeadRoom& room_;
    std::vector<Box> taken_;
};

} // namespace

double roomForLead(const LeadScheme& scheme) {
    double room = scheme.hasArrow ? arrowSize + fromWork : 0;
    if (scheme.hasText)
        room = std::max(room, 1.5 * capHeight + 2 * besideText + fromWork);
    if (scheme.code == CodeKind::code128)
        room = std::max(room, barHeight + fromWork);
    if (scheme.code == CodeKind::dataMatrix)
        room = std::max(room, (usualModules + 2) * scheme.module + fromWork);
    return room;
}

Lead leadMarks(const LeadScheme& scheme, const LeadRoom& room, const std::string& codeText,
               const std::string& line) {
    Lead lead;
    LeadLayout layout(room);
    const double middle = room.work.centre().y;
    const auto keep = [&](LeadMark mark) {
        layout.take(mark.box);
        lead.marks.push_back(std::move(mark));
    };
    if (scheme.code != CodeKind::none) {
        const Grid<std::uint8_t> modules = modulesOf(scheme.code, codeText);
        LeadScheme fitting = scheme;
        std::optional<Point> at;
        for (; !at && fitting.module >= std::min(finestModule, scheme.module); fitting.module -= moduleStep) {
            const CodeSize size = sizeOf(fitting, modules);
            const double wanted = scheme.place == LeadPlace::first    ? room.work.least.y
                                  : scheme.place == LeadPlace::middle ? middle - size.across / 2
                                                                      : room.work.most.y - size.across;
            if ((at = layout.placeFor(size.along, size.across, wanted)))
                keep(codeAt(*at, fitting, modules));
        }
        if (!at)
            lead.leftOut.push_back(N_("the job's code"));
    }
    if (scheme.hasText)
        if (auto text = textIn(line)) {
            const Box box = text->box;
            if (const auto at = layout.placeFor(box.width(), box.height(), room.work.least.y)) {
                const Point by = *at - box.least;
                for (Curve& rim : text->ink)
                    rim = map(rim, Affine::translation(by));
                text->box = box.movedBy(by);
                keep(std::move(*text));
            } else {
                lead.leftOut.push_back(N_("the line of text"));
            }
        }
    if (scheme.hasArrow) {
        if (const auto at = layout.placeFor(arrowSize, arrowSize, middle - arrowSize / 2))
            keep(arrowAt(*at));
        else
            lead.leftOut.push_back(N_("the arrow at the leading edge"));
    }
    for (const Track& track : room.tracks) {
        if (!scheme.hasTicks || track.at + track.width / 2 > room.most)
            continue;
        const double y = track.at + track.width / 2;
        const Box box{{fromEdge, y - tickWidth / 2}, {fromEdge + tickLength, y + tickWidth / 2}};
        if (box.most.x <= room.work.least.x && layout.isFree(box))
            lead.marks.push_back({LeadMark::Kind::tick, box, {polygonOf(box)}});
        else
            lead.leftOut.push_back(N_("a roller's tick"));
    }
    return lead;
}

} // namespace hasami
