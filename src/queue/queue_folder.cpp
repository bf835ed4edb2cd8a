#include "queue/queue_folder.h"

#include "base/error.h"
#include "base/translation.h"
#include "files/file_name.h"
#include "files/read_file.h"
#include "files/safe_write.h"
#include "queue/kept_json.h"

#include <algorithm>
#include <atomic>
#include <chrono>
#include <set>
#include <thread>

namespace hasami {

namespace {

constexpr std::size_t mostEntryBytes = std::size_t{1} << 20;
constexpr int daysOfDone = 30; // that a finished entry stays
constexpr std::size_t mostRunBytes = std::size_t{128} << 20;

std::string textOf(const std::filesystem::path& file, std::size_t most) {
    const auto bytes = readFile(file, most);
    return {reinterpret_cast<const char*>(bytes.data()), bytes.size()};
}

/// What a folder holds; nothing where it can't be read.
std::vector<std::filesystem::path> contentOf(const std::filesystem::path& folder) {
    std::vector<std::filesystem::path> found;
    std::error_code failure;
    for (std::filesystem::directory_iterator at(folder, failure), end; !failure && at != end;
         at.increment(failure))
        found.push_back(at->path());
    return found;
}

/// Nothing where it is damaged, or gone.
std::optional<QueueEntry> entryIn(const std::filesystem::path& file) {
    try {
        const std::string text = textOf(file, mostEntryBytes);
        try {
            QueueEntry entry = queueEntryFromJson(text);
            return entry.id == file.stem() ? std::optional(std::move(entry)) : std::nullopt;
        } catch (const NewerFormat&) {
            return newerEntry(text, file.stem());
        }
    } catch (const InputError&) {
        return {};
    }
}

/// Many at once: opening a file takes longer than reading it.
std::vector<std::optional<QueueEntry>> entriesIn(const std::vector<std::filesystem::path>& files) {
    constexpr std::size_t least = 64, mostThreads = 8;
    std::vector<std::optional<QueueEntry>> found(files.size());
    std::atomic<std::size_t> next = 0;
    const auto work = [&] {
        for (std::size_t i = next++; i < files.size(); i = next++)
            found[i] = entryIn(files[i]);
    };
    const std::size_t threads =
        std::min({mostThreads, std::size_t(std::thread::hardware_concurrency()), files.size() / least});
    std::vector<std::jthread> others;
    for (std::size_t i = 1; i < threads; ++i)
        others.emplace_back(work);
    work();
    others.clear(); // joins them
    return found;
}

} // namespace

std::filesystem::path QueueFolder::usualPlace() {
    return recoveryPlace().parent_path() / "queue";
}

void QueueFolder::make() const {
    for (const char* name : {"entries", "jobs", "runs", "locks"})
        makePrivateFolder(place_ / name);
}

/// For what reads, changes and writes again: one program after the other, each for milliseconds.
EntryLock QueueFolder::lockWhole() const {
    make();
    const auto end = std::chrono::steady_clock::now() + std::chrono::seconds(10);
    while (std::chrono::steady_clock::now() < end) {
        if (auto lock = EntryLock::tryTake(place_ / "locks" / "queue"))
            return std::move(*lock);
        std::this_thread::sleep_for(std::chrono::milliseconds(1));
    }
    throw OutputError(translated("another window of Hasami does not let go of the queue"));
}

std::vector<QueueEntry> QueueFolder::read(std::vector<std::string>* damaged) const {
    std::vector<std::filesystem::path> files = contentOf(entries());
    std::erase_if(files, [](const std::filesystem::path& file) { return file.extension() != ".json"; });
    std::vector<std::optional<QueueEntry>> found = entriesIn(files);
    std::vector<QueueEntry> read;
    std::vector<std::filesystem::path> wrong;
    for (std::size_t i = 0; i < files.size(); ++i)
        if (found[i])
            read.push_back(std::move(*found[i]));
        else
            wrong.push_back(files[i]);
    for (const std::filesystem::path& file : wrong) {
        std::error_code failure;
        if (!std::filesystem::exists(file, failure))
            continue; // another program has removed it
        makePrivateFolder(place_ / "damaged");
        std::filesystem::rename(file, place_ / "damaged" / file.filename(), failure);
        if (damaged)
            damaged->push_back(fileName(file));
    }
    sortQueue(read);
    return read;
}

void QueueFolder::add(const std::vector<QueueEntry>& entries, const Job& job,
                      const std::string& jobPath) const {
    make();
    keepForRecovery(place_ / "jobs" / entries.front().keptJob, job, jobPath, assets());
    for (const QueueEntry& entry : entries)
        keep(entry);
}

void QueueFolder::keep(const QueueEntry& entry) const {
    writeSafely(entryOf(entry.id), toJson(entry), Readers::owner);
}

std::optional<QueueEntry> QueueFolder::change(const std::string& id,
                                              const std::function<void(QueueEntry&)>& edit) const {
    const EntryLock lock = lockWhole();
    std::optional<QueueEntry> entry = entryIn(entryOf(id));
    if (!entry || entry->isNewer)
        return {};
    const QueueEntry before = *entry;
    edit(*entry);
    if (!(*entry == before))
        keep(*entry);
    return entry;
}

/// Whether an entry has the job, or one that can't be read may have it.
bool QueueFolder::mayBeUsed(const std::string& keptJob) const {
    if (!contentOf(place_ / "damaged").empty())
        return true;
    return std::ranges::any_of(contentOf(entries()), [&](const std::filesystem::path& file) {
        if (file.extension() != ".json")
            return false;
        const auto entry = entryIn(file);
        return !entry || entry->keptJob.empty() || entry->keptJob == keptJob;
    });
}

void QueueFolder::remove(const QueueEntry& entry) const {
    const EntryLock lock = lockWhole();
    if (const auto now = entryIn(entryOf(entry.id)); entry.isNewer || (now && now->isNewer))
        return;
    std::error_code ignored;
    std::filesystem::remove(entryOf(entry.id), ignored);
    forgetRun(entry.id);
    if (!mayBeUsed(entry.keptJob)) {
        std::filesystem::remove_all(place_ / "jobs" / entry.keptJob, ignored);
        tidyPool(assets());
    }
}

Recovered QueueFolder::job(const QueueEntry& entry, const FontSource& fonts) const {
    Recovered kept = readRecovery(place_ / "jobs" / entry.keptJob, fonts);
    kept.job.name = entry.job;
    kept.job.day = entry.day;
    kept.job.printId = entry.printId;
    return kept;
}

void QueueFolder::keepRun(const std::string& id, const RunState& state) const {
    if (std::error_code failure; !std::filesystem::is_directory(place_ / "runs", failure))
        make(); // somebody has removed it under the program
    writeSafely(runOf(id), toJson(state), Readers::owner);
}

RunState QueueFolder::run(const std::string& id) const {
    return runStateFromJson(textOf(runOf(id), mostRunBytes));
}

void QueueFolder::forgetRun(const std::string& id) const {
    std::error_code ignored;
    std::filesystem::remove(runOf(id), ignored);
}

/// Those that have not changed for long; the others are not even read.
void QueueFolder::removeOldDone() const {
    const auto old = std::filesystem::file_time_type::clock::now() - std::chrono::hours(24 * daysOfDone);
    for (const std::filesystem::path& file : contentOf(entries())) {
        std::error_code failure;
        const auto changed = std::filesystem::last_write_time(file, failure);
        if (failure || changed > old || file.extension() != ".json")
            continue;
        const auto entry = entryIn(file);
        if (entry && entry->isDone() && !entry->isNewer && !EntryLock::isTaken(lockOf(entry->id)))
            remove(*entry);
    }
}

void QueueFolder::removeRemains(int hours) const {
    removeOldDone();
    const EntryLock lock = lockWhole();
    if (!contentOf(place_ / "damaged").empty())
        return; // what seems to be left may be theirs
    std::set<std::string> used;
    for (const std::filesystem::path& file : contentOf(entries()))
        if (file.extension() == ".json") {
            used.insert(file.stem());
            const auto entry = entryIn(file);
            if (!entry || entry->keptJob.empty())
                return; // it may be of any of them
            used.insert(entry->keptJob);
        }
    const auto young = std::filesystem::file_time_type::clock::now() - std::chrono::hours(hours);
    for (const char* folder : {"jobs", "runs"})
        for (const std::filesystem::path& kept : contentOf(place_ / folder)) {
            std::error_code failure;
            const auto changed = std::filesystem::last_write_time(kept, failure);
            if (!failure && changed <= young && !used.contains(kept.stem()))
                std::filesystem::remove_all(kept, failure);
        }
}

} // namespace hasami
