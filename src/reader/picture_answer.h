#pragma once

#include <string>
#include <string_view>

namespace hasami {

/// The file descriptor of the memory that hasami-reader shares with who started it.
inline constexpr int sharedMemory = 3;

/// Decodes a picture ("tiff", "webp" or "gif"; a page counted from 1) and puts it into the shared memory
/// (artwork/shared_picture.h). Throws InputError without the file's name.
void answerPicture(std::string_view kind, int page, std::string bytes);

} // namespace hasami
