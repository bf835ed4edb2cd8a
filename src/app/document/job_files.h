#pragma once

#include "app/document/background.h"
#include "job/history.h"
#include "workshop/make_all.h"

#include <QDateTime>
#include <QObject>
#include <QString>

#include <atomic>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

namespace hasami {

/// The files of a document: which one the job belongs to and what of it is saved, saves, and all reading and
/// writing that is under way.
class JobFiles : public QObject {
    Q_OBJECT
public:
    JobFiles(Background& background, PictureSource pictures, std::shared_ptr<const Job> saved);

    const QString& path() const { return path_; } ///< empty until saved or opened
    bool isSaved(const std::shared_ptr<const Job>& job) const { return History::areEqual(job, saved_); }

    /// Another job takes the place of the present one. `saved`: what its file holds. `asOf`: of a recovered
    /// copy, when it was kept; else the file is taken as it is now.
    void start(const QString& path, std::shared_ptr<const Job> saved, std::optional<QDateTime> asOf = {});
    /// Why saving would overwrite what somebody else has saved there since the job was opened, saved or kept:
    /// a sentence that says whose is newer. Empty: nobody has.
    QString conflict() const;
    /// Counts the jobs: what was begun for one does not touch the next.
    std::uint64_t jobNumber() const { return jobNumber_; }

    /// Saves a job, in the background, with a picture of what was made of it, if that is known; `then` is
    /// called with whether it worked. Saves are done in the order in which they were requested.
    void save(std::shared_ptr<const Job> job, std::shared_ptr<const Made> made, const QString& path,
              std::function<void(bool)> then);
    /// Where that job is just being saved: calls `then` when that is done, as `save` does. Else false.
    bool joinSave(const std::shared_ptr<const Job>& job, const std::function<void(bool)>& then);

    /// Files being read or written, in words.
    struct Work {
        QString text;
        int total = 0; ///< files to read, where there are several
        std::atomic<int> done = 0;
        bool reads = true; ///< reading can be stopped
        std::stop_source stop;
    };
    /// The one begun first in front.
    const std::vector<std::shared_ptr<Work>>& underWay() const { return underWay_; }
    std::shared_ptr<Work> begin(const QString& text, bool reads, int total = 1);
    /// False if the work was stopped meanwhile.
    bool end(const std::shared_ptr<Work>& work);
    /// Gives up what is being read.
    void stopReading();

Q_SIGNALS:
    void saved();
    void underWayChanged();
    void refused(const QString& sentence); ///< a file could not be written

private:
    /// A save that is not done yet.
    struct Saving {
        std::shared_ptr<const Job> job;
        std::uint64_t jobNumber = 0;
        std::vector<std::function<void(bool)>> then;
    };
    void endSave(const std::shared_ptr<Saving>& saving, const QString& path, const QString& failure);

    Background& background_;
    PictureSource pictures_;
    QString path_;
    QDateTime asOf_;                   ///< the file's time when it was known last; invalid: there was none
    bool isRecovered_ = false;         ///< that time is a recovered copy's own
    std::shared_ptr<const Job> saved_; ///< never null
    std::uint64_t jobNumber_ = 0;
    std::vector<std::shared_ptr<Saving>> saves_; ///< in the order that they are done in
    std::vector<std::shared_ptr<Work>> underWay_;
};

} // namespace hasami
