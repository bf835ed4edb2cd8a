#pragma once

#include "app/document/document.h"
#include "app/runs/run_sheet.h"
#include "files/outputs.h"
#include "queue/entry_lock.h"
#include "queue/queue_folder.h"
#include "queue/run_history.h"

#include <QFileSystemWatcher>
#include <QTimer>

#include <functional>
#include <future>
#include <map>
#include <memory>
#include <string>
#include <vector>

namespace hasami {

/// The queue as the window has it: sheets of this job and of others that wait to be printed and cut. It is
/// kept on disk, where all running programs share it; what another one changes is shown soon.
class RunQueue : public QObject {
    Q_OBJECT
public:
    explicit RunQueue(Document& document, QObject* parent = nullptr);
    ~RunQueue() override;

    const std::vector<QueueEntry>& entries() const { return all(); } ///< in order
    const QueueEntry* find(const std::string& id) const;

    /// Adds sheets of a job, last; gives back their ids, in the order of the sheets. REQUIRES: `made` was
    /// made from the job.
    std::vector<std::string> add(const std::shared_ptr<const Job>& job, const Made& made,
                                 const QString& jobPath, const std::vector<std::size_t>& sheets);
    /// Puts such a sheet first, with what is already known of its entry (its work and copies).
    std::string addFirst(const RunSheet& sheet, const QString& jobPath, const QueueEntry& known);
    /// The sheet as it is printed from the queue: its code says of which job, so that a print of an edited
    /// one is not taken for it. The same where its code has no room for that, or it has none.
    static RunSheet identified(const RunSheet& sheet);
    /// All sheets of the document's job, as it is now, once it is made.
    void addSheets();
    /// Reads files in the background: of a job all its sheets; of artwork a sheet of one sticker, on the
    /// medium and for the machine of the document's job.
    void addFiles(const QStringList& paths);
    int reading() const { return reading_; } ///< files that are still being read

    /// Here and as it is on the disk by then, where another window may have changed it too.
    void change(const std::string& id, const std::function<void(QueueEntry&)>& edit);
    /// Before the entry at `place`, or last.
    void move(const std::string& id, std::size_t place);
    void remove(const std::string& id);
    void removeDone();
    /// All its copies once more.
    void again(const std::string& id);

    /// The entry is run by this window until it is released. False where another one runs it.
    bool take(const std::string& id);
    void release(const std::string& id);
    bool isTaken(const std::string& id) const { return locks_.contains(id); }
    /// Whether another window runs it.
    bool isElsewhere(const std::string& id) const;
    /// The first whose cut was interrupted, by a program that is gone.
    const QueueEntry* interrupted() const;

    /// What running an entry needs.
    struct Opened {
        RunSheet sheet;
        std::optional<RunState> state; ///< of a cut that was begun,
        std::string trouble;           ///< or why it is not known how far that came
    };
    /// Reads the entry's job and makes it, in the background.
    std::stop_source open(const QueueEntry& entry, QObject* context,
                          std::function<void(const Outcome<Opened>&)> then);

    /// Makes the files that the entry's job plans, of its sheet alone, as they are called in the folder.
    void makeFiles(const QueueEntry& entry, const QString& folder,
                   std::function<void(const std::vector<Output>&)> then);
    void writeFiles(const std::vector<Output>& files, std::function<void()> then);

    void keepRun(const std::string& id, RunState state);
    void forgetRun(const std::string& id);

    /// Adds a run of an entry's copy to the history, with the present time.
    void record(const QueueEntry& entry, int copy, PastRun run);
    /// The newest first.
    void readHistory(QObject* context, std::function<void(const std::vector<PastRun>&)> then);
    void clearHistory();

Q_SIGNALS:
    void changed();
    void added(std::size_t sheets); ///< at the user's wish
    void historyChanged();
    void messageRaised(const QString& sentence); ///< something could not be added or kept

private:
    struct NewJob {
        std::shared_ptr<const Job> job;
        std::shared_ptr<const Made> made;
        QString path;
    };
    template <class Value>
    void giveOrTell(const Outcome<Value>& outcome, const std::function<void(const Value&)>& then);
    std::string newId();
    std::vector<QueueEntry>& all() const; ///< waits for what is still being read at the start
    void onDisk(const std::function<void(const QueueFolder&)>& work);
    void readAgain();
    struct Read {
        std::vector<QueueEntry> entries;
        std::vector<std::string> damaged;
    };
    void takeRead(const Read& read);
    void sayDamaged(const std::vector<std::string>& damaged);
    bool mayChange(const QueueEntry& entry);
    void addRead(const Outcome<std::vector<NewJob>>& read);

    Document& document_;
    QueueFolder folder_;
    mutable std::vector<QueueEntry> entries_;
    /// What was there at the start, while it is read beside the making of the window.
    mutable std::future<std::vector<QueueEntry>> first_;
    /// Of entries that this window runs; nothing where none can be kept.
    std::map<std::string, std::optional<EntryLock>> locks_;
    QFileSystemWatcher watcher_;
    QTimer late_;               ///< changes on disk come in groups
    std::uint64_t changes_ = 0; ///< by this window
    std::uint64_t ids_ = 0;
    int reading_ = 0;
    bool isFailing_ = false; ///< the last thing that was to be saved could not be
};

} // namespace hasami
