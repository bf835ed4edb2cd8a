#pragma once

#include "app/document/document.h"

#include <QFileSystemWatcher>
#include <QObject>
#include <QTimer>

#include <map>
#include <string>

namespace hasami {

/// Notices when files that artwork was read from change on disk while the program runs.
class ArtworkWatch : public QObject {
    Q_OBJECT
public:
    explicit ArtworkWatch(Document& document, QObject* parent = nullptr);

    /// Files whose newer state the job does not have yet.
    const std::map<QString, std::string>& changed() const { return changed_; } ///< with the SHA-256 shown now
    void takeAll();
    void keepAll(); ///< what is shown stays; reported again only when the files change once more

Q_SIGNALS:
    void noticed(); ///< changed() has become another

private:
    void watch(const QString& path, const std::string& sha256);
    void lookAtAll();
    void lookAt(const QString& path);

    Document& document_;
    QFileSystemWatcher watcher_;
    QTimer rest_;                          ///< programs write in several steps
    std::map<QString, std::string> shown_; ///< by path, SHA-256 of what was read
    std::map<QString, std::string> known_; ///< and of what was seen there last
    std::map<QString, std::string> changed_;
};

} // namespace hasami
