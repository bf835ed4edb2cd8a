#pragma once

#include "artwork/paint_colour.h"
#include "files/pdf_document.h"

#include <map>
#include <string>
#include <vector>

namespace hasami {

/// Colours that are chosen here, in a document's contents. A spot colour has one space in all of them.
class PdfColours {
public:
    explicit PdfColours(PdfDocument& pdf) : pdf_(pdf) {}

    /// What is filled from here on has the colour; what that needs is added to the content's resources.
    void fillIn(const PaintColour& colour, PdfContent& content,
                std::vector<PdfDocument::Resource>& resources);

private:
    struct Space {
        std::string name;
        QPDFObjectHandle object;
    };
    const Space& spaceOf(const PaintColour& colour);

    PdfDocument& pdf_;
    std::map<std::string, Space> spaces_; // by the spot colour's name
};

} // namespace hasami
