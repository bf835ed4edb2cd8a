#include "queue/run_state.h"

#include "base/json_reader.h"

#include <nlohmann/json.hpp>

namespace hasami {

namespace {

constexpr std::size_t mostEntries = 1'000'000;
constexpr double farthest = 1e6; // mm
constexpr int mostNumber = 1'000'000'000;

nlohmann::json toJson(Point p) {
    return {p.x, p.y};
}

Point pointFrom(const JsonReader& in) {
    const auto both = in.elements(2);
    if (both.size() != 2)
        in.refuse("%1 must be two numbers");
    return {both[0].number(-farthest, farthest), both[1].number(-farthest, farthest)};
}

MarkReading markFrom(const JsonReader& in) {
    MarkReading mark;
    mark.id = in.at("id").wholeNumber(0, mostNumber);
    mark.expected = pointFrom(in.at("expected"));
    if (!in.at("found").isNull())
        mark.found = pointFrom(in.at("found"));
    mark.isByHand = in.at("byHand").flag();
    return mark;
}

void addCut(CutRecord& record, const JsonReader& in) {
    const auto numbers = in.elements(6);
    if (numbers.size() != 6)
        in.refuse("%1 must be six numbers");
    const auto whole = [&](std::size_t i) { return numbers[i].wholeNumber(0, mostNumber); };
    CutKey key;
    key.kind = LineKind(numbers[0].wholeNumber(0, int(lineKinds.size()) - 1));
    key.piece = std::size_t(whole(1));
    key.line = std::size_t(whole(2));
    key.pass = whole(3);
    key.run = std::size_t(whole(4));
    record[key] = numbers[5].number(0, farthest);
}

} // namespace

std::string toJson(const RunState& state) {
    nlohmann::json json{{"sheet", state.sheet},
                        {"fault", int(state.fault)},
                        {"seed", state.seed},
                        {"holder", state.holder ? nlohmann::json(*state.holder) : nlohmann::json()},
                        {"pieces", state.pieces},
                        {"kind", state.kind ? nlohmann::json(int(*state.kind)) : nlohmann::json()},
                        {"slipped", state.hasSlipped},
                        {"force", state.force ? nlohmann::json(*state.force) : nlohmann::json()},
                        {"machine", state.machine ? nlohmann::json{state.machine->pass, state.machine->line}
                                                  : nlohmann::json()},
                        {"marks", nlohmann::json::array()},
                        {"cut", nlohmann::json::array()}};
    for (const MarkReading& mark : state.marks)
        json["marks"].push_back({{"id", mark.id},
                                 {"expected", toJson(mark.expected)},
                                 {"found", mark.found ? toJson(*mark.found) : nlohmann::json()},
                                 {"byHand", mark.isByHand}});
    for (const auto& [key, along] : state.record)
        json["cut"].push_back({int(key.kind), key.piece, key.line, key.pass, key.run, along});
    return json.dump();
}

RunState runStateFromJson(std::string_view text) {
    const nlohmann::json json = parseJson(text);
    const JsonReader in(json, "");
    RunState state;
    state.sheet = std::size_t(in.at("sheet").wholeNumber(0, mostNumber));
    state.fault = TrainingFault(in.at("fault").wholeNumber(0, int(trainingFaults.size()) - 1));
    state.seed = std::uint32_t(in.at("seed").wholeNumber(0, mostNumber));
    if (!in.at("holder").isNull())
        state.holder = in.at("holder").wholeNumber(0, mostNumber);
    if (!in.at("kind").isNull())
        state.kind = LineKind(in.at("kind").wholeNumber(0, int(lineKinds.size()) - 1));
    state.hasSlipped = in.at("slipped").flag();
    constexpr double mostForce = 10'000; // g
    if (!in.at("force").isNull())
        state.force = in.at("force").number(0, mostForce);
    if (!in.at("machine").isNull()) {
        const auto both = in.at("machine").elements(2);
        if (both.size() != 2)
            in.at("machine").refuse("%1 must be two numbers");
        state.machine = {std::size_t(both[0].wholeNumber(0, mostNumber)),
                         std::size_t(both[1].wholeNumber(0, mostNumber))};
    }
    for (const JsonReader& piece : in.at("pieces").elements(mostEntries))
        state.pieces.push_back(std::size_t(piece.wholeNumber(0, mostNumber)));
    for (const JsonReader& mark : in.at("marks").elements(mostEntries))
        state.marks.push_back(markFrom(mark));
    for (const JsonReader& cut : in.at("cut").elements(mostEntries))
        addCut(state.record, cut);
    return state;
}

} // namespace hasami
