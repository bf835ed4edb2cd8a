#pragma once

#include "job/job.h"

#include <filesystem>
#include <string>

namespace hasami {

/// A folder that keeps a job that was not saved: job.json (replaced safely each time), assets by their
/// SHA-256 (each written once) and the path the job was opened from or saved to.

/// Where the program keeps such folders: $XDG_STATE_HOME/hasami/recovery, or below ~/.local/state.
std::filesystem::path recoveryPlace();

/// The artwork is a customer's: folders and files are for their owner alone.

/// A folder, with those above it that are missing. Throws OutputError.
void makePrivateFolder(const std::filesystem::path& folder);

/// Throws OutputError; what was kept before is then intact. Assets that the job no longer has go. With a
/// `pool`, a folder that several jobs share, each asset is on the disk once for all of them (hard links).
void keepForRecovery(const std::filesystem::path& folder, const Job& job, const std::string& jobPath,
                     const std::filesystem::path& pool = {});

/// Removes what no job has any more from a pool.
void tidyPool(const std::filesystem::path& pool);

struct Recovered {
    Job job;
    std::string jobPath; ///< empty if it never had one
};

/// Throws InputError if the folder holds no whole job.
Recovered readRecovery(const std::filesystem::path& folder, const FontSource& fonts = {});

} // namespace hasami
