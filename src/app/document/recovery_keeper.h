#pragma once

#include "app/document/document.h"

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

    /// Opens the newest abandoned copy as an unsaved job, and keeps it as this program's own from then on; it
    /// is read in the background. `then` gets a sentence if it can't be read; it is then set aside under
    /// another name. Where reading was stopped it is abandoned as before.
    void takeAbandoned(const std::function<void(const QString& why)>& then);
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
    void take(const Folder& kept, const Document::ReadJob& read);
    static void setAside(const Folder& kept);
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
