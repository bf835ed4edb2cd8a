#pragma once

#include "job/job.h"

#include <CLI/CLI.hpp>

#include <optional>
#include <string>

namespace hasami {

/// Wrong arguments: exit status 2.
class UsageError : public std::runtime_error {
public:
    using std::runtime_error::runtime_error;
};

/// A length typed on the command line; a bare number is mm. Throws UsageError that names the option.
double lengthArgument(const std::string& text, const std::string& option, double least, double most);

/// A number typed on the command line. Throws UsageError that names the option.
double numberArgument(const std::string& text, const std::string& option, double least, double most);

/// A colour typed on the command line (parsePaintColour). Throws UsageError that names the option.
PaintColour colourArgument(const std::string& text, const std::string& option);

/// "roll:600", "sheet:210x297", "a4", "letter". Throws UsageError.
Medium mediumArgument(const std::string& text);

/// Size, edge and offset: what `outline` and `new` share.
struct StickerArguments {
    std::string width, height, dpi, level, smoothing, shadow, leastSpeck, leastOpening, tolerance, offset,
        cornerLimit, bridge, dieOffset, dieBox, tabs, pattern, bleed, bleedFrom, use, white, colours, border,
        borderColour, bleedColour;
    bool withBackdrop = false;
    int page = 1;
    std::string find = "auto", openings, shape, shapeSize, margin, radius, corners, borderOn = "all";

    void addTo(CLI::App& command);

    /// Adds a design of the picture to the job, sized and with its recipe set by the arguments.
    Design& addDesignTo(Job& job, const NewPicture& picture) const;

    /// Sizes own artwork and sets its recipe.
    void sizeAndSet(Design& design) const;

private:
    void setRecipe(Design& design) const;
    void setShape(EdgeOptions& edge) const;
    void addDieLine(Recipe& recipe) const;
    void setBorder(Border& border) const;
};

} // namespace hasami
