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
    const FineColours& fine = *picture.fine;
    const Profile screen(cmsCreate_sRGBProfile(), &cmsCloseProfile);
    const std::unique_ptr<void, decltype(&cmsDeleteTransform)> transform(
        cmsCreateTransform(inks.get(), fine.bits() == 16 ? TYPE_CMYK_16 : TYPE_CMYK_8, screen.get(),
                           TYPE_RGB_8, INTENT_RELATIVE_COLORIMETRIC, cmsFLAGS_BLACKPOINTCOMPENSATION),
        &cmsDeleteTransform);
    if (!transform)
        return;
    const auto width = std::size_t(picture.pixels.width());
    std::vector<std::uint8_t> to(3 * width);
    for (int y = 0; y < picture.pixels.height(); ++y) {
        const std::size_t bytesOfRow = fine.samples().size() / std::size_t(fine.height());
        cmsDoTransform(transform.get(), &fine.samples()[std::size_t(y) * bytesOfRow], to.data(),
                       cmsUInt32Number(width));
        const auto pixels = picture.pixels.row(y);
        for (std::size_t x = 0; x < width; ++x)
            pixels[x] = {to[3 * x], to[3 * x + 1], to[3 * x + 2], pixels[x].coverage};
    }
}

} // namespace hasami
