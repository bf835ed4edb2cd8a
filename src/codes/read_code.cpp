#include "codes/read_code.h"

#define ZX_USE_UTF8 // texts in UTF-8
#include <ZXing/ReadBarcode.h>

namespace hasami {

std::optional<std::string> readCode(const Grid<std::uint8_t>& picture) {
    if (picture.isEmpty())
        return {};
    ZXing::DecodeHints hints;
    hints.setFormats(ZXing::BarcodeFormat::DataMatrix | ZXing::BarcodeFormat::Code128);
    hints.setTryHarder(true);
    const ZXing::ImageView view(picture.cells().data(), picture.width(), picture.height(),
                                ZXing::ImageFormat::Lum);
    const ZXing::Result result = ZXing::ReadBarcode(view, hints);
    return result.isValid() ? std::optional(result.text()) : std::nullopt;
}

} // namespace hasami
