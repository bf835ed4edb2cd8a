#include "app/document/artwork_watch.h"

#include "base/error.h"
#include "files/file_name.h"
#include "files/read_file.h"

#include <QFileInfo>

namespace hasami {

ArtworkWatch::ArtworkWatch(Document& document, QObject* parent) : QObject(parent), document_(document) {
    constexpr int restsFor = 400; // ms
    rest_.setSingleShot(true);
    rest_.setInterval(restsFor);
    connect(&document, &Document::artworkRead, this, &ArtworkWatch::watch);
    // A file that is written under another name and renamed is lost to the watcher: its folder reports it.
    for (const auto signal : {&QFileSystemWatcher::fileChanged, &QFileSystemWatcher::directoryChanged})
        connect(&watcher_, signal, this, [this] { rest_.start(); });
    connect(&rest_, &QTimer::timeout, this, &ArtworkWatch::lookAtAll);
}

void ArtworkWatch::watch(const QString& path, const std::string& sha256) {
    shown_[path] = known_[path] = sha256;
    changed_.erase(path);
    watcher_.addPaths({path, QFileInfo(path).absolutePath()});
}

void ArtworkWatch::lookAtAll() {
    for (const auto& [path, sha256] : shown_)
        if (QFileInfo(path).isFile()) {
            watcher_.addPath(path);
            lookAt(path);
        }
}

void ArtworkWatch::lookAt(const QString& path) {
    const auto read = [path](const std::stop_token&) { return readAsset(toPath(path))->sha256; };
    const auto compare = [this, path](const Outcome<std::string>& found) {
        if (!found.value)
            return; // being written, or gone: the watcher notices when it is back
        const std::string shown = shown_[path];
        const std::string& sha256 = *found.value;
        if (sha256 == known_[path] || !document_.job().assets->contains(shown))
            return;
        known_[path] = sha256;
        if (sha256 == shown)
            changed_.erase(path);
        else
            changed_[path] = shown;
        Q_EMIT noticed();
    };
    runInBackground(document_.background().pictures, this, path, read, compare);
}

void ArtworkWatch::takeAll() {
    for (const auto& [path, shown] : std::exchange(changed_, {}))
        document_.takeNewer(shown, path);
    Q_EMIT noticed();
}

void ArtworkWatch::keepAll() {
    changed_.clear();
    Q_EMIT noticed();
}

} // namespace hasami
