#include "files/safe_write.h"

#include "base/error.h"
#include "base/translation.h"
#include "files/file_name.h"

#include <QSaveFile>

#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <memory>
#include <unistd.h>
#include <vector>

namespace hasami {

namespace {

[[noreturn]] void fail(const std::filesystem::path& path, const QString& why) {
    throw OutputError(sentence("%1 can't be written: %2", fileName(path), why.toStdString()));
}

/// The rename is on disk only once the folder is. Some file systems can't sync folders: the file is whole
/// anyway.
void syncFolder(const std::filesystem::path& folder) {
    const int handle = ::open(folder.empty() ? "." : folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (handle >= 0) {
        ::fsync(handle);
        ::close(handle);
    }
}

void writeAll(QSaveFile& file, const std::filesystem::path& path, std::string_view bytes) {
    while (!bytes.empty()) { // a disk takes what still fits, and says why no more only when asked again
        const qint64 taken = file.write(bytes.data(), qint64(bytes.size()));
        if (taken <= 0)
            fail(path, file.errorString());
        bytes.remove_prefix(std::size_t(taken));
    }
}

/// A file beside its place, whole and on disk, but not yet in its place.
std::unique_ptr<QSaveFile> writeBeside(const FileBytes& given) {
    const auto& [path, bytes, readers, more] = given;
    const std::filesystem::path folder = path.parent_path();
    std::error_code ignored;
    if (!folder.empty() && !std::filesystem::is_directory(folder, ignored))
        fail(path, "the folder " + toQString(folder) + " is not there");
    auto file = std::make_unique<QSaveFile>(toQString(path));
    if (!file->open(QIODevice::WriteOnly | QIODevice::Unbuffered))
        fail(path, file->errorString());
    if (readers == Readers::owner)
        file->setPermissions(QFileDevice::ReadOwner | QFileDevice::WriteOwner);
    writeAll(*file, path, bytes);
    for (std::string_view part = more ? more() : ""; !part.empty(); part = more())
        writeAll(*file, path, part);
    if (::fsync(file->handle()) != 0)
        fail(path, QString::fromLocal8Bit(std::strerror(errno)));
    return file;
}

} // namespace

void writeSafely(const std::filesystem::path& path, std::string_view bytes, Readers readers) {
    const FileBytes one[] = {{path, bytes, readers, {}}};
    writeSafely(one);
}

void writeSafely(std::span<const FileBytes> files) {
    std::vector<std::unique_ptr<QSaveFile>> written;
    for (const FileBytes& file : files)
        written.push_back(writeBeside(file));
    for (std::size_t i = 0; i < files.size(); ++i) {
        if (!written[i]->commit())
            fail(files[i].path, written[i]->errorString());
        syncFolder(files[i].path.parent_path());
    }
}

} // namespace hasami
