#pragma once

#include "profile/profile.h"

#include <filesystem>
#include <string>
#include <vector>

namespace hasami {

/// A machine's profile from a JSON file. Throws InputError, naming the file and the value that is wrong. What
/// is ignored since this version does not know it is named in `remarks`, a sentence each.
Profile readProfile(const std::filesystem::path& path, std::vector<std::string>* remarks = nullptr);

} // namespace hasami
