#pragma once

#include "machine/program.h"
#include "workshop/make_all.h"

namespace hasami {

/// Which kinds of line are meant; empty: all.
using LineKinds = std::vector<LineKind>;
bool holds(const LineKinds& kinds, LineKind kind);

/// The lines of a sheet as files hold them, in the order that they are cut in. Throws Stopped.
std::vector<RouteLine> routeOf(const Job& job, const Made& made, const Sheet& sheet,
                               const LineKinds& kinds = {}, const std::stop_token& stop = {});

/// What the cutter does with the sheet, along that route. Throws Stopped.
CutProgram programOf(const Job& job, const Made& made, const Sheet& sheet, const LineKinds& kinds = {},
                     const std::stop_token& stop = {});

} // namespace hasami
