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

void SeenSpaces::add(GfxColorSpace* space) {
    if (!space)
        return;
    const GfxColorSpaceMode mode = space->getMode();
    if (mode == csIndexed)
        return add(static_cast<GfxIndexedColorSpace*>(space)->getBase());
    if (mode == csPattern)
        return add(static_cast<GfxPatternColorSpace*>(space)->getUnder());
    device |= mode != csICCBased;
    if (mode == csDeviceCMYK || mode == csSeparation || mode == csDeviceN ||
        (mode == csICCBased && space->getNComps() == 4))
        inks = true;
    else if (mode == csDeviceGray)
        grey = true;
    else
        other = true;
}

} // namespace hasami
