#include "checks/costs.h"

#include <algorithm>
#include <cmath>

namespace hasami {

std::optional<double> priceOf(const Medium& medium, double length) {
    if (medium.price == 0)
        return {};
    constexpr double slack = 1e-6, millimetresInMetre = 1000;
    return medium.price *
           (medium.length ? std::ceil(length / *medium.length - slack) : length / millimetresInMetre);
}

SheetCosts costsOf(const Job& job, const Made& made, std::size_t index, const CutProgram& program) {
    const Sheet& sheet = made.layout.sheets.at(index);
    SheetCosts costs;
    costs.usedLength = sheet.usedLength;
    costs.area = sheet.usedLength * job.plan.medium.width;
    double covered = 0;
    for (const Piece& piece : sheet.pieces) {
        ++costs.stickers[piece.design];
        covered += made.find(piece.design)->sticker->peeledArea;
    }
    costs.density = costs.area > 0 ? covered / costs.area : 0;
    for (std::size_t i = 0; i < program.size(); ++i) {
        const CutStep& step = program[i];
        costs.minutes +=
            (secondsOf(step, job.profile.cutter) + secondsToChange(program, i, job.profile.cutter)) / 60;
        if (const auto* travel = std::get_if<Travel>(&step)) {
            costs.travel += distance(travel->from, travel->to);
        } else if (const auto* cut = std::get_if<Cut>(&step)) {
            costs.cutLength[cut->kind] += cut->length;
            ++costs.knifeLifts;
        }
    }
    costs.money = priceOf(job.plan.medium, sheet.usedLength);
    return costs;
}

LayoutCosts layoutCosts(const Job& job, const Made& made, const Layout& layout) {
    LayoutCosts costs;
    costs.usedLength = layout.usedLength();
    costs.area = costs.usedLength * job.plan.medium.width;
    std::map<std::string_view, double> each;
    for (const MadeDesign& design : made.designs)
        each[design.design] = design.sticker->peeledArea;
    double covered = 0;
    for (const Sheet& sheet : layout.sheets)
        for (const Piece& piece : sheet.pieces)
            covered += each.at(piece.design);
    costs.density = costs.area > 0 ? covered / costs.area : 0;
    costs.money = priceOf(job.plan.medium, costs.usedLength);
    costs.plainLength = made.plainLength;
    costs.savedLength = costs.plainLength - costs.usedLength;
    costs.savedShare = costs.plainLength > 0 ? costs.savedLength / costs.plainLength : 0;
    if (costs.money)
        costs.savedMoney = *priceOf(job.plan.medium, costs.plainLength) - *costs.money;
    if (const auto whole = job.plan.medium.whole(); whole && !layout.sheets.empty())
        costs.leftOver = *whole - layout.sheets.back().usedLength;
    return costs;
}

std::optional<OneMore> oneMore(const Job& job, const Made& made, std::string_view design,
                               const std::stop_token& stop) {
    std::vector<Copies> copies = copiesOf(job, made.designs);
    const auto more =
        std::find_if(copies.begin(), copies.end(), [&](const Copies& c) { return c.design == design; });
    if (more == copies.end() || more->fills || more->footprint.isEmpty())
        return {};
    SheetPlan plan = job.plan; // without a thought of sets staying whole: it is one piece more, not one set
    for (Copies& c : copies)
        c.count *= plan.sets;
    plan.sets = 1;
    const Layout before = layOut(copies, plan, job.profile, Checking::no, stop);
    ++more->count;
    const Layout after = layOut(copies, plan, job.profile, Checking::no, stop);
    if (after.pieces() <= before.pieces())
        return {};
    OneMore cost{after.usedLength() - before.usedLength(), {}};
    if (const auto price = priceOf(job.plan.medium, before.usedLength()))
        cost.money = *priceOf(job.plan.medium, after.usedLength()) - *price;
    return cost;
}

} // namespace hasami
