#pragma once

#include "job/job.h"

#include <filesystem>
#include <string_view>

namespace hasami {

/// A ZIP of job.json, assets/SHA-256 and preview.png (docs/job-format.md). Assets that no design uses are
/// left out. Throws OutputError, also where openJob would refuse the file; the old file is then intact.
void saveJob(const std::filesystem::path& path, const Job& job, std::string_view previewPng);

/// `fonts`: those of the machine, for lettering whose font the job may not hold. Throws InputError with a
/// sentence that names the file: not a job, damaged, too large, or made by a newer Hasami.
Job openJob(const std::filesystem::path& path, const FontSource& fonts = {});

} // namespace hasami
