#pragma once

#include "app/document.h"

#include <QLockFile>
#include <QTimer>

#include <filesystem>
#include <memory>

namespace hasami {

/// Keeps a copy of an unsaved job, so that nothing is lost when the program or the machine stops: after a
/// minute of changes, and when asked. Each running program has a folder of its own, which it locks; it goes
/// when the job is saved or the program ends well.
class RecoveryKeeper : public QObject {
    Q_OBJECT
public:
    explicit RecoveryKeeper(Document& document, int milliseconds = 60'000);
    ~RecoveryKeeper() override;

    /// Copies that no running program holds. They stay locked by this one until they are taken or thrown
    /// away.
    std::size_t abandoned() const { return abandoned_.size(); }

    /// Opens the newest abandoned copy as an unsaved job, and keeps it as this program's own from then on.
    /// False, with `why` told, if it can't be read; it is then set aside under another name.
    bool takeAbandoned(QString& why);
    void discardAbandoned();

    /// Keeps what is not saved, now; in the background.
    void keepNow();

    /// The program ends well: nothing is to be offered at the next start.
    void endWell();

    const std::filesystem::path& folder() const { return folder_; }

Q_SIGNALS:
    void failed(const QString& sentence);

private:
    struct Folder {
        std::filesystem::path path;
        std::shared_ptr<QLockFile> lock;
    };

    void findAbandoned();
    void jobChanged();
    void forget();

    Document& document_;
    std::filesystem::path folder_;
    std::shared_ptr<QLockFile> lock_;
    std::vector<Folder> abandoned_; // the newest last
    QTimer timer_;
    bool keeping_ = false, again_ = false, told_ = false;
};

} // namespace hasami
