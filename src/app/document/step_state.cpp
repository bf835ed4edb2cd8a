#include "app/document/step_state.h"

#include <cmath>

namespace hasami {

namespace {

constexpr double leastDotsPerInch = 150; // below, print is seen to be soft

StepReport finding(const QString& sentence) {
    return {StepState::finding, sentence};
}

} // namespace

const char* resolutionWord(double dotsPerInch) {
    return dotsPerInch >= leastDotsPerInch ? "fine" : dotsPerInch >= 100 ? "soft" : "coarse";
}

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
    const bool unreadable = made->previews.empty();
    const QString trouble = QString::fromStdString(made->trouble);
    switch (step) {
    case RecipeStep::artwork:
        if (unreadable)
            return finding(trouble);
        if (const double dots = dotsPerInch(design.artwork); dots > 0 && dots < leastDotsPerInch)
            return finding(QString("The picture has %1 dots an inch at this size and will look %2: "
                                   "make it smaller, or use a larger picture")
                               .arg(std::lround(dots))
                               .arg(resolutionWord(dots)));
        break;
    case RecipeStep::edge:
        if (made->sticker->edge.empty())
            return finding(trouble);
        if (!made->remarks.edge.empty())
            return finding(QString::fromStdString(made->remarks.edge));
        break;
    case RecipeStep::border:
        break;
    case RecipeStep::cutLines:
        if (made->sticker->isEmpty())
            return finding(trouble);
        if (const auto& remarks = made->sticker->remarks; !remarks.empty())
            return finding(QString::fromStdString(remarks.front()));
        break;
    case RecipeStep::bleed:
        if (!made->remarks.bleed.empty())
            return finding(QString::fromStdString(made->remarks.bleed));
        break;
    case RecipeStep::inks:
        for (const auto& ink : made->inks)
            if (ink->area.empty())
                return finding(QString("None of the %1 is left: draw it in by less, or print it elsewhere")
                                   .arg(QString::fromUtf8(inkName(ink->ink).data())));
        break;
    }
    return {StepState::fine, {}};
}

} // namespace hasami
