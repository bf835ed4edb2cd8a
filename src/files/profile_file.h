#pragma once

#include "profile/profile.h"

#include <filesystem>
#include <string>
#include <vector>

namespace hasami {

inline constexpr int profileFormat = 2; ///< of files with a profile

/// A machine's profile from a JSON file. Throws InputError, naming the file and the value that is wrong. What
/// is ignored since this version does not know it is named in `remarks`, a sentence each.
Profile readProfile(const std::filesystem::path& path, std::vector<std::string>* remarks = nullptr);

/// What such a file has.
std::string profileText(const Profile& profile);

} // namespace hasami
