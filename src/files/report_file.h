#pragma once

#include "checks/findings.h"
#include "job/job.h"
#include "workshop/make_all.h"

#include <string>
#include <vector>

namespace hasami {

/// Findings as JSON, as `hasami-cli check --json` writes them (docs/findings.md).
std::string findingsJson(const Job& job, const std::vector<Finding>& findings);

/// The job's figures as JSON (docs/report-json.md).
std::string reportJson(const Job& job, const Made& made);

} // namespace hasami
