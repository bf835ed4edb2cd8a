#pragma once

#include <nlohmann/json_fwd.hpp>

#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace hasami {

class JsonReader;

/// What a cut line is for.
enum class LineKind {
    kiss,       ///< through the vinyl, not its backing
    crease,     ///< pressed in, to fold along
    perforated, ///< through both but for small tabs, to be popped out
    die,        ///< through both
};

/// In the order of the work: what is cut through last still holds the medium together before.
inline constexpr std::array lineKinds{LineKind::kiss, LineKind::crease, LineKind::perforated, LineKind::die};

/// "kiss", "crease", "perforated", "die": as files name it.
std::string_view kindName(LineKind kind);

/// Ink beside the colours, on a layer of its own.
enum class InkKind {
    white,  ///< under the colours, on what is clear or coloured
    gloss,  ///< over them
    primer, ///< what makes ink hold
};

inline constexpr std::array inkKinds{InkKind::white, InkKind::gloss, InkKind::primer};

/// "white", "gloss", "primer".
std::string_view inkName(InkKind ink);

/// An exact, case-sensitive name for the printer's software, and the CMYK, 0 to 1, that programs without spot
/// colours show in its place.
struct SpotColour {
    std::string spot;
    std::array<double, 4> tint{};
    friend bool operator==(const SpotColour&, const SpotColour&) = default;
};

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
    struct LineStyle : SpotColour {
        int holder = 1;     ///< where its tool stands, counted from 1: another one pauses the machine
        double speed = 300; ///< mm a second
        std::optional<double> force; ///< g; not given: as it is set at the machine
        int passes = 1;              ///< along the whole line, one after the other
        double bladeOffset = 0; ///< how far a drag knife's tip trails its holder; 0: the machine sees to it
        double overcut = 0;     ///< past the start of a closed line, so that its ends meet
        friend bool operator==(const LineStyle&, const LineStyle&) = default;
    };
    std::array<LineStyle, lineKinds.size()> lines;

    /// Whether the machine lifts the knife for tabs by itself, along a line that is solid in the files.
    bool machineMakesTabs = true;

    /// Special inks' names, and their order from the medium up.
    std::array<SpotColour, inkKinds.size()> inks;
    std::array<InkKind, inkKinds.size()> inkOrder = {InkKind::primer, InkKind::white, InkKind::gloss};

    const LineStyle& style(LineKind kind) const { return lines[std::size_t(kind)]; }
    const SpotColour& ink(InkKind kind) const { return inks[std::size_t(kind)]; }

    friend bool operator==(const Profile&, const Profile&) = default;
};

/// Refuses (InputError) what is missing, out of range, or can't work: a quiet zone that reaches into the
/// work, one spot colour's name for two things. What older files don't know is the start profile's.
Profile profileFromJson(const JsonReader& json);

/// What may be wrong with the spot colours' names: a sentence for each that differs from one that many
/// printers' software expects by case, spaces, dashes or underscores alone.
std::vector<std::string> doubtsAboutNames(const Profile& profile);

/// The name without what people get wrong: case, spaces, dashes, underscores.
std::string plainName(std::string_view name);

nlohmann::json toJson(const Profile& profile);

/// The profile that a new job starts with, and all that come with the program, from data/profiles/.
Profile startProfile();
std::vector<Profile> knownProfiles();

} // namespace hasami
