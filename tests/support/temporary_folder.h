#pragma once

#include <QTemporaryDir>

#include <filesystem>

namespace hasami::test {

/// A folder that goes with the test.
class TemporaryFolder {
public:
    std::filesystem::path operator/(const char* name) const {
        return std::filesystem::path(folder_.path().toStdString()) / name;
    }
    QString path(const QString& name = {}) const {
        return name.isEmpty() ? folder_.path() : folder_.filePath(name);
    }

private:
    QTemporaryDir folder_;
};

} // namespace hasami::test
