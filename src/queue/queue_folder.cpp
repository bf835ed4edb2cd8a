#include "queue/queue_folder.h"

#include "base/error.h"
#include "base/translation.h"
#include "files/file_name.h"
#include "files/read_file.h"
#include "files/safe_write.h"

#include <algorithm>
#include <chrono>
#include <set>

namespace hasami {

namespace {

constexpr std::size_t mostEntryBytes = std::size_t{1} << 20;
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

} // namespace

std::filesystem::path QueueFolder::usualPlace() {
    return recoveryPlace().parent_path() / "queue";
}

void QueueFolder::make() const {
    for (const char* name : {"entries", "jobs", "runs"}) {
        std::error_code failure;
        std::filesystem::create_directories(place_ / name, failure);
        if (failure)
            throw OutputError(sentence("there is no place for the queue: %1", failure.message()));
    }
}

std::vector<QueueEntry> QueueFolder::read(std::vector<std::string>* damaged) const {
    std::vector<QueueEntry> read;
    for (const std::filesystem::path& file : contentOf(entries())) {
        if (file.extension() != ".json")
            continue;
        try {
            QueueEntry entry = queueEntryFromJson(textOf(file, mostEntryBytes));
            if (entry.id != file.stem())
                throw InputError("named otherwise");
            read.push_back(std::move(entry));
        } catch (const InputError&) {
            std::error_code ignored;
            if (damaged && std::filesystem::exists(file, ignored)) // else another program has removed it
                damaged->push_back(fileName(file));
        }
    }
    sortQueue(read);
    return read;
}

void QueueFolder::add(const std::vector<QueueEntry>& entries, const Job& job,
                      const std::string& jobPath) const {
    make();
    keepForRecovery(place_ / "jobs" / entries.front().keptJob, job, jobPath);
    for (const QueueEntry& entry : entries)
        keep(entry);
}

void QueueFolder::keep(const QueueEntry& entry) const {
    writeSafely(entries() / (entry.id + ".json"), toJson(entry));
}

void QueueFolder::remove(const QueueEntry& entry) const {
    std::error_code ignored;
    std::filesystem::remove(entries() / (entry.id + ".json"), ignored);
    forgetRun(entry.id);
    const auto others = read();
    if (std::ranges::find(others, entry.keptJob, &QueueEntry::keptJob) == others.end())
        std::filesystem::remove_all(place_ / "jobs" / entry.keptJob, ignored);
}

Recovered QueueFolder::job(const QueueEntry& entry, const FontSource& fonts) const {
    Recovered kept = readRecovery(place_ / "jobs" / entry.keptJob, fonts);
    kept.job.name = entry.job;
    kept.job.day = entry.day;
    return kept;
}

void QueueFolder::keepRun(const std::string& id, const RunState& state) const {
    writeSafely(runOf(id), toJson(state));
}

RunState QueueFolder::run(const std::string& id) const {
    return runStateFromJson(textOf(runOf(id), mostRunBytes));
}

void QueueFolder::forgetRun(const std::string& id) const {
    std::error_code ignored;
    std::filesystem::remove(runOf(id), ignored);
}

void QueueFolder::removeRemains(int hours) const {
    std::set<std::string> used;
    for (const std::filesystem::path& file : contentOf(entries()))
        if (file.extension() == ".json") {
            used.insert(file.stem());
            try {
                used.insert(queueEntryFromJson(textOf(file, mostEntryBytes)).keptJob);
            } catch (const InputError&) {
                return; // it may be of any of them
            }
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
