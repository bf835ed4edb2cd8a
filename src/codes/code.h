#pragma once

#include "raster/grid.h"

#include <cstdint>
#include <string>

namespace hasami {

/// What a machine reads.
enum class CodeKind {
    none,
    dataMatrix, ///< ISO/IEC 16022
    code128,    ///< ISO/IEC 15417
    qr,         ///< ISO/IEC 18004
    ean13,      ///< ISO/IEC 15420
    ean8,
    upcA,
};

/// Whether it is a row of bars.
bool isOfBars(CodeKind kind);

/// A code and what people read beside it.
struct CodeModules {
    Grid<std::uint8_t> cells; ///< 1 where there is ink: a code of bars is one row
    std::string text;         ///< as printed below it: with the check digit
};

/// The modules of a code, without the quiet zone. By zint. `correction` of a QR code: 0 to 3, for 7, 15, 25
/// and 30 % of it. Throws InputError where the code can't hold the text (UTF-8): letters in an article
/// number, too many digits, a wrong check digit. A missing check digit is added.
CodeModules codeOf(CodeKind kind, const std::string& text, int correction = 1);

/// The modules alone.
Grid<std::uint8_t> modulesOf(CodeKind kind, const std::string& text);

/// How many modules have to stay clear around a code: on its left, which is the most that any side takes.
int quietModules(CodeKind kind);

/// And on its right.
int quietModulesRight(CodeKind kind);

} // namespace hasami
