#include "reader/state_colours.h"

namespace hasami {

Rgba colourOf(const GfxRGB& rgb) {
    return {colToByte(rgb.r), colToByte(rgb.g), colToByte(rgb.b), 255};
}

std::string spotName(GfxColorSpace* space) {
    if (!space)
        return {};
    if (space->getMode() == csSeparation)
        return static_cast<GfxSeparationColorSpace*>(space)->getName()->toStr();
    if (space->getMode() == csDeviceN && space->getNComps() == 1)
        return static_cast<GfxDeviceNColorSpace*>(space)->getColorantName(0);
    return {};
}

Inks inksOf(GfxColorSpace* space) {
    if (!space)
        return Inks::none;
    switch (space->getMode()) {
    case csDeviceCMYK:
        return Inks::cmyk;
    case csDeviceGray:
    case csCalGray:
        return Inks::none;
    case csICCBased:
        return space->getNComps() == 4 ? Inks::cmyk : space->getNComps() == 1 ? Inks::none : Inks::other;
    case csIndexed:
        return inksOf(static_cast<GfxIndexedColorSpace*>(space)->getBase());
    case csSeparation:
        return inksOf(static_cast<GfxSeparationColorSpace*>(space)->getAlt());
    case csDeviceN:
        return inksOf(static_cast<GfxDeviceNColorSpace*>(space)->getAlt());
    case csPattern:
        return inksOf(static_cast<GfxPatternColorSpace*>(space)->getUnder());
    default:
        return Inks::other;
    }
}

} // namespace hasami
