#pragma once

#include "files/pdf_document.h"
#include "sticker/sticker.h"

#include <algorithm>
#include <array>
#include <string>
#include <vector>

namespace hasami {

/// The one way in which cut lines get into a PDF: hairlines in a spot colour, set to overprint, each kind on
/// its own layer. So no line can be thick, filled, or in a colour that prints.
class CutStrokes {
public:
    CutStrokes(PdfDocument& pdf, const Profile& profile, LineKind kind)
        : profile_(profile), kind_(kind), layer_(pdf.addLayer(layerTitle(kind))),
          spot_(pdf.addSpotColour(profile.names.of(kind))), overprint_(pdf.addOverprint()) {}

    LineKind kind() const { return kind_; }
    const QPDFObjectHandle& layer() const { return layer_; }

    /// What its layer and its forms are called in resources: "KissLayer", "DieCut2".
    std::string layerName() const { return word() + "Layer"; }
    std::string formName(const std::string& number) const { return word() + "Cut" + number; }

    /// A form that strokes those of the lines that are of the kind, in their own millimetres. REQUIRES: they
    /// lie in `box`; placed without scaling.
    QPDFObjectHandle form(PdfDocument& pdf, const std::vector<CutLine>& lines, const Box& box) const {
        constexpr double lineWidth = 0.088; // mm: 0.2494 pt
        PdfContent content;
        content.op("/Overprint gs /Spot CS 1 SCN").number(lineWidth).op("w 1 j");
        for (const CutLine& line : lines)
            if (line.kind == kind_)
                for (const Subpath& run : strokesOf(line, profile_))
                    content.run(run).op("S");
        return pdf.addForm(box.grownBy(lineWidth), content,
                           {{"/ColorSpace", "/Spot", spot_}, {"/ExtGState", "/Overprint", overprint_}});
    }

private:
    static std::string layerTitle(LineKind kind) {
        constexpr std::array titles{"Kiss cut", "Crease", "Perforated die cut", "Die cut"};
        return titles[std::size_t(kind)];
    }
    std::string word() const {
        constexpr std::array words{"/Kiss", "/Crease", "/Perforated", "/Die"};
        return words[std::size_t(kind_)];
    }

    const Profile& profile_;
    LineKind kind_;
    QPDFObjectHandle layer_, spot_, overprint_;
};

/// Strokes for each kind that there are lines of; a kind without lines leaves no trace in the file.
inline std::vector<CutStrokes> strokesFor(PdfDocument& pdf, const Profile& profile,
                                          const std::vector<LineKind>& kinds) {
    std::vector<CutStrokes> strokes;
    strokes.reserve(kinds.size());
    for (const LineKind kind : kinds)
        strokes.emplace_back(pdf, profile, kind);
    return strokes;
}

} // namespace hasami
