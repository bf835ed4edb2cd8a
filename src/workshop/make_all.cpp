#include "workshop/make_all.h"

#include "base/translation.h"
#include "base/work_queue.h"
#include "geometry/length_text.h"
#include "workshop/design_maker.h"

#include <algorithm>
#include <map>
#include <numeric>
#include <set>

namespace hasami {

namespace {

std::vector<std::size_t> orderOfMaking(const Job& job, std::string_view first) {
    std::vector<std::size_t> order(job.designs.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::stable_partition(order.begin(), order.end(),
                          [&](std::size_t i) { return job.designs[i].id == first; });
    return order;
}

} // namespace

const MadeDesign* Made::find(std::string_view design) const {
    const auto found =
        std::find_if(designs.begin(), designs.end(), [&](const MadeDesign& d) { return d.design == design; });
    return found == designs.end() ? nullptr : &*found;
}

std::string conflictText(const Job& job, const Layout& layout, const Conflict& conflict) {
    const Sheet& sheet = layout.sheets.at(conflict.sheet);
    const auto name = [&](std::size_t piece) { return job.find(sheet.pieces.at(piece).design)->name; };
    const bool isOne = layout.sheets.size() == 1;
    const std::string first = name(conflict.piece), number = std::to_string(conflict.sheet + 1);
    switch (conflict.with) {
    case Conflict::With::piece:
        return sentence(isOne ? N_("A %1 and a %2 lie closer together than the gap")
                              : N_("A %1 and a %2 on sheet %3 lie closer together than the gap"),
                        first, name(conflict.other), number);
    case Conflict::With::edge:
        return sentence(isOne ? N_("A %1 reaches out of the area that can be printed and cut")
                              : N_("A %1 on sheet %2 reaches out of the area that can be printed and cut"),
                        first, number);
    case Conflict::With::kept:
        break;
    }
    return sentence(isOne ? N_("A %1 lies on a part of the medium that is kept free")
                          : N_("A %1 on sheet %2 lies on a part of the medium that is kept free"),
                    first, number);
}

std::vector<LineKind> kindsOn(const Made& made, const Sheet& sheet) {
    std::set<std::string_view> designs;
    for (const Piece& piece : sheet.pieces)
        designs.insert(piece.design);
    std::vector<LineKind> kinds;
    std::copy_if(lineKinds.begin(), lineKinds.end(), std::back_inserter(kinds), [&](LineKind kind) {
        return std::any_of(sheet.lines.begin(), sheet.lines.end(),
                           [&](const CutLine& line) { return line.kind == kind; }) ||
               std::any_of(designs.begin(), designs.end(),
                           [&](std::string_view id) { return made.find(id)->sticker->has(kind); });
    });
    return kinds;
}

Copies copiesOf(const Design& design, const MadeDesign& made) {
    return {design.id,    made.sticker->isEmpty() ? Box{} : made.sticker->footprint,
            design.count, design.recipe.isMirrored,
            design.fills, design.turning,
            made.outline, design.name};
}

std::vector<Copies> copiesOf(const Job& job, const std::vector<MadeDesign>& designs) {
    std::vector<Copies> copies;
    copies.reserve(designs.size());
    for (std::size_t i = 0; i < designs.size(); ++i)
        copies.push_back(copiesOf(job.designs[i], designs[i]));
    return copies;
}

namespace {

/// Of what is laid out, not of what found no place.
double plainLength(std::vector<Copies> copies, const Job& job, const Layout& layout,
                   const std::stop_token& stop) {
    std::map<std::string_view, int> laid;
    for (const Sheet& sheet : layout.sheets)
        for (const Piece& piece : sheet.pieces)
            ++laid[piece.design];
    for (Copies& c : copies) {
        c.count = laid[c.design];
        c.fills = false;
    }
    Profile profile = job.profile;
    profile.marks.between = 0; // they take no length
    return layOut(copies, plainPlan(job.plan), profile, Checking::no, stop).usedLength();
}

} // namespace

std::string codeTextOf(const Job& job, std::size_t sheet) {
    return job.name + "/" + std::to_string(sheet + 1) + (job.printId.empty() ? "" : "." + job.printId);
}

void addLead(Layout& layout, const Job& job) {
    const Profile& profile = job.profile;
    constexpr double fromSides = 2; // mm
    for (std::size_t i = 0; i < layout.sheets.size(); ++i) {
        Sheet& sheet = layout.sheets[i];
        if (sheet.pieces.empty())
            continue;
        LeadRoom room{sheet.work, fromSides, job.plan.medium.width - fromSides, profile.cutter.rollers,
                      sheet.marks};
        room.tracks.insert(room.tracks.end(), job.plan.medium.tracks.begin(), job.plan.medium.tracks.end());
        const std::string number = std::to_string(i + 1), count = std::to_string(layout.sheets.size());
        const std::string size =
            sentence("%1 x %2", lengthText(job.plan.medium.width), lengthText(sheet.length));
        Lead lead = leadMarks(profile.lead, room, codeTextOf(job, i),
                              sentence("%1, sheet %2 of %3, %4, %5", job.name, number, count, job.day, size));
        sheet.lead = std::move(lead.marks);
        for (const char* what : lead.leftOut)
            layout.remarks.push_back(
                {FindingCode::leadLeftOut,
                 sentence("On sheet %1 there is no room for %2", std::to_string(i + 1), translated(what))});
    }
}

Made makeAll(const Job& job, std::uint64_t revision, const PictureSource& pictures, Cache& cache,
             const std::stop_token& stop, const Progress& progress) {
    Made made;
    made.revision = revision;
    made.designs.resize(job.designs.size());
    DesignMaker maker(job, pictures, cache, stop);
    for (const std::size_t i : orderOfMaking(job, progress.first)) {
        throwIfStopped(stop);
        made.designs[i] = maker.make(job.designs[i]);
        if (progress.made)
            progress.made(made.designs[i]);
    }
    throwIfStopped(stop);
    const std::vector<Copies> copies = copiesOf(job, made.designs);
    const auto laid = outcomeOf(translated("The sheet can't be laid out"), [&] {
        made.layout = layOut(copies, job.plan, job.profile, Checking::yes, stop);
        addLead(made.layout, job);
        made.plainLength = plainLength(copies, job, made.layout, stop);
        return true;
    });
    throwIfStopped(stop);
    if (!laid.value) {
        made.layout = {};
        made.trouble = laid.failure;
    }
    return made;
}

} // namespace hasami
