#pragma once

#include "artwork/artwork.h"
#include "artwork/picture.h"
#include "job/job.h"
#include "workshop/cache.h"

#include <cstdint>
#include <filesystem>
#include <memory>
#include <stop_token>

namespace hasami {

/// Decodes a PNG, JPEG, TIFF, WebP or GIF picture of 4 x 4 to 100 million pixels, turned as the file says, or
/// reads a page of vector art. Its kind is identified by its content. PNG and JPEG are decoded by Qt, their
/// headers checked first; all else by hasami-reader. Throws InputError with a sentence that names the file:
/// not artwork, cut short, too small or large, all transparent; and Stopped: the reader is then ended at
/// once.
Picture readPicture(const Asset& asset, const PictureWish& wish = {}, const std::stop_token& stop = {});

/// Decoded pictures and pages by their assets and wishes, up to a limit in bytes, the least recently used let
/// go first. For any thread; of those that want the same picture at once, one decodes it.
class PictureStore {
public:
    explicit PictureStore(std::size_t mostBytes = std::size_t{768} << 20) : kept_(mostBytes) {}

    /// Throws InputError and Stopped.
    std::shared_ptr<const Picture> get(const Asset& asset, const PictureWish& wish = {},
                                       const std::stop_token& stop = {});

    std::size_t bytes() const { return kept_.bytes(); } ///< of everything kept

private:
    Cache kept_;
};

/// Reads an artwork file and its picture. Throws InputError.
NewPicture openArtwork(const std::filesystem::path& path, PictureStore& pictures, int page = 1,
                       const std::stop_token& stop = {});

/// Another page of a file that was read.
NewPicture openPage(const std::shared_ptr<const Asset>& asset, PictureStore& pictures, int page,
                    const std::stop_token& stop = {});

} // namespace hasami
