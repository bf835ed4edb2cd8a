#include "app/document/print_run.h"

#include "app/words/words.h"
#include "files/print_file.h"

#include <QPointer>

namespace hasami {

namespace {

QString wordsOf(const PrintProgress& progress, std::size_t pages) {
    const QString page = tr("sheet %1 of %2").arg(progress.page + 1).arg(pages);
    switch (progress.state) {
    case PrintProgress::State::sending:
        return tr("Sending to the printer: %1").arg(page);
    case PrintProgress::State::waiting:
        return tr("Waiting for the printer: %1").arg(page);
    case PrintProgress::State::printing:
        break;
    }
    return tr("Printing: %1").arg(page);
}

} // namespace

PrintRun::PrintRun(Document& document, QObject* parent) : QObject(parent), document_(document) {}

PrintRun::~PrintRun() {
    stop_.request_stop();
}

void PrintRun::become(State state, const QString& text) {
    state_ = state;
    text_ = text;
    Q_EMIT changed();
}

void PrintRun::stop() {
    stop_.request_stop();
}

void PrintRun::start(const Wish& wish) {
    if (isOn())
        return;
    stop_ = {};
    become(State::printing, tr("Preparing the print…"));
    document_.whenMade([this, wish, number = document_.jobNumber()](const std::shared_ptr<const Made>& made) {
        if (number != document_.jobNumber() || stop_.stop_requested())
            return become(State::idle, tr("Stopped: nothing was printed"));
        if (made->layout.sheets.empty())
            return become(State::failed, tr("There is nothing on the sheet to print"));
        begin(wish.printer, made->layout.sheets.size(),
              [wish, made, job = document_.namedJob(),
               source = document_.pictures().source()](const std::stop_token& stop) {
                  PrintRequest request{
                      job->name,   {}, wish.copies, job->profile.printer.scale, wish.mediaType.toStdString(),
                      wish.inTiles};
                  for (std::size_t i = 0; i < made->layout.sheets.size(); ++i)
                      request.pages.push_back({printPdf(*job, *made, source, {wish.withCutLines, i}, stop),
                                               job->plan.medium.width, made->layout.sheets[i].length});
                  return request;
              });
    });
}

void PrintRun::start(const ScaleTest& test, const QString& printer) {
    if (isOn())
        return;
    stop_ = {};
    become(State::printing, tr("Preparing the print…"));
    begin(printer, 1, [test](const std::stop_token&) {
        return PrintRequest{"Hasami scale test", {{test.pdf(), test.width, test.height}}};
    });
}

void PrintRun::begin(const QString& printer, std::size_t pages, const MakeRequest& make) {
    const auto show = [context = QPointer<PrintRun>(this), pages](const PrintProgress& progress) {
        const auto tell = [context, progress, pages] {
            if (context && context->isOn())
                context->become(State::printing, wordsOf(progress, pages));
        };
        QMetaObject::invokeMethod(QCoreApplication::instance(), tell, Qt::QueuedConnection);
    };
    const auto print = [printer, make, show](const std::stop_token& stop) {
        printTo(printer.toStdString(), make(stop), show, stop);
        return true;
    };
    stop_ = runInBackground(
        document_.background().printing, this, tr("The print can't be printed"), print,
        [this, printer, pages](const Outcome<bool>& printed) {
            if (printed.value)
                become(State::done,
                       tr("Printed on %1: %2").arg(printer, counted(pages, "%1 sheet", "%1 sheets")));
            else if (printed.isStopped())
                become(State::idle, tr("Stopped: what was not printed yet is cancelled"));
            else
                become(State::failed, QString::fromStdString(printed.failure));
        });
}

} // namespace hasami
