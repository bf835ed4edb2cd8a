#include "app/document/output_writer.h"

#include "app/words/words.h"
#include "base/error.h"
#include "files/file_name.h"
#include "files/outputs.h"

#include <QDir>

#include <set>

namespace hasami {

namespace {

QString folderOf(const QString& path) {
    return QDir::toNativeSeparators(QFileInfo(path).absolutePath());
}

} // namespace

OutputWriter::OutputWriter(Document& document) : QObject(&document), document_(document) {}

OutputWriter::~OutputWriter() {
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

namespace {

constexpr double dotsPerInchOfPictures = 300;

/// The user agreed to replace the files of some sheets, and no others.
void requireAskedAbout(const std::vector<Output>& outputs, const std::filesystem::path& path,
                       std::size_t sheets) {
    std::set<std::filesystem::path> asked;
    for (std::size_t i = 0; i < sheets; ++i)
        asked.insert(sheetPath(path, i));
    for (const Output& output : outputs)
        if (!asked.contains(output.path) && std::filesystem::exists(output.path))
            throw OutputError(
                sentence("%1 exists already: move it away, or choose another name", fileName(output.path)));
}

QStringList pathsOf(const std::vector<Output>& outputs) {
    QStringList paths;
    for (const Output& output : outputs)
        paths << toQString(output.path);
    return paths;
}

} // namespace

void OutputWriter::writePrint(const QString& path, bool withCutLines) {
    start(tr("Writing the print file…"),
          [path, withCutLines](const Job& job, const Made& made, const PictureSource& source,
                               std::stop_token token) -> QStringList {
              const auto outputs =
                  printOutputs(toPath(path), job, made, source, {withCutLines}, dotsPerInchOfPictures, token);
              requireAskedAbout(outputs, toPath(path), 1);
              writeAll(outputs);
              return pathsOf(outputs);
          });
}

void OutputWriter::writeCut(const QString& path, std::size_t sheetsAskedAbout) {
    start(tr("Writing the cut file…"),
          [path, sheetsAskedAbout](const Job& job, const Made& made, const PictureSource&,
                                   const std::stop_token& token) -> QStringList {
              const auto outputs = cutOutputs(toPath(path), job, made, {});
              throwIfStopped(token);
              requireAskedAbout(outputs, toPath(path), sheetsAskedAbout);
              writeAll(outputs);
              return pathsOf(outputs);
          });
}

void OutputWriter::start(const QString& what, Make make) {
    if (state_ == State::working)
        return;
    stop_ = {};
    become(State::working, what);
    document_.whenMade([this, make = std::move(make),
                        number = document_.jobNumber()](const std::shared_ptr<const Made>& made) {
        if (number != document_.jobNumber() || stop_.stop_requested()) {
            become(State::idle, tr("Stopped: nothing was written"));
            return;
        }
        if (made->layout.sheets.empty()) {
            become(State::failed, tr("There is nothing on the sheet to write"));
            return;
        }
        const auto write = [job = document_.namedJob(), made, source = document_.pictures().source(),
                            make](const std::stop_token& stop) {
            const QStringList paths = make(*job, *made, source, stop);
            QStringList names;
            for (const QString& path : paths)
                names << QFileInfo(path).fileName();
            return tr("Wrote %1 in %2").arg(names.join(", "), folderOf(paths.front()));
        };
        stop_ = runInBackground(document_.background().writing, this, tr("The file can't be written"), write,
                                [this](const Outcome<QString>& written) {
                                    if (written.value)
                                        become(State::done, *written.value);
                                    else if (written.isStopped())
                                        become(State::idle, tr("Stopped: nothing was written"));
                                    else
                                        become(State::failed, QString::fromStdString(written.failure));
                                });
    });
}

} // namespace hasami
