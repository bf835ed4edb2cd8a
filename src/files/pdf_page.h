#pragma once

#include "files/qpdf.h"
#include "geometry/affine.h"

#include <memory>
#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <vector>

namespace hasami {

/// A page of another PDF file, to be put into one of ours as it is: its colours, spot colours, fonts and soft
/// masks. Kept until ours is written, which reads from it.
class PdfPage {
public:
    /// `page` counts from 1. Throws InputError.
    PdfPage(std::shared_ptr<const std::string> pdf, int page);

    /// A form of the page's own space, in the file `into`.
    QPDFObjectHandle formIn(QPDF& into);

    /// From the page's own space to the unit square of the page as one sees it, y down.
    Affine toUnitSquare() const;

    /// Its layers in the file `into`, and whether each is shown.
    struct Layer {
        QPDFObjectHandle group;
        bool isShown;
    };
    std::vector<Layer> layersIn(QPDF& into);

private:
    std::shared_ptr<const std::string> bytes_;
    std::unique_ptr<QPDF> file_;
    QPDFObjectHandle page_;
    double left_ = 0, bottom_ = 0, right_ = 0, top_ = 0; // its crop box
    int turned_ = 0;                                     // degrees clockwise
};

/// The file with what a printed page shows beside its content drawn into it (notes that are printed, filled
/// fields), without what ends the drawing before its end, and cropped within the paper. Nothing where there
/// is nothing to do. Throws std::exception where the file can't be read.
std::optional<std::string> pdfAsPrinted(std::string_view pdf, int page);

/// The file with nothing drawn in the spot colours.
std::string pdfWithoutSpots(const std::string& pdf, const std::set<std::string>& spots);
/// The file with nothing drawn on layers of these names, or nothing but on those of one name.
std::string pdfWithoutLayers(const std::string& pdf, const std::set<std::string>& layers);
std::string pdfOfLayer(const std::string& pdf, const std::string& layer);

} // namespace hasami
