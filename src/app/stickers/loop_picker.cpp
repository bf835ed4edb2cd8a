#include "app/stickers/loop_picker.h"

#include "app/document/step_state.h"
#include "app/kit/quantity_field.h"
#include "app/words/words.h"
#include "artwork/colour_text.h"

#include <algorithm>

namespace hasami {

namespace {

double distanceTo(const Loop& loop, Point p) {
    double least = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < loop.size(); ++i)
        least = std::min(least, distanceToSegment(p, loop[i], loop[(i + 1) % loop.size()]));
    return least;
}

} // namespace

std::vector<LoopPicker::Entry> LoopPicker::lines() const {
    const Design* design = document_.selectedDesign();
    const MadeDesign* made = design ? document_.newest(design->id) : nullptr;
    std::vector<Entry> all;
    if (!made || !(made->artwork == design->artwork) || design->recipe.edge.way == EdgeWay::shape)
        return all;
    for (std::size_t i = 0; i < made->loops.size(); ++i) {
        const Item& item = made->artwork.items[i];
        std::vector<LoopFacts> facts;
        for (const EdgeLoop& loop : *made->loops[i])
            facts.push_back(loop.facts);
        const std::vector<bool> chosen = chooseLoops(facts, forItem(design->recipe.edge, i), item.wholeBox());
        for (std::size_t k = 0; k < facts.size(); ++k)
            all.push_back({&(*made->loops[i])[k], chosen[k], &item, int(i)});
    }
    return all;
}

bool LoopPicker::linesHold() const {
    const Design* design = document_.selectedDesign();
    const MadeDesign* made = design ? document_.newest(design->id) : nullptr;
    if (!made || !(made->artwork == design->artwork))
        return false;
    EdgeOptions options = made->recipe.edge;
    options.loops = design->recipe.edge.loops;
    options.switches = design->recipe.edge.switches;
    return options == design->recipe.edge;
}

std::vector<std::size_t> LoopPicker::linesAt(Point place, double reach) const {
    const auto all = lines();
    std::vector<std::size_t> found;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const Point own = inverse(all[i].item->toDesign())(place);
        const Box near = all[i].loop->facts.box.grownBy(reach);
        if (!near.meets({own, own}))
            continue;
        const Loop loop = flatten(all[i].loop->curve, flatteningTolerance);
        if (contains(loop, own) || distanceTo(loop, own) <= reach)
            found.push_back(i);
    }
    std::sort(found.begin(), found.end(), [&](std::size_t a, std::size_t b) {
        return std::abs(all[a].loop->facts.area) < std::abs(all[b].loop->facts.area);
    });
    return found;
}

std::vector<std::size_t> LoopPicker::linesWithin(const Box& box) const {
    const auto all = lines();
    std::vector<std::size_t> found;
    for (std::size_t i = 0; i < all.size(); ++i) {
        if (box.holds(all[i].box()))
            found.push_back(i);
    }
    return found;
}

void LoopPicker::cutColourOf(std::size_t line) {
    const auto all = lines();
    if (line >= all.size() || !all[line].loop->colour)
        return;
    const Rgba colour = *all[line].loop->colour;
    const std::string id = document_.selected();
    document_.endRun();
    document_.change(tr("Cut %1 alone").arg(QString::fromStdString(colourText(colour))), [&](Job& job) {
        if (Design* design = job.find(id)) {
            design->recipe.edge.switches.clear();
            for (const Entry& entry : all)
                switchLoop(design->recipe.edge, entry.loop->facts, entry.item->wholeBox(),
                           entry.loop->colour == colour, entry.number);
        }
    });
}

void LoopPicker::setCut(const std::vector<std::size_t>& numbers, bool isCut) {
    const auto all = lines();
    const std::string id = document_.selected();
    document_.endRun();
    document_.change(isCut ? counted(numbers.size(), "Cut a line", "Cut %1 lines")
                           : counted(numbers.size(), "Don't cut a line", "Don't cut %1 lines"),
                     [&](Job& job) {
                         if (Design* design = job.find(id))
                             for (const std::size_t i : numbers)
                                 switchLoop(design->recipe.edge, all[i].loop->facts, all[i].item->wholeBox(),
                                            isCut, all[i].number);
                     });
}

} // namespace hasami
