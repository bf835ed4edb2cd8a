#include "sheet/usable.h"

#include "base/translation.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace hasami {

namespace {

bool holds(const Box& box, Point p) {
    return box.holds({p, p});
}

bool isOnTrack(const std::vector<Track>& tracks, double y) {
    return std::ranges::any_of(tracks, [&](const Track& t) { return y >= t.at && y <= t.at + t.width; });
}

/// Inside the strips that the machine does not reach, on a medium of a length.
Box reached(const Profile& profile, double width, double length) {
    const Cutter::Reach& reach = profile.cutter.reach;
    return {{reach.leading, reach.sides}, {length - reach.trailing, width - reach.sides}};
}

} // namespace

Unusable whyUnusable(const SheetPlan& plan, const Profile& profile, const Sheet& sheet, int number,
                     Point at) {
    const double length = plan.medium.whole().value_or(sheet.length);
    if (!holds(reached(profile, plan.medium.width, length), at))
        return Unusable::reach;
    if (std::ranges::any_of(plan.medium.used, [&](const UsedArea& used) {
            return used.sheet == number && holds(used.box, at);
        }))
        return Unusable::used;
    if (isOnTrack(plan.medium.tracks, at.y) || isOnTrack(profile.cutter.rollers, at.y))
        return Unusable::rollers;
    if (std::ranges::any_of(sheet.marks, [&](const Mark& mark) {
            return std::ranges::any_of(mark.quiet, [&](const Curve& rim) {
                return contains(flatten(rim, flatteningTolerance), at);
            });
        }))
        return Unusable::quiet;
    const Box area = workArea(plan, profile);
    if (cutsInSections(profile.marks) &&
        std::ranges::any_of(sectionLines(area.least.x, length, profile.marks),
                            [&](double line) { return std::abs(at.x - line) < plan.gap; }))
        return Unusable::sections;
    if (holds(area, at))
        return Unusable::nothing;
    if (!holds(usablePart(plan, profile), at))
        return Unusable::margin;
    return at.x < area.least.x - roomForMarks(profile.marks) ? Unusable::lead : Unusable::marks;
}

const char* sentenceOn(Unusable why) {
    constexpr std::array<const char*, 9> sentences{
        nullptr,
        N_("The machine does not reach this strip"),
        N_("This strip is kept as a margin, or used up"),
        N_("This part of the medium was used before"),
        N_("Rollers run here"),
        N_("Two sections meet here: no sticker lies across the line between a pair of marks"),
        N_("The quiet zone of a mark: nothing is printed here"),
        N_("Here the registration marks have their room"),
        N_("Here is room for what is printed at the leading edge")};
    return sentences[std::size_t(why)];
}

} // namespace hasami
