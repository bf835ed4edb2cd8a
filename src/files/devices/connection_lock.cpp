#include "files/devices/connection_lock.h"

#include "base/error.h"
#include "base/translation.h"
#include "files/read_file.h"

#include <array>
#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <span>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

namespace hasami {

namespace {

constexpr mode_t ownersAlone = 0700;

/// A folder of the user's that goes when the computer is shut down, and in which nobody else writes.
std::filesystem::path lockFolder() {
    const char* runtime = std::getenv("XDG_RUNTIME_DIR");
    const bool isGiven = runtime && *runtime;
    std::filesystem::path folder =
        isGiven ? std::filesystem::path(runtime) / "hasami"
                : std::filesystem::path("/tmp") / ("hasami-" + std::to_string(getuid()));
    mkdir(folder.c_str(), ownersAlone);
    struct stat about {};
    if (lstat(folder.c_str(), &about) != 0 || !S_ISDIR(about.st_mode) || about.st_uid != getuid())
        throw OutputError(
            sentence("%1 can't be used to reserve the machine: it is no folder of yours", folder.string()));
    return folder;
}

/// One name for one machine, however its device is called.
std::string lockName(const SendTarget& target) {
    std::string name = target.name();
    if (target.kind == SendTarget::Kind::device) {
        std::error_code ignored;
        const auto path = std::filesystem::canonical(target.path, ignored);
        name = ignored ? name : path.string();
    }
    return sha256Of(std::as_bytes(std::span(name))) + ".lock";
}

/// Of a device's file: another one each time that it is made. Empty: it is none.
std::string identityOf(const SendTarget& target) {
    struct stat about {};
    if (target.kind != SendTarget::Kind::device || stat(target.path.c_str(), &about) != 0)
        return {};
    return std::to_string(about.st_dev) + " " + std::to_string(about.st_ino) + " " +
           std::to_string(about.st_ctim.tv_sec) + " " + std::to_string(about.st_ctim.tv_nsec) + "\n";
}

} // namespace

ConnectionLock::ConnectionLock(const SendTarget& target)
    : file_(open((lockFolder() / lockName(target)).c_str(), O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW,
                 S_IRUSR | S_IWUSR)),
      device_(identityOf(target)) {
    if (file_ < 0)
        throw OutputError(sentence("%1 can't be reserved: %2", target.name(),
                                   std::string(std::strerror(errno)))); // NOLINT(concurrency-mt-unsafe)
    if (flock(file_, LOCK_EX | LOCK_NB) != 0) {
        close(file_);
        throw OutputError(sentence("%1 is in use by another cut: wait until that ends", target.name()));
    }
}

ConnectionLock::~ConnectionLock() {
    if (file_ >= 0)
        close(file_);
}

std::string ConnectionLock::unfinished() const {
    constexpr std::size_t longest = 8192; // the end of a command, and the knife's lift
    std::array<char, longest> bytes{};
    const ssize_t count = pread(file_, bytes.data(), bytes.size(), 0);
    const std::string_view kept(bytes.data(), std::size_t(std::max<ssize_t>(0, count)));
    return !device_.empty() && kept.starts_with(device_) ? std::string(kept.substr(device_.size()))
                                                         : std::string();
}

void ConnectionLock::setUnfinished(std::string_view bytes) {
    const std::string kept = bytes.empty() ? std::string() : device_ + std::string(bytes);
    if (ftruncate(file_, 0) != 0 || pwrite(file_, kept.data(), kept.size(), 0) != ssize_t(kept.size()))
        throw OutputError(translated("what a machine still has to be sent could not be kept"));
}

} // namespace hasami
