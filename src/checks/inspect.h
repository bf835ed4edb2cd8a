#pragma once

#include "checks/drift.h"
#include "checks/findings.h"
#include "checks/line_faults.h"

#include <map>
#include <memory>
#include <mutex>
#include <stop_token>
#include <string>
#include <vector>

namespace hasami {

/// What a sticker's outlines alone show. Immutable.
struct StickerCheck {
    std::shared_ptr<const Sticker> sticker; ///< that it is of
    double blade = 0;                       ///< see lineFaults
    std::vector<LineFault> faults;
    std::shared_ptr<const DriftRims> rims;
    SafeDrift drift;
};

/// Checks of stickers, kept as long as their stickers stay as they are. For any thread.
class StickerChecks {
public:
    /// Throws Stopped. O(n log n) in the sticker's points where it is new.
    std::shared_ptr<const StickerCheck> of(const MadeDesign& made, const Profile& profile,
                                           const std::stop_token& stop = {});

    /// Of all designs, by their ids; checks of others are forgotten.
    std::map<std::string, std::shared_ptr<const StickerCheck>> ofAll(const Made& made, const Profile& profile,
                                                                     const std::stop_token& stop = {});

private:
    std::mutex mutex_;
    std::map<std::string, std::shared_ptr<const StickerCheck>> kept_;
};

/// What a job's files are like by now, which it does not know itself.
struct FilesOutside {
    std::map<std::string, std::string> changedFiles; ///< that artwork was read from: SHA-256 in the job, name
    std::vector<std::string> oldOutputs;             ///< names of files written of an older state
    std::vector<std::string> printDifferences; ///< from what the job asks for, of print files, in sentences

    friend bool operator==(const FilesOutside&, const FilesOutside&) = default;
};

/// The findings of a job, each once, errors first: those of findingsOf, and those of the stickers'
/// outlines. `made` must have been made from this job. Throws Stopped.
std::vector<Finding> inspect(const Job& job, const Made& made, StickerChecks& checks,
                             const std::stop_token& stop = {}, const FilesOutside& around = {});

} // namespace hasami
