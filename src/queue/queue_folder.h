#pragma once

#include "files/recovery.h"
#include "queue/queue_entry.h"
#include "queue/run_state.h"

#include <filesystem>
#include <string>
#include <vector>

namespace hasami {

/// The queue on disk, which all running programs share. Each entry is a file of its own that is replaced
/// safely; beside the entries are their jobs, the states of their runs, and the history:
///
///     entries/ID.json   jobs/KEPTJOB/   runs/ID.json   history.jsonl
class QueueFolder {
public:
    /// $XDG_STATE_HOME/hasami/queue, or below ~/.local/state.
    static std::filesystem::path usualPlace();

    explicit QueueFolder(std::filesystem::path place) : place_(std::move(place)) {}

    std::filesystem::path entries() const { return place_ / "entries"; }
    std::filesystem::path history() const { return place_ / "history.jsonl"; }
    /// Locked by the program that runs the entry.
    std::filesystem::path lockOf(const std::string& id) const { return entries() / (id + ".lock"); }

    /// Makes the folders. Throws OutputError.
    void make() const;

    /// All entries, in order. Files that are damaged or of another kind are left out, and named in `damaged`
    /// where that is given.
    std::vector<QueueEntry> read(std::vector<std::string>* damaged = nullptr) const;

    /// Keeps the job under `entries`' keptJob, then the entries. Throws OutputError. REQUIRES: all have the
    /// same one, and at least one entry.
    void add(const std::vector<QueueEntry>& entries, const Job& job, const std::string& jobPath) const;
    /// Replaces it. Throws OutputError; what was kept before is then intact.
    void keep(const QueueEntry& entry) const;
    /// With its state, and with its job where no other entry has that. No error where it is gone already.
    void remove(const QueueEntry& entry) const;

    /// The job of an entry, with the name and the day that its sheets say. Throws InputError.
    Recovered job(const QueueEntry& entry, const FontSource& fonts = {}) const;

    void keepRun(const std::string& id, const RunState& state) const;
    /// Throws InputError where there is none, or it is damaged.
    RunState run(const std::string& id) const;
    void forgetRun(const std::string& id) const;

    /// Removes jobs and states that no entry has, as a program leaves them that stops while it adds one.
    /// Those that changed in the last `hours` may be of an entry that is being added, and stay.
    void removeRemains(int hours = 24) const;

private:
    std::filesystem::path runOf(const std::string& id) const { return place_ / "runs" / (id + ".json"); }
    std::filesystem::path place_;
};

} // namespace hasami
