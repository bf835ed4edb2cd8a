#pragma once

#include "base/json_reader.h"
#include "sticker/sticker.h"

namespace hasami {

/// A recipe as the job file holds it (docs/job-format.md). What has its start value may be left out.
nlohmann::json toJson(const Recipe& recipe);

/// Reads recipes of every format. Throws InputError.
Recipe recipeFromJson(const JsonReader& in);

/// Kiss, crease, perforated and die lines by the names that files have.
const char* kindInFiles(LineKind kind);
LineKind kindFromJson(const JsonReader& in);

nlohmann::json toJson(const TabRule& tabs);
TabRule tabsFromJson(const JsonReader& in);

} // namespace hasami
