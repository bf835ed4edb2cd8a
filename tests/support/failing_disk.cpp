// A disk that fails on demand, for a program it is preloaded into: FAILING_FOLDER names the folder that
// lies on it, FAILING_CALL the call that fails ("write", "open", "rename", "fsync"), FAILING_ERROR the
// error's number, FAILING_AFTER how many bytes are written before.

#include <climits>

#include <cerrno>
#include <cstdarg>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <dlfcn.h>
#include <fcntl.h>
#include <string>
#include <sys/stat.h>
#include <unistd.h>

namespace {

std::string setting(const char* name) {
    const char* value = std::getenv(name);
    return value ? value : "";
}

bool isOnDisk(const char* path) {
    const std::string folder = setting("FAILING_FOLDER");
    return !folder.empty() && std::strncmp(path, folder.c_str(), folder.size()) == 0;
}

bool isOnDisk(int file) {
    char target[PATH_MAX + 1] = {};
    const std::string link = "/proc/self/fd/" + std::to_string(file);
    return readlink(link.c_str(), target, PATH_MAX) > 0 && isOnDisk(target);
}

bool fails(const char* call) {
    if (setting("FAILING_CALL") != call)
        return false;
    errno = std::atoi(setting("FAILING_ERROR").c_str());
    return true;
}

template <class Function>
Function* next(const char* name) {
    return reinterpret_cast<Function*>(dlsym(RTLD_NEXT, name));
}

long long written = 0;

} // namespace

extern "C" {

ssize_t write(int file, const void* bytes, size_t count) {
    if (isOnDisk(file)) {
        const long long room = std::atoll(setting("FAILING_AFTER").c_str()) - written;
        if (static_cast<long long>(count) > room && fails("write")) {
            if (room <= 0)
                return -1;
            count = static_cast<size_t>(room); // the last bytes that fit
        }
        written += static_cast<long long>(count);
    }
    return next<decltype(write)>("write")(file, bytes, count);
}

int open64(const char* path, int flags, ...) {
    va_list rest;
    va_start(rest, flags);
    const mode_t mode = va_arg(rest, mode_t);
    va_end(rest);
    if ((flags & (O_WRONLY | O_RDWR)) && isOnDisk(path) && fails("open"))
        return -1;
    return next<int(const char*, int, ...)>("open64")(path, flags, mode);
}

int openat64(int folder, const char* path, int flags, ...) {
    va_list rest;
    va_start(rest, flags);
    const mode_t mode = va_arg(rest, mode_t);
    va_end(rest);
    if ((flags & (O_WRONLY | O_RDWR)) && isOnDisk(path) && fails("open"))
        return -1;
    return next<int(int, const char*, int, ...)>("openat64")(folder, path, flags, mode);
}

int rename(const char* from, const char* to) {
    if (isOnDisk(to) && fails("rename"))
        return -1;
    return next<int(const char*, const char*)>("rename")(from, to);
}

int renameat2(int fromFolder, const char* from, int toFolder, const char* to, unsigned flags) {
    if (isOnDisk(to) && fails("rename"))
        return -1;
    return next<int(int, const char*, int, const char*, unsigned)>("renameat2")(fromFolder, from, toFolder,
                                                                                to, flags);
}

int fsync(int file) {
    return isOnDisk(file) && fails("fsync") ? -1 : next<int(int)>("fsync")(file);
}

int fdatasync(int file) {
    return isOnDisk(file) && fails("fsync") ? -1 : next<int(int)>("fdatasync")(file);
}

} // extern "C"
