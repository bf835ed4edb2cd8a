#pragma once

#include "files/pdf_document.h"
#include "sticker/sticker.h"

namespace hasami {

/// The one way in which cut lines get into a PDF: hairlines in a spot colour, set to overprint, on their own
/// layer. So no line can be thick, filled, or in a colour that prints.
class KissStrokes {
public:
    KissStrokes(PdfDocument& pdf, const Profile::LineStyle& name)
        : layer_(pdf.addLayer("Kiss cut")), spot_(pdf.addSpotColour(name)), overprint_(pdf.addOverprint()) {}

    const QPDFObjectHandle& layer() const { return layer_; }

    /// A form that strokes the lines, in their own millimetres. REQUIRES: they lie in `box`; placed without
    /// scaling.
    QPDFObjectHandle form(PdfDocument& pdf, const std::vector<CutLine>& lines, const Box& box) const {
        constexpr double lineWidth = 0.088; // mm: 0.2494 pt
        PdfContent content;
        content.op("/Overprint gs /Spot CS 1 SCN").number(lineWidth).op("w 1 j");
        for (const CutLine& line : lines)
            content.curve(line.curve).op("S");
        return pdf.addForm(box.grownBy(lineWidth), content,
                           {{"/ColorSpace", "/Spot", spot_}, {"/ExtGState", "/Overprint", overprint_}});
    }

private:
    QPDFObjectHandle layer_, spot_, overprint_;
};

} // namespace hasami
