#pragma once

#include <QString>

#include <filesystem>
#include <string>

namespace hasami {

inline QString toQString(const std::filesystem::path& path) {
    return QString::fromStdString(path.string());
}
inline std::filesystem::path toPath(const QString& name) {
    return name.toStdString();
}

/// The name that messages show: without its folder.
inline std::string fileName(const std::filesystem::path& path) {
    return path.filename().string();
}

} // namespace hasami
