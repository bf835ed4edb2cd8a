#include "files/pdf_colours.h"

namespace hasami {

void PdfColours::fillIn(const PaintColour& colour, PdfContent& content,
                        std::vector<PdfDocument::Resource>& resources) {
    if (!colour.spot.empty()) {
        const Space& space = spaceOf(colour);
        resources.push_back({"/ColorSpace", space.name, space.object});
        content.op(space.name + " cs 1 scn");
    } else if (colour.inks) {
        for (const double ink : *colour.inks)
            content.number(ink);
        content.op("k");
    } else {
        for (const std::uint8_t part : {colour.shown.red, colour.shown.green, colour.shown.blue})
            content.number(part / 255.0);
        content.op("rg");
    }
}

const PdfColours::Space& PdfColours::spaceOf(const PaintColour& colour) {
    const auto [found, isNew] = spaces_.try_emplace(colour.spot);
    if (isNew)
        found->second = {"/Own" + std::to_string(spaces_.size()),
                         pdf_.addSpotColour({colour.spot, inksOf(colour)})};
    return found->second;
}

} // namespace hasami
