#pragma once

#include "job/job.h"

#include <filesystem>
#include <string_view>

namespace hasami {

/// A ZIP of job.json, assets/SHA-256 and preview.png (docs/job-format.md). Assets that no design uses are
/// left out. Throws OutputError, also where openJob would refuse the file; the old file is then intact.
void saveJob(const std::filesystem::path& path, const Job& job, std::string_view previewPng);

/// Throws InputError with a sentence that names the file: not a job, damaged, too large, or made by a newer
/// Hasami.
Job openJob(const std::filesystem::path& path);

} // namespace hasami
