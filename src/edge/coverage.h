#pragma once

#include "artwork/picture.h"
#include "edge/edge_options.h"

#include <stop_token>

namespace hasami {

/// How much of each pixel is subject, and what was learned on the way.
struct Coverage {
    Grid<std::uint8_t> cells;            ///< 0 nothing to 255 all
    EdgeWay way = EdgeWay::transparency; ///< the one taken, never `automatic`
    double level = 50;     ///< suggested, percent: where the line is crispest and nothing plain is lost
    double scatter = 0.02; ///< root mean square of the level line's points, in pixels
};

/// The way for a picture: transparency where it has some; brightness for black and white line art; else the
/// backdrop. One pass over the pixels.
EdgeWay chooseWay(const Picture& picture);

/// REQUIRES: the way is not `shape`. `shadow` as in EdgeOptions. A few passes over the pixels. Throws
/// Stopped.
Coverage findCoverage(const Picture& picture, EdgeWay way, double shadow, const std::stop_token& stop = {});

/// The level, in percent, at which neighbouring samples on both sides of the line differ most on average; the
/// one nearest to the middle where several are as good.
double crispestLevel(const Grid<std::uint8_t>& coverage);

/// The highest level, up to the one given (both in percent), that leaves nothing of more than a quarter's
/// coverage farther than about two pixels outside: glows, feathered rims and faint lines belong to the
/// subject.
double levelThatKeeps(const Grid<std::uint8_t>& coverage, double level);

} // namespace hasami
