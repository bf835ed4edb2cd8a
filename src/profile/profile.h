#pragma once

#include "base/json_reader.h"

#include <array>
#include <optional>
#include <string>
#include <string_view>

namespace hasami {

/// What a cut line is for.
enum class LineKind {
    kiss, ///< through the vinyl, not its backing
    die,  ///< through both
};

/// In the order of the work: what is cut through last still holds the medium together before.
inline constexpr std::array lineKinds{LineKind::kiss, LineKind::die};

/// "kiss", "die": as files name it.
std::string_view kindName(LineKind kind);

/// What a machine can do and expects: plain values that users can edit and share as JSON. Lengths in mm.
struct Profile {
    std::string name;

    /// Strips along the medium's edges that the machine can't reach: where it is fed in, at its end, and
    /// along both sides.
    struct Reach {
        double leading = 0, trailing = 0, sides = 0;
        friend bool operator==(const Reach&, const Reach&) = default;
    } reach;

    /// Registration marks: filled dots.
    struct Marks {
        double size = 0;     ///< diameter
        double distance = 0; ///< of a mark's centre outside the work's corner, along and across
        double quiet = 0;    ///< nothing is printed this close to a mark's rim
        friend bool operator==(const Marks&, const Marks&) = default;
    } marks;

    /// How one kind of cut line leaves for the printer's software, and how it is cut.
    struct LineStyle {
        std::string spot;             ///< exact, case-sensitive name of its spot colour
        std::array<double, 4> tint{}; ///< CMYK, 0 to 1, that programs without spot colours show
        double speed = 300;           ///< mm a second
        std::optional<double> force;  ///< g; not given: as it is set at the machine
        friend bool operator==(const LineStyle&, const LineStyle&) = default;
    };
    std::array<LineStyle, lineKinds.size()> lines;

    const LineStyle& style(LineKind kind) const { return lines[std::size_t(kind)]; }

    friend bool operator==(const Profile&, const Profile&) = default;
};

/// Refuses (InputError) what is missing, out of range, or can't work: a quiet zone that reaches into the
/// work. A kind of line that older files don't know has the start profile's style.
Profile profileFromJson(const JsonReader& json);

nlohmann::json toJson(const Profile& profile);

/// The profile that a new job starts with, from data/profiles/.
Profile startProfile();

} // namespace hasami
