#pragma once

#include "job/job.h"
#include "workshop/make_all.h"

#include <string>

namespace hasami {

/// The job's figures as JSON (docs/report-json.md).
std::string reportJson(const Job& job, const Made& made);

} // namespace hasami
