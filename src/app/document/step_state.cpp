#include "app/document/step_state.h"

#include "checks/findings.h"

#include <algorithm>

namespace hasami {

bool isMadeFor(RecipeStep step, const Design& design, const MadeDesign* made) {
    if (!made || !(made->artwork == design.artwork))
        return false;
    switch (step) {
    case RecipeStep::artwork:
        return true;
    case RecipeStep::edge:
        return made->recipe.edge == design.recipe.edge;
    case RecipeStep::border:
    case RecipeStep::cutLines:
    case RecipeStep::bleed:
    case RecipeStep::inks:
        return made->recipe == design.recipe;
    }
    return false;
}

StepReport reportOn(RecipeStep step, const Design& design, const MadeDesign* made) {
    if (!isMadeFor(step, design, made))
        return {};
    for (const Finding& finding : findingsOf(design, *made))
        if (finding.step == step)
            return {StepState::finding, QString::fromStdString(finding.text)};
    return {StepState::fine, {}};
}

bool bringsAllLines(const Design& design, const MadeDesign* made) {
    const auto isOfRecipe = [](const CutLine& line) { return line.recipe != ofFile; };
    return design.recipe.edge.way == EdgeWay::lines &&
           !(made && std::ranges::any_of(made->sticker->lines, isOfRecipe));
}

} // namespace hasami
