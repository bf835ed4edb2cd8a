#include "files/report_file.h"

#include "checks/costs.h"
#include "checks/findings.h"
#include "workshop/route_sheet.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

using nlohmann::json;

double rounded(double value, double step) {
    return std::round(value / step) * step;
}

json money(const std::optional<double>& amount) {
    return amount ? json(rounded(*amount, 1e-2)) : json();
}

/// The share of its length that a sheet's pieces save beside plain rows of the same.
double savingOf(const Job& job, const Made& made, const Sheet& sheet) {
    std::vector<Copies> copies = copiesOf(job, made.designs);
    for (Copies& c : copies) {
        c.fills = false;
        c.count = int(std::count_if(sheet.pieces.begin(), sheet.pieces.end(),
                                    [&](const Piece& piece) { return piece.design == c.design; }));
    }
    const double plain = layOut(copies, plainPlan(job.plan), job.profile).usedLength();
    return plain > 0 ? (plain - sheet.usedLength) / plain : 0;
}

json layoutJson(const Job& job, const Made& made) {
    const LayoutCosts costs = layoutCosts(job, made, made.layout);
    return {{"used_length", rounded(costs.usedLength, 1e-3)},
            {"area", rounded(costs.area, 1e-2)},
            {"density", rounded(costs.density, 1e-6)},
            {"pieces", made.layout.pieces()},
            {"plain_length", rounded(costs.plainLength, 1e-3)},
            {"saved_length", rounded(costs.savedLength, 1e-3)},
            {"saving", rounded(costs.savedShare, 1e-6)},
            {"saved_money", money(costs.savedMoney)},
            {"left_over", rounded(costs.leftOver, 1e-3)},
            {"cost", money(costs.money)}};
}

json sheetJson(const Job& job, const Made& made, std::size_t number) {
    const Sheet& sheet = made.layout.sheets[number];
    const SheetCosts costs = costsOf(job, made, number, programOf(job, made, sheet));
    json stickers = json::object();
    for (const auto& [id, count] : costs.stickers) {
        const std::string& name = job.find(id)->name;
        stickers[name] = stickers.value(name, std::size_t{0}) + count;
    }
    json cutLength{{"kiss", 0.0}};
    for (const auto& [kind, length] : costs.cutLength)
        cutLength[std::string(kindName(kind))] = rounded(length, 1e-2);
    return {{"used_length", rounded(costs.usedLength, 1e-3)},
            {"area", rounded(costs.area, 1e-2)},
            {"density", rounded(costs.density, 1e-6)},
            {"saving", rounded(savingOf(job, made, sheet), 1e-6)},
            {"stickers", std::move(stickers)},
            {"cut_length", std::move(cutLength)},
            {"knife_lifts", costs.knifeLifts},
            {"minutes", rounded(costs.minutes, 1e-3)},
            {"cost", money(costs.money)}};
}

json findingJson(const Job& job, const Finding& finding) {
    json one{{"severity", severityName(finding.severity)},
             {"code", codeName(finding.code)},
             {"text", finding.text}};
    if (const Design* design = job.find(finding.design))
        one["design"] = design->name;
    if (finding.sheet)
        one["sheet"] = *finding.sheet + 1;
    if (finding.piece)
        one["piece"] = *finding.piece + 1;
    if (finding.place)
        one["place"] = {{"x", rounded(finding.place->x, 1e-3)}, {"y", rounded(finding.place->y, 1e-3)}};
    if (finding.fix)
        one["fix"] = finding.fix->label;
    return one;
}

json findingsOfReport(const Job& job, const Made& made) {
    json findings = json::array();
    for (const Finding& finding : findingsOf(job, made)) {
        findings.push_back(findingJson(job, finding));
        findings.back()["weight"] = findings.back()["severity"]; // as it was called first
    }
    return findings;
}

/// The passes of the print from the medium up, of those that there are.
json printOrder(const Job& job, const Made& made) {
    json order = json::array();
    for (const InkOrder::Pass& pass : job.profile.printer.inkOrder.passes()) {
        const bool isUsed = !pass || std::ranges::any_of(made.designs, [&](const MadeDesign& design) {
            return std::ranges::any_of(design.inks,
                                       [&](const auto& printed) { return printed->ink == *pass; });
        });
        if (isUsed)
            order.push_back(passName(pass));
    }
    return order;
}

} // namespace

std::string findingsJson(const Job& job, const std::vector<Finding>& findings) {
    json all = json::array();
    for (const Finding& finding : findings)
        all.push_back(findingJson(job, finding));
    return all.dump(2, ' ', false, json::error_handler_t::replace);
}

std::string reportJson(const Job& job, const Made& made) {
    json sheets = json::array();
    for (std::size_t i = 0; i < made.layout.sheets.size(); ++i)
        sheets.push_back(sheetJson(job, made, i));
    const json all{{"units", "mm"},
                   {"layout", layoutJson(job, made)},
                   {"print_order", printOrder(job, made)},
                   {"sheets", std::move(sheets)},
                   {"findings", findingsOfReport(job, made)}};
    return all.dump(2, ' ', false, json::error_handler_t::replace) + "\n";
}

} // namespace hasami
