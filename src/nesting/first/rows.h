#pragma once

#include "nesting/layout/layout.h"

#include <vector>

namespace hasami::nesting {

/// Boxes side by side across the medium, row after row, on as many sheets as needed: there at once, always
/// sound. Exact: what just fits, fits. Copies that fit no empty sheet are left out. O(copies).
Start rows(const Ground& ground);

/// Puts into rows those of the start's copies that have no place yet, behind what reaches so far into a
/// sheet. False where there would be too many sheets.
bool addRows(const Ground& ground, Start& start, const std::vector<std::size_t>& copies, int sheet, double x);

/// Lays some of the start's copies in rows behind what reaches so far into the last sheet, and returns how
/// far all reaches.
void appendRows(const Ground& ground, Start& start, const std::vector<std::size_t>& copies, double reached);

} // namespace hasami::nesting
