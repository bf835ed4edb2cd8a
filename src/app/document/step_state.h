#pragma once

#include "sticker/recipe_step.h"
#include "workshop/make_all.h"

#include <QString>

namespace hasami {

/// How far a step of a recipe is.
enum class StepState { beingMade, fine, finding };

/// What a frame of the making strip shows: the state, and a sentence on what was found where something was.
struct StepReport {
    StepState state = StepState::beingMade;
    QString finding;
};

/// `made` is the newest result for the design, perhaps of an older recipe, or nullptr.
StepReport reportOn(RecipeStep step, const Design& design, const MadeDesign* made);

/// Whether the result holds for the step: what follows the step may still be on its way.
bool isMadeFor(RecipeStep step, const Design& design, const MadeDesign* made);

/// Whether its files bring all cut lines, and not slits alone, around which the recipe's run.
bool bringsAllLines(const Design& design, const MadeDesign* made);

} // namespace hasami
