#include "app/document/recovery_keeper.h"

#include "app/words/words.h"
#include "base/error.h"
#include "files/file_name.h"
#include "files/recovery.h"

#include <QFileInfo>
#include <QUuid>

#include <algorithm>

namespace hasami {

namespace {

std::shared_ptr<QLockFile> lockOf(const std::filesystem::path& folder) {
    auto lock = std::make_shared<QLockFile>(toQString(folder / "lock"));
    lock->setStaleLockTime(0); // only a program that is gone leaves a stale lock
    return lock;
}

} // namespace

RecoveryKeeper::RecoveryKeeper(Document& document, int milliseconds)
    : QObject(&document), document_(document),
      folder_(recoveryPlace() / QUuid::createUuid().toString(QUuid::WithoutBraces).toStdString()) {
    findAbandoned();
    timer_.setSingleShot(true);
    timer_.setInterval(milliseconds);
    connect(&timer_, &QTimer::timeout, this, &RecoveryKeeper::keepNow);
    connect(&document, &Document::jobChanged, this, &RecoveryKeeper::jobChanged);
}

RecoveryKeeper::~RecoveryKeeper() = default;

void RecoveryKeeper::findAbandoned() {
    std::error_code unreadable;
    for (const auto& entry : std::filesystem::directory_iterator(recoveryPlace(), unreadable)) {
        if (!std::filesystem::exists(entry.path() / "job.json", unreadable))
            continue;
        auto lock = lockOf(entry.path());
        if (lock->tryLock(0))
            abandoned_.push_back({entry.path(), std::move(lock)});
    }
    std::sort(abandoned_.begin(), abandoned_.end(), [](const Folder& a, const Folder& b) {
        std::error_code ignored;
        return std::filesystem::last_write_time(a.path / "job.json", ignored) <
               std::filesystem::last_write_time(b.path / "job.json", ignored);
    });
}

void RecoveryKeeper::takeAbandoned(const std::function<void(const QString& why)>& then) {
    const Folder newest = std::move(abandoned_.back());
    abandoned_.pop_back();
    document_.read(
        tr("Reading the recovery copy"), tr("The recovery copy can't be read"),
        [path = newest.path, fonts = document_.sharedFonts()](const std::stop_token&) {
            Recovered recovered = readRecovery(path, fonts->onMachine());
            return Document::ReadJob{std::make_shared<const Job>(std::move(recovered.job)),
                                     QString::fromStdString(recovered.jobPath),
                                     QFileInfo(toQString(path / "job.json")).lastModified()};
        },
        [this, newest, then](const Outcome<Document::ReadJob>& outcome) {
            if (outcome.value)
                take(newest, *outcome.value);
            else if (outcome.isStopped())
                abandoned_.push_back(newest);
            else
                setAside(newest);
            then(
                outcome.failure.empty()
                    ? QString()
                    : tr("The recovery copy can't be used: %1").arg(QString::fromStdString(outcome.failure)));
        });
}

/// From now on the folder is this program's own: nothing is copied, nothing can be lost between.
void RecoveryKeeper::take(const Folder& kept, const Document::ReadJob& read) {
    forget();
    folder_ = kept.path;
    lock_ = kept.lock;
    document_.restore(read.job, read.path, read.keptAt);
}

/// It stays on the disk, and is not offered again.
void RecoveryKeeper::setAside(const Folder& kept) {
    std::error_code ignored;
    std::filesystem::rename(kept.path / "job.json", kept.path / "job.json.unusable", ignored);
}

void RecoveryKeeper::discardAbandoned() {
    for (Folder& folder : std::exchange(abandoned_, {})) {
        folder.lock->unlock();
        std::error_code ignored;
        std::filesystem::remove_all(folder.path, ignored);
    }
}

void RecoveryKeeper::jobChanged() {
    if (!document_.isModified()) {
        timer_.stop();
        if (!keeping_)
            forget();
    } else if (!timer_.isActive()) {
        timer_.start();
    }
}

void RecoveryKeeper::keepNow() {
    timer_.stop();
    if (!document_.isModified())
        return;
    if (keeping_) {
        again_ = true;
        return;
    }
    if (!lock_) {
        try {
            makePrivateFolder(folder_);
        } catch (const OutputError&) {
            // reported when the copy is kept there
        }
        lock_ = lockOf(folder_);
        lock_->tryLock(0);
    }
    keeping_ = true;
    const auto keep = [folder = folder_, job = document_.sharedJob(),
                       path = document_.path().toStdString()](const std::stop_token&) {
        keepForRecovery(folder, *job, path);
        return true;
    };
    runInBackground(
        document_.background().recovery, this, tr("The recovery copy can't be written"), keep,
        [this](const Outcome<bool>& kept) {
            keeping_ = false;
            if (!kept.failure.empty() && !std::exchange(told_, true)) // once; it is tried again all the same
                Q_EMIT failed(tr("No recovery copy is kept: %1").arg(QString::fromStdString(kept.failure)));
            if (!document_.isModified())
                forget();
            else if (std::exchange(again_, false))
                keepNow();
        });
}

/// Behind what is being kept, so that it does not come back.
void RecoveryKeeper::forget() {
    if (!lock_)
        return;
    const auto remove = [folder = folder_, lock = std::move(lock_)](const std::stop_token&) {
        lock->unlock();
        std::error_code ignored;
        std::filesystem::remove_all(folder, ignored);
        return true;
    };
    runInBackground(document_.background().recovery, this, tr("The recovery copy can't be removed"), remove,
                    [](const Outcome<bool>&) {});
}

void RecoveryKeeper::endWell() {
    timer_.stop();
    forget();
}

} // namespace hasami
