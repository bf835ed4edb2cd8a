#include "cli/check_command.h"

#include "base/translation.h"
#include "checks/inspect.h"
#include "cli/commands.h"
#include "files/font_library.h"
#include "files/job_file.h"
#include "files/report_file.h"

#include <algorithm>
#include <iostream>

namespace hasami {

void CheckCommand::addTo(CLI::App& program) {
    CLI::App* command = program.add_subcommand("check", translated("What is wrong with a job"));
    command->add_option("job", job, translated("The job: NAME.hasami"))->required();
    command->add_flag("--json", asJson, translated("As JSON, for machines"));
}

int CheckCommand::run() const {
    PictureStore pictures;
    FontLibrary fonts;
    const Job opened = openJob(job, fonts.onMachine());
    Cache cache;
    const Made made = makeAll(opened, 1, sourceOf(pictures), cache);
    StickerChecks checks;
    const std::vector<Finding> findings = inspect(opened, made, checks);
    if (asJson)
        std::cout << findingsJson(opened, findings) << "\n";
    else
        for (const Finding& finding : findings)
            std::cout << severityName(finding.severity) << " " << codeName(finding.code) << ": "
                      << sentenceOf(opened, finding) << "\n";
    const bool hasErrors = std::ranges::any_of(
        findings, [](const Finding& finding) { return finding.severity == Severity::error; });
    return hasErrors ? doneWithFindings : done;
}

} // namespace hasami
