#include "files/read_file.h"

#include "base/error.h"
#include "base/translation.h"
#include "files/file_name.h"

#include <QCryptographicHash>
#include <QFile>
#include <QFileInfo>

namespace hasami {

std::vector<std::byte> readFile(const std::filesystem::path& path, std::size_t mostBytes) {
    const auto refuse = [&](const char* english, const std::string& value = {}) {
        throw InputError(sentence(english, fileName(path), value));
    };
    const QFileInfo info(toQString(path));
    if (info.exists() && !info.isFile())
        refuse("%1 can't be read: it is not a file");
    QFile file(toQString(path));
    if (!file.open(QIODevice::ReadOnly))
        refuse("%1 can't be read: %2", file.errorString().toStdString());
    if (file.size() > qint64(mostBytes))
        refuse("%1 is larger than %2 MB, the most that Hasami opens", std::to_string(mostBytes >> 20));
    std::vector<std::byte> bytes(static_cast<std::size_t>(file.size()));
    if (file.read(reinterpret_cast<char*>(bytes.data()), file.size()) != file.size())
        refuse("%1 can't be read to its end: %2", file.errorString().toStdString());
    return bytes;
}

std::string sha256Of(std::span<const std::byte> bytes) {
    const QByteArrayView view(reinterpret_cast<const char*>(bytes.data()), qsizetype(bytes.size()));
    QCryptographicHash hash(QCryptographicHash::Sha256);
    hash.addData(view);
    return hash.result().toHex().toStdString();
}

std::shared_ptr<const Asset> readAsset(const std::filesystem::path& path) {
    constexpr std::size_t mostBytes = std::size_t{512} << 20;
    auto bytes = readFile(path, mostBytes);
    auto sha256 = sha256Of(bytes);
    return std::make_shared<const Asset>(Asset{std::move(sha256), fileName(path), std::move(bytes)});
}

} // namespace hasami
