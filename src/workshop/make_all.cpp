#include "workshop/make_all.h"

#include "base/error.h"
#include "workshop/design_maker.h"

#include <algorithm>
#include <numeric>
#include <set>

namespace hasami {

std::string Remarks::all() const {
    std::string all;
    for (const std::string* sentences : {&edge, &lines, &bleed, &inks})
        if (!sentences->empty())
            all += (all.empty() ? "" : ". ") + *sentences;
    return all;
}

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
    std::vector<Copies> copies;
    for (std::size_t i = 0; i < job.designs.size(); ++i) {
        const Sticker& sticker = *made.designs[i].sticker;
        copies.push_back({job.designs[i].id, sticker.isEmpty() ? Box{} : sticker.footprint,
                          job.designs[i].count, job.designs[i].recipe.isMirrored});
    }
    throwIfStopped(stop);
    made.layout = layOutRows(copies, job.plan, job.profile);
    return made;
}

} // namespace hasami
