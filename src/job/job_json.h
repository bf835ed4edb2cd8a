#pragma once

#include "job/job.h"

#include <string>
#include <string_view>

namespace hasami {

/// The number of the job format that this version writes (docs/job-format.md). Older ones are read, newer
/// refused.
inline constexpr int jobFormat = 13;

/// The text of job.json. Assets are named by their SHA-256 only.
std::string jobToJson(const Job& job);

/// The names of the asset files that job.json names, by their SHA-256. Throws InputError if it is not
/// JSON.
std::map<std::string, std::string> assetNamesFromJson(std::string_view text);

/// Reads job.json; `assets` are those of the file. Throws InputError, naming the place, if anything is
/// missing, out of its bounds, or refers to an asset that is not there, or if the format is newer than
/// `jobFormat`. Own artwork is drawn; `fonts` gives those that the assets don't hold, where there are any.
Job jobFromJson(std::string_view text, Assets assets, const FontSource& fonts = {});

/// What job.json has to be like (JSON Schema, draft 7): docs/job-format.schema.json.
std::string jobSchema();

} // namespace hasami
