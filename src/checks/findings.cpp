#include "checks/findings.h"

#include "base/number_text.h"
#include "base/translation.h"
#include "drawing/code_outline.h"
#include "drawing/draw.h"
#include "sticker/corner_limit.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <span>
#include <string_view>

namespace hasami {

namespace {

/// REQUIRES: a code.
void setCodeWidth(Item& item, double width) {
    OwnArtwork own = *item.own();
    CodeArtwork& code = std::get<CodeArtwork>(own.what);
    code.height *= width / code.width;
    code.width = width;
    const auto nothing = [](const auto&) { return nullptr; }; // codes use no files of the job
    item = withContent(item, std::move(own), nothing, nothing);
}

/// The step at which the way from artwork to cut line ended.
RecipeStep stepOfTrouble(const MadeDesign& made) {
    return made.previews.empty()        ? RecipeStep::artwork
           : made.sticker->edge.empty() ? RecipeStep::edge
                                        : RecipeStep::cutLines;
}

std::optional<Finding> coarsePicture(const Design& design) {
    const double dots = dotsPerInch(design.artwork);
    if (dots == 0 || dots >= leastDotsPerInch)
        return {};
    Finding finding{FindingCode::coarsePicture, Severity::note, design.id, RecipeStep::artwork};
    finding.text =
        sentence("The picture has %1 dots per inch at this size and will look %2: make it smaller, or "
                 "use a larger picture",
                 std::to_string(std::lround(dots)), translated(resolutionWord(dots)));
    const double width = std::floor(bounds(design.artwork).width() * dots / leastDotsPerInch);
    if (width >= Limits::leastSize)
        finding.fix =
            Fix{sentence("Make it %1 mm wide", numberText(width, 0)), [id = design.id, width](Job& job) {
                    if (Design* found = job.find(id))
                        found->artwork = scaledToWidth(found->artwork, width);
                }};
    return finding;
}

/// The limit of sharp corners that keeps them all, rounded up to tenths.
std::optional<Finding> cutCorner(const Design& design, const MadeDesign& made) {
    const OffsetCorners& corners = design.recipe.lines.front().corners;
    const bool movesOut = design.recipe.border.width > 0 ||
                          std::ranges::any_of(design.recipe.lines, [](const LineRecipe& line) {
                              return line.isCut && line.course == LineCourse::edge && line.offset > 0;
                          });
    if (corners.form != CornerForm::sharp || !movesOut)
        return {};
    const CutCorners cut = cornersBeyond(made.sticker->edge, corners.limit);
    const double needed = std::ceil(cut.needed * 10) / 10;
    if (cut.count == 0)
        return {};
    Finding finding{FindingCode::cornerCut, Severity::note, design.id, RecipeStep::cutLines};
    if (needed > Limits::mostCornerLimit) {
        finding.text = countedSentence("%1 corner is too sharp to be kept, and is cut off",
                                       "%1 corners are too sharp to be kept, and are cut off", cut.count);
        return finding;
    }
    finding.text = sentence(N_("%1: a corner limit of %2 keeps them"),
                            countedSentence("%1 corner is cut off", "%1 corners are cut off", cut.count),
                            numberText(needed, 1));
    finding.fix = Fix{sentence("Set the corner limit to %1", numberText(needed, 1)),
                      [id = design.id, needed](Job& job) {
                          if (Design* found = job.find(id))
                              for (LineRecipe& line : found->recipe.lines)
                                  line.corners.limit = std::max(line.corners.limit, needed);
                      }};
    return finding;
}

/// A code whose modules the printer can't tell apart.
std::optional<Finding> smallCode(const Design& design, int resolution) {
    for (std::size_t which = 0; which < design.artwork.items.size(); ++which) {
        const Item& item = design.artwork.items[which];
        const auto* code = item.own() ? std::get_if<CodeArtwork>(&item.own()->what) : nullptr;
        if (!code)
            continue;
        const std::optional<double> needed = widthForDots(*code, resolution);
        if (!needed)
            continue;
        Finding finding{FindingCode::smallCode, Severity::warning, design.id, RecipeStep::artwork};
        finding.text = sentence("A module of the code %1 is %2 dots of the printer wide: it may not be read",
                                item.name, numberText(dotsOfModule(*code, resolution), 1));
        finding.fix = Fix{sentence("Make it %1 mm wide", numberText(*needed, 1)),
                          [id = design.id, which, width = *needed](Job& job) {
                              if (Design* found = job.find(id))
                                  setCodeWidth(found->artwork.items.at(which), width);
                          }};
        return finding;
    }
    return {};
}

/// The line inside a light rim, the bleed's colours from the line.
Fix insideFringe(const Design& design, double width) {
    const double offset = -std::max(0.3, std::ceil(width * 10 + 1) / 10);
    return {sentence("Cut %1 inside, and take the bleed's colours from there", lengthText(-offset)),
            [id = design.id, offset](Job& job) {
                if (Design* found = job.find(id)) {
                    for (LineRecipe& line : found->recipe.lines)
                        if (line.course == LineCourse::edge)
                            line.offset = std::min(line.offset, offset);
                    found->recipe.bleed.source = BleedSource::cutLine;
                }
            }};
}

/// Whether a line is cut along the artwork's edge or inside of it, with less bleed than print and cut may be
/// off together.
std::optional<Finding> shortBleed(const Design& design, const Profile& profile) {
    const ExpectedError expected = ExpectedError::of(profile);
    const double error = expected.together();
    const bool reachesLine = std::ranges::any_of(design.recipe.lines, [](const LineRecipe& line) {
        return line.isCut && line.course == LineCourse::edge && line.offset <= 0;
    });
    // A border is printed wider than it looks by what an inward line takes of it, and by the bleed.
    if (!reachesLine || design.recipe.bleed.amount >= error)
        return {};
    Finding finding{FindingCode::bleedShort, Severity::warning, design.id, RecipeStep::bleed};
    finding.text =
        sentence("Print and cut may be %1 off together, more than the bleed: white may show at the line",
                 togetherText(expected));
    const double amount = std::ceil(error * 10 - 1e-6) / 10;
    finding.fix =
        Fix{sentence("Set the bleed to %1", lengthText(amount)), [id = design.id, amount](Job& job) {
                if (Design* found = job.find(id))
                    found->recipe.bleed.amount = amount;
            }};
    return finding;
}

/// Whether black marks are hard to see on it: it is dark, or has a strong colour, which sensors see as dark.
bool hidesMarks(const Medium& medium) {
    if (!medium.colour)
        return false;
    const auto [least, most] = std::minmax({medium.colour->red, medium.colour->green, medium.colour->blue});
    constexpr int light = 150, strong = 90; // of 255
    return most < light || most - least > strong;
}

/// By the header, ICC.1:2010, 7.2.
bool isCmykProfile(const Asset& asset) {
    constexpr std::size_t at = 16;
    constexpr std::string_view cmyk = "CMYK";
    return asset.bytes.size() > at + cmyk.size() &&
           std::ranges::equal(cmyk, std::span(asset.bytes).subspan(at, cmyk.size()), {},
                              [](char c) { return std::byte(c); });
}

void addLayout(std::vector<Finding>& findings, const Job& job, const Made& made) {
    const auto add = [&](FindingCode code, Severity severity, std::string text) -> Finding& {
        Finding& finding = findings.emplace_back(Finding{code, severity});
        finding.text = std::move(text);
        return finding;
    };
    if (!made.trouble.empty())
        add(FindingCode::sheetNotMade, Severity::error, made.trouble);
    for (const Unplaced& unplaced : made.layout.unplaced)
        add(FindingCode::copiesLost, Severity::error,
            sentence("%1 of %2 not placed: %3", std::to_string(unplaced.count),
                     job.find(unplaced.design)->name, unplaced.reason))
            .design = unplaced.design;
    for (const Conflict& conflict : made.layout.conflicts) {
        constexpr std::array codes{FindingCode::tooClose, FindingCode::outOfReach, FindingCode::keptFree};
        Finding& finding =
            add(codes[std::size_t(conflict.with)], Severity::error, conflictText(job, made.layout, conflict));
        const Piece& piece = made.layout.sheets.at(conflict.sheet).pieces.at(conflict.piece);
        finding.sheet = conflict.sheet;
        finding.piece = conflict.piece;
        finding.place = piece.place(made.find(piece.design)->sticker->footprint.centre());
    }
    for (const LayoutRemark& remark : made.layout.remarks)
        add(remark.code, Severity::warning, remark.text);
    if (job.profile.marks.corners > 0 && !job.profile.marks.isOnWhite && hidesMarks(job.plan.medium))
        add(FindingCode::marksLowContrast, Severity::warning,
            translated("The medium is dark or coloured: sensors may not see the marks on it. Print white "
                       "under them"));
    if (const auto why = whyNotX4(job, made))
        add(FindingCode::notX4, Severity::note, *why);
    for (const std::string& sentence : doubtsAboutNames(job.profile))
        add(FindingCode::nameDoubtful, Severity::warning, sentence);
}

} // namespace

std::string_view severityName(Severity severity) {
    constexpr std::array<std::string_view, 3> names{"note", "warning", "error"};
    return names[std::size_t(severity)];
}

const char* resolutionWord(double dotsPerInch) {
    return dotsPerInch >= leastDotsPerInch ? N_("fine") : dotsPerInch >= 100 ? N_("soft") : N_("coarse");
}

std::vector<Finding> findingsOf(const Design& design, const MadeDesign& made) {
    std::vector<Finding> findings;
    const auto add = [&](FindingCode code, Severity severity, RecipeStep step, const std::string& text) {
        Finding& finding = findings.emplace_back(Finding{code, severity, design.id, step});
        finding.text = text;
    };
    if (!made.trouble.empty())
        add(FindingCode::notMade, Severity::error, stepOfTrouble(made), made.trouble);
    for (const Remark& remark : made.remarks) {
        add(remark.code, remark.code == FindingCode::epsFlattened ? Severity::note : Severity::warning,
            remark.step, remark.text);
        if (remark.code == FindingCode::paleFringe)
            findings.back().fix = insideFringe(design, remark.amount);
    }
    if (auto coarse = coarsePicture(design))
        findings.push_back(std::move(*coarse));
    if (auto corner = cutCorner(design, made))
        findings.push_back(std::move(*corner));
    return findings;
}

std::vector<Finding> findingsOf(const Job& job, const Made& made) {
    std::vector<Finding> findings;
    for (std::size_t i = 0; i < made.designs.size(); ++i) { // in the job's order: to search each takes long
        std::ranges::move(findingsOf(job.designs[i], made.designs[i]), std::back_inserter(findings));
        for (auto& finding : {shortBleed(job.designs[i], job.profile),
                              smallCode(job.designs[i], job.profile.printer.resolution)})
            if (finding)
                findings.push_back(*finding);
    }
    addLayout(findings, job, made);
    std::ranges::stable_sort(findings, std::greater<>(), &Finding::severity);
    return findings;
}

std::optional<std::string> whyNotX4(const Job& job, const Made& made) {
    if (job.outputs.colours.empty())
        return {};
    const Asset& profile = *job.assets->at(job.outputs.colours);
    if (!isCmykProfile(profile))
        return sentence("The print file is no PDF/X-4, since its colour profile %1 is not of a printer with "
                        "cyan, magenta, yellow and black",
                        profile.name);
    for (std::size_t i = 0; i < made.designs.size(); ++i)
        for (const Remark& remark : made.designs[i].remarks)
            if (remark.code == FindingCode::fontMissing)
                return sentence("The print file is no PDF/X-4, since a font of %1 is not in its artwork",
                                job.designs[i].name);
    for (std::size_t i = 0; i < made.designs.size(); ++i)
        if (const std::string& what = made.designs[i].notX4; !what.empty())
            return sentence("The print file is no PDF/X-4, since the artwork of %1 has %2",
                            job.designs[i].name, translated(what.c_str()));
    return {};
}

std::string togetherText(const ExpectedError& error) {
    const std::string length = lengthText(error.together());
    return error.isAssumed ? sentence("%1 (assumed)", length) : length;
}

std::string sentenceOf(const Job& job, const Finding& finding) {
    const Design* design = finding.severity == Severity::error ? nullptr : job.find(finding.design);
    return design ? design->name + ": " + finding.text : finding.text;
}

} // namespace hasami
