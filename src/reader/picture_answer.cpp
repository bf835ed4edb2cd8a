#include "reader/picture_answer.h"

#include "artwork/shared_picture.h"
#include "base/error.h"
#include "reader/gif_picture.h"
#include "reader/refusal.h"
#include "reader/tiff_picture.h"
#include "reader/webp_picture.h"

#include <new>
#include <sys/mman.h>
#include <unistd.h>

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

} // namespace

void answerPicture(std::string_view kind, int page, std::span<const std::byte> bytes) {
    const Picture picture = decoded(kind, page, bytes);
    const std::size_t size = sharedBytes(picture);
    if (ftruncate(sharedMemory, off_t(size)) != 0)
        throw std::bad_alloc();
    void* room = mmap(nullptr, size, PROT_READ | PROT_WRITE, MAP_SHARED, sharedMemory, 0);
    if (room == MAP_FAILED)
        throw std::bad_alloc();
    putShared(picture, {static_cast<std::byte*>(room), size});
    munmap(room, size);
}

} // namespace hasami
