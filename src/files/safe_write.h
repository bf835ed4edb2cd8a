#pragma once

#include <filesystem>
#include <functional>
#include <span>
#include <string_view>

namespace hasami {

/// Who may read a file: as the user has set it for new files, or the owner alone.
enum class Readers { asUsual, owner };

/// Writes a whole file or nothing: into a temporary file in the same folder, synced, renamed over the old
/// one, the folder synced. Throws OutputError with a sentence that names the file; an older file of that name
/// is then intact.
void writeSafely(const std::filesystem::path& path, std::string_view bytes,
                 Readers readers = Readers::asUsual);

struct FileBytes {
    std::filesystem::path path;
    std::string_view bytes;
    Readers readers = Readers::asUsual;
    std::function<std::string_view()> more = {}; ///< what follows them, part by part, until one is empty
};

/// Several files: all are whole on disk before the first takes its place, so that a disk that fills up leaves
/// every older one.
void writeSafely(std::span<const FileBytes> files);

} // namespace hasami
