#include "app/document/document.h"

#include "app/words/words.h"
#include "files/file_name.h"
#include "files/job_file.h"

#include <QDate>
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
    : QObject(parent), history_(std::make_shared<const Job>()), pictures_(background_.pictures),
      files_(background_, pictures_.source(), history_.job()), results_(pictures_.source()) {
    connect(&results_, &Results::changed, this, &Document::madeChanged);
    connect(&files_, &JobFiles::saved, this, [this] {
        if (const LeadScheme& lead = job().profile.lead; lead.code != CodeKind::none || lead.hasText)
            results_.make(namedJob(), selected()); // what sheets say has the file's name
        Q_EMIT jobChanged();
    });
    connect(&files_, &JobFiles::underWayChanged, this, &Document::filesUnderWayChanged);
    connect(&files_, &JobFiles::refused, this, &Document::refused);
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

QString Document::title() const {
    if (!files_.path().isEmpty())
        return QFileInfo(files_.path()).completeBaseName();
    if (!copyName_.isEmpty())
        return copyName_;
    return job().designs.empty() ? tr("Untitled job") : QString::fromStdString(job().designs.front().name);
}

std::shared_ptr<const Job> Document::namedJob() const {
    auto named = std::make_shared<Job>(job());
    named->name = title().toStdString();
    named->day = clock().date().toString(Qt::ISODate).toStdString();
    return named;
}

void Document::goBack(bool (History::*step)()) {
    Q_EMIT aboutToGoBack();
    endRun();
    const std::string selectedBefore = selected();
    if ((history_.*step)())
        showJob(selectedBefore);
}

void Document::showJob(const std::string& selectedBefore) {
    results_.make(namedJob(), selected());
    Q_EMIT jobChanged();
    Q_EMIT madeChanged();
    if (selected() != selectedBefore)
        Q_EMIT selectionChanged();
}

void Document::reset(std::shared_ptr<const Job> job, const QString& path, bool saved,
                     std::optional<QDateTime> asOf, const QString& copyName) {
    Q_EMIT aboutToReset();
    copyName_ = copyName;
    files_.start(path, saved ? job : std::make_shared<const Job>(), std::move(asOf));
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
    results_.makeFirst(namedJob(), design);
    Q_EMIT selectionChanged();
}

QString Document::inWords(const QStringList& paths) {
    return paths.size() == 1 ? QFileInfo(paths.front()).fileName()
                             : counted(std::size_t(paths.size()), "%1 artwork", "%1 artworks");
}

void Document::deleteDesign(const std::string& id) {
    const Design* design = job().find(id);
    if (!design)
        return;
    endRun();
    change(tr("Delete %1").arg(QString::fromStdString(design->name)),
           [&](Job& job) { removeDesign(job, id); });
}

void Document::duplicateDesign(const std::string& id) {
    const Design* design = job().find(id);
    if (!design)
        return;
    endRun();
    std::string made;
    change(tr("Duplicate %1").arg(QString::fromStdString(design->name)),
           [&](Job& job) { made = hasami::duplicateDesign(job, id).id; });
    select(made);
}

void Document::moveDesign(const std::string& id, std::size_t place) {
    const Design* design = job().find(id);
    if (!design)
        return;
    endRun();
    change(tr("Move %1").arg(QString::fromStdString(design->name)),
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
    change(tr("Apply recipe of %1").arg(copiedFrom_), [&](Job& job) {
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

void Document::startNew() {
    ++opening_;
    reset(std::make_shared<const Job>(), {}, true);
}

void Document::restore(std::shared_ptr<const Job> job, const QString& path, const QDateTime& keptAt) {
    ++opening_;
    reset(std::move(job), path, false, keptAt.isValid() ? std::optional(keptAt) : std::nullopt);
}

void Document::open(const QString& path) {
    load(path, path);
}

void Document::openCopy(const QString& path, const QString& name) {
    load(path, {}, name);
}

void Document::load(const QString& path, const QString& keptPath, const QString& copyName) {
    read(
        tr("Opening %1").arg(inWords({path})), tr("%1 can't be opened").arg(QFileInfo(path).fileName()),
        [path, keptPath, fonts = fonts_](const std::stop_token&) {
            return ReadJob{std::make_shared<const Job>(openJob(toPath(path), fonts->onMachine())), keptPath};
        },
        [this, copyName](const Outcome<ReadJob>& outcome) {
            if (outcome.value)
                reset(outcome.value->job, outcome.value->path, true, {}, copyName);
            else if (!outcome.failure.empty())
                Q_EMIT refused(QString::fromStdString(outcome.failure));
        });
}

void Document::read(const QString& text, const QString& what,
                    const std::function<ReadJob(const std::stop_token&)>& readJob,
                    const std::function<void(const Outcome<ReadJob>&)>& take) {
    const auto work = files_.begin(text, true);
    const auto end = [this, take, work, request = ++opening_,
                      revision = results_.revision()](const Outcome<ReadJob>& outcome) {
        if (!files_.end(work) || request != opening_)
            take({});
        else if (outcome.value && revision != results_.revision() && isModified() && askBeforeLeaving)
            askBeforeLeaving([take, outcome] { take(outcome); });
        else
            take(outcome);
    };
    work->stop = runInBackground(background_.reading, this, what, readJob, end);
}

void Document::save(const QString& path, std::function<void(bool)> then) {
    endRun();
    files_.save(sharedJob(), isMade() ? made() : nullptr, path, std::move(then));
}

} // namespace hasami
