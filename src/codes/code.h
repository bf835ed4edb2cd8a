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
};

/// The modules of a code, 1 where there is ink: a code of bars is one row. Without the quiet zone. By zint.
/// Throws InputError where the code can't hold the text (UTF-8).
Grid<std::uint8_t> modulesOf(CodeKind kind, const std::string& text);

/// How many modules have to stay clear around a code.
int quietModules(CodeKind kind);

} // namespace hasami
