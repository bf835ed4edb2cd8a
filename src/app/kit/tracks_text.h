#pragma once

#include "app/kit/quantity_field.h"
#include "profile/profile.h"

#include <optional>
#include <vector>

namespace hasami {

/// "50-60, 300-310", in the unit.
QString tracksText(const std::vector<Track>& tracks, LengthUnit unit);

/// Nothing where it makes no sense, or names more than `most`.
std::optional<std::vector<Track>> readTracks(const QString& text, LengthUnit unit, std::size_t most);

} // namespace hasami
