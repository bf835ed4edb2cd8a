#include "reader/picture_answer.h"

#include "artwork/shared_picture.h"
#include "base/error.h"
#include "reader/gif_picture.h"
#include "reader/refusal.h"
#include "reader/tiff_picture.h"
#include "reader/webp_picture.h"

#include <new>
#include <unistd.h>
#include <utility>

namespace hasami {

namespace {

Picture decoded(std::string_view kind, int page, std::span<const std::byte> bytes) {
    if (kind == "tiff")
        return readTiff(bytes, page);
    if (kind == "webp")
        return readWebp(bytes);
    if (kind == "gif")
        return readGif(bytes);
    refuse("%1 is of a kind that can't be read");
}

bool putAll(std::span<const std::byte> bytes) {
    while (!bytes.empty()) {
        const ssize_t count = write(sharedMemory, bytes.data(), bytes.size());
        if (count <= 0)
            return false;
        bytes = bytes.subspan(std::size_t(count));
    }
    return true;
}

} // namespace

void answerPicture(std::string_view kind, int page, std::string bytes) {
    Picture picture = decoded(kind, page, std::as_bytes(std::span(bytes)));
    bytes = {}; // so that a large file takes no memory beside its pixels
    if (!putShared(std::move(picture), putAll))
        throw std::bad_alloc();
}

} // namespace hasami
