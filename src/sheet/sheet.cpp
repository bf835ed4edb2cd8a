#include "sheet/sheet.h"

#include "base/translation.h"
#include "sheet/conflicts.h"
#include "sheet/marks_between.h"
#include "sheet/rows.h"

#include <array>
#include <cmath>
#include <limits>
#include <map>
#include <numbers>

namespace hasami {

namespace {

constexpr double longestRoll =
    50'000; // mm; no roll is longer, and coordinates stay far inside the exact range
constexpr double lineBetweenSections = 0.1; // mm

const Copies* find(const std::vector<Copies>& copies, std::string_view design) {
    const auto found =
        std::find_if(copies.begin(), copies.end(), [&](const Copies& c) { return c.design == design; });
    return found == copies.end() ? nullptr : &*found;
}

int wanted(const Copies& copies, const SheetPlan& plan) {
    return copies.fills ? std::numeric_limits<int>::max() : copies.count * plan.sets;
}

/// Which of the laid pieces stay: of each design as many as are wanted, pinned ones first.
std::vector<bool> staying(const std::vector<Copies>& copies, const SheetPlan& plan) {
    std::map<std::string_view, int> left;
    for (const Copies& c : copies)
        left[c.design] = c.footprint.isEmpty() ? 0 : wanted(c, plan);
    std::vector<bool> stays(plan.laid->size(), false);
    for (const bool pinned : {true, false})
        for (std::size_t i = 0; i < plan.laid->size(); ++i)
            if (const LaidPiece& piece = (*plan.laid)[i];
                piece.isPinned == pinned && left[piece.design] > 0) {
                --left[piece.design];
                stays[i] = true;
            }
    return stays;
}

/// The sheets with what was laid. Those that nothing lies on any more are left out, but for those that were
/// used before, or that have such behind them: used areas stay with their sheets.
std::vector<Sheet> sheetsOfLaid(const std::vector<Copies>& copies, const SheetPlan& plan) {
    const std::vector<bool> stays = staying(copies, plan);
    std::map<int, Sheet> sheets;
    for (std::size_t i = 0; i < plan.laid->size(); ++i) {
        if (!stays[i])
            continue;
        const LaidPiece& piece = (*plan.laid)[i];
        const Copies& c = *find(copies, piece.design);
        const Affine place = placeOf(c, piece.centre, piece.turn);
        Sheet& sheet = sheets[plan.medium.whole() ? piece.sheet : 0];
        sheet.pieces.push_back({piece.design, place, piece.isPinned, piece.copy});
        sheet.work.add(boundsOf(c, place));
    }
    int keptEmpty = 0; // sheets before this one
    for (const UsedArea& used : plan.medium.used)
        keptEmpty = std::max(keptEmpty, used.sheet + 1);
    std::vector<Sheet> all;
    for (auto& [number, sheet] : sheets) {
        if (const auto least = std::size_t(std::min(number, keptEmpty)); all.size() < least)
            all.resize(least);
        all.push_back(std::move(sheet));
    }
    return all;
}

/// What found no place by hand: of designs that fill nothing, where some are laid.
std::vector<Copies> notYetLaid(std::vector<Copies> copies, const std::vector<Sheet>& sheets,
                               const SheetPlan& plan) {
    std::map<std::string_view, int> laid;
    for (const Sheet& sheet : sheets)
        for (const Piece& piece : sheet.pieces)
            ++laid[piece.design];
    for (Copies& c : copies) {
        const int there = laid[c.design];
        if (c.fills && there > 0) {
            c.fills = false;
            c.count = 0;
        } else if (!c.fills) {
            c.count = std::max(0, c.count * plan.sets - there);
        }
    }
    return copies;
}

/// Gives a sentence where its tabs are too few.
std::optional<std::string> addBox(Sheet& sheet, const SharedBox& box) {
    CutLine line;
    line.kind = box.kind;
    line.curve = shapeAround(sheet.work, {PlainShapeKind::rounded, box.margin, box.radius});
    std::optional<std::string> trouble;
    if (box.kind == LineKind::perforated) {
        const std::span<const Curve> alone(&line.curve, 1);
        line.tabs = placeTabs(alone, box.tabs, sheet.work).front();
        trouble = whyLoose(std::span(&line.tabs, 1), tabsAskedFor(alone, box.tabs));
    }
    sheet.work = sheet.work.grownBy(box.margin);
    sheet.lines.push_back(std::move(line));
    return trouble;
}

/// Marks between the pieces, which lie in `within`. Gives a sentence where there are fewer than asked for.
std::optional<std::string> addMarksBetween(Sheet& sheet, std::size_t number, Box within,
                                           const std::vector<Copies>& copies, const SheetPlan& plan,
                                           const Profile& profile) {
    const MarkScheme& scheme = profile.marks;
    const double quiet = quietRadius(scheme);
    if (plan.box)
        within = within.grownBy(std::min(0.0, plan.box->margin - quiet));
    std::vector<Body> taken;
    for (const Piece& piece : sheet.pieces)
        taken.emplace_back(outlineOf(*find(copies, piece.design), piece.place));
    for (const Box& box : keptFree(plan, profile, int(number)))
        taken.emplace_back(regionOf(box));
    std::vector<Point> standing;
    for (const Mark& mark : sheet.marks)
        standing.push_back(mark.centre);
    const std::vector<Point> places =
        placesBetween({within, taken, quiet, quiet + inkRadius(scheme)}, standing, scheme.between);
    for (const Point place : places)
        sheet.marks.push_back(markAlone(int(sheet.marks.size()) + 1, place, scheme));
    if (int(places.size()) == scheme.between)
        return {};
    return sentence("On sheet %1 there is room for %2 of %3 marks between the pieces",
                    std::to_string(number + 1), std::to_string(places.size()),
                    std::to_string(scheme.between));
}

/// None where nothing lies: a sheet that is used up, with others behind it.
void addMarks(Sheet& sheet, const SheetPlan& plan, const Profile& profile) {
    const Medium& medium = plan.medium;
    sheet.length = medium.length.value_or(0);
    if (sheet.pieces.empty())
        return;
    Box marked = sheet.work;
    if (cutsInSections(profile.marks)) // whose lines stand fast, wherever the first piece lies
        marked.add(Point{workArea(plan, profile).least.x, marked.least.y});
    sheet.marks = marksAround(marked, profile.marks);
    sheet.usedLength =
        sheet.work.most.x + roomForMarks(profile.marks) + profile.cutter.reach.trailing + medium.end;
    if (medium.whole())
        sheet.usedLength = std::min(sheet.usedLength, *medium.whole());
    sheet.length = medium.length.value_or(sheet.usedLength);
}

} // namespace

std::size_t Layout::pieces() const {
    std::size_t sum = 0;
    for (const Sheet& sheet : sheets)
        sum += sheet.pieces.size();
    return sum;
}

double Layout::usedLength() const {
    double sum = 0;
    for (std::size_t i = 0; i < sheets.size(); ++i)
        sum += i + 1 < sheets.size() ? sheets[i].length : sheets[i].usedLength;
    return sum;
}

Box usablePart(const SheetPlan& plan, const Profile& profile) {
    const Medium& medium = plan.medium;
    const auto most = [](double a, double b, double c) { return std::max({a, b, c}); };
    const double trailing = std::max(profile.cutter.reach.trailing, medium.isRoll() ? 0 : plan.margin);
    return {{most(profile.cutter.reach.leading, plan.margin, medium.start),
             most(profile.cutter.reach.sides, plan.margin, medium.firstSide)},
            {medium.whole().value_or(longestRoll) - trailing,
             medium.width - most(profile.cutter.reach.sides, plan.margin, medium.lastSide)}};
}

Box workArea(const SheetPlan& plan, const Profile& profile) {
    const double room = roomForMarks(profile.marks);
    Box area = usablePart(plan, profile).grownBy(-room);
    area.least.x += std::max(0.0, roomForLead(profile.lead) - room);
    return area;
}

std::vector<Box> keptFree(const SheetPlan& plan, const Profile& profile, int sheet) {
    const double length = plan.medium.whole().value_or(longestRoll);
    std::vector<Box> boxes;
    for (const auto* tracks : {&plan.medium.tracks, &profile.cutter.rollers})
        for (const Track& track : *tracks)
            if (track.at < plan.medium.width)
                boxes.push_back(
                    {{0, track.at}, {length, std::min(track.at + track.width, plan.medium.width)}});
    for (const UsedArea& used : plan.medium.used)
        if (used.sheet == sheet)
            boxes.push_back(used.box);
    if (cutsInSections(profile.marks))
        for (const double line : sectionLines(workArea(plan, profile).least.x,
                                              length - leastInterval(profile.marks), profile.marks))
            boxes.push_back(
                {{line - lineBetweenSections / 2, 0}, {line + lineBetweenSections / 2, plan.medium.width}});
    return boxes;
}

Affine placeOf(const Copies& copies, Point centre, double turn) {
    constexpr double radiansInDegree = std::numbers::pi / 180;
    // Whole quarter turns are exact: rows stay on whole numbers.
    const double quarters = turn / 90;
    Affine turned = Affine::rotation(turn * radiansInDegree);
    if (quarters == std::round(quarters)) {
        constexpr std::array<Point, 4> directions{{{1, 0}, {0, 1}, {-1, 0}, {0, -1}}};
        const Point way = directions[std::size_t(((std::lround(quarters) % 4) + 4) % 4)];
        turned = {way.x, way.y, -way.y, way.x, 0, 0};
    }
    return Affine::translation(centre) * turned * Affine::scaling(copies.isMirrored ? -1 : 1, 1) *
           Affine::translation(Point{} - copies.footprint.centre());
}

Region outlineOf(const Copies& copies, const Affine& place) {
    Region region;
    if (copies.outline && !copies.outline->isEmpty()) {
        region = *copies.outline;
    } else {
        const Box& b = copies.footprint;
        region.loops = {{b.least, {b.most.x, b.least.y}, b.most, {b.least.x, b.most.y}}};
    }
    for (Loop& loop : region.loops) {
        std::transform(loop.begin(), loop.end(), loop.begin(), place);
        if (place.determinant() < 0)
            std::reverse(loop.begin(), loop.end());
    }
    return region;
}

Box boundsOf(const Copies& copies, const Affine& place) {
    if (!copies.outline)
        return boundsOfMapped(copies.footprint, place);
    Box box;
    for (const Loop& loop : copies.outline->loops)
        for (const Point p : loop)
            box.add(place(p));
    return box;
}

SheetPlan plainPlan(SheetPlan plan) {
    plan.rows.isStaggered = plan.rows.turnsAlternate = plan.rows.isCentred = false;
    plan.rows.most = 0;
    if (plan.packing == Packing::nest)
        plan.rows.across = plan.rows.along = {};
    plan.packing = Packing::rows;
    plan.sets = 1;
    return plan;
}

std::vector<LaidPiece> laidOf(const Layout& layout, const std::vector<Copies>& copies) {
    std::map<std::string_view, const Copies*> byDesign;
    for (const Copies& c : copies)
        byDesign[c.design] = &c;
    std::vector<LaidPiece> laid;
    laid.reserve(layout.pieces());
    for (std::size_t i = 0; i < layout.sheets.size(); ++i)
        for (const Piece& piece : layout.sheets[i].pieces) {
            const Copies& c = *byDesign.at(piece.design);
            const double mirror = c.isMirrored ? -1 : 1;
            const double turn = std::atan2(piece.place.b * mirror, piece.place.a * mirror);
            laid.push_back({piece.design, int(i), piece.place(c.footprint.centre()),
                            turn * 180 / std::numbers::pi, piece.isPinned, piece.copy});
        }
    return laid;
}

void numberCopies(std::vector<LaidPiece>& pieces) {
    std::vector<CopyNumber> numbers;
    numbers.reserve(pieces.size());
    for (LaidPiece& piece : pieces)
        numbers.push_back({piece.design, piece.copy});
    numberCopies(std::move(numbers));
}

namespace {

void numberCopies(std::vector<Sheet>& sheets) {
    std::vector<CopyNumber> numbers;
    for (Sheet& sheet : sheets)
        for (Piece& piece : sheet.pieces)
            numbers.push_back({piece.design, piece.copy});
    hasami::numberCopies(std::move(numbers));
}

} // namespace

Layout layOut(const std::vector<Copies>& copies, const SheetPlan& plan, const Profile& profile,
              Checking checking, const std::stop_token& stop) {
    std::vector<Sheet> laid;
    if (plan.packing == Packing::nest)
        laid = sheetsOfLaid(copies, plan);
    const bool isLaid = !laid.empty();
    Layout layout;
    if (isLaid) {
        SheetPlan rest = plan;
        rest.sets = 1;
        const std::vector<Copies> others = notYetLaid(copies, laid, plan);
        layout = rowsBehind(std::move(laid), others, rest, profile, stop);
    } else {
        layout = rowsBehind({}, copies, plan, profile, stop);
    }
    numberCopies(layout.sheets);
    for (std::size_t i = 0; i < layout.sheets.size(); ++i) {
        Sheet& sheet = layout.sheets[i];
        const Box pieces = sheet.work;
        if (const auto trouble = plan.box && !sheet.pieces.empty() ? addBox(sheet, *plan.box) : std::nullopt)
            layout.remarks.push_back({FindingCode::fewTabs, *trouble});
        addMarks(sheet, plan, profile);
        if (profile.marks.corners > 0 && profile.marks.between > 0 && !sheet.pieces.empty())
            if (const auto trouble = addMarksBetween(sheet, i, pieces, copies, plan, profile))
                layout.remarks.push_back({FindingCode::fewMarks, *trouble});
    }
    if (isLaid && checking == Checking::yes)
        layout.conflicts = findConflicts(layout, copies, plan, profile, stop);
    return layout;
}

} // namespace hasami
