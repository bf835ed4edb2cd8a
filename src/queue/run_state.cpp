#include "queue/run_state.h"

#include "queue/queue_fields.h"

namespace hasami {

namespace {

/// Format 1 had numbers in place of names.
void nameRunNumbers(nlohmann::json& json) {
    nameNumber(json["fault"], faultsInFiles);
    nameNumber(json["kind"], kindsInFiles);
    for (auto& cut : json["cut"])
        if (cut.is_array() && !cut.empty())
            nameNumber(cut[0], kindsInFiles);
}

/// Format 1 kept a pass and a line in it of a real cutter.
std::optional<std::pair<std::size_t, std::size_t>> olderPlace(const nlohmann::json& json) {
    const JsonReader in(json, "");
    if (!in.has("machine") || in.at("machine").isNull())
        return {};
    const auto both = in.at("machine").elements(2);
    if (both.size() != 2)
        in.at("machine").refuse("%1 must be two numbers");
    return std::pair(std::size_t(both[0].wholeNumber(0, int(mostNumber))),
                     std::size_t(both[1].wholeNumber(0, int(mostNumber))));
}

} // namespace

std::string toJson(const RunState& state) {
    return keptText(keptJson(state, state.unknown));
}

RunState runStateFromJson(std::string_view text) {
    nlohmann::json json = parseJson(text);
    std::optional<std::pair<std::size_t, std::size_t>> place;
    if (formatOf(json) == 1) {
        nameRunNumbers(json);
        place = olderPlace(json);
        json.erase("machine");
    }
    std::string unknown;
    RunState state = fromKept<RunState>(json, unknown);
    state.unknown = std::move(unknown);
    state.place = place;
    state.isOnCutter |= place.has_value();
    return state;
}

} // namespace hasami
