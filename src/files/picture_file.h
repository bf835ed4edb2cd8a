#pragma once

#include "artwork/artwork.h"
#include "artwork/picture.h"
#include "job/job.h"

#include <cstdint>
#include <filesystem>
#include <map>
#include <memory>
#include <mutex>
#include <utility>

namespace hasami {

/// Refuses (InputError) pictures of less than 4 x 4 or more than 100 million pixels.
void checkSize(const Asset& asset, std::int64_t width, std::int64_t height);

/// The resolution, or 0 if it is a mistake in the file: less than 1 or more than 20,000 dots an inch.
double plausibleResolution(double pixelsPerMillimetre);

/// Decodes a PNG, JPEG, TIFF, WebP or GIF picture of 4 x 4 to 100 million pixels, turned as the file says, or
/// reads a page of vector art. Its kind is told by its content. Throws InputError with a sentence that names
/// the file: not artwork, cut short, too small or large, all transparent.
Picture readPicture(const Asset& asset, const PictureWish& wish = {});

/// Decoded pictures by their assets and wishes, kept while anyone uses them and a while longer. For any
/// thread.
class PictureStore {
public:
    /// Throws InputError.
    std::shared_ptr<const Picture> get(const Asset& asset, const PictureWish& wish = {});

private:
    static constexpr std::size_t mostKept = std::size_t{768} << 20; // bytes of pixels

    std::mutex mutex_;
    std::map<std::pair<std::string, PictureWish>, std::shared_ptr<const Picture>> kept_;
};

/// Reads an artwork file and its picture. Throws InputError.
NewPicture openArtwork(const std::filesystem::path& path, PictureStore& pictures, int page = 1);

/// Another page of a file that was read.
NewPicture openPage(const std::shared_ptr<const Asset>& asset, PictureStore& pictures, int page);

} // namespace hasami
