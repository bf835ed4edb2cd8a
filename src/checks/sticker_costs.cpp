#include "checks/sticker_costs.h"

#include "base/error.h"
#include "base/number_text.h"
#include "base/translation.h"
#include "sticker/printed_area.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr double squareMetre = 1e6; // mm²

/// What one sticker of a design has by itself.
struct One {
    double printed = 0, area = 0, cutLength = 0;
};

One oneOf(const MadeDesign& made) {
    One one;
    if (made.sticker->isEmpty())
        return one;
    one.printed = area(printedArea(*made.sticker));
    one.area = made.outline ? area(*made.outline) : 0;
    for (const CutLine& line : made.sticker->lines)
        one.cutLength += cutLength(line);
    return one;
}

double weedSeconds(const Prices& prices, const One& one) {
    return prices.weedPiece + prices.weedMetre * one.cutLength / 1000;
}

std::string quoted(const std::string& text) {
    std::string result = "\"";
    for (const char c : text) {
        if (c == '"')
            result += '"';
        result += c;
    }
    return result + '"';
}

} // namespace

CostParts& CostParts::operator+=(const CostParts& other) {
    medium += other.medium;
    ink += other.ink;
    machine += other.machine;
    weeding += other.weeding;
    return *this;
}

std::vector<CostRow> stickerCosts(const Job& job, const Made& made, std::span<const CutProgram> programs,
                                  std::optional<std::size_t> only) {
    const Prices& prices = job.prices;
    std::map<std::string, One> ones;
    std::map<std::string, CostRow> rows;
    for (const MadeDesign& design : made.designs)
        ones[design.design] = oneOf(design);
    for (std::size_t s = 0; s < made.layout.sheets.size(); ++s) {
        const Sheet& sheet = made.layout.sheets[s];
        if ((only && *only != s) || sheet.pieces.empty())
            continue;
        const SheetCosts costs = costsOf(job, made, s, programs[s]);
        double covered = 0;
        for (const Piece& piece : sheet.pieces)
            covered += ones[piece.design].area;
        std::vector<double> minutes(sheet.pieces.size() + 1, 0); // of each piece; and of what they share
        for (const CutStep& step : programs[s])
            if (const auto* cut = std::get_if<Cut>(&step))
                minutes[std::min(cut->piece, sheet.pieces.size())] +=
                    secondsOf(step, job.profile.cutter) / 60;
        double ownMinutes = 0;
        for (std::size_t i = 0; i < sheet.pieces.size(); ++i)
            ownMinutes += minutes[i];
        for (std::size_t i = 0; i < sheet.pieces.size(); ++i) {
            const One& one = ones[sheet.pieces[i].design];
            const double share = covered > 0 ? one.area / covered : 1.0 / double(sheet.pieces.size());
            CostRow& row = rows[sheet.pieces[i].design];
            ++row.count;
            row.cutLength += one.cutLength;
            row.printed += one.printed;
            const double cutting = minutes[i] + share * (costs.minutes - ownMinutes);
            const double weeding = weedSeconds(prices, one) / 60;
            row.minutes += cutting;
            row.weedMinutes += weeding;
            row.costs += {costs.money.value_or(0) * share, prices.ink * one.printed / squareMetre,
                          prices.machine * cutting / 60, prices.wage * weeding / 60};
        }
    }
    std::vector<CostRow> inOrder;
    CostRow all;
    for (const Design& design : job.designs) {
        const auto row = rows.find(design.id);
        if (row == rows.end())
            continue;
        row->second.design = design.id;
        row->second.price = row->second.costs.total() * (1 + prices.margin / 100);
        inOrder.push_back(row->second);
        const CostRow& one = inOrder.back();
        all.count += one.count;
        all.costs += one.costs;
        all.price += one.price;
        all.cutLength += one.cutLength;
        all.minutes += one.minutes;
        all.weedMinutes += one.weedMinutes;
        all.printed += one.printed;
    }
    inOrder.push_back(all);
    return inOrder;
}

std::string costsCsv(const Job& job, std::span<const CostRow> rows) {
    std::string text = translated("Design,Stickers,Medium,Ink,Machine,Weeding,Costs,Costs each,Price,Price "
                                  "each,Cut length mm,Minutes to cut,Minutes to weed,Printed mm2") +
                       "\r\n";
    for (const CostRow& row : rows) {
        const Design* design = job.find(row.design);
        text += quoted(design ? design->name : translated("All"));
        text += ',' + std::to_string(row.count);
        for (const double value : {row.costs.medium, row.costs.ink, row.costs.machine, row.costs.weeding,
                                   row.costs.total(), row.each(), row.price, row.priceOfEach()})
            text += ',' + numberText(value, 4);
        for (const double value : {row.cutLength, row.minutes, row.weedMinutes, row.printed})
            text += ',' + numberText(value, 2);
        text += "\r\n";
    }
    return text;
}

std::vector<CountCost> costsByCount(const Job& job, const Made& made, std::string_view design, int most,
                                    const std::stop_token& stop) {
    const MadeDesign* found = made.find(design);
    const Design* wanted = job.find(design);
    if (!found || !wanted || found->sticker->isEmpty())
        return {};
    Copies copies = copiesOf(*wanted, *found);
    copies.fills = false;
    SheetPlan plan = plainPlan(job.plan);
    plan.sets = 1;
    Profile profile = job.profile;
    profile.marks.between = 0; // they take no length
    constexpr int mostLooked = 200;
    const int step = std::max(1, most / mostLooked);
    std::vector<CountCost> costs;
    for (int count = 1; count <= most; count += step) {
        throwIfStopped(stop);
        copies.count = count;
        const Layout layout = layOut({copies}, plan, profile, Checking::no, stop);
        if (int(layout.pieces()) < count)
            break;
        const double length = layout.usedLength();
        const double whole =
            priceOf(job.plan.medium, length)
                .value_or(job.plan.medium.length
                              ? std::ceil(length / *job.plan.medium.length - 1e-6) * *job.plan.medium.length
                              : length);
        costs.push_back({count, whole / count});
    }
    double cheapest = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < costs.size(); ++i) {
        const bool isCheapest = costs[i].medium <= cheapest * (1 + 1e-9);
        const bool risesNext = i + 1 < costs.size() && costs[i + 1].medium > costs[i].medium * (1 + 1e-9);
        costs[i].isGood = isCheapest && risesNext;
        cheapest = std::min(cheapest, costs[i].medium);
    }
    return costs;
}

} // namespace hasami
