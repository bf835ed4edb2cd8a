#include "cli/commands.h"

#include "base/error.h"
#include "base/number_text.h"
#include "base/translation.h"
#include "checks/findings.h"
#include "cli/interrupts.h"
#include "cli/search.h"
#include "files/colour_profile.h"
#include "files/describe_file.h"
#include "files/devices/send.h"
#include "files/file_kind.h"
#include "files/file_name.h"
#include "files/hpgl.h"
#include "files/job_file.h"
#include "files/outline_file.h"
#include "files/outputs.h"
#include "files/paint_sticker.h"
#include "files/picture_file.h"
#include "files/print_file.h"
#include "files/printer.h"
#include "files/report_file.h"
#include "job/split.h"
#include "job/white_place.h"
#include "sheet/nest_sheet.h"

#include <QDate>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>
#include <iostream>
#include <map>
#include <sstream>
#include <unistd.h>

namespace hasami {

PictureSource sourceOf(PictureStore& pictures) {
    return [&pictures](const Asset& asset, const PictureWish& wish, const std::stop_token& stop) {
        return pictures.get(asset, wish, stop);
    };
}

namespace {

Output outlineOutput(const std::filesystem::path& path, const Sticker& sticker, const Profile& profile) {
    if (path.extension() == ".json")
        return {path, outlineJson(sticker)};
    if (path.extension() == ".svg")
        return {path, outlineSvg(sticker, profile)};
    if (path.extension() == ".dxf")
        return {path, outlineDxf(sticker, profile)};
    if (path.extension() == ".plt")
        return {path, outlineHpgl(sticker, profile)};
    if (path.extension() == ".pdf")
        return {path, outlinePdf(sticker, profile)};
    throw UsageError(
        sentence("%1: an outline is written as .json, .svg, .dxf, .plt or .pdf", fileName(path)));
}

bool isArtworkName(const std::filesystem::path& path) {
    std::string ending = path.extension().string();
    std::transform(ending.begin(), ending.end(), ending.begin(),
                   [](unsigned char c) { return char(std::tolower(c)); });
    return std::find(artworkEndings.begin(), artworkEndings.end(),
                     ending.substr(std::min<std::size_t>(1, ending.size()))) != artworkEndings.end();
}

/// Folders stand for the artwork right in them, by name.
std::vector<std::filesystem::path> withFoldersOpened(const std::vector<std::string>& names) {
    std::vector<std::filesystem::path> all;
    for (const std::string& name : names) {
        std::error_code unreadable;
        if (!std::filesystem::is_directory(name, unreadable)) {
            all.emplace_back(name);
            continue;
        }
        std::vector<std::filesystem::path> inside;
        for (const auto& entry : std::filesystem::directory_iterator(name, unreadable))
            if (isArtworkName(entry.path()))
                inside.push_back(entry.path());
        if (inside.empty())
            throw InputError(sentence(
                "%1 holds no artwork: no PNG, JPEG, TIFF, WebP, GIF, SVG, PDF, EPS or PostScript files",
                name));
        std::sort(inside.begin(), inside.end());
        all.insert(all.end(), inside.begin(), inside.end());
    }
    return all;
}

int tell(const Job& job, const Made& made) {
    int status = done;
    for (const Finding& finding : findingsOf(job, made)) {
        std::cerr << sentenceOf(job, finding) << "\n";
        if (finding.severity == Severity::error)
            status = doneWithFindings;
    }
    return status;
}

void requireArtwork(bool isGiven, const OwnArtworkArguments& own) {
    if (!isGiven && !own.isAny())
        throw UsageError(translated("Give an artwork, or --lettering or --code to make one"));
}

/// Kinds of line with commas between them.
LineKinds kindsArgument(const std::string& text) {
    LineKinds kinds;
    std::istringstream names(text);
    for (std::string name; std::getline(names, name, ',');) {
        const auto found = std::ranges::find(lineKinds, name, kindName);
        if (found == lineKinds.end())
            throw UsageError(sentence("--kinds takes kiss, crease, perforated and die, not \"%1\"", name));
        kinds.push_back(*found);
    }
    return kinds;
}

/// What its sheets say of themselves.
/// `file`: an ICC profile, or empty: what the job has.
void useColours(Job& job, const std::string& file) {
    if (file.empty())
        return;
    const auto profile = readColourProfile(file);
    job.assets.edit()[profile->sha256] = profile;
    job.outputs.colours = profile->sha256;
}

constexpr auto colourProfileHelp =
    N_("An ICC profile of the printer: print files name it, TIFF pictures are in its colours");

void nameAfter(Job& job, const std::filesystem::path& file) {
    job.name = file.stem().string();
    job.day = QDate::currentDate().toString(Qt::ISODate).toStdString();
}

} // namespace

void OutlineCommand::addTo(CLI::App& program) {
    CLI::App* command = program.add_subcommand("outline", translated("Artwork to cut lines"));
    command->add_option(
        "artwork", artwork,
        translated("A picture or a page of vector art: PNG, JPEG, TIFF, WebP, GIF, SVG, PDF, EPS"));
    command
        ->add_option("-o", outputs,
                     translated("Where to write: .json, .svg, .dxf, .plt (HPGL) or .pdf; may be repeated"))
        ->required()
        ->expected(1)
        ->multi_option_policy(CLI::MultiOptionPolicy::TakeAll);
    sticker.addTo(*command);
    own.addTo(*command);
}

int OutlineCommand::run() const {
    PictureStore pictures;
    FontLibrary fonts;
    Job job;
    requireArtwork(!artwork.empty(), own);
    Design& design = artwork.empty() ? own.addDesignTo(job, sticker, pictures, fonts)
                                     : sticker.addDesignTo(job, openArtwork(artwork, pictures, sticker.page));
    if (!artwork.empty())
        own.applyTo(job, design, sticker, pictures, fonts);
    Cache cache;
    const Made made = makeAll(job, 1, sourceOf(pictures), cache);
    const MadeDesign& result = *made.find(design.id);
    if (!result.trouble.empty())
        throw InputError(result.trouble);
    std::vector<Output> files;
    for (const std::string& output : outputs)
        files.push_back(outlineOutput(output, *result.sticker, job.profile));
    writeAll(files);
    return done;
}

void NewCommand::addTo(CLI::App& program) {
    CLI::App* command = program.add_subcommand("new", translated("Artworks to one job with one recipe"));
    command->add_option("artworks", artworks, translated("Pictures or vector art, or folders of them"));
    command->add_option("-o", output, translated("The job to write: NAME.hasami"))->required();
    command->add_option(
        "--count", count,
        translated("Copies of each design, or fill: as many as a sheet holds, of a roll one row"));
    command
        ->add_option("--sets", sets,
                     translated("How many times the counts; on sheets, sets stay whole in rows"))
        ->check(CLI::Range(1, Limits::mostSets));
    command->add_option(
        "--medium", medium,
        translated("roll:WIDTH, roll:WIDTHxLENGTH where that length is left on it, sheet:WIDTHxLENGTH, or a "
                   "sheet by its name: a4, letter and others (start value: roll:600)"));
    command->add_flag("--clear-film", isOnClearFilm,
                      translated("The medium is clear: what is behind the stickers shows through"));
    command
        ->add_option(
            "--white-place", whitePlace,
            translated("Where white ink is printed: under or over the colours, or between two passes "
                       "of them (start value: the profile's; with --use, so that it hides none)"))
        ->check(CLI::IsMember({"under", "over", "between"}));
    command->add_option("--colour-profile", colours, translated(colourProfileHelp))->type_name("FILE.icc");
    command->add_option("--price", price, translated("Of a metre of the roll, or of one sheet"));
    command->add_option(
        "--split", split,
        translated("Artwork that falls into parts farther apart than this becomes one design for "
                   "each part"));
    command->add_option("--gap", gap, translated("Least distance between stickers (start value: 3mm)"));
    command->add_option("--pack", pack, translated("rows or nest (start value: rows)"))
        ->check(CLI::IsMember({"rows", "nest"}));
    command->add_option("--seconds", seconds, translated("How long to search for a nest (start value: 10)"))
        ->check(CLI::Range(0.0, mostSearchSeconds));
    command->add_option(
        "--turns", turns,
        translated("How stickers may lie in a nest: any, none, or a step in degrees (start value: any)"));
    command->add_option("--shared-box", sharedBox,
                        translated("A die line around all stickers of a sheet, this far outside of them"));
    marks.addTo(*command);
    sticker.addTo(*command);
    own.addTo(*command);
}

int NewCommand::run() const {
    if (std::filesystem::path(output).extension() != ".hasami")
        throw UsageError(sentence("%1: a job's name ends in .hasami", fileName(output)));
    auto pictures = std::make_unique<PictureStore>();
    Job job;
    nameAfter(job, output);
    setPlan(job);
    useColours(job, colours);
    marks.applyTo(job);
    requireArtwork(!artworks.empty(), own);
    FontLibrary fonts;
    if (artworks.empty())
        setCopies(own.addDesignTo(job, sticker, *pictures, fonts));
    const bool isWhole = addArtworks(job, *pictures, fonts);
    placeWhite(job);
    job = withoutUnusedAssets(std::move(job));
    Cache cache;
    Made made = makeAll(job, 1, sourceOf(*pictures), cache);
    if (job.plan.packing == Packing::nest) {
        const SheetNest nest(copiesOf(job, made.designs), made.layout, job.plan, job.profile);
        if (nest.trouble().empty()) {
            job.plan.laid = nest.laid(nestWatched(nest.problem(), {seconds, {}, 1, 0}));
            made = makeAll(job, 1, sourceOf(*pictures), cache);
        } else {
            std::cerr << nest.trouble() << "\n";
        }
    }
    const std::string preview = previewPng(job, made, sourceOf(*pictures));
    pictures.reset(); // so that large ones take no memory beside the job's file
    saveJob(output, job, preview);
    const int status = tell(job, made);
    return isWhole ? status : doneWithFindings;
}

/// Of several files, what can't be read is said and left out; false where there was such. Throws InputError
/// where none can be read.
bool NewCommand::addArtworks(Job& job, PictureStore& pictures, FontLibrary& fonts) const {
    bool isWhole = true;
    const std::vector<std::filesystem::path> files = withFoldersOpened(artworks);
    for (const std::filesystem::path& artwork : files)
        try {
            Job next = job;
            addDesigns(next, artwork, pictures, fonts);
            job = std::move(next);
        } catch (const InputError& error) {
            if (artwork == files.back() && job.designs.empty())
                throw;
            std::cerr << error.what() << "\n";
            isWhole = false;
        }
    return isWhole;
}

/// One, or one for each part that the artwork falls into.
void NewCommand::addDesigns(Job& job, const std::filesystem::path& artwork, PictureStore& pictures,
                            FontLibrary& fonts) const {
    Design& design = sticker.addDesignTo(job, openArtwork(artwork, pictures, sticker.page));
    own.applyTo(job, design, sticker, pictures, fonts);
    setCopies(design);
    if (split.empty())
        return;
    const std::string id = design.id;
    Job alone = job;
    while (alone.designs.size() > 1)
        alone.designs.erase(0);
    Cache cache;
    const Made made = makeAll(alone, 1, sourceOf(pictures), cache);
    splitDesign(job, id, made.find(id)->sticker->edge, lengthArgument(split, "--split", 0, Limits::mostSize));
}

void NewCommand::placeWhite(Job& job) const {
    static const std::map<std::string, WhitePlace> places{
        {"under", WhitePlace::under}, {"over", WhitePlace::over}, {"between", WhitePlace::between}};
    InkOrder& order = job.profile.printer.inkOrder;
    if (const auto place = places.find(whitePlace); place != places.end())
        order = order.with(place->second);
    else if (!sticker.use.empty())
        suitInkOrder(job);
}

void NewCommand::setPlan(Job& job) const {
    job.plan.medium = mediumArgument(medium);
    job.plan.medium.isClear = isOnClearFilm;
    job.plan.sets = sets;
    job.plan.packing = pack == "nest" ? Packing::nest : Packing::rows;
    if (!price.empty())
        job.plan.medium.price = numberArgument(price, "--price", 0, Limits::mostPrice);
    if (!gap.empty())
        job.plan.gap = lengthArgument(gap, "--gap", 0, Limits::mostGap);
    if (!sharedBox.empty()) {
        job.plan.box = SharedBox{};
        job.plan.box->margin = lengthArgument(sharedBox, "--shared-box", 0, Limits::mostOffset);
    }
}

void NewCommand::setCopies(Design& design) const {
    design.fills = count == "fill";
    if (!design.fills) {
        const double copies = numberArgument(count, "--count", 0, Limits::mostCopies);
        if (copies != std::floor(copies))
            throw UsageError(sentence("--count takes a whole number or fill, not \"%1\"", count));
        design.count = int(copies);
    }
    if (turns == "none")
        design.turning.kind = Turning::Kind::none;
    else if (turns != "any")
        design.turning = {Turning::Kind::steps, numberArgument(turns, "--turns", Limits::leastTurnStep, 360)};
}

void MakeCommand::addTo(CLI::App& program) {
    CLI::App* command = program.add_subcommand("make", translated("A job's print file and cut file"));
    command->add_option("job", job, translated("The job: NAME.hasami"))->required();
    command
        ->add_option(
            "--print", prints,
            translated("Print file to write: .pdf, .eps, .png or .tiff; may be repeated. Pictures hold a "
                       "sheet each and no "
                       "cut lines, special inks go to NAME-white.png and so on"))
        ->expected(1)
        ->multi_option_policy(CLI::MultiOptionPolicy::TakeAll);
    command
        ->add_option(
            "--cut", cuts,
            translated("Cut file to write: .svg, .dxf, .plt (HPGL) or .pdf; may be repeated. Of several "
                       "sheets, the second goes to NAME-2.svg"))
        ->expected(1)
        ->multi_option_policy(CLI::MultiOptionPolicy::TakeAll);
    command->add_option("--dpi", dotsPerInch, translated("Of pictures, in dots an inch (start value: 300)"))
        ->check(CLI::Range(20.0, 2400.0));
    command->add_flag(
        "--cmyk", isInInks,
        translated("TIFF pictures in cyan, magenta, yellow and black; with --colour-profile the "
                   "profile says what they are in"));
    command->add_option("--kinds", kinds,
                        translated("Kinds of line in cut files: kiss, crease, perforated, die, with commas "
                                   "between them (start value: all)"));
    command->add_flag("--one-per-tool", onePerTool,
                      translated("A cut file for each tool that is used: NAME-tool1.plt and so on"));
    command->add_option("--colour-profile", colours, translated(colourProfileHelp))->type_name("FILE.icc");
    command->add_option("--planned", planned,
                        translated("A folder: all outputs that the job plans, under the names it plans"));
    command->add_option("--report", report, translated("Figures and findings to write, as .json"));
    command->add_option("--sheet", sheet, translated("Only this sheet, counted from 1"))
        ->check(CLI::Range(1, 100'000));
    command->add_flag("--no-cut-lines", withoutCutLines, translated("Print file without the cut lines"));
}

int MakeCommand::run() const {
    if (prints.empty() && cuts.empty() && planned.empty() && report.empty())
        throw UsageError(translated("make needs --print, --cut, --planned or --report"));
    PictureStore pictures;
    const PictureSource source = sourceOf(pictures);
    FontLibrary fonts;
    Job opened = openJob(job, fonts.onMachine());
    nameAfter(opened, job);
    useColours(opened, colours);
    Cache cache;
    const Made made = makeAll(opened, 1, source, cache);
    const bool wantsSheet = !prints.empty() || !cuts.empty() || !planned.empty();
    if (made.layout.sheets.empty() && wantsSheet) {
        tell(opened, made);
        throw InputError(sentence("%1 has nothing to print or cut on its sheet", fileName(job)));
    }
    if (wantsSheet && std::size_t(sheet) > made.layout.sheets.size())
        throw UsageError(countedSentence("--sheet %2: the job has %1 sheet",
                                         "--sheet %2: the job has %1 sheets", made.layout.sheets.size(),
                                         std::to_string(sheet)));
    const std::optional<std::size_t> chosen =
        sheet > 0 ? std::optional(std::size_t(sheet) - 1) : std::nullopt;
    std::vector<Output> files;
    const auto add = [&](const PlannedOutput& output, const NameOutput& nameOf) {
        for (Output& file : outputsOf(output, nameOf, opened, made, source, chosen))
            files.push_back(std::move(file));
    };
    for (const std::string& path : prints) {
        PlannedOutput output = printNamed(path);
        output.cutLines = !withoutCutLines;
        output.dotsPerInch = dotsPerInch;
        output.isInInks = isInInks;
        add(output, namedLike(path, chosen.has_value()));
    }
    for (const std::string& path : cuts) {
        PlannedOutput output = cutNamed(path);
        output.kinds = kindsArgument(kinds);
        output.isOnePerTool = onePerTool;
        add(output, namedLike(path, chosen.has_value()));
    }
    if (!planned.empty()) {
        plannedPaths(planned, opened, made); // refuses names that are alike
        for (const PlannedOutput& output : opened.outputs.outputs)
            add(output, namedByPlan(planned, output, opened, made.layout.sheets.size()));
    }
    if (!report.empty())
        files.push_back({report, reportJson(opened, made)});
    writeAll(files);
    return tell(opened, made);
}

/// The queue or the address, where a printer is named.
static std::optional<std::string> printerIn(const std::string& to) {
    constexpr std::string_view prefix = "printer:";
    if (to.starts_with(prefix))
        return to.substr(prefix.size());
    return to.starts_with("ipp://") || to.starts_with("ipps://") ? std::optional(to) : std::nullopt;
}

static SendTarget machineIn(const std::string& to) {
    try {
        return SendTarget::parse(to);
    } catch (const InputError& error) {
        throw InputError(
            sentence("%1; a printer is named printer:QUEUE or ipp://HOST:PORT/ipp/print", error.what()));
    }
}

void SendCommand::addTo(CLI::App& program) {
    CLI::App* command = program.add_subcommand(
        "send", translated("A sheet's cut file to the machine, as HPGL, or the print to a printer"));
    command->add_option("job", job, translated("The job: NAME.hasami"))->required();
    command->add_option(
        "--to", to,
        translated(
            "The machine: tcp:HOST:PORT on the network; device:PATH, device:PATH,BAUD or "
            "device:PATH,BAUD,rtscts of a serial or USB device; folder:PATH that its software "
            "watches (start value: the connection of the job's profile). Or a printer: printer:QUEUE or "
            "ipp://HOST:PORT/ipp/print, which gets the print, never scaled"));
    command->add_option("--copies", copies, translated("Of a print (start value: 1)"))
        ->check(CLI::Range(1, 999));
    command->add_flag("--no-cut-lines", withoutCutLines, translated("A print without the cut lines"));
    command->add_option("--media-type", mediaType,
                        translated("Of a print: one of the printer's, as stationery or labels"));
    command->add_flag(
        "--tiles", inTiles,
        translated("A sheet that is larger than every medium of the printer is printed in tiles"));
    command->add_option("--sheet", sheet, translated("Which sheet, counted from 1, where there are several"))
        ->check(CLI::Range(1, 100'000));
    command->add_option(
        "--kinds", kinds,
        translated("Kinds of line: kiss, crease, perforated, die, with commas between them (start "
                   "value: all)"));
}

int SendCommand::run() const {
    PictureStore pictures;
    const PictureSource source = sourceOf(pictures);
    FontLibrary fonts;
    Job opened = openJob(job, fonts.onMachine());
    nameAfter(opened, job);
    if (to.empty() && opened.profile.cutter.connection.empty())
        throw UsageError(translated("send needs --to: the job's profile has no connection"));
    Cache cache;
    const Made made = makeAll(opened, 1, source, cache);
    const std::size_t sheets = made.layout.sheets.size();
    if (sheets == 0)
        throw InputError(sentence("%1 has nothing to print or cut on its sheet", fileName(job)));
    if (std::size_t(sheet) > sheets)
        throw UsageError(countedSentence("--sheet %2: the job has %1 sheet",
                                         "--sheet %2: the job has %1 sheets", sheets, std::to_string(sheet)));
    if (const auto printer = printerIn(to))
        return print(*printer, opened, made, source);
    return cut(opened, made);
}

int SendCommand::print(const std::string& printer, const Job& opened, const Made& made,
                       const PictureSource& source) const {
    PrintRequest request{opened.name, {}, copies, opened.profile.printer.scale, mediaType, inTiles};
    for (std::size_t i = 0; i < made.layout.sheets.size(); ++i)
        if (sheet == 0 || std::size_t(sheet) - 1 == i)
            request.pages.push_back({printPdf(opened, made, source, {!withoutCutLines, i}),
                                     opened.plan.medium.width, made.layout.sheets[i].length});
    const Interrupts interrupts;
    try {
        printTo(printer, request, {}, interrupts.token());
    } catch (const Stopped&) {
        throw OutputError(translated("Stopped: what was not printed yet is cancelled"));
    }
    return tell(opened, made);
}

int SendCommand::cut(const Job& opened, const Made& made) const {
    const LineKinds wanted = kindsArgument(kinds);
    const SendTarget target = machineIn(to.empty() ? opened.profile.cutter.connection : to);
    const std::size_t sheets = made.layout.sheets.size();
    if (sheet == 0 && sheets > 1)
        throw UsageError(sentence("The job has %1 sheets: choose one with --sheet", std::to_string(sheets)));
    const std::size_t chosen = std::size_t(std::max(sheet, 1)) - 1;
    const std::string hpgl = cutHpgl(opened, made, chosen, wanted);
    const bool isWatched = isatty(STDERR_FILENO) != 0;
    const Interrupts interrupts(Interrupts::Another::isIgnored);
    try {
        sendTo(
            target, cutNameOf(opened, chosen, sheets), hpgl,
            [&](std::string_view received) {
                if (isWatched)
                    std::cerr << "\r"
                              << sentence("Sent: %1 %",
                                          numberText(100 * double(received.size()) / double(hpgl.size()), 0))
                              << "   " << std::flush;
            },
            interrupts.token());
    } catch (const Stopped&) {
        throw OutputError(
            sentence("Stopped: %1 has a part of the sheet, and its knife was lifted", target.name()));
    }
    if (isWatched)
        std::cerr << "\n";
    return tell(opened, made);
}

void InfoCommand::addTo(CLI::App& program) {
    CLI::App* command = program.add_subcommand("info", translated("What a file holds"));
    command->add_option("file", file, translated("A picture, a job, or a machine's profile"))->required();
    command->add_flag("--json", asJson, translated("As JSON, for machines"));
}

int InfoCommand::run() const {
    const nlohmann::json about = describeFile(file);
    if (asJson) {
        std::cout << about.dump(2, ' ', false, nlohmann::json::error_handler_t::replace) << "\n";
        return done;
    }
    for (const auto& [name, value] : about.items())
        std::cout << name << ": " << (value.is_string() ? value.get<std::string>() : value.dump()) << "\n";
    return done;
}

} // namespace hasami
