#include "files/colour_profile.h"

#include "files/read_file.h"

#include <algorithm>
#include <array>
#include <lcms2.h>

namespace hasami {

namespace {

struct CloseProfile {
    void operator()(void* profile) const { cmsCloseProfile(profile); }
};
using OpenProfile = std::unique_ptr<void, CloseProfile>;

std::string descriptionOf(cmsHPROFILE profile) {
    std::array<char, 256> text{};
    cmsGetProfileInfoASCII(profile, cmsInfoDescription, "en", "US", text.data(), text.size());
    return text.data();
}

} // namespace

ColourProfile colourProfileOf(const Asset& asset) {
    const OpenProfile profile(cmsOpenProfileFromMem(asset.bytes.data(), cmsUInt32Number(asset.bytes.size())));
    if (!profile)
        refuse(asset, "%1 is no ICC colour profile, or a damaged one");
    const cmsProfileClassSignature kind = cmsGetDeviceClass(profile.get());
    if (kind != cmsSigOutputClass && kind != cmsSigDisplayClass)
        refuse(asset, "%1 is an ICC profile of no printer: take one of the printer, its ink and medium");
    ColourProfile about{descriptionOf(profile.get())};
    switch (cmsGetColorSpace(profile.get())) {
    case cmsSigCmykData:
        about.channels = 4;
        break;
    case cmsSigRgbData:
        about.channels = 3;
        break;
    case cmsSigGrayData:
        about.channels = 1;
        break;
    default:
        refuse(asset, "%1 is an ICC profile of other colours than grey, RGB and CMYK");
    }
    if (about.name.empty())
        about.name = asset.name;
    return about;
}

std::shared_ptr<const Asset> readColourProfile(const std::filesystem::path& path) {
    auto asset = readAsset(path);
    colourProfileOf(*asset);
    return asset;
}

std::string standardRgbProfile() {
    const OpenProfile profile(cmsCreate_sRGBProfile());
    cmsUInt32Number size = 0;
    cmsSaveProfileToMem(profile.get(), nullptr, &size);
    std::string bytes(size, '\0');
    cmsSaveProfileToMem(profile.get(), bytes.data(), &size);
    constexpr std::size_t date = 24, dateSize = 12, digest = 84, digestSize = 16; // of the header, ICC.1:2010
    std::fill_n(bytes.begin() + date, dateSize, '\0');
    bytes[date + 1] = 1, bytes[date + 3] = 1, bytes[date + 5] = 1; // a day that there is
    std::fill_n(bytes.begin() + digest, digestSize, '\0');
    return bytes;
}

} // namespace hasami
