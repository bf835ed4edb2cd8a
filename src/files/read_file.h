#pragma once

#include "artwork/artwork.h"
#include "base/error.h"
#include "base/translation.h"

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

/// Throws InputError: an English sentence with "%1" for the asset's name, "%2" and on for `values`.
template <typename... Values>
[[noreturn]] void refuse(const Asset& asset, const char* english, const Values&... values) {
    throw InputError(sentence(english, asset.name, values...));
}

/// An artwork file as it is, up to 512 MB. Throws InputError.
std::shared_ptr<const Asset> readAsset(const std::filesystem::path& path);

} // namespace hasami
