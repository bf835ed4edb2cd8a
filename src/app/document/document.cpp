#include "app/document/document.h"

#include "base/error.h"
#include "files/file_name.h"
#include "files/job_file.h"
#include "files/paint_sticker.h"

#include <QDeadlineTimer>
#include <QFileInfo>

#include <algorithm>
#include <utility>

namespace hasami {

namespace {

/// All of a recipe that comes behind the edge.
void takeCutLines(Recipe& recipe, const Recipe& from) {
    EdgeOptions edge = std::move(recipe.edge);
    recipe = from;
    recipe.edge = std::move(edge);
}

} // namespace

Document::Document(QObject* parent)
    : QObject(parent), history_(std::make_shared<const Job>()), savedJob_(history_.job()),
      pictures_(background_.pictures), results_(pictures_.source()) {
    connect(&results_, &Results::changed, this, &Document::madeChanged);
}

Document::~Document() = default;

void Document::change(const QString& label, const std::function<void(Job&)>& edit, const QString& run) {
    Job changed = job();
    edit(changed);
    if (changed == job())
        return;
    const std::uint64_t before = results_.revision();
    const std::shared_ptr<const Job> old = sharedJob();
    Q_EMIT aboutToChange(changed);
    if (results_.revision() != before && changed.plan.laid == old->plan.laid &&
        changed.plan.packing == old->plan.packing) {
        changed.plan.laid = job().plan.laid; // a nest that was just stopped
        changed.plan.packing = job().plan.packing;
    }
    const std::string selectedBefore = selected();
    history_.put(std::move(changed), label.toStdString(), run.toStdString());
    showJob(selectedBefore);
}

void Document::endRun() {
    if (history_.endRun())
        Q_EMIT jobChanged();
}

void Document::cancelRun() {
    const std::string selectedBefore = selected();
    if (history_.takeRunBack())
        showJob(selectedBefore);
    endRun();
}

void Document::undo() {
    goBack(&History::undo);
}

void Document::redo() {
    goBack(&History::redo);
}

void Document::goBack(bool (History::*step)()) {
    Q_EMIT aboutToGoBack();
    endRun();
    const std::string selectedBefore = selected();
    if ((history_.*step)())
        showJob(selectedBefore);
}

void Document::showJob(const std::string& selectedBefore) {
    results_.make(sharedJob(), selected());
    Q_EMIT jobChanged();
    Q_EMIT madeChanged();
    if (selected() != selectedBefore)
        Q_EMIT selectionChanged();
}

void Document::reset(std::shared_ptr<const Job> job, const QString& path, bool saved) {
    Q_EMIT aboutToReset();
    path_ = path;
    ++jobNumber_;
    savedJob_ = saved ? job : std::make_shared<const Job>();
    std::string first = job->designs.empty() ? std::string() : job->designs.front().id;
    results_.forget();
    history_ = History(std::move(job), std::move(first));
    showJob({});
}

void Document::select(const std::string& design) {
    if (design == selected() || !job().find(design))
        return;
    endRun();
    history_.select(design);
    results_.makeFirst(sharedJob(), design);
    Q_EMIT selectionChanged();
}

std::shared_ptr<Document::FileWork> Document::beginFiles(const QString& text, bool reads, int total) {
    auto work = std::make_shared<FileWork>();
    work->text = text;
    work->total = total;
    work->reads = reads;
    filesUnderWay_.push_back(work);
    Q_EMIT filesUnderWayChanged();
    return work;
}

bool Document::endFiles(const std::shared_ptr<FileWork>& work) {
    if (std::erase(filesUnderWay_, work) > 0)
        Q_EMIT filesUnderWayChanged();
    return !work->stop.stop_requested();
}

void Document::stopReading() {
    std::erase_if(filesUnderWay_, [](const auto& work) { return work->reads && work->stop.request_stop(); });
    Q_EMIT filesUnderWayChanged();
}

QString Document::inWords(const QStringList& paths) {
    return paths.size() == 1 ? QFileInfo(paths.front()).fileName() : QString("%1 artworks").arg(paths.size());
}

void Document::deleteDesign(const std::string& id) {
    const Design* design = job().find(id);
    if (!design)
        return;
    endRun();
    change("Delete " + QString::fromStdString(design->name), [&](Job& job) { removeDesign(job, id); });
}

void Document::duplicateDesign(const std::string& id) {
    const Design* design = job().find(id);
    if (!design)
        return;
    endRun();
    std::string made;
    change("Duplicate " + QString::fromStdString(design->name),
           [&](Job& job) { made = hasami::duplicateDesign(job, id).id; });
    select(made);
}

void Document::moveDesign(const std::string& id, std::size_t place) {
    const Design* design = job().find(id);
    if (!design)
        return;
    endRun();
    change("Move " + QString::fromStdString(design->name),
           [&](Job& job) { hasami::moveDesign(job, id, place); });
}

void Document::copyRecipe(const std::string& id) {
    if (const Design* design = job().find(id)) {
        copiedRecipe_ = design->recipe;
        copiedFrom_ = QString::fromStdString(design->name);
        Q_EMIT selectionChanged(); // what can be done with the selection
    }
}

void Document::applyRecipe(const std::vector<std::string>& ids, RecipePart part) {
    if (!copiedRecipe_)
        return;
    endRun();
    change("Apply recipe of " + copiedFrom_, [&](Job& job) {
        for (const std::string& id : ids) {
            Design* design = job.find(id);
            if (!design)
                continue;
            if (part != RecipePart::cutLines)
                design->recipe.edge = copiedRecipe_->edge;
            if (part != RecipePart::edge)
                takeCutLines(design->recipe, *copiedRecipe_);
        }
    });
}

QString Document::title() const {
    return path_.isEmpty() ? QString("Untitled job") : QFileInfo(path_).completeBaseName();
}

void Document::startNew() {
    ++opening_;
    reset(std::make_shared<const Job>(), {}, true);
}

void Document::restore(std::shared_ptr<const Job> job, const QString& path) {
    ++opening_;
    reset(std::move(job), path, false);
}

void Document::open(const QString& path) {
    load(path, path);
}

void Document::openCopy(const QString& path) {
    load(path, {});
}

void Document::load(const QString& path, const QString& keptPath) {
    read(
        "Opening " + inWords({path}), QFileInfo(path).fileName() + " can't be opened",
        [path, keptPath](const std::stop_token&) {
            return ReadJob{std::make_shared<const Job>(openJob(toPath(path))), keptPath};
        },
        [this](const Outcome<ReadJob>& outcome) {
            if (outcome.value)
                reset(outcome.value->job, outcome.value->path, true);
            else if (!outcome.failure.empty())
                Q_EMIT refused(QString::fromStdString(outcome.failure));
        });
}

void Document::read(const QString& text, const QString& what,
                    const std::function<ReadJob(const std::stop_token&)>& readJob,
                    const std::function<void(const Outcome<ReadJob>&)>& take) {
    const auto work = beginFiles(text, true);
    const auto end = [this, take, work, request = ++opening_,
                      revision = results_.revision()](const Outcome<ReadJob>& outcome) {
        if (!endFiles(work) || request != opening_)
            take({});
        else if (outcome.value && revision != results_.revision() && isModified() && askBeforeLeaving)
            askBeforeLeaving([take, outcome] { take(outcome); });
        else
            take(outcome);
    };
    work->stop = runInBackground(background_.reading, this, what, readJob, end);
}

namespace {

/// A picture of the first sheet; none where it can't be drawn, for whatever reason, or would have to be
/// waited for.
std::string previewOf(const Job& job, const std::shared_ptr<const Made>& made, const PictureSource& source) {
    constexpr int mostSeconds = 2; // that saving waits for what is not made yet
    return outcomeOf("",
                     [&] {
                         if (made)
                             return previewPng(job, *made, source);
                         const QDeadlineTimer end(mostSeconds * 1000);
                         const Progress progress{{}, [&](const MadeDesign&) {
                                                     if (end.hasExpired())
                                                         throw Stopped();
                                                 }};
                         Cache cache;
                         return previewPng(job, makeAll(job, 0, source, cache, {}, progress), source);
                     })
        .value.value_or(std::string());
}

} // namespace

void Document::save(const QString& path, std::function<void(bool)> then) {
    endRun();
    const auto work = beginFiles("Saving " + inWords({path}), false);
    // The job as it is now, whatever is opened or changed before this is done.
    const auto saving = std::make_shared<Saving>(Saving{sharedJob(), jobNumber_, {}});
    if (then)
        saving->then.push_back(std::move(then));
    saves_.push_back(saving);
    const auto write = [job = sharedJob(), made = isMade() ? made() : nullptr, source = pictures_.source(),
                        path](const std::stop_token&) {
        saveJob(toPath(path), *job, previewOf(*job, made, source));
        return true;
    };
    runInBackground(background_.saving, this, QFileInfo(path).fileName() + " can't be saved", write,
                    [this, path, work, saving](const Outcome<bool>& outcome) {
                        endFiles(work);
                        endSave(saving, path, QString::fromStdString(outcome.failure));
                    });
}

void Document::endSave(const std::shared_ptr<Saving>& saving, const QString& path, const QString& failure) {
    std::erase(saves_, saving);
    if (!failure.isEmpty()) {
        Q_EMIT refused(failure);
    } else if (saving->jobNumber == jobNumber_) {
        path_ = path;
        savedJob_ = saving->job;
        Q_EMIT jobChanged();
    }
    for (const auto& then : saving->then)
        then(failure.isEmpty());
}

bool Document::joinSave(const std::function<void(bool)>& then) {
    if (saves_.empty() || saves_.back()->jobNumber != jobNumber_ ||
        !History::areEqual(saves_.back()->job, sharedJob()))
        return false;
    saves_.back()->then.push_back(then);
    return true;
}

} // namespace hasami
