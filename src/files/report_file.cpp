#include "files/report_file.h"

#include "checks/costs.h"
#include "workshop/route_sheet.h"

#include <nlohmann/json.hpp>

#include <cmath>

namespace hasami {

namespace {

using nlohmann::json;

double rounded(double value, double step) {
    return std::round(value / step) * step;
}

json sheetJson(const Job& job, const SheetCosts& costs) {
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
            {"saving", 0.0},
            {"stickers", std::move(stickers)},
            {"cut_length", std::move(cutLength)},
            {"knife_lifts", costs.knifeLifts},
            {"minutes", rounded(costs.minutes, 1e-3)},
            {"cost", nullptr}};
}

json findingsJson(const Job& job, const Made& made) {
    json findings = json::array();
    for (const MadeDesign& design : made.designs)
        if (!design.trouble.empty())
            findings.push_back(
                {{"weight", "error"}, {"design", job.find(design.design)->name}, {"text", design.trouble}});
    for (const MadeDesign& design : made.designs)
        if (const std::string remark = design.remarks.all(); !remark.empty())
            findings.push_back(
                {{"weight", "warning"}, {"design", job.find(design.design)->name}, {"text", remark}});
    for (const std::string& sentence : made.layout.remarks)
        findings.push_back({{"weight", "warning"}, {"text", sentence}});
    for (const Unplaced& u : made.layout.unplaced)
        findings.push_back({{"weight", "error"},
                            {"design", job.find(u.design)->name},
                            {"text", std::to_string(u.count) + " not placed: " + u.reason}});
    return findings;
}

} // namespace

std::string reportJson(const Job& job, const Made& made) {
    json sheets = json::array();
    for (std::size_t i = 0; i < made.layout.sheets.size(); ++i)
        sheets.push_back(sheetJson(job, costsOf(job, made, i, routeOf(job, made, made.layout.sheets[i]))));
    const json all{{"units", "mm"}, {"sheets", std::move(sheets)}, {"findings", findingsJson(job, made)}};
    return all.dump(2, ' ', false, json::error_handler_t::replace) + "\n";
}

} // namespace hasami
