#include "app/runs/run_queue.h"

#include "app/words/words.h"
#include "base/error.h"
#include "files/file_name.h"
#include "files/job_file.h"
#include "files/read_file.h"
#include "job/job_json.h"

#include <QCoreApplication>
#include <QDateTime>
#include <QFileInfo>

#include <algorithm>
#include <span>

namespace hasami {

namespace {

constexpr int together = 100; // ms: changes on disk that come within are read at once

std::vector<std::size_t> sheetsWithWork(const Made& made) {
    std::vector<std::size_t> sheets;
    for (std::size_t i = 0; i < made.layout.sheets.size(); ++i)
        if (!made.layout.sheets[i].pieces.empty())
            sheets.push_back(i);
    return sheets;
}

bool hasCode(const Sheet& sheet) {
    return std::ranges::find(sheet.lead, LeadMark::Kind::code, &LeadMark::kind) != sheet.lead.end();
}

/// A time as it can stand in a name, so that names sort by age.
std::string timeName(const QDateTime& now) {
    return now.toUTC().toString("yyyyMMdd-HHmmsszzz").toStdString();
}

/// A sheet of one sticker, as the artwork has it.
Job jobOfArtwork(const Job& like, const std::filesystem::path& path, PictureStore& store,
                 const std::stop_token& stop) {
    Job job = like;
    job.designs = {};
    job.assets = {};
    job.plan.laid = {};
    job.plan.packing = Packing::rows;
    job.plan.sets = 1;
    job.name = path.stem().string();
    addDesign(job, openArtwork(path, store, 1, stop));
    return job;
}

/// The entry's sheet, made from the job that is kept for it. Throws InputError, Stopped.
RunSheet sheetOf(const QueueFolder& folder, const QueueEntry& entry, FontLibrary& fonts,
                 const PictureSource& pictures, const std::stop_token& stop) {
    RunSheet sheet;
    sheet.job = std::make_shared<const Job>(folder.job(entry, fonts.onMachine()).job);
    Cache cache;
    sheet.made = std::make_shared<const Made>(makeAll(*sheet.job, 1, pictures, cache, stop));
    sheet.number = entry.sheet;
    if (!sheet.sheet())
        throw InputError(translated("The sheet is not in its job any more"));
    return sheet;
}

} // namespace

RunQueue::RunQueue(Document& document, QObject* parent)
    : QObject(parent), document_(document), folder_(QueueFolder::usualPlace()) {
    late_.setSingleShot(true);
    late_.setInterval(together);
    connect(&late_, &QTimer::timeout, this, &RunQueue::readAgain);
    connect(&watcher_, &QFileSystemWatcher::directoryChanged, this, [this] { late_.start(); });
    try {
        folder_.make();
    } catch (const OutputError&) {
        return; // reported when something is to be saved there
    }
    first_ = std::async(std::launch::async, [this] {
        Read read;
        try {
            read.entries = folder_.read(&read.damaged);
        } catch (const OutputError&) { // reported when something is to be saved there
        }
        QMetaObject::invokeMethod(
            this, [this, damaged = read.damaged] { sayDamaged(damaged); }, Qt::QueuedConnection);
        return read.entries;
    });
    onDisk([](const QueueFolder& folder) { folder.removeRemains(); });
    watcher_.addPath(toQString(folder_.entries()));
}

RunQueue::~RunQueue() = default;

std::vector<QueueEntry>& RunQueue::all() const {
    if (first_.valid())
        entries_ = first_.get();
    return entries_;
}

const QueueEntry* RunQueue::find(const std::string& id) const {
    const auto found = std::ranges::find(all(), id, &QueueEntry::id);
    return found != all().end() ? &*found : nullptr;
}

std::string RunQueue::newId() {
    return timeName(document_.clock()) + "-" + std::to_string(QCoreApplication::applicationPid()) + "-" +
           std::to_string(++ids_);
}

/// In the order in which it is asked for; to its end where the window goes.
void RunQueue::onDisk(const std::function<void(const QueueFolder&)>& work) {
    ++changes_;
    runInBackground(
        document_.background().queue, this, tr("The queue can't be saved"),
        [folder = folder_, work](const std::stop_token&) {
            work(folder);
            return true;
        },
        [this](const Outcome<bool>& outcome) {
            const bool hasFailed = !outcome.failure.empty();
            if (hasFailed && !isFailing_) // not again each half second of a cut
                Q_EMIT messageRaised(
                    tr("The queue can't be saved, so that a cut can't be continued after a restart: %1")
                        .arg(QString::fromStdString(outcome.failure)));
            isFailing_ = hasFailed;
        });
}

RunSheet RunQueue::identified(const RunSheet& sheet) {
    if (sheet.job->profile.lead.code == CodeKind::none)
        return sheet;
    auto job = std::make_shared<Job>(*sheet.job);
    const std::string json = jobToJson(*job);
    constexpr std::size_t digits = 4;
    job->printId = sha256Of(std::as_bytes(std::span(json))).substr(0, digits);
    auto made = std::make_shared<Made>(*sheet.made);
    addLead(made->layout, *job);
    for (std::size_t i = 0; i < made->layout.sheets.size(); ++i)
        if (hasCode(sheet.made->layout.sheets[i]) != hasCode(made->layout.sheets[i]))
            return sheet;
    return {job, made, sheet.number};
}

std::vector<std::string> RunQueue::add(const std::shared_ptr<const Job>& given, const Made& givenMade,
                                       const QString& jobPath, const std::vector<std::size_t>& sheets) {
    const RunSheet whole = identified({given, std::make_shared<const Made>(givenMade), 0});
    const auto& job = whole.job;
    const Made& made = *whole.made;
    std::vector<QueueEntry> fresh;
    std::vector<std::string> ids;
    const double last = all().empty() ? 0 : all().back().order;
    for (const std::size_t sheet : sheets) {
        QueueEntry entry = entryOf(*job, made, sheet);
        entry.id = newId();
        entry.keptJob = fresh.empty() ? entry.id : fresh.front().keptJob;
        entry.order = last + double(fresh.size() + 1);
        entry.seed = std::uint32_t(document_.clock().toMSecsSinceEpoch() % 100'000'000 + qint64(ids_) * 1009);
        ids.push_back(entry.id);
        fresh.push_back(entry);
    }
    if (fresh.empty())
        return ids;
    all().insert(all().end(), fresh.begin(), fresh.end());
    onDisk([fresh, job, path = jobPath.toStdString()](const QueueFolder& folder) {
        folder.add(fresh, *job, path);
    });
    Q_EMIT changed();
    Q_EMIT added(ids.size());
    return ids;
}

std::string RunQueue::addFirst(const RunSheet& sheet, const QString& jobPath, const QueueEntry& known) {
    QueueEntry entry = entryOf(*sheet.job, *sheet.made, sheet.number);
    entry.id = entry.keptJob = newId();
    entry.order = all().empty() ? 0 : all().front().order - 1;
    entry.work = known.work;
    entry.copies = known.copies;
    entry.seed = known.seed;
    all().insert(all().begin(), entry);
    onDisk([entry, job = sheet.job, path = jobPath.toStdString()](const QueueFolder& folder) {
        folder.add({entry}, *job, path);
    });
    Q_EMIT changed();
    return entry.id;
}

void RunQueue::addSheets() {
    document_.whenMade([this](const std::shared_ptr<const Made>& made) {
        const auto job = document_.namedJob(); // as it is now: `made` is of this one
        const auto sheets = sheetsWithWork(*made);
        if (sheets.empty())
            Q_EMIT messageRaised(tr("Nothing is laid out yet: there is no sheet to add to the queue"));
        add(job, *made, document_.path(), sheets);
    });
}

void RunQueue::addFiles(const QStringList& paths) {
    reading_ += int(paths.size());
    Q_EMIT changed();
    for (const QString& path : paths)
        runInBackground(
            document_.background().reading, this, tr("%1 can't be read").arg(QFileInfo(path).fileName()),
            [path, like = document_.namedJob(), fonts = document_.sharedFonts(),
             store = document_.pictures().store(),
             pictures = document_.pictures().source()](const std::stop_token& stop) {
                NewJob read;
                const std::filesystem::path file = toPath(path);
                Job job;
                if (path.endsWith(".hasami")) {
                    job = openJob(file, fonts->onMachine());
                    job.name = file.stem().string();
                    job.day = like->day;
                    read.path = path;
                } else
                    job = jobOfArtwork(*like, file, *store, stop);
                Cache cache;
                read.made = std::make_shared<const Made>(makeAll(job, 1, pictures, cache, stop));
                read.job = std::make_shared<const Job>(std::move(job));
                if (!read.made->trouble.empty())
                    throw InputError(read.made->trouble);
                for (const MadeDesign& design : read.made->designs)
                    if (!design.trouble.empty())
                        throw InputError(design.trouble);
                return read;
            },
            [this, path](const Outcome<NewJob>& read) {
                --reading_;
                if (read.value) {
                    const auto sheets = sheetsWithWork(*read.value->made);
                    if (sheets.empty())
                        Q_EMIT messageRaised(
                            tr("%1 has no sheet to add to the queue").arg(QFileInfo(path).fileName()));
                    add(read.value->job, *read.value->made, read.value->path, sheets);
                } else if (!read.failure.empty())
                    Q_EMIT messageRaised(QString::fromStdString(read.failure));
                Q_EMIT changed();
            });
}

bool RunQueue::mayChange(const QueueEntry& entry) {
    if (entry.isNewer)
        Q_EMIT messageRaised(tr("%1 was added by a newer version of Hasami: use that to run or change it")
                                 .arg(QString::fromStdString(entry.job.empty() ? entry.id : entry.job)));
    return !entry.isNewer;
}

void RunQueue::change(const std::string& id, const std::function<void(QueueEntry&)>& edit) {
    const auto found = std::ranges::find(all(), id, &QueueEntry::id);
    if (found == all().end() || !mayChange(*found))
        return;
    QueueEntry changedEntry = *found;
    edit(changedEntry);
    if (changedEntry == *found)
        return;
    *found = changedEntry;
    onDisk([id, edit](const QueueFolder& folder) { folder.change(id, edit); });
    Q_EMIT changed();
}

void RunQueue::move(const std::string& id, std::size_t place) {
    const std::vector<QueueEntry> before = all();
    moveInQueue(all(), id, place);
    std::vector<QueueEntry> moved;
    for (const QueueEntry& entry : all()) {
        const auto old = std::ranges::find(before, entry.id, &QueueEntry::id);
        if (old != before.end() && old->order != entry.order)
            moved.push_back(entry);
    }
    if (moved.empty())
        return;
    onDisk([moved](const QueueFolder& folder) {
        for (const QueueEntry& entry : moved)
            folder.change(entry.id, [order = entry.order](QueueEntry& kept) { kept.order = order; });
    });
    Q_EMIT changed();
}

void RunQueue::remove(const std::string& id) {
    const auto found = std::ranges::find(all(), id, &QueueEntry::id);
    if (found == all().end() || !mayChange(*found))
        return;
    if (!take(id)) {
        Q_EMIT messageRaised(tr("This sheet is being run in another window of Hasami"));
        return;
    }
    onDisk([entry = *found](const QueueFolder& folder) { folder.remove(entry); });
    all().erase(found);
    if (auto& lock = locks_.at(id))
        lock->removeFile(folder_.lockOf(id));
    release(id);
    Q_EMIT changed();
}

void RunQueue::removeDone() {
    std::vector<std::string> ids;
    for (const QueueEntry& entry : all())
        if (entry.isDone() && !isTaken(entry.id))
            ids.push_back(entry.id);
    for (const std::string& id : ids)
        remove(id);
}

void RunQueue::again(const std::string& id) {
    change(id, [](QueueEntry& entry) {
        entry.seed += std::uint32_t(entry.copies); // no print is like the one before
        entry.done = 0;
        entry.isPrinted = entry.isBegun = false;
    });
}

bool RunQueue::take(const std::string& id) {
    if (isTaken(id))
        return true;
    try {
        auto lock = EntryLock::tryTake(folder_.lockOf(id));
        if (lock)
            locks_.emplace(id, std::move(*lock));
        return lock.has_value();
    } catch (const OutputError&) {
        locks_.emplace(id,
                       std::nullopt); // nobody else can write there either; reported when it is to be saved
        return true;
    }
}

bool RunQueue::isElsewhere(const std::string& id) const {
    return !isTaken(id) && EntryLock::isTaken(folder_.lockOf(id));
}

void RunQueue::release(const std::string& id) {
    locks_.erase(id);
}

const QueueEntry* RunQueue::interrupted() const {
    const auto found = std::ranges::find_if(all(), [&](const QueueEntry& entry) {
        return entry.isBegun && !entry.isDone() && !isTaken(entry.id) && !isElsewhere(entry.id);
    });
    return found != all().end() ? &*found : nullptr;
}

std::stop_source RunQueue::open(const QueueEntry& entry, QObject* context,
                                std::function<void(const Outcome<Opened>&)> then) {
    return runInBackground(
        document_.background().queue, context, tr("The sheet can't be read from the queue"),
        [folder = folder_, entry, fonts = document_.sharedFonts(),
         pictures = document_.pictures().source()](const std::stop_token& stop) {
            Opened opened;
            opened.sheet = sheetOf(folder, entry, *fonts, pictures, stop);
            if (!entry.isBegun)
                return opened;
            try {
                opened.state = folder.run(entry.id);
            } catch (const InputError& error) {
                opened.trouble = error.what();
            }
            return opened;
        },
        std::move(then));
}

template <class Value>
void RunQueue::giveOrTell(const Outcome<Value>& outcome, const std::function<void(const Value&)>& then) {
    if (outcome.value)
        then(*outcome.value);
    else if (!outcome.failure.empty())
        Q_EMIT messageRaised(QString::fromStdString(outcome.failure));
}

void RunQueue::makeFiles(const QueueEntry& entry, const QString& folder,
                         std::function<void(const std::vector<Output>&)> then) {
    runInBackground(
        document_.background().writing, this, tr("The files can't be made"),
        [kept = folder_, entry, place = toPath(folder), fonts = document_.sharedFonts(),
         pictures = document_.pictures().source()](const std::stop_token& stop) {
            const RunSheet sheet = sheetOf(kept, entry, *fonts, pictures, stop);
            const Job& job = *sheet.job;
            const Made& made = *sheet.made;
            std::vector<Output> files;
            for (const PlannedOutput& output : job.outputs.outputs)
                for (Output& file :
                     outputsOf(output, namedByPlan(place, output, job, made.layout.sheets.size()), job, made,
                               pictures, entry.sheet, stop))
                    files.push_back(std::move(file));
            return files;
        },
        [this, then = std::move(then)](const Outcome<std::vector<Output>>& files) {
            giveOrTell<std::vector<Output>>(files, then);
        });
}

void RunQueue::writeFiles(const std::vector<Output>& files, std::function<void()> then) {
    runInBackground(
        document_.background().writing, this, tr("The files can't be written"),
        [files](const std::stop_token&) {
            writeAll(files);
            return true;
        },
        [this, then = std::move(then)](const Outcome<bool>& written) {
            giveOrTell<bool>(written, [&](bool) { then(); });
        });
}

void RunQueue::keepRun(const std::string& id, RunState state) {
    onDisk([id, kept = std::make_shared<const RunState>(std::move(state))](const QueueFolder& folder) {
        folder.keepRun(id, *kept);
    });
}

void RunQueue::forgetRun(const std::string& id) {
    onDisk([id](const QueueFolder& folder) { folder.forgetRun(id); });
}

void RunQueue::record(const QueueEntry& entry, int copy, PastRun run) {
    run.job = entry.job;
    run.sheet = entry.sheet;
    run.copies = entry.copies;
    run.copy = copy;
    run.work = entry.work;
    run.ended = document_.clock().toSecsSinceEpoch();
    runInBackground(
        document_.background().queue, this, tr("The history can't be saved"),
        [folder = folder_, run](const std::stop_token&) {
            folder.make();
            addToHistory(folder.history(), run);
            return true;
        },
        [this](const Outcome<bool>& outcome) {
            if (!outcome.failure.empty())
                Q_EMIT messageRaised(tr("The run can't be saved in the history: %1")
                                         .arg(QString::fromStdString(outcome.failure)));
            Q_EMIT historyChanged();
        });
}

void RunQueue::readHistory(QObject* context, std::function<void(const std::vector<PastRun>&)> then) {
    runInBackground(
        document_.background().queue, context, tr("The history can't be read"),
        [folder = folder_](const std::stop_token&) { return hasami::readHistory(folder.history()); },
        [this, then = std::move(then)](const Outcome<std::vector<PastRun>>& outcome) {
            if (!outcome.failure.empty())
                Q_EMIT messageRaised(QString::fromStdString(outcome.failure));
            then(outcome.value.value_or(std::vector<PastRun>()));
        });
}

void RunQueue::clearHistory() {
    onDisk([](const QueueFolder& folder) { hasami::clearHistory(folder.history()); });
    Q_EMIT historyChanged();
}

/// After what this window changed until now is on disk.
void RunQueue::readAgain() {
    runInBackground(
        document_.background().queue, this, tr("The queue can't be read"),
        [folder = folder_](const std::stop_token&) {
            Read read;
            read.entries = folder.read(&read.damaged);
            return read;
        },
        [this, at = changes_](const Outcome<Read>& read) {
            if (at != changes_)
                late_.start(); // it was changed here meanwhile
            if (read.value)
                sayDamaged(read.value->damaged);
            if (read.value && at == changes_)
                takeRead(*read.value);
        });
}

void RunQueue::takeRead(const Read& read) {
    if (read.entries == all())
        return;
    all() = read.entries;
    Q_EMIT changed();
}

void RunQueue::sayDamaged(const std::vector<std::string>& damaged) {
    for (const std::string& file : damaged)
        Q_EMIT messageRaised(
            tr("%1 of the queue is damaged. It was set aside in the folder \"damaged\" beside the "
               "queue's entries")
                .arg(QString::fromStdString(file)));
}

} // namespace hasami
