#pragma once

#include <array>
#include <cstddef>
#include <span>
#include <string_view>

namespace hasami {

/// What artwork a file is, whatever its name ends in.
enum class FileKind { png, jpeg, tiff, webp, gif, pdf, svg, postScript, other };

/// What names of artwork files end in, for those who look for some.
inline constexpr std::array<std::string_view, 12> artworkEndings{"tif",  "tiff", "webp", "gif", "png", "jpg",
                                                                 "jpeg", "svg",  "svgz", "pdf", "eps", "ps"};

/// How much stands before a PostScript file's first line: a byte order mark, what ends a transmission, blank
/// lines. Programs that don't expect it read no size.
std::size_t beforePostScript(std::string_view text);

FileKind kindOf(std::span<const std::byte> bytes);

/// Whether a page of vector art is in it.
constexpr bool isVector(FileKind kind) {
    return kind == FileKind::pdf || kind == FileKind::svg || kind == FileKind::postScript;
}

} // namespace hasami
