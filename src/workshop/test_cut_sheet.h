#pragma once

#include "machine/test_cut.h"
#include "workshop/make_all.h"

#include <optional>

namespace hasami {

/// A test cut of the kiss cut's tool where a sheet is free, as far back on it as there is room; nothing where
/// there is none. REQUIRES: `made` was made from the job, and has the sheet.
std::optional<TestCut> testCutOn(const Job& job, const Made& made, std::size_t sheet);

} // namespace hasami
