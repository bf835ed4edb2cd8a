#pragma once

#include "geometry/fit_curves.h"
#include "geometry/loop.h"

#include <stop_token>

namespace hasami {

/// fitCurve for loops that neither cross themselves nor each other, so that the curves don't either. Where
/// they would (a tiny loop in a bend, the two sides of a neck that is thinner than the tolerance), that
/// stretch is fitted again closer, without its corners, and in the end goes through its own points. A curve
/// for each loop, of three points or more; one without segments where a loop has fewer points, or no area.
/// Throws Stopped. `options`: one for each loop, or one for all.
std::vector<Curve> fitLoops(std::span<const Loop> loops, std::span<const FitOptions> options,
                            const std::stop_token& stop = {});

/// A polygon, or an open path between two junctions, which other chains may share.
struct Chain {
    std::span<const Point> points;
    bool isClosed = true;
};

/// The same for a net of chains: those that end in one point meet there and nowhere else. An open chain gives
/// an open curve from its first point to its last. REQUIRES: of an open one two distinct points or more.
std::vector<Curve> fitChains(std::span<const Chain> chains, std::span<const FitOptions> options,
                             const std::stop_token& stop = {});

/// The same options for all loops.
inline std::vector<Curve> fitLoops(std::span<const Loop> loops, const FitOptions& options,
                                   const std::stop_token& stop = {}) {
    return fitLoops(loops, std::span(&options, 1), stop);
}

} // namespace hasami
