#include "queue/entry_lock.h"

#include "base/error.h"
#include "base/translation.h"
#include "files/file_name.h"

#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

namespace hasami {

namespace {

/// Of the whole file, by the open file and not by the process.
bool control(int handle, int command, flock& about) {
    about.l_type = F_WRLCK;
    about.l_whence = SEEK_SET;
    return fcntl(handle, command, &about) == 0;
}

/// Whether the open file is still the one of that name: another one may have removed it meanwhile.
bool isFile(int handle, const std::filesystem::path& file) {
    struct stat own {
    }, named{};
    return fstat(handle, &own) == 0 && stat(file.c_str(), &named) == 0 && own.st_ino == named.st_ino &&
           own.st_dev == named.st_dev;
}

} // namespace

std::optional<EntryLock> EntryLock::tryTake(const std::filesystem::path& file) {
    for (;;) {
        EntryLock lock(open(file.c_str(), O_RDWR | O_CREAT | O_CLOEXEC, S_IRUSR | S_IWUSR));
        if (lock.handle_ < 0)
            throw OutputError(sentence("%1 can't be written: %2", fileName(file),
                                       std::string(std::strerror(errno)))); // NOLINT(concurrency-mt-unsafe)
        flock about{};
        if (!control(lock.handle_, F_OFD_SETLK, about))
            return {};
        if (isFile(lock.handle_, file))
            return lock;
    }
}

bool EntryLock::isTaken(const std::filesystem::path& file) {
    const EntryLock asking(open(file.c_str(), O_RDWR | O_CLOEXEC));
    flock about{};
    return asking.handle_ >= 0 && control(asking.handle_, F_OFD_GETLK, about) && about.l_type != F_UNLCK;
}

EntryLock::~EntryLock() {
    if (handle_ >= 0)
        close(handle_);
}

void EntryLock::removeFile(const std::filesystem::path& file) {
    std::error_code ignored;
    if (isFile(handle_, file))
        std::filesystem::remove(file, ignored);
}

} // namespace hasami
