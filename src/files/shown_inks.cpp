#include "files/shown_inks.h"

#include <lcms2.h>
#include <memory>
#include <vector>

namespace hasami {

void showInksBy(Picture& picture, std::span<const std::byte> bytes) {
    using Profile = std::unique_ptr<void, decltype(&cmsCloseProfile)>;
    const Profile inks(cmsOpenProfileFromMem(bytes.data(), cmsUInt32Number(bytes.size())), &cmsCloseProfile);
    if (!inks || cmsGetColorSpace(inks.get()) != cmsSigCmykData)
        return;
    const Profile screen(cmsCreate_sRGBProfile(), &cmsCloseProfile);
    const std::unique_ptr<void, decltype(&cmsDeleteTransform)> transform(
        cmsCreateTransform(inks.get(), TYPE_CMYK_16, screen.get(), TYPE_RGB_8, INTENT_RELATIVE_COLORIMETRIC,
                           cmsFLAGS_BLACKPOINTCOMPENSATION),
        &cmsDeleteTransform);
    if (!transform)
        return;
    const FineColours& fine = *picture.fine;
    const int scale = fine.bits == 8 ? 257 : 1;
    const auto width = std::size_t(picture.pixels.width());
    std::vector<std::uint16_t> from(4 * width);
    std::vector<std::uint8_t> to(3 * width);
    for (int y = 0; y < picture.pixels.height(); ++y) {
        const auto row = fine.cells.row(y);
        for (std::size_t x = 0; x < width; ++x)
            for (std::size_t ink = 0; ink < 4; ++ink)
                from[4 * x + ink] = std::uint16_t(row[x][ink] * scale);
        cmsDoTransform(transform.get(), from.data(), to.data(), cmsUInt32Number(width));
        const auto pixels = picture.pixels.row(y);
        for (std::size_t x = 0; x < width; ++x)
            pixels[x] = {to[3 * x], to[3 * x + 1], to[3 * x + 2], pixels[x].coverage};
    }
}

} // namespace hasami
