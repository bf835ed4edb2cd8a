#include "files/safe_write.h"

#include "base/error.h"
#include "files/file_name.h"

#include <QSaveFile>

#include <fcntl.h>
#include <unistd.h>

namespace hasami {

namespace {

/// The rename is on disk only once the folder is. Some file systems can't sync folders: the file is whole
/// anyway.
void syncFolder(const std::filesystem::path& folder) {
    const int handle = ::open(folder.empty() ? "." : folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (handle >= 0) {
        ::fsync(handle);
        ::close(handle);
    }
}

} // namespace

void writeSafely(const std::filesystem::path& path, std::string_view bytes) {
    const auto fail = [&](const QString& why) {
        throw OutputError(fileName(path) + " can't be written: " + why.toStdString());
    };
    QSaveFile file(toQString(path));
    if (!file.open(QIODevice::WriteOnly))
        fail(file.errorString());
    if (file.write(bytes.data(), qint64(bytes.size())) != qint64(bytes.size()) || !file.commit())
        fail(file.errorString());
    syncFolder(path.parent_path());
}

} // namespace hasami
