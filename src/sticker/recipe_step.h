#pragma once

#include "base/translation.h"

#include <array>
#include <cstddef>

namespace hasami {

/// The steps of a recipe, in their order: a frame of the making strip and a page of the step sheet each.
enum class RecipeStep { artwork, edge, border, cutLines, bleed, inks };

inline constexpr std::array recipeSteps{RecipeStep::artwork,  RecipeStep::edge,  RecipeStep::border,
                                        RecipeStep::cutLines, RecipeStep::bleed, RecipeStep::inks};

constexpr const char* stepName(RecipeStep step) {
    constexpr std::array names{N_("Artwork"),   N_("Edge"),  N_("Border"),
                               N_("Cut lines"), N_("Bleed"), N_("Inks")};
    return names[std::size_t(step)];
}

} // namespace hasami
