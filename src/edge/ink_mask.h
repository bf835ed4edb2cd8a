#pragma once

#include "artwork/artwork.h"
#include "artwork/picture.h"
#include "geometry/loop.h"

#include <span>
#include <stop_token>
#include <vector>

namespace hasami {

/// Colours this much alike, in levels of the channel that differs most, are one colour to a special ink.
inline constexpr int alikeInk = 24;

/// The lines around what is not white, in mm of the design: what is covered by halves or more, and in some
/// channel more than `threshold` percent away from white. To some tenths of a pixel. Outer ones have positive
/// area, openings negative, before a mirroring placement. Throws Stopped.
std::vector<Loop> linesAroundInk(const Item& item, const Picture& picture, double threshold,
                                 const std::stop_token& stop = {});

/// The same around what has one of the colours.
std::vector<Loop> linesAroundColours(const Item& item, const Picture& picture, std::span<const Rgba> colours,
                                     const std::stop_token& stop = {});

} // namespace hasami
