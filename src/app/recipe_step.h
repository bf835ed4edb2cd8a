#pragma once

#include <array>

namespace hasami {

/// The steps of a recipe, in their order: a frame of the making strip and a page of the step sheet each.
enum class RecipeStep { artwork, edge, border, cutLines };

inline constexpr std::array recipeSteps{RecipeStep::artwork, RecipeStep::edge, RecipeStep::border,
                                        RecipeStep::cutLines};

constexpr const char* stepName(RecipeStep step) {
    switch (step) {
    case RecipeStep::artwork:
        return "Artwork";
    case RecipeStep::edge:
        return "Edge";
    case RecipeStep::border:
        return "Border";
    case RecipeStep::cutLines:
        return "Cut lines";
    }
    return "";
}

} // namespace hasami
