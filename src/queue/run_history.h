#pragma once

#include "queue/queue_entry.h"

#include <cstdint>
#include <filesystem>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace hasami {

/// A run of one copy that has ended.
struct PastRun {
    std::int64_t ended = 0; ///< s since 1970, UTC
    std::string job;        ///< its name
    std::size_t sheet = 0;  ///< from 0 on
    int copy = 0;           ///< from 0 on,
    int copies = 1;         ///< of how many
    RunWork work = RunWork::printAndCut;
    bool isSimulated = true;
    double seconds = 0;            ///< from its first step to its last one
    std::size_t lines = 0;         ///< that were cut
    std::optional<double> rms;     ///< how far they lay off the print, mm; nothing where that is not known
    std::optional<double> largest; ///< the same at most
    std::string trouble;           ///< what was wrong, a sentence without a full stop; empty: nothing
    std::string unknown;           ///< what other versions keep with it: a JSON object, or empty

    friend bool operator==(const PastRun&, const PastRun&) = default;
};

std::string toJson(const PastRun& run);
/// Throws InputError.
PastRun pastRunFromJson(std::string_view json);

/// The history is a file of one line of JSON for each run, the newest last.

/// Adds a run; also where another program does at the same time. Throws OutputError.
void addToHistory(const std::filesystem::path& file, const PastRun& run);

/// The newest runs, the newest first, of the last 64 MB of the file. Lines that are damaged or of a newer
/// version are left out; empty where there is no file. Throws InputError where it can't be read.
std::vector<PastRun> readHistory(const std::filesystem::path& file, std::size_t most = 1000);

/// Throws OutputError.
void clearHistory(const std::filesystem::path& file);

} // namespace hasami
