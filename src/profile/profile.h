#pragma once

#include "artwork/paint_colour.h"
#include "codes/code.h"
#include "profile/ink_order.h"

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

/// "Kiss cut": as people call it, in English and marked for translation.
const char* englishNameOf(LineKind kind);

/// "white", "gloss", "primer".
std::string_view inkName(InkKind ink);

/// The same of a pass of a print; "colours".
std::string_view passName(const InkOrder::Pass& pass);

/// "White ink", in English and marked for translation.
const char* englishNameOf(InkKind ink);

/// An exact, case-sensitive name for the printer's software, and the CMYK, 0 to 1, that programs without spot
/// colours show in its place.
struct SpotColour {
    std::string name;
    Inks tint{};
    friend bool operator==(const SpotColour&, const SpotColour&) = default;
};

/// What a registration mark looks like.
enum class MarkShape {
    dot,     ///< filled
    bracket, ///< two arms along the frame that the marks stand on, which meet in the mark's centre
    cross,
    square, ///< filled or outlined
};

/// How registration marks stand around the work, at corners of a frame around it. Lengths in mm.
struct MarkScheme {
    double size = 0;     ///< diameter, side, or how long a bracket's or a cross's arms reach in all
    double distance = 0; ///< of a mark's centre outside the work's corner, along and across
    double quiet = 0;    ///< nothing is printed this close to a mark's ink
    MarkShape shape = MarkShape::dot;
    double lineWidth = 1;    ///< of brackets, crosses and outlined squares
    bool isOutlined = false; ///< of squares
    int corners = 4;         ///< that have a mark: 4, 3 (all but the last one read), or 0: no marks

    /// Pairs of marks stand at both sides of the work, at most so far apart along the medium; 0: at its
    /// corners alone. REQUIRES: four corners; no brackets, whose arms would reach into the work.
    double interval = 0;
    bool inSections = false; ///< cut one after the other: no piece lies across the line between a pair
    int between = 0;         ///< more marks where there is room between pieces; no brackets

    PaintColour colour = blackInk(); ///< that they are printed in
    bool isOnWhite = false;          ///< with white ink under each mark and its quiet zone

    friend bool operator==(const MarkScheme&, const MarkScheme&) = default;
};

/// Where across the medium something stands at its leading edge.
enum class LeadPlace { first, middle, last };

/// What is printed at the leading edge, between it and the work, for people and machines.
struct LeadScheme {
    bool hasArrow = false;          ///< points to the edge that is fed in first
    bool hasTicks = false;          ///< where the rollers stand
    bool hasText = false;           ///< the job's name, the sheet's number, the day and the size
    CodeKind code = CodeKind::none; ///< holds the job's name and the sheet's number
    double module = 0.5; ///< mm, of the code's smallest squares or bars, where there is room for them
    LeadPlace place = LeadPlace::last; ///< of the code

    friend bool operator==(const LeadScheme&, const LeadScheme&) = default;
};

/// A band along the whole medium that nothing may lie in: where rollers run. mm across.
struct Track {
    double at = 0, width = 0;

    friend bool operator==(const Track&, const Track&) = default;
};

/// Whether the shape is drawn in lines.
bool hasLines(const MarkScheme& scheme);

/// Whether the work is cut in sections, between pairs of marks.
bool cutsInSections(const MarkScheme& scheme);

/// The least interval at which pairs' quiet zones stay apart, mm.
double leastInterval(const MarkScheme& scheme);

/// How far a mark's ink reaches from its centre towards the work, mm.
double inkReach(const MarkScheme& scheme);

/// The least distance that keeps the quiet zones out of the work, mm.
double leastDistance(const MarkScheme& scheme);

/// How one kind of line is cut. Lengths in mm.
struct Tool {
    int holder = 1;                   ///< where it stands, counted from 1: another one pauses the machine
    double speed = 300;               ///< mm a second
    std::optional<double> force;      ///< g; not given: as it is set at the machine
    std::optional<double> bladeDepth; ///< how far the blade stands out of its holder; not given: as it is set
    int passes = 1;                   ///< along the whole line, one after the other
    double bladeOffset =
        0;              ///< how far a drag knife's tip trails its holder; 0: the machine compensates for it
    double overcut = 0; ///< past the start of a closed line, so that its ends meet

    friend bool operator==(const Tool&, const Tool&) = default;
};

/// How a cutter's own axes lie on the sheet. By default its x runs along the feed and its y across, up from
/// the side that is at the bottom on screen.
struct CutAxes {
    enum class Origin {
        corner,    ///< of the medium
        firstMark, ///< its centre
    };
    Origin origin = Origin::corner;
    bool isMirrored = false; ///< y runs down from the other side
    bool isTurned = false;   ///< x and y change places

    friend bool operator==(const CutAxes&, const CutAxes&) = default;
};

/// What cut files are written in where nothing else is asked for.
enum class CutLanguage { svg, dxf, hpgl, pdf };

/// How a sheet may lie that somebody has put in: where its marks say more, they are rather wrong, or touched
/// in another order, which is asked about before anything is cut. (Stretch is limited by isPlausible.)
struct LoadLimits {
    double turn = 4;   ///< degrees
    double shift = 60; ///< mm

    friend bool operator==(const LoadLimits&, const LoadLimits&) = default;
};

/// What cuts. Lengths in mm.
struct Cutter {
    /// Strips along the medium's edges that it can't reach: where it is fed in, at its end, and along both
    /// sides.
    struct Reach {
        double leading = 0, trailing = 0, sides = 0;
        friend bool operator==(const Reach&, const Reach&) = default;
    } reach;

    std::vector<Track> rollers; ///< that nothing may lie under

    std::array<Tool, lineKinds.size()> tools;

    /// Whether it lifts the knife for tabs by itself, along a line that is solid in the files.
    bool makesTabs = true;

    CutAxes axes;
    CutLanguage language = CutLanguage::svg;
    std::string connection; ///< where it is reached: "tcp:HOST:PORT", "device:PATH"; empty: not known

    double error = 0; ///< how far a cut may lie off the print once marks are read; 0: not said
    LoadLimits load;

    double acceleration = 0; ///< mm a second each second; 0: not known
    double toolChange = 0;   ///< seconds that a person takes to change the tool; 0: not counted

    const Tool& tool(LineKind kind) const { return tools[std::size_t(kind)]; }

    friend bool operator==(const Cutter&, const Cutter&) = default;
};

/// What a printer makes of a length of 1 across the medium, and along it.
struct PrintScale {
    static constexpr double least = 0.9, most = 1.1;
    double across = 1, along = 1;

    friend bool operator==(const PrintScale&, const PrintScale&) = default;
};

/// What prints.
struct Printer {
    InkOrder inkOrder;
    double error = 0;     ///< mm that the print may be off within a sheet; 0: not said (ExpectedError)
    int resolution = 300; ///< dots an inch: small things are checked against it
    PrintScale scale;     ///< that prints sent to it are compensated for

    friend bool operator==(const Printer&, const Printer&) = default;
};

/// What cut lines and special inks are called in print files.
struct SpotNames {
    std::array<SpotColour, lineKinds.size()> lines;
    std::array<SpotColour, inkKinds.size()> inks;

    const SpotColour& of(LineKind kind) const { return lines[std::size_t(kind)]; }
    const SpotColour& of(InkKind kind) const { return inks[std::size_t(kind)]; }

    friend bool operator==(const SpotNames&, const SpotNames&) = default;
};

/// What printer and cutter can do and expect: plain values that users can edit and share as JSON.
struct Profile {
    std::string name;
    Printer printer;
    Cutter cutter;
    MarkScheme marks;
    LeadScheme lead;
    SpotNames names;
    std::string unknown; ///< what other versions keep with it: a JSON object, or empty

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

/// What JSON of a profile has to be like (JSON Schema, draft 7).
nlohmann::json profileSchema();

/// The profile that a new job starts with, and all that come with the program, from data/profiles/.
Profile startProfile();
std::vector<Profile> knownProfiles();

} // namespace hasami
