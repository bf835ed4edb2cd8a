#pragma once

#include "artwork/artwork.h"
#include "artwork/picture.h"
#include "job/job.h"

#include <map>
#include <memory>
#include <mutex>

namespace hasami {

/// Decodes a PNG or JPEG picture of 4 x 4 to 100 million pixels, turned as the file says. Its kind is told by
/// its content. Throws InputError
/// with a sentence that names the file: not a picture, cut short, too small or large, all transparent.
Picture readPicture(const Asset& asset);

/// Decoded pictures by their assets, kept while anyone uses them and a while longer. For any thread.
class PictureStore {
public:
    /// Throws InputError.
    std::shared_ptr<const Picture> get(const Asset& asset);

private:
    static constexpr std::size_t mostKept = std::size_t{768} << 20; // bytes of pixels

    std::mutex mutex_;
    std::map<std::string, std::shared_ptr<const Picture>> kept_;
};

/// Reads an artwork file and its picture. Throws InputError.
NewPicture openArtwork(const std::filesystem::path& path, PictureStore& pictures);

} // namespace hasami
