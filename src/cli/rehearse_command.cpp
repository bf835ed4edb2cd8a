#include "cli/rehearse_command.h"

#include "base/error.h"
#include "base/number_text.h"
#include "base/translation.h"
#include "cli/commands.h"
#include "files/file_name.h"
#include "files/font_library.h"
#include "files/job_file.h"
#include "rehearsal/rehearsal_files.h"
#include "rehearsal/render_print.h"

#include <algorithm>
#include <iostream>

namespace hasami {

namespace {

/// Two numbers with a comma between them.
template <class Read>
Point pairArgument(const std::string& text, const std::string& option, const Read& read) {
    const auto comma = text.find(',');
    if (comma == std::string::npos || text.find(',', comma + 1) != std::string::npos)
        throw UsageError(sentence("%1 takes two values with a comma between them, not \"%2\"", option, text));
    return {read(text.substr(0, comma)), read(text.substr(comma + 1))};
}

/// "97": the page comes out at 97 percent of its size; "-3" and "3": smaller or larger by that much.
double scaleArgument(const std::string& text) {
    constexpr double least = 50, most = 200, change = 49;
    const double percent = numberArgument(text, "--scaled", -change, most);
    return percent >= least ? percent / 100 : 1 + percent / 100;
}

PrintError errorOf(const RehearseCommand& given) {
    constexpr double mostShift = 1000, mostPercent = 10;
    PrintError error;
    error.shift = pairArgument(given.shift, "--shift", [](const std::string& text) {
        return lengthArgument(text, "--shift", -mostShift, mostShift);
    });
    const Point percent = pairArgument(given.stretch, "--stretch", [](const std::string& text) {
        return numberArgument(text, "--stretch", -mostPercent, mostPercent);
    });
    error.stretchAlong = percent.x / 100;
    error.stretchAcross = percent.y / 100;
    error.turn = numberArgument(given.turn, "--turn", -180, 180);
    error.scale = scaleArgument(given.scaled);
    error.isUpsideDown = given.isUpsideDown;
    return error;
}

} // namespace

void RehearseCommand::addTo(CLI::App& program) {
    CLI::App* command = program.add_subcommand(
        "rehearse",
        translated("Prints and cuts a sheet on simulated machines, and measures the cut's error"));
    command->add_option("job", job, translated("The job: NAME.hasami"))->required();
    command
        ->add_option("--out", folder, translated("The folder that pictures and result.json are written to"))
        ->required();
    command->add_option("--sheet", sheet, translated("Which sheet, from 1 on"));
    command->add_option("--shift", shift,
                        translated("How far the print is off, along the feed and across: X,Y"));
    command->add_option("--turn", turn, translated("How far it is turned, degrees clockwise"));
    command->add_option("--stretch", stretch,
                        translated("How far it is stretched along the feed and across, percent: PX,PY"));
    command->add_option("--noise", noise,
                        translated("Grain of the print and noise of the sensor, percent of full contrast"));
    command->add_flag("--no-bleed", withoutBleed, translated("Print without bleed"));
    command->add_option("--marks-lost", marksLost, translated("How many marks are smudged"));
    command->add_flag("--upside-down", isUpsideDown, translated("Load the print turned by half"));
    command->add_option("--scaled", scaled,
                        translated("The printer scales the page: 97 or -3 for 97 percent of its size"));
    command->add_flag("--exact", isExact,
                      translated("Machines without errors of their own: those of marks and map alone"));
    command->add_option("--seed", seed, translated("Seed of the random numbers"));
}

int RehearseCommand::run() const {
    RehearsalFaults faults;
    faults.error = errorOf(*this);
    faults.noise = numberArgument(noise, "--noise", 0, 100);
    faults.marksLost = marksLost;
    faults.seed = seed;
    if (marksLost < 0 || sheet < 1)
        throw UsageError(translated("--marks-lost takes 0 or more, --sheet 1 or more"));
    PictureStore pictures;
    FontLibrary fonts;
    Job opened = openJob(job, fonts.onMachine());
    if (withoutBleed)
        for (Design& design : opened.designs)
            design.recipe.bleed.amount = 0;
    Cache cache;
    const Made made = makeAll(opened, 1, sourceOf(pictures), cache);
    const auto number = std::size_t(sheet) - 1;
    if (!made.trouble.empty())
        throw InputError(made.trouble);
    if (number >= made.layout.sheets.size() || made.layout.sheets[number].pieces.empty())
        throw InputError(
            sentence("%1 has no sheet %2 with stickers on it", fileName(job), std::to_string(sheet)));
    std::error_code failed;
    std::filesystem::create_directories(folder, failed);
    if (failed)
        throw OutputError(sentence("%1 can't be made: %2", fileName(folder), failed.message()));
    const auto print =
        std::make_shared<const SheetPicture>(renderPrint(opened, made, sourceOf(pictures), number));
    if (!isExact)
        faults = faults.onMachines(opened.profile);
    const Rehearsal rehearsal = rehearse(opened, made, number, print, faults);
    writeAll(rehearsalFiles(rehearsal, opened, made, number, folder));
    if (!rehearsal.refused.empty()) {
        std::cerr << rehearsal.refused << "\n";
        return doneWithFindings;
    }
    std::cout << sentence("%1 marks found; the cut lies %2 mm off the print, %3 mm at most",
                          std::to_string(rehearsal.registration.found()), numberText(rehearsal.errors.rms, 3),
                          numberText(rehearsal.errors.largest, 3))
              << "\n";
    return done;
}

} // namespace hasami
