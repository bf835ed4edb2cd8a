#include "app/document/output_writer.h"

#include "app/words/words.h"
#include "base/error.h"
#include "files/file_name.h"
#include "files/outputs.h"

#include <QDir>

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

void OutputWriter::writePrint(const QString& path, bool withCutLines) {
    start(tr("Writing the print file…"),
          [path, withCutLines](const Job& job, const Made& made, const PictureSource& source,
                               std::stop_token token) -> QStringList {
              writeAll({printOutput(toPath(path), job, made, source, {withCutLines}, std::move(token))});
              return {path};
          });
}

void OutputWriter::writeCut(const QString& path, std::size_t sheetsAskedAbout) {
    start(tr("Writing the cut file…"),
          [path, sheetsAskedAbout](const Job& job, const Made& made, const PictureSource&,
                                   const std::stop_token& token) -> QStringList {
              const auto outputs = cutOutputs(toPath(path), job, made, {});
              throwIfStopped(token);
              for (std::size_t i = sheetsAskedAbout; i < outputs.size(); ++i)
                  if (std::filesystem::exists(outputs[i].path))
                      throw OutputError(sentence(
                          "%1 exists already, and the job has more sheets now: write the cut file again",
                          fileName(outputs[i].path)));
              writeAll(outputs);
              QStringList paths;
              for (const Output& output : outputs)
                  paths << toQString(output.path);
              return paths;
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
        const auto write = [job = document_.sharedJob(), made, source = document_.pictures().source(),
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
