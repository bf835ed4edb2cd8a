#pragma once

#include <nlohmann/json_fwd.hpp>

#include <filesystem>

namespace hasami {

/// What a file holds, by names that stay: for a picture `kind`, `pixels`, `resolution_dpi` (null where the
/// file does not say), `size_mm`, `colours`, `transparency`; for a job `kind`, `format`, `profile`, `medium`,
/// `designs`. Throws InputError.
nlohmann::json describeFile(const std::filesystem::path& path);

} // namespace hasami
