#include "app/document/output_writer.h"

#include "app/words/words.h"
#include "base/error.h"
#include "checks/findings.h"
#include "files/file_name.h"
#include "files/outputs.h"

#include <QDir>
#include <QFileInfo>
#include <QPointer>

#include <algorithm>
#include <numeric>

namespace hasami {

namespace {

using Paths = std::vector<std::filesystem::path>;

/// Names for a sentence: the first few, and how many more.
QString inWords(const QStringList& names) {
    constexpr qsizetype most = 3;
    if (names.size() <= most)
        return names.join(", ");
    return tr("%1 and %2 more").arg(names.first(most).join(", ")).arg(names.size() - most);
}

} // namespace

namespace {

bool isLookedAt(const PlannedOutput& output) {
    return output.what == PlannedOutput::What::print &&
           (output.print == PrintFormat::pdf || output.print == PrintFormat::eps);
}

} // namespace

/// What one request writes.
struct OutputWriter::Task {
    std::shared_ptr<const Job> job;
    std::shared_ptr<const Made> made;
    std::filesystem::path folder;
    std::vector<std::size_t> places; ///< of the outputs
    std::vector<Paths> paths;        ///< of each of them

    const PlannedOutput& output(std::size_t i) const { return job->outputs.outputs.at(places[i]); }

    /// What the files of an output hold together.
    Look lookAt(std::size_t i, const PictureSource& pictures, const std::stop_token& stop) const {
        const std::vector<OutputPart> parts = partsOf(output(i), *job, *made);
        Look all{{}, {}, true};
        try {
            for (std::size_t k = 0; k < parts.size(); ++k) {
                const PrintLook one = lookAtPrint(paths[i][k], stop);
                for (const std::string& difference :
                     differencesOf(one, paths[i][k].filename().string(), output(i), parts[k], *job, *made,
                                   pictures, stop))
                    all.differences << QString::fromStdString(difference);
                all.found.add(one);
            }
        } catch (const InputError& error) {
            all.differences << QString::fromUtf8(error.what());
        }
        return all;
    }
};

OutputWriter::OutputWriter(Document& document) : QObject(&document), document_(document) {
    connect(&document, &Document::jobChanged, this, [this] {
        if (number_ == document_.jobNumber())
            return;
        number_ = document_.jobNumber();
        for (Written& old : written_)
            old.looking.request_stop();
        written_.clear();
        if (state_ != State::working)
            become(State::idle, {});
    });
}

OutputWriter::~OutputWriter() {
    for (Written& one : written_)
        one.looking.request_stop();
    stop_.request_stop();
}

void OutputWriter::become(State state, const QString& text) {
    state_ = state;
    text_ = text;
    Q_EMIT changed();
}

void OutputWriter::stop() {
    stop_.request_stop();
}

QString OutputWriter::folder() const {
    const QString chosen = QString::fromStdString(document_.job().outputs.folder);
    return !chosen.isEmpty()            ? chosen
           : document_.path().isEmpty() ? QString()
                                        : QFileInfo(document_.path()).absolutePath();
}

const OutputWriter::Written* OutputWriter::lastOf(const PlannedOutput& output) const {
    const OutputPlan& plan = document_.job().outputs;
    for (const Written& one : written_)
        if (one.output == output && one.plan.folder == plan.folder && one.plan.names == plan.names)
            return &one;
    return nullptr;
}

bool OutputWriter::isOutOfDate(const Written& written) const {
    return !makesTheSame(*written.job, *document_.namedJob());
}

void OutputWriter::writeAll() {
    std::vector<std::size_t> places(document_.job().outputs.outputs.size());
    std::iota(places.begin(), places.end(), std::size_t{0});
    write(places);
}

void OutputWriter::write(const std::vector<std::size_t>& places) {
    if (state_ == State::working || places.empty())
        return;
    stop_ = {};
    become(State::working, tr("Preparing the outputs…"));
    document_.whenMade(
        [this, places, number = document_.jobNumber()](const std::shared_ptr<const Made>& made) {
            if (number != document_.jobNumber() || stop_.stop_requested())
                return become(State::idle, tr("Stopped: nothing was written"));
            if (made->layout.sheets.empty())
                return become(State::failed, tr("There is nothing on the sheet to write"));
            Task task{document_.namedJob(), made, toPath(folder()), places, {}};
            try {
                const std::vector<Paths> all = plannedPaths(task.folder, *task.job, *made);
                for (const std::size_t place : places)
                    task.paths.push_back(all.at(place));
            } catch (const OutputError& error) {
                return become(State::failed, QString::fromUtf8(error.what()));
            }
            if (std::ranges::any_of(task.paths, &Paths::empty))
                return become(State::failed, tr("No sheet has lines of the kinds that are to be written"));
            // Once all have heard of the results: a question takes its time.
            const auto goOn = [this, task = std::move(task)] {
                if (mayWrite(task))
                    begin(task);
                else
                    become(State::idle, tr("Cancelled: nothing was written"));
            };
            QMetaObject::invokeMethod(this, goOn, Qt::QueuedConnection);
        });
}

/// Asks about files that are there and are not this program's work of today.
bool OutputWriter::mayWrite(const Task& task) {
    QStringList there;
    std::error_code unreadable; // where one may not look one may not write either: writing says so
    for (const Paths& paths : task.paths)
        for (const std::filesystem::path& path : paths)
            if (!ours_.contains(path) && std::filesystem::exists(path, unreadable))
                there << toQString(path.filename());
    return agreesToErrors(task) && (there.isEmpty() || !mayReplace || mayReplace(there));
}

bool OutputWriter::agreesToErrors(const Task& task) {
    QStringList errors;
    for (const Finding& finding : findingsOf(*task.job, *task.made))
        if (finding.severity == Severity::error)
            errors << QString::fromStdString(sentenceOf(*task.job, finding));
    if (errors.isEmpty() || errors == agreedErrors_ || !mayWriteWithErrors)
        return true;
    if (!mayWriteWithErrors(errors))
        return false;
    agreedErrors_ = errors;
    return true;
}

QStringList OutputWriter::outOfDate() const {
    QStringList names;
    for (const PlannedOutput& output : document_.job().outputs.outputs)
        if (const Written* last = lastOf(output); last && isOutOfDate(*last))
            for (const QString& path : last->paths)
                names << QFileInfo(path).fileName();
    return names;
}

QStringList OutputWriter::differences() const {
    QStringList all;
    for (const PlannedOutput& output : document_.job().outputs.outputs)
        if (const Written* last = lastOf(output); last && last->look && !isOutOfDate(*last))
            all << last->look->differences;
    return all;
}

void OutputWriter::begin(const Task& task) {
    const auto tell = [context = QPointer<OutputWriter>(this),
                       count = task.places.size()](std::size_t i, const QString& what) {
        const auto show = [context, count, i, what] {
            if (context && context->state_ == State::working)
                context->become(State::working,
                                count == 1 ? tr("Writing %1…").arg(what)
                                           : tr("Writing %1, %2 of %3…").arg(what).arg(i + 1).arg(count));
        };
        QMetaObject::invokeMethod(QCoreApplication::instance(), show, Qt::QueuedConnection);
    };
    const auto write = [clock = document_.clock, tell, task,
                        source = document_.pictures().source()](const std::stop_token& stop) {
        std::vector<Output> all;
        std::vector<Written> written;
        for (std::size_t i = 0; i < task.places.size(); ++i) {
            const PlannedOutput& output = task.output(i);
            const QString what = toQString(task.paths[i].front().filename());
            tell(i, what);
            Written& one = written.emplace_back(Written{output, task.job->outputs, {}, 0, {}, task.job});
            const NameOutput nameOf =
                namedByPlan(task.folder, output, *task.job, task.made->layout.sheets.size());
            for (Output& file : outputsOf(output, nameOf, *task.job, *task.made, source, {}, stop)) {
                one.paths << toQString(file.path);
                one.bytes += qint64(file.bytes.size());
                all.push_back(std::move(file));
            }
        }
        throwIfStopped(stop);
        hasami::writeAll(all);
        for (Written& one : written)
            one.at = clock();
        return written;
    };
    stop_ = runInBackground(
        document_.background().writing, this, tr("The outputs can't be written"), write,
        [this, number = number_, task](const Outcome<std::vector<Written>>& outcome) {
            if (outcome.isStopped())
                return become(State::idle, tr("Stopped: nothing was written"));
            if (!outcome.value)
                return become(State::failed, QString::fromStdString(outcome.failure));
            QStringList names;
            for (const Written& one : *outcome.value)
                for (const QString& path : one.paths) {
                    names << QFileInfo(path).fileName();
                    ours_.insert(toPath(path));
                }
            if (number == number_) {
                for (const Written& one : *outcome.value) {
                    forget(one.output);
                    written_.push_back(one);
                }
            }
            become(State::done,
                   tr("Wrote %1 in %2")
                       .arg(inWords(names),
                            QDir::toNativeSeparators(
                                QFileInfo(outcome.value->front().paths.front()).absolutePath())));
            for (std::size_t i = 0; number == number_ && i < task.places.size(); ++i)
                if (isLookedAt(task.output(i)))
                    lookAt(task, i);
        });
}

/// Reads an output's files again, as they lie on the disk, until they are written anew.
void OutputWriter::lookAt(const Task& task, std::size_t i) {
    Written& written = *writtenOf(task.output(i));
    written.look = Look{};
    const auto look = [task, i, source = document_.pictures().source()](const std::stop_token& stop) {
        return task.lookAt(i, source, stop);
    };
    written.looking = runInBackground(
        document_.background().checks, this, tr("The print can't be read again"), look,
        [this, number = number_, output = task.output(i), at = written.at](const Outcome<Look>& outcome) {
            Written* read = number == number_ ? writtenOf(output) : nullptr;
            if (!read || read->at != at || outcome.isStopped())
                return;
            read->look =
                outcome.value ? *outcome.value : Look{{}, {QString::fromStdString(outcome.failure)}, true};
            Q_EMIT changed();
        });
    Q_EMIT changed();
}

OutputWriter::Written* OutputWriter::writtenOf(const PlannedOutput& output) {
    const auto found = std::ranges::find(written_, output, &Written::output);
    return found == written_.end() ? nullptr : &*found;
}

void OutputWriter::forget(const PlannedOutput& output) {
    std::erase_if(written_, [&](Written& old) {
        if (old.output == output)
            old.looking.request_stop();
        return old.output == output;
    });
}

} // namespace hasami
