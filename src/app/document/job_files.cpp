#include "app/document/job_files.h"

#include "app/words/words.h"
#include "base/error.h"
#include "files/file_name.h"
#include "files/job_file.h"
#include "files/paint_sticker.h"

#include <QDeadlineTimer>
#include <QFileInfo>
#include <QLocale>

#include <utility>

namespace hasami {

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

/// Invalid where there is no file.
QDateTime timeOf(const QString& path) {
    return QFileInfo(path).lastModified();
}

} // namespace

JobFiles::JobFiles(Background& background, PictureSource pictures, std::shared_ptr<const Job> saved)
    : background_(background), pictures_(std::move(pictures)), saved_(std::move(saved)) {}

void JobFiles::start(const QString& path, std::shared_ptr<const Job> saved, std::optional<QDateTime> asOf) {
    path_ = path;
    isRecovered_ = asOf.has_value();
    asOf_ = asOf.value_or(timeOf(path));
    saved_ = std::move(saved);
    ++jobNumber_;
}

QString JobFiles::conflict() const {
    const bool isBeingSaved = !saves_.empty(); // here, so that its time is not known yet
    const QDateTime now = path_.isEmpty() || isBeingSaved ? QDateTime() : timeOf(path_);
    if (!now.isValid() || (isRecovered_ ? now <= asOf_ : now == asOf_))
        return {};
    const auto text = [](const QDateTime& time) { return QLocale().toString(time, QLocale::ShortFormat); };
    if (isRecovered_)
        return tr("%1 was saved on %2, after this recovered copy of it was kept on %3: the file is newer.")
            .arg(QFileInfo(path_).fileName(), text(now), text(asOf_));
    return tr("%1 was changed on %2 by another window or program, since you opened or saved it here: the "
              "file "
              "has changes that this window does not have.")
        .arg(QFileInfo(path_).fileName(), text(now));
}

std::shared_ptr<JobFiles::Work> JobFiles::begin(const QString& text, bool reads, int total) {
    auto work = std::make_shared<Work>();
    work->text = text;
    work->total = total;
    work->reads = reads;
    underWay_.push_back(work);
    Q_EMIT underWayChanged();
    return work;
}

bool JobFiles::end(const std::shared_ptr<Work>& work) {
    if (std::erase(underWay_, work) > 0)
        Q_EMIT underWayChanged();
    return !work->stop.stop_requested();
}

void JobFiles::stopReading() {
    std::erase_if(underWay_, [](const auto& work) { return work->reads && work->stop.request_stop(); });
    Q_EMIT underWayChanged();
}

void JobFiles::save(std::shared_ptr<const Job> job, std::shared_ptr<const Made> made, const QString& path,
                    std::function<void(bool)> then) {
    const QString name = QFileInfo(path).fileName();
    const auto work = begin(tr("Saving %1").arg(name), false);
    // The job as it is now, whatever is opened or changed before this is done.
    const auto saving = std::make_shared<Saving>(Saving{job, jobNumber_, {}});
    if (then)
        saving->then.push_back(std::move(then));
    saves_.push_back(saving);
    const auto write = [job = std::move(job), made = std::move(made), pictures = pictures_,
                        path](const std::stop_token&) {
        saveJob(toPath(path), *job, previewOf(*job, made, pictures));
        return true;
    };
    runInBackground(background_.saving, this, tr("%1 can't be saved").arg(name), write,
                    [this, path, work, saving](const Outcome<bool>& outcome) {
                        end(work);
                        endSave(saving, path, QString::fromStdString(outcome.failure));
                    });
}

void JobFiles::endSave(const std::shared_ptr<Saving>& saving, const QString& path, const QString& failure) {
    std::erase(saves_, saving);
    if (!failure.isEmpty()) {
        Q_EMIT refused(failure);
    } else if (saving->jobNumber == jobNumber_) {
        path_ = path;
        asOf_ = timeOf(path);
        isRecovered_ = false;
        saved_ = saving->job;
        Q_EMIT saved();
    }
    for (const auto& then : saving->then)
        then(failure.isEmpty());
}

bool JobFiles::joinSave(const std::shared_ptr<const Job>& job, const std::function<void(bool)>& then) {
    if (saves_.empty() || saves_.back()->jobNumber != jobNumber_ ||
        !History::areEqual(saves_.back()->job, job))
        return false;
    saves_.back()->then.push_back(then);
    return true;
}

} // namespace hasami
