#pragma once

#include "job/job.h"
#include "profile/expected_error.h"
#include "sticker/remark.h"
#include "workshop/make_all.h"

#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace hasami {

/// How much a finding matters: with an error something can't be cut as asked for.
enum class Severity { note, warning, error };

/// "note", "warning", "error".
std::string_view severityName(Severity severity);

/// A change of the job after which a finding is gone.
struct Fix {
    std::string label; ///< what it does: "Make it 62 mm wide"
    std::function<void(Job&)> apply;
};

/// One thing that is wrong, and where.
struct Finding {
    FindingCode code;
    Severity severity;
    std::string design = {};             ///< its id; empty: of the sheet
    std::optional<RecipeStep> step = {}; ///< of the design's recipe, that can change it
    std::optional<std::size_t> sheet = {}, piece = {};
    std::optional<Point> place = {}; ///< mm of the sheet; without one, of the design
    std::string text = {}; ///< a sentence without a full stop; a warning's is read beside its design's name
    std::optional<Fix> fix = {};
};

/// All that is wrong with a job and what was made of it, each thing once, errors first; of designs before
/// that of the sheet. Whatever reports faults takes them from here. REQUIRES: `made`
/// was made from this job.
std::vector<Finding> findingsOf(const Job& job, const Made& made);

/// Those of one design alone. REQUIRES: as above.
std::vector<Finding> findingsOf(const Design& design, const MadeDesign& made);

/// Why the print file can't be a PDF/X-4, as a finding says it; nothing where it can, or has no colour
/// profile. REQUIRES: `made` was made from this job.
std::optional<std::string> whyNotX4(const Job& job, const Made& made);

/// "0.6 mm", "0.6 mm (assumed)" where the profile does not say it.
std::string togetherText(const ExpectedError& error);

/// The finding as one sentence that stands by itself.
std::string sentenceOf(const Job& job, const Finding& finding);

/// Below this many dots an inch print looks soft at arm's length, below 100 coarse.
inline constexpr double leastDotsPerInch = 150;
const char* resolutionWord(double dotsPerInch);

} // namespace hasami
