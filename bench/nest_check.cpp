// Whether a layout keeps what its problem asks, found by brute force: nest-check IN.json OUT.json

#include "nesting/nest_json.h"
#include "support/nest_checker.h"

#include <nlohmann/json.hpp>

#include <cstdio>
#include <fstream>
#include <iterator>
#include <numbers>

namespace {

std::string textOf(const char* path) {
    std::ifstream file(path);
    return {std::istreambuf_iterator<char>(file), {}};
}

hasami::nesting::Nest nestOf(const hasami::nesting::Problem& problem, const nlohmann::json& answer) {
    hasami::nesting::Nest nest{answer["used_length"], answer["sheets"], answer["density"], {}, {}};
    const auto partOf = [&](const std::string& id) {
        std::size_t i = 0;
        while (i < problem.parts.size() && problem.parts[i].id != id)
            ++i;
        return i;
    };
    for (const nlohmann::json& p : answer["placements"])
        nest.placements.push_back(
            {partOf(p["id"]),
             p["copy"],
             p["sheet"],
             {p["x"], p["y"], p["rotation"].get<double>() * std::numbers::pi / 180, p["mirror"]}});
    for (const nlohmann::json& lost : answer["unplaced"])
        nest.notPlaced.push_back({partOf(lost["id"]), lost["copies"], lost["reason"]});
    return nest;
}

} // namespace

int main(int argc, char** argv) {
    if (argc != 3)
        return 2;
    const hasami::nesting::Problem problem = hasami::nesting::problemFromJson(textOf(argv[1]));
    const std::string fault =
        hasami::test::faultOf(problem, nestOf(problem, nlohmann::json::parse(textOf(argv[2]))));
    std::puts(fault.empty() ? "sound" : fault.c_str());
    return fault.empty() ? 0 : 1;
}
