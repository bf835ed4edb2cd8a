#pragma once

#include "files/recovery.h"
#include "queue/entry_lock.h"
#include "queue/queue_entry.h"
#include "queue/run_state.h"

#include <filesystem>
#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace hasami {

/// The queue on disk, which all running programs share. Each entry is a file of its own that is replaced
/// safely; beside the entries are their jobs, the states of their runs, and the history:
///
///     entries/ID.json   jobs/KEPTJOB/   assets/SHA256   runs/ID.json   locks/ID   damaged/   history.jsonl
///
/// Folders and files are for their owner alone.
class QueueFolder {
public:
    /// $XDG_STATE_HOME/hasami/queue, or below ~/.local/state.
    static std::filesystem::path usualPlace();

    explicit QueueFolder(std::filesystem::path place) : place_(std::move(place)) {}

    std::filesystem::path entries() const { return place_ / "entries"; }
    std::filesystem::path history() const { return place_ / "history.jsonl"; }
    /// Locked by the program that runs the entry.
    std::filesystem::path lockOf(const std::string& id) const { return place_ / "locks" / id; }

    /// Makes the folders. Throws OutputError.
    void make() const;

    /// All entries, in order; those of a newer version too. Files that are damaged are set aside in damaged/,
    /// and named in `damaged` where that is given.
    std::vector<QueueEntry> read(std::vector<std::string>* damaged = nullptr) const;

    /// Keeps the job under `entries`' keptJob, then the entries. Throws OutputError. REQUIRES: all have the
    /// same one, and at least one entry.
    void add(const std::vector<QueueEntry>& entries, const Job& job, const std::string& jobPath) const;
    /// Replaces it. Throws OutputError; what was kept before is then intact. REQUIRES: no other program has
    /// it.
    void keep(const QueueEntry& entry) const;
    /// Changes the entry as it is on the disk now, where another program may have changed it. Nothing where
    /// it is gone or of a newer version. Throws OutputError.
    std::optional<QueueEntry> change(const std::string& id,
                                     const std::function<void(QueueEntry&)>& edit) const;
    /// With its state, and with its job where no other entry, and none that can't be read, may have that. No
    /// error where it is gone already. Entries of a newer version stay.
    void remove(const QueueEntry& entry) const;

    /// The job of an entry, with the name and the day that its sheets say. Throws InputError.
    Recovered job(const QueueEntry& entry, const FontSource& fonts = {}) const;

    void keepRun(const std::string& id, const RunState& state) const;
    /// Throws InputError where there is none, or it is damaged or of a newer version.
    RunState run(const std::string& id) const;
    void forgetRun(const std::string& id) const;

    /// Removes jobs and states that no entry has, as a program leaves them that stops while it adds one, and
    /// entries that were done long ago (their runs are in the history). What changed in the last `hours` may
    /// be of an entry that is being added, and stays.
    void removeRemains(int hours = 24) const;

private:
    std::filesystem::path entryOf(const std::string& id) const { return entries() / (id + ".json"); }
    std::filesystem::path runOf(const std::string& id) const { return place_ / "runs" / (id + ".json"); }
    std::filesystem::path assets() const { return place_ / "assets"; }
    EntryLock lockWhole() const;
    bool mayBeUsed(const std::string& keptJob) const;
    void removeOldDone() const;

    std::filesystem::path place_;
};

} // namespace hasami
