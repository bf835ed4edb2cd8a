#pragma once

#include <filesystem>
#include <string_view>

namespace hasami {

/// Writes a whole file or nothing: into a temporary file in the same folder, synced, renamed over the old
/// one, the folder synced. Throws OutputError with a sentence that names the file; an older file of that name
/// is then intact.
void writeSafely(const std::filesystem::path& path, std::string_view bytes);

} // namespace hasami
