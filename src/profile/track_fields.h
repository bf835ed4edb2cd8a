#pragma once

#include "base/fields.h"
#include "profile/profile.h"

namespace hasami {

/// [where it begins across, its width], mm.
template <>
struct Codec<Track> {
    static constexpr double most = 20'000; // mm
    static nlohmann::json write(const Track& track) { return {track.at, track.width}; }
    static Track read(const JsonReader& in) {
        const auto parts = in.elements(2);
        if (parts.size() != 2)
            in.refuse("%1 must be two numbers: where it begins across, and its width");
        return {parts[0].number(0, most), parts[1].number(0, most)};
    }
    static nlohmann::json schema() { return fields::numbersSchema(2, 0, most); }
};

} // namespace hasami
