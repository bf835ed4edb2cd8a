#pragma once

namespace hasami {

/// Between the parts of what hasami-reader says where it refuses a file: its sentence in English, and values.
constexpr char refusalSeparator = '\x1f';

} // namespace hasami
