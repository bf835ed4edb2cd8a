#pragma once

#include "profile/profile.h"

#include <filesystem>

namespace hasami {

/// A machine's profile from a JSON file. Throws InputError, naming the file and the value that is wrong.
Profile readProfile(const std::filesystem::path& path);

} // namespace hasami
