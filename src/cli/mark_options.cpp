#include "cli/mark_options.h"

#include "base/json_reader.h"
#include "base/translation.h"
#include "cli/options.h"
#include "files/profile_file.h"

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
    command.add_option("--mark-count", corners, translated("How many corners have a mark: 3 or 4"))
        ->check(CLI::IsMember({3, 4}));
}

void MarkArguments::applyTo(Job& job) const {
    if (!profile.empty())
        job.profile = readProfile(profile);
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
    if (corners != 0)
        scheme.corners = corners;
    if (marks == "none")
        scheme.corners = 0;
    if (distance.empty()) // marks of another size or shape stand clear of the work
        scheme.distance = std::max(scheme.distance, leastDistance(scheme));
    else
        scheme.distance = lengthArgument(distance, "--mark-distance", 0, 200);
    const nlohmann::json json = toJson(job.profile);
    profileFromJson({json, "profile"}); // refuses what can't work
}

} // namespace hasami
