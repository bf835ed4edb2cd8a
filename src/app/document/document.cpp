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
      made_(std::make_shared<const Made>()), pictures_(background_.pictures) {
    const auto later = [this](auto act) { QMetaObject::invokeMethod(this, act, Qt::QueuedConnection); };
    workshop_ = std::make_unique<Workshop>(
        pictures_.source(), Workshop::Tells{[this, later](std::uint64_t revision, const MadeDesign& made) {
                                                later([this, revision, made] { takeDesign(revision, made); });
                                            },
                                            [this, later](const std::shared_ptr<const Made>& made) {
                                                later([this, made] { take(made); });
                                            }});
    constexpr int showEvery = 60; // ms
    moreMade_.setSingleShot(true);
    moreMade_.setInterval(showEvery);
    connect(&moreMade_, &QTimer::timeout, this, &Document::madeChanged);
}

Document::~Document() {
    workshop_.reset();
}

void Document::whenMade(std::function<void(std::shared_ptr<const Made>)> then) {
    if (isMade())
        then(made_);
    else
        waiting_.push_back(std::move(then));
}

void Document::take(std::shared_ptr<const Made> made) {
    if (made->revision != revision_)
        return; // of an older revision
    made_ = std::move(made);
    newest_.clear();
    moreMade_.stop();
    for (const MadeDesign& design : made_->designs)
        keepIfGood(design);
    Q_EMIT madeChanged();
    for (const auto& then : std::exchange(waiting_, {}))
        then(made_);
}

void Document::takeDesign(std::uint64_t revision, MadeDesign made) {
    if (revision < firstRevision_ || revision <= made_->revision)
        return;
    const bool isSelected = made.design == selected();
    keepIfGood(made);
    newest_[made.design] = std::move(made);
    if (isSelected)
        Q_EMIT madeChanged();
    else if (!moreMade_.isActive())
        moreMade_.start();
}

const MadeDesign* Document::newest(const std::string& design) const {
    const auto found = newest_.find(design);
    return found == newest_.end() ? made_->find(design) : &found->second;
}

namespace {

bool isGood(const MadeDesign& made) {
    return !made.sticker->isEmpty() && std::none_of(made.inks.begin(), made.inks.end(),
                                                    [](const auto& ink) { return ink->area.empty(); });
}

} // namespace

void Document::keepIfGood(const MadeDesign& made) {
    if (!isGood(made))
        return;
    MadeDesign& kept = lastGood_[made.design];
    if (kept.sticker != made.sticker || kept.inks != made.inks)
        kept = made;
}

const MadeDesign* Document::lastGood(const std::string& design) const {
    const MadeDesign* now = newest(design);
    const auto found = lastGood_.find(design);
    const bool holds =
        now && found != lastGood_.end() && !isGood(*now) && found->second.artwork == now->artwork;
    return holds ? &found->second : nullptr;
}

const QPainterPath& Document::liveEdge(const Design& design) {
    return liveEdge_.of(design, newest(design.id));
}

void Document::change(const QString& label, const std::function<void(Job&)>& edit, const QString& run) {
    Job changed = job();
    edit(changed);
    if (changed == job())
        return;
    const std::uint64_t before = revision_;
    const std::shared_ptr<const Job> old = sharedJob();
    Q_EMIT aboutToChange(changed);
    if (revision_ != before && changed.plan.laid == old->plan.laid &&
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
    ++revision_;
    workshop_->submit(sharedJob(), revision_, selected());
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
    firstRevision_ = revision_ + 1;
    newest_.clear();
    lastGood_.clear();
    made_ = std::make_shared<const Made>();
    history_ = History(std::move(job), std::move(first));
    showJob({});
}

void Document::select(const std::string& design) {
    if (design == selected() || !job().find(design))
        return;
    endRun();
    history_.select(design);
    if (!isMade())
        workshop_->submit(sharedJob(), revision_, selected()); // this one first
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
                      revision = revision_](const Outcome<ReadJob>& outcome) {
        if (!endFiles(work) || request != opening_)
            take({});
        else if (outcome.value && revision != revision_ && isModified() && askBeforeLeaving)
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
    const auto write = [job = sharedJob(), made = isMade() ? made_ : nullptr, source = pictures_.source(),
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
