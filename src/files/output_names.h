#pragma once

#include "job/job.h"

#include <filesystem>
#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace hasami {

/// One of the files that an output becomes.
struct OutputPart {
    std::optional<std::size_t> sheet = {}; ///< by its index; else it holds all
    std::optional<InkKind> ink = {};       ///< a special ink alone
    std::optional<int> holder = {};        ///< a cut file for this holder alone
    std::vector<LineKind> kinds = {};      ///< of cut lines; empty: all
};

using NameOutput = std::function<std::filesystem::path(const OutputPart&)>;

/// Names like a path: its first sheet NAME.svg, further ones NAME-2.svg, …; special inks NAME-white.png,
/// tools NAME-tool1.plt. `isAlone`: no other sheet is written.
NameOutput namedLike(const std::filesystem::path& path, bool isAlone);

/// What the format's files end in: ".pdf".
std::string endingOf(const PlannedOutput& output, const Job& job);

/// Names by the job's pattern, in a folder. {job} is the job's name, {sheet} its number or "all", {what}
/// "print", "print-white", "cut" or "cut-tool1", {day} the job's. Parts that the pattern does not tell apart
/// get a number or a word at the end. Throws OutputError where the pattern holds any other word in braces, a
/// slash, or gives no name.
NameOutput namedByPlan(const std::filesystem::path& folder, const PlannedOutput& output, const Job& job,
                       std::size_t sheets);

/// What a sheet's HPGL is called in a folder that a machine's software watches: by the job's pattern. Throws
/// OutputError as namedByPlan.
std::string cutNameOf(const Job& job, std::size_t sheet, std::size_t sheets);

} // namespace hasami
