#include "lettering/shipped_fonts.h"

#define HASAMI_SHIP(symbol, file)                                                                            \
    asm(".pushsection .rodata\n"                                                                             \
        ".global " #symbol "Begin\n"                                                                         \
        ".global " #symbol "End\n"                                                                           \
        ".balign 16\n" #symbol "Begin:\n"                                                                    \
        ".incbin \"" HASAMI_FONTS "/" file "\"\n" #symbol "End:\n"                                           \
        ".byte 0\n"                                                                                          \
        ".popsection\n");                                                                                    \
    extern "C" {                                                                                             \
    extern const char symbol##Begin[];                                                                       \
    extern const char symbol##End[];                                                                         \
    }

HASAMI_SHIP(hasamiOpenSans, "OpenSans-Regular.ttf")
HASAMI_SHIP(hasamiOpenSansExtraBold, "OpenSans-ExtraBold.ttf")
HASAMI_SHIP(hasamiLeagueSpartan, "LeagueSpartan-Black.otf")
HASAMI_SHIP(hasamiBebasNeue, "BebasNeue-Bold.otf")
HASAMI_SHIP(hasamiLobsterTwo, "LobsterTwo-BoldItalic.otf")
HASAMI_SHIP(hasamiComicNeue, "ComicNeue-Bold.otf")
HASAMI_SHIP(hasamiQuicksand, "Quicksand-Bold.ttf")

namespace hasami {

const std::vector<ShippedFont>& shippedFonts() {
    const auto bytes = [](const char* begin, const char* end) {
        return std::as_bytes(std::span(begin, end));
    };
    static const std::vector<ShippedFont> all{
        {"Open Sans", "Regular", "OpenSans-Regular.ttf", bytes(hasamiOpenSansBegin, hasamiOpenSansEnd), true},
        {"League Spartan", "Black", "LeagueSpartan-Black.otf",
         bytes(hasamiLeagueSpartanBegin, hasamiLeagueSpartanEnd)},
        {"Open Sans", "ExtraBold", "OpenSans-ExtraBold.ttf",
         bytes(hasamiOpenSansExtraBoldBegin, hasamiOpenSansExtraBoldEnd)},
        {"Bebas Neue", "Bold", "BebasNeue-Bold.otf", bytes(hasamiBebasNeueBegin, hasamiBebasNeueEnd)},
        {"Lobster Two", "Bold Italic", "LobsterTwo-BoldItalic.otf",
         bytes(hasamiLobsterTwoBegin, hasamiLobsterTwoEnd)},
        {"Comic Neue", "Bold", "ComicNeue-Bold.otf", bytes(hasamiComicNeueBegin, hasamiComicNeueEnd)},
        {"Quicksand", "Bold", "Quicksand-Bold.ttf", bytes(hasamiQuicksandBegin, hasamiQuicksandEnd)},
    };
    return all;
}

} // namespace hasami
