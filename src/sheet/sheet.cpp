#include "sheet/sheet.h"

#include "edge/find_edge.h"
#include "geometry/length_text.h"

#include <cmath>

namespace hasami {

namespace {

constexpr double longestRoll =
    50'000; // mm; no roll is longer, and coordinates stay far inside the exact range
constexpr int mostSheets = 1000;
constexpr double slack = 1e-6; // mm; what just fits, fits

double roomForMarks(const Profile& profile) {
    return profile.marks.size / 2 + profile.marks.distance;
}

/// Lays pieces side by side across the medium and starts a new row, then a new sheet, as needed.
class Rows {
public:
    Rows(const SheetPlan& plan, const Profile& profile)
        : plan_(plan), area_(workArea(plan.medium, profile).grownBy(plan.box ? -plan.box->margin : 0)) {}

    void add(const Copies& copies) {
        const Affine turned = copies.isMirrored ? Affine::scaling(-1, 1) : Affine{};
        const Box box = boundsOfMapped(copies.footprint, turned);
        if (area_.isEmpty() || box.width() > area_.width() + slack || box.height() > area_.height() + slack) {
            layout_.unplaced.push_back({copies.design, copies.count, tooLarge(box)});
            return;
        }
        startRow();
        for (int i = 0; i < copies.count; ++i) {
            if (!makeRoomFor(box)) {
                layout_.unplaced.push_back({copies.design, copies.count - i,
                                            plan_.medium.isRoll() ? "the roll would be longer than 50 m"
                                                                  : "more than 1000 sheets would be needed"});
                return;
            }
            const Point at{x_, y_};
            Sheet& sheet = layout_.sheets.back();
            sheet.pieces.push_back({copies.design, Affine::translation(at - box.least) * turned});
            sheet.work.add(box.movedBy(at - box.least));
            y_ += box.height() + plan_.gap;
            rowDepth_ = std::max(rowDepth_, box.width());
        }
    }

    Layout take() { return std::move(layout_); }

private:
    std::string tooLarge(const Box& box) const {
        if (area_.isEmpty())
            return plan_.box
                       ? "the medium is too small for the shared box, the marks and the strips that the "
                         "machine can't reach"
                       : "the medium is too small for the marks and the strips that the machine can't "
                         "reach";
        std::string room = lengthText(area_.height()) + " across";
        if (!plan_.medium.isRoll())
            room += " and " + lengthText(area_.width()) + " along";
        return "it is " + lengthText(box.height()) + " across and " + lengthText(box.width()) +
               " along the medium, where there is room for " + room;
    }

    void startRow() {
        if (rowDepth_ > 0)
            x_ += rowDepth_ + plan_.gap;
        y_ = area_.least.y;
        rowDepth_ = 0;
    }

    /// Moves on to the next place for a box; false if there is none.
    bool makeRoomFor(const Box& box) {
        if (y_ + box.height() > area_.most.y + slack)
            startRow();
        if (layout_.sheets.empty() || x_ + box.width() > area_.most.x + slack) {
            if (!layout_.sheets.empty() && (plan_.medium.isRoll() || layout_.sheets.size() >= mostSheets))
                return false;
            layout_.sheets.emplace_back();
            x_ = area_.least.x;
            y_ = area_.least.y;
            rowDepth_ = 0;
        }
        return true;
    }

    SheetPlan plan_;
    Box area_;
    Layout layout_;
    double x_ = 0, y_ = 0, rowDepth_ = 0;
};

/// Gives a sentence where its tabs are too few.
std::optional<std::string> addBox(Sheet& sheet, const SharedBox& box) {
    CutLine line;
    line.kind = box.kind;
    line.curve = shapeAround(sheet.work, {PlainShapeKind::rounded, box.margin, box.radius});
    std::optional<std::string> trouble;
    if (box.kind == LineKind::perforated) {
        line.tabs = placeTabs(std::span(&line.curve, 1), box.tabs, sheet.work).front();
        trouble = whyLoose(std::span(&line.tabs, 1));
    }
    sheet.work = sheet.work.grownBy(box.margin);
    sheet.lines.push_back(std::move(line));
    return trouble;
}

void addMarks(Sheet& sheet, const Medium& medium, const Profile& profile) {
    const double radius = profile.marks.size / 2;
    const Box at = sheet.work.grownBy(profile.marks.distance);
    for (const Point centre : {at.least, Point{at.least.x, at.most.y}, Point{at.most.x, at.least.y}, at.most})
        sheet.marks.push_back({centre, radius, radius + profile.marks.quiet});
    sheet.usedLength = at.most.x + radius + profile.reach.trailing;
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

Box workArea(const Medium& medium, const Profile& profile) {
    const double marks = roomForMarks(profile);
    return {{profile.reach.leading + marks, profile.reach.sides + marks},
            {medium.length.value_or(longestRoll) - profile.reach.trailing - marks,
             medium.width - profile.reach.sides - marks}};
}

Layout layOutRows(const std::vector<Copies>& copies, const SheetPlan& plan, const Profile& profile) {
    Rows rows(plan, profile);
    for (const Copies& c : copies)
        if (c.count > 0 && !c.footprint.isEmpty())
            rows.add(c);
    Layout layout = rows.take();
    for (Sheet& sheet : layout.sheets) {
        if (const auto trouble = plan.box ? addBox(sheet, *plan.box) : std::nullopt)
            layout.remarks = {*trouble};
        addMarks(sheet, plan.medium, profile);
    }
    return layout;
}

} // namespace hasami
