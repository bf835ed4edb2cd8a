#pragma once

#include "artwork/artwork.h"

#include <cstddef>
#include <filesystem>
#include <memory>
#include <span>
#include <string>
#include <vector>

namespace hasami {

/// A whole file. Throws InputError if it can't be read or is larger than `mostBytes`.
std::vector<std::byte> readFile(const std::filesystem::path& path, std::size_t mostBytes);

/// 64 lower-case hexadecimal digits.
std::string sha256Of(std::span<const std::byte> bytes);

/// Throws InputError: the asset's name, and why it can't be used.
[[noreturn]] void refuse(const Asset& asset, const std::string& why);

/// An artwork file as it is, up to 512 MB. Throws InputError.
std::shared_ptr<const Asset> readAsset(const std::filesystem::path& path);

} // namespace hasami
