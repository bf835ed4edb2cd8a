#include "cli/mark_options.h"

#include "base/json_reader.h"
#include "base/translation.h"
#include "cli/options.h"
#include "files/profile_file.h"

#include <iostream>
#include <map>

namespace hasami {

void MarkArguments::addTo(CLI::App& command) {
    command.add_option(
        "--profile", profile,
        translated("The machine's profile, as .json (start value: a drag knife with an optical sensor)"));
    command
        .add_option(
            "--marks", marks,
            translated("Registration marks: none, dots, brackets, crosses or squares (start value: the "
                       "profile's)"))
        ->check(CLI::IsMember({"none", "dots", "brackets", "crosses", "squares"}));
    command.add_option("--mark-size", size, translated("Across a mark; how long a bracket's arms are"));
    command.add_option("--mark-distance", distance,
                       translated("From the corner of the work to the middle of its mark"));
    command.add_option("--mark-colour", colour,
                       translated("What marks are printed in, as --border-colour has it (start value: the "
                                  "profile's)"));
    command.add_option("--mark-count", corners, translated("How many corners have a mark: 3 or 4"))
        ->check(CLI::IsMember({3, 4}));
    command.add_option("--mark-interval", interval,
                       translated("Pairs of marks along the medium, at most this far apart; 0 for none"));
    command
        .add_option("--marks-between", between,
                    translated("How many more marks stand between the stickers, where there is room"))
        ->check(CLI::Range(0, 100));
    command
        .add_option("--job-code", code,
                    translated("A code at the leading edge with the job's name and the sheet's number: none, "
                               "datamatrix or code128 (start value: the profile's)"))
        ->check(CLI::IsMember({"none", "datamatrix", "code128"}));
}

void MarkArguments::applyTo(Job& job) const {
    if (!profile.empty()) {
        std::vector<std::string> remarks;
        job.profile = readProfile(profile, &remarks);
        for (const std::string& remark : remarks)
            std::cerr << remark << "\n";
    }
    MarkScheme& scheme = job.profile.marks;
    static const std::map<std::string, MarkShape> shapes{{"dots", MarkShape::dot},
                                                         {"brackets", MarkShape::bracket},
                                                         {"crosses", MarkShape::cross},
                                                         {"squares", MarkShape::square}};
    if (const auto shape = shapes.find(marks); shape != shapes.end()) {
        scheme.shape = shape->second;
        scheme.isOutlined = false;
    }
    if (!size.empty())
        scheme.size = lengthArgument(size, "--mark-size", 0.5, 50);
    if (!colour.empty())
        scheme.colour = colourArgument(colour, "--mark-colour");
    if (corners != 0)
        scheme.corners = corners;
    if (marks == "none") {
        scheme.corners = scheme.between = 0;
        scheme.interval = 0;
    }
    if (scheme.shape == MarkShape::bracket || scheme.corners != 4)
        scheme.interval = 0; // the profile's: what is asked for is refused below
    if (scheme.shape == MarkShape::bracket)
        scheme.between = 0;
    if (!interval.empty())
        scheme.interval = lengthArgument(interval, "--mark-interval", 0, 10'000);
    if (between >= 0)
        scheme.between = between;
    static const std::map<std::string, CodeKind> codes{
        {"none", CodeKind::none}, {"datamatrix", CodeKind::dataMatrix}, {"code128", CodeKind::code128}};
    if (const auto chosen = codes.find(code); chosen != codes.end())
        job.profile.lead.code = chosen->second;
    if (distance.empty()) // marks of another size or shape stand clear of the work
        scheme.distance = std::max(scheme.distance, leastDistance(scheme));
    else
        scheme.distance = lengthArgument(distance, "--mark-distance", 0, 200);
    const nlohmann::json json = toJson(job.profile);
    profileFromJson({json, "profile"}); // refuses what can't work
}

} // namespace hasami
