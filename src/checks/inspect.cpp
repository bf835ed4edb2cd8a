#include "checks/inspect.h"

#include "base/error.h"
#include "base/number_text.h"
#include "base/translation.h"
#include "geometry/region_operations.h"
#include "job/split.h"
#include "job/white_place.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

/// Rounded up to tenths: people type and read such numbers.
double upToTenths(double value) {
    return std::ceil(value * 10 - 1e-6) / 10;
}

Finding about(FindingCode code, Severity severity, const Design& design, RecipeStep step, Point place) {
    Finding finding{code, severity, design.id, step};
    finding.place = place;
    return finding;
}

/// A fix that changes one design.
Fix changing(std::string label, const Design& design, std::function<void(Design&)> change) {
    return {std::move(label), [id = design.id, change = std::move(change)](Job& job) {
                if (Design* found = job.find(id))
                    change(*found);
            }};
}

/// Moves all lines that follow the edge out.
void moveLinesOut(Design& design, double by) {
    for (LineRecipe& line : design.recipe.lines)
        if (line.course == LineCourse::edge)
            line.offset = upToTenths(line.offset + by);
        else if (line.course == LineCourse::shape)
            line.shape.margin = upToTenths(line.shape.margin + by);
}

Fix splitInto(const Design& design, const MadeDesign& made, std::size_t count, double together) {
    return {countedSentence("Split it into %1 design", "Split it into %1 designs", count),
            [id = design.id, sticker = made.sticker, together](Job& job) {
                if (job.find(id))
                    splitDesign(job, id, sticker->edge, together);
            }};
}

Finding severalParts(const Design& design, const MadeDesign& made, const LineFault& fault) {
    Finding finding = about(fault.code, Severity::note, design, RecipeStep::artwork, fault.place);
    finding.text = sentence("What is peeled falls into %1 pieces", std::to_string(fault.count));
    constexpr double mostBridge = 6; // mm: a longer bridge would be no part of the picture
    const double offset = design.recipe.lines.front().offset;
    if (const double bridge = upToTenths(fault.amount + 2 * std::max(0.0, offset) + 0.1);
        fault.amount > 0 && bridge <= mostBridge) {
        finding.fix = changing(countedSentence("Bridge the %1 part", "Bridge the %1 parts", fault.count),
                               design, [bridge](Design& changed) { changed.recipe.bridge = bridge; });
        return finding;
    }
    const double together = 2 * std::max(0.0, offset) + design.recipe.bridge;
    if (partsOf(made.sticker->edge, together).size() == fault.count)
        finding.fix = splitInto(design, made, fault.count, together);
    return finding;
}

Finding findingOf(const Design& design, const MadeDesign& made, const LineFault& fault) {
    if (fault.code == FindingCode::severalParts)
        return severalParts(design, made, fault);
    Finding finding = about(fault.code, Severity::warning, design, RecipeStep::cutLines, fault.place);
    const bool isFound = design.recipe.edge.way != EdgeWay::lines && design.recipe.edge.way != EdgeWay::shape;
    switch (fault.code) {
    case FindingCode::crossingLine:
        finding.text =
            countedSentence("Cut lines cross at %1 place: the knife cuts there twice",
                            "Cut lines cross at %1 places: the knife cuts there twice", fault.count);
        break;
    case FindingCode::shortLine:
        finding.text =
            countedSentence("%1 cut line is shorter than %2: what is inside comes off with the knife",
                            "%1 cut lines are shorter than %2: what is inside comes off with the knife",
                            fault.count, lengthText(LineFaultLimits::shortLine));
        if (isFound)
            finding.fix = changing(translated("Leave out such small bits"), design,
                                   [area = std::ceil(fault.amount + 0.01)](Design& changed) {
                                       EdgeOptions& edge = changed.recipe.edge;
                                       edge.leastSpeck = std::max(edge.leastSpeck, area);
                                   });
        break;
    case FindingCode::tightCorner:
        finding.severity = Severity::note;
        finding.text =
            countedSentence("%1 line turns back within %2, the knife's own size: its tip may tear",
                            "%1 lines turn back within %2, the knife's own size: their tips may tear",
                            fault.count, lengthText(2 * fault.amount));
        break;
    case FindingCode::smallOpening:
        finding.text = countedSentence("%1 opening is narrower than %2, too small to weed",
                                       "%1 openings are narrower than %2, too small to weed", fault.count,
                                       lengthText(LineFaultLimits::weeding));
        if (isFound && fault.amount > 0)
            finding.fix = changing(translated("Close such small openings"), design,
                                   [area = std::ceil(fault.amount * 1.02 + 0.01)](Design& changed) {
                                       EdgeOptions& edge = changed.recipe.edge;
                                       edge.leastOpening = std::max(edge.leastOpening, area);
                                   });
        break;
    default:
        finding.text =
            countedSentence("Parts hang together at %1 neck of %2 only: it may tear",
                            "Parts hang together at %1 necks, the narrowest %2 wide: they may tear",
                            fault.count, lengthText(fault.amount));
        if (design.recipe.lines.front().course == LineCourse::edge &&
            design.recipe.lines.front().offset >= 0) {
            const double by = upToTenths((LineFaultLimits::neck - fault.amount) / 2 + 0.05);
            finding.fix = changing(sentence("Move the line out by %1", lengthText(by)), design,
                                   [by](Design& changed) { moveLinesOut(changed, by); });
        }
    }
    return finding;
}

std::optional<Finding> driftFinding(const Design& design, const StickerCheck& check,
                                    const ExpectedError& expected) {
    const DriftLimit& least = check.drift.least();
    constexpr double asGood = 0.03; // mm: less is no difference
    const double error = expected.together();
    if (check.sticker->isEmpty() || least.reach >= error - asGood)
        return {};
    const bool isWhite = least.fault == DriftFault::whiteShows;
    Finding finding = about(isWhite ? FindingCode::whiteShows : FindingCode::artworkCut, Severity::warning,
                            design, isWhite ? RecipeStep::bleed : RecipeStep::cutLines, least.spot);
    if (isWhite) {
        finding.text = sentence("White shows once the cut is %1 off; print and cut may be %2 off together",
                                lengthText(least.reach), togetherText(expected));
        if (const double amount = upToTenths(error); design.recipe.bleed.amount < amount)
            finding.fix = changing(sentence("Set the bleed to %1", lengthText(amount)), design,
                                   [amount](Design& changed) { changed.recipe.bleed.amount = amount; });
        return finding;
    }
    finding.text = sentence("Artwork is cut once the cut is %1 off; print and cut may be %2 off together",
                            lengthText(least.reach), togetherText(expected));
    const double by = upToTenths(error - asGood - least.reach);
    finding.fix = changing(sentence("Move the line out by %1", lengthText(by)), design,
                           [by](Design& changed) { moveLinesOut(changed, by); });
    return finding;
}

Region areaOf(const Item& item, const std::vector<EdgeLoop>& loops) {
    Region area;
    for (const EdgeLoop& loop : loops)
        area.loops.push_back(flatten(mapRim(loop.curve, item.toDesign()), 0.05));
    return enclosed(area, FillRule::nonZero);
}

/// An artwork that others cover as a whole. Backgrounds are meant to lie behind.
std::optional<Finding> hiddenPrint(const Design& design, const MadeDesign& made) {
    const auto& items = design.artwork.items;
    if (items.size() < 2 || made.loops.size() != items.size() || !(made.artwork == design.artwork))
        return {};
    Region above;
    for (std::size_t i = items.size(); i-- > 0;) {
        const Region area = areaOf(items[i], *made.loops[i]);
        constexpr double seen = 0.5; // mm²
        if (!area.isEmpty() && !above.isEmpty() && !items[i].isBackground &&
            hasami::area(difference(area, above)) < seen) {
            Finding finding = about(FindingCode::hiddenPrint, Severity::note, design, RecipeStep::artwork,
                                    bounds(items[i]).centre());
            finding.text = sentence("%1 lies behind other artwork and is not seen", items[i].name);
            return finding;
        }
        above = unite(std::vector{above, area});
    }
    return {};
}

/// White that is not choked by as much as the printer may be off. What the artwork brings is as its maker
/// wants it.
std::optional<Finding> showingInk(const Design& design) {
    for (const InkLayer& layer : design.recipe.inks) {
        constexpr double layersOff = 0.05; // mm: passes of one print lie closer than prints and cuts
        if (layer.ink != InkKind::white || layer.area == InkArea::brought || layer.choke >= layersOff)
            continue;
        Finding finding = about(FindingCode::inkShows, Severity::warning, design, RecipeStep::inks,
                                bounds(design.artwork).centre());
        finding.text = sentence("The white ink reaches up to the print's rim: it shows beside it where the "
                                "layers are a little off");
        finding.fix = changing(sentence("Choke it by %1", lengthText(0.2)), design, [](Design& changed) {
            for (InkLayer& ink : changed.recipe.inks)
                if (ink.ink == InkKind::white)
                    ink.choke = std::max(ink.choke, 0.2);
        });
        return finding;
    }
    return {};
}

std::string labelOf(WhitePlace place) {
    switch (place) {
    case WhitePlace::under:
        return translated("Print white under the colours");
    case WhitePlace::over:
        return translated("Print white over the colours");
    case WhitePlace::between:
        return translated("Print the colours twice, with white between");
    }
    return {};
}

/// White between the colours and the eye.
std::optional<Finding> hidingWhite(const Design& design, const Job& job) {
    if (!hasWhite(design) || suits(job.profile.printer.inkOrder.white(), isSeenThrough(design)))
        return {};
    Finding finding = about(FindingCode::whiteHides, Severity::warning, design, RecipeStep::inks,
                            bounds(design.artwork).centre());
    finding.text = isSeenThrough(design)
                       ? translated("White is printed under the colours and hides them, since a mirrored "
                                    "print is seen through its medium")
                       : translated("White is printed over the colours and hides them, since the print is "
                                    "not mirrored to be seen through its medium");
    finding.fix = Fix{labelOf(*whitePlaceFor(job)), suitInkOrder};
    return finding;
}

/// White over the marks, which stands for their ground.
std::optional<Finding> whiteOnMarks(const Job& job) {
    const Profile& profile = job.profile;
    if (!profile.marks.isOnWhite || profile.marks.corners == 0 ||
        profile.printer.inkOrder.white() != WhitePlace::over)
        return {};
    Finding finding{FindingCode::whiteOnMarks, Severity::error};
    finding.text = translated("White is printed over the colours, and so over the registration marks that "
                              "have white: no sensor sees them");
    finding.fix = Fix{translated("Print the marks without white"),
                      [](Job& changed) { changed.profile.marks.isOnWhite = false; }};
    return finding;
}

/// For a mark around the work, into which its quiet zone reaches.
std::optional<Fix> marksMovedOut(const Mark& mark, const Sheet& sheet) {
    if (sheet.work.meets({mark.centre, mark.centre}))
        return {};
    const Box quiet = bounds(enclosed(mark.quiet, FillRule::nonZero));
    const double along =
        std::min(quiet.most.x, sheet.work.most.x) - std::max(quiet.least.x, sheet.work.least.x);
    const double across =
        std::min(quiet.most.y, sheet.work.most.y) - std::max(quiet.least.y, sheet.work.least.y);
    const double by = upToTenths(std::min(along, across));
    return Fix{sentence("Move the marks out by %1", lengthText(by)),
               [by](Job& job) { job.profile.marks.distance += by; }};
}

/// Pieces in a mark's quiet zone.
void addNearMarks(std::vector<Finding>& findings, const Job& job, const Made& made) {
    const std::vector<Copies> copies = copiesOf(job, made.designs);
    for (std::size_t s = 0; s < made.layout.sheets.size(); ++s) {
        const Sheet& sheet = made.layout.sheets[s];
        for (const Mark& mark : sheet.marks) {
            const Region quiet = enclosed(mark.quiet, FillRule::nonZero);
            const Box box = bounds(quiet);
            for (std::size_t p = 0; p < sheet.pieces.size(); ++p) {
                const auto c = std::ranges::find(copies, sheet.pieces[p].design, &Copies::design);
                if (c == copies.end() || !boundsOf(*c, sheet.pieces[p].place).meets(box))
                    continue;
                constexpr double touching = 0.01; // mm²
                if (area(intersection(outlineOf(*c, sheet.pieces[p].place), quiet)) < touching)
                    continue;
                Finding& finding =
                    findings.emplace_back(Finding{FindingCode::nearMark, Severity::warning, c->design});
                finding.sheet = s;
                finding.piece = p;
                finding.place = mark.centre;
                finding.text = sentence("%1 lies in the quiet zone of mark %2 on sheet %3: a sensor may miss "
                                        "the mark",
                                        c->name, std::to_string(mark.id), std::to_string(s + 1));
                finding.fix = marksMovedOut(mark, sheet);
                break; // one for each mark
            }
        }
    }
}

void addShortMedium(std::vector<Finding>& findings, const Job& job, const Made& made) {
    const Medium& medium = job.plan.medium;
    if (!medium.isRoll() || !medium.rollLength || made.layout.sheets.size() < 2)
        return;
    Finding& finding = findings.emplace_back(Finding{FindingCode::mediumShort, Severity::warning});
    finding.text = sentence("The roll of %1 is too short for the work, which goes on with %2 more",
                            lengthText(*medium.rollLength), std::to_string(made.layout.sheets.size() - 1));
    finding.sheet = 1;
}

void addFilesOutside(std::vector<Finding>& findings, const Job& job, const FilesOutside& around) {
    for (const Design& design : job.designs)
        for (const Item& item : design.artwork.items)
            for (const std::string& asset : assetsOf(item))
                if (const auto changed = around.changedFiles.find(asset);
                    changed != around.changedFiles.end()) {
                    Finding& finding =
                        findings.emplace_back(about(FindingCode::fileChanged, Severity::warning, design,
                                                    RecipeStep::artwork, bounds(item).centre()));
                    finding.text = sentence("%1 has changed on disk since it was taken in", changed->second);
                }
    for (const std::string& name : around.oldOutputs) {
        Finding& finding = findings.emplace_back(Finding{FindingCode::outOfDate, Severity::note});
        finding.text = sentence("%1 was written of an older state of the job: write it again", name);
    }
    for (const std::string& difference : around.printDifferences) {
        Finding& finding = findings.emplace_back(Finding{FindingCode::printDiffers, Severity::warning});
        finding.text = difference;
    }
}

} // namespace

std::shared_ptr<const StickerCheck> StickerChecks::of(const MadeDesign& made, const Profile& profile,
                                                      const std::stop_token& stop) {
    const double blade = profile.cutter.tool(LineKind::kiss).bladeOffset;
    {
        const std::lock_guard lock(mutex_);
        const auto found = kept_.find(made.design);
        if (found != kept_.end() && found->second->sticker == made.sticker && found->second->blade == blade)
            return found->second;
    }
    auto check = std::make_shared<StickerCheck>();
    check->sticker = made.sticker;
    check->blade = blade;
    check->faults = lineFaults(*made.sticker, blade, stop);
    check->rims = std::make_shared<const DriftRims>(*made.sticker, stop);
    check->drift = safeDrift(*check->rims);
    const std::lock_guard lock(mutex_);
    return kept_[made.design] = std::move(check);
}

std::map<std::string, std::shared_ptr<const StickerCheck>>
StickerChecks::ofAll(const Made& made, const Profile& profile, const std::stop_token& stop) {
    std::map<std::string, std::shared_ptr<const StickerCheck>> all;
    for (const MadeDesign& design : made.designs)
        all[design.design] = of(design, profile, stop);
    const std::lock_guard lock(mutex_);
    std::erase_if(kept_, [&](const auto& kept) { return !all.contains(kept.first); });
    return all;
}

std::vector<Finding> inspect(const Job& job, const Made& made, StickerChecks& checks,
                             const std::stop_token& stop, const FilesOutside& around) {
    std::vector<Finding> findings = findingsOf(job, made);
    const auto all = checks.ofAll(made, job.profile, stop);
    const ExpectedError error = ExpectedError::of(job.profile);
    const auto has = [&](FindingCode code, const std::string& design) {
        return std::ranges::any_of(findings, [&](const Finding& finding) {
            return finding.code == code && finding.design == design;
        });
    };
    std::vector<Finding> more;
    for (std::size_t i = 0; i < made.designs.size(); ++i) {
        throwIfStopped(stop);
        const Design& design = job.designs[i];
        const StickerCheck& check = *all.at(design.id);
        for (const LineFault& fault : check.faults)
            more.push_back(findingOf(design, made.designs[i], fault));
        if (!has(FindingCode::bleedShort, design.id))
            if (auto finding = driftFinding(design, check, error))
                more.push_back(std::move(*finding));
        for (auto& finding :
             {hiddenPrint(design, made.designs[i]), showingInk(design), hidingWhite(design, job)})
            if (finding)
                more.push_back(*finding);
    }
    if (auto finding = whiteOnMarks(job))
        more.push_back(std::move(*finding));
    addNearMarks(more, job, made);
    addShortMedium(more, job, made);
    addFilesOutside(more, job, around);
    std::ranges::move(more, std::back_inserter(findings));
    std::ranges::stable_sort(findings, std::greater<>(), &Finding::severity);
    return findings;
}

} // namespace hasami
