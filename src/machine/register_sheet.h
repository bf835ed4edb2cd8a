#pragma once

#include "machine/registration.h"
#include "machine/sensor.h"
#include "sheet/sheet.h"

#include <optional>
#include <span>
#include <stop_token>
#include <string>

namespace hasami {

/// How far around a place a mark is searched.
struct MarkSearch {
    double first = 15;             ///< mm: as the operator puts the head down
    double least = 2, part = 0.04; ///< of later ones: that, and a part of the way from one that was found
};

/// Lets the sensor look for the marks, each in a spiral around where those found before have it, and gives
/// the map. Of several shapes like it near a place the nearest is taken; one that disagrees with the rest is
/// searched again where they have it. Throws Stopped.
Registration registerSheet(std::span<const Mark> marks, const Sensor& sensor, const MarkSearch& search = {},
                           const std::stop_token& stop = {});

/// The same for a sheet of which more is known: whether it lies the wrong way round. By marks where they are
/// after half a turn of the medium (`width`: across the feed, mm), by what is printed at the leading edge, by
/// the corner without a mark, and by the margin before the first mark. And whether the medium ends too soon.
Registration registerSheet(const Sheet& sheet, double width, const Sensor& sensor,
                           const MarkSearch& search = {}, const std::stop_token& stop = {});

/// The text of the code at the leading edge, as the sensor reads it; nothing where there is none, or it can't
/// be read.
std::optional<std::string> codeRead(const Sheet& sheet, const Registration& registration,
                                    const Sensor& sensor);

/// The same of a sheet whose marks lie elsewhere: of one with a code of that size and as far from the leading
/// edge, wherever it is across the feed. `width`: of the medium, mm. Throws Stopped.
std::optional<std::string> codeAlongEdge(const Sheet& sheet, double width, const Sensor& sensor,
                                         const std::stop_token& stop = {});

} // namespace hasami
