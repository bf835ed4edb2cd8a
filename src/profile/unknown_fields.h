#pragma once

#include <nlohmann/json_fwd.hpp>

#include <string>
#include <vector>

namespace hasami {

/// What of a profile's JSON this version does not know: an object of objects, empty where it knows all.
nlohmann::json unknownPart(const nlohmann::json& profile);

/// Members of a profile's JSON that this version does not know, with their places, as "lines.kiss.sped": a
/// mistyped name would otherwise pass in silence.
std::vector<std::string> unknownFields(const nlohmann::json& profile);

} // namespace hasami
