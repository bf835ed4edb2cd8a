#pragma once

#include "edge/choose_loops.h"
#include "edge/edge_options.h"
#include "edge/find_edge.h"
#include "geometry/fit_curves.h"
#include "geometry/loop.h"

#include <span>
#include <vector>

namespace hasami {

/// A loop as it was found, not fitted yet.
struct FoundLoop {
    Loop loop;
    LoopFacts facts;
};

/// Without specks and openings that are too small or thin; the largest first.
std::vector<FoundLoop> sifted(std::vector<Loop> loops, const EdgeOptions& options);

/// Fitted, so that none crosses itself or another. `fits`: one for each loop, or one for all. REQUIRES: as
/// found they don't.
std::vector<EdgeLoop> fittedLoops(std::vector<FoundLoop> found, std::span<const FitOptions> fits,
                                  const std::stop_token& stop);

} // namespace hasami
