#include "files/file_kind.h"

#include <algorithm>
#include <string_view>

namespace hasami {

using namespace std::string_view_literals;

std::size_t beforePostScript(std::string_view text) {
    constexpr std::size_t most = 100;
    const auto first = text.substr(0, most).find_first_not_of("\xef\xbb\xbf\x04 \t\r\n"sv);
    return first == std::string_view::npos ? 0 : first;
}

FileKind kindOf(std::span<const std::byte> bytes) {
    const std::string_view text(reinterpret_cast<const char*>(bytes.data()), bytes.size());
    if (text.starts_with("\x89PNG\r\n\x1a\n"sv))
        return FileKind::png;
    if (text.starts_with("\xff\xd8\xff"sv))
        return FileKind::jpeg;
    for (const std::string_view start : {"II*\0"sv, "MM\0*"sv, "II+\0"sv, "MM\0+"sv})
        if (text.starts_with(start))
            return FileKind::tiff;
    if (text.starts_with("RIFF"sv) && text.substr(0, 12).ends_with("WEBP"sv))
        return FileKind::webp;
    if (text.starts_with("GIF87a"sv) || text.starts_with("GIF89a"sv))
        return FileKind::gif;
    if (text.starts_with("\xc5\xd0\xd3\xc6"sv) || text.substr(beforePostScript(text)).starts_with("%!PS"sv))
        return FileKind::postScript;
    // A PDF file may have something before its header.
    if (text.substr(0, 1024).find("%PDF-"sv) != std::string_view::npos)
        return FileKind::pdf;
    if (text.starts_with("\x1f\x8b"sv)) // compressed by gzip: of artwork, only SVG drawings are
        return FileKind::svg;
    const std::string_view start = text.substr(0, 65'536);
    const auto first = start.find_first_not_of("\xef\xbb\xbf \t\r\n"sv);
    const bool isMarkup = first != std::string_view::npos && start[first] == '<';
    if (isMarkup &&
        (start.find("<svg"sv) != std::string_view::npos || start.find(":svg"sv) != std::string_view::npos))
        return FileKind::svg;
    if (text.starts_with("\xff\xfe<"sv) || text.starts_with("\xfe\xff\0<"sv)) // SVG in UTF-16
        return FileKind::svg;
    return FileKind::other;
}

} // namespace hasami
