// What comes into the window by drop and by the clipboard.

#include "app/kit/notice_bar.h"
#include "app/run/run_place.h"
#include "app/runs/run_queue.h"
#include "app/stickers/bench.h"
#include "app/stickers/item_hand.h"
#include "app/stickers/stickers_place.h"
#include "app/window/main_window.h"
#include "app/words/words.h"

#include <QBuffer>
#include <QClipboard>
#include <QDragEnterEvent>
#include <QDropEvent>
#include <QGuiApplication>
#include <QImage>
#include <QMimeData>
#include <QStackedWidget>

namespace hasami {

namespace {

QStringList localFiles(const QMimeData& data) {
    QStringList paths;
    for (const QUrl& url : data.urls())
        if (url.isLocalFile())
            paths << url.toLocalFile();
    return paths;
}

} // namespace

static constexpr const char* copiedArtwork = "application/x-hasami-artwork";

/// What is held on the bench. The clipboard knows that it was copied here; what it is stays in the program.
void MainWindow::copy() {
    if (places_->currentIndex() != stickers || !document_.selectedDesign())
        return;
    stickers_->items().copy();
    auto* data = new QMimeData; // the clipboard's from now on
    data->setData(copiedArtwork, "1");
    QGuiApplication::clipboard()->setMimeData(data);
}

void MainWindow::paste() {
    const QMimeData* data = QGuiApplication::clipboard()->mimeData();
    if (!data)
        return;
    if (data->hasFormat(copiedArtwork) && places_->currentIndex() == stickers && stickers_->items().paste())
        return;
    if (const QStringList paths = localFiles(*data); !paths.isEmpty())
        return openPaths(paths);
    notice_->clearWarning();
    const std::pair<const char*, const char*> kinds[] = {{"application/pdf", N_("Pasted drawing.pdf")},
                                                         {"image/svg+xml", N_("Pasted drawing.svg")},
                                                         {"image/png", N_("Pasted picture.png")},
                                                         {"image/jpeg", N_("Pasted picture.jpg")},
                                                         {"image/tiff", N_("Pasted picture.tif")}};
    for (const auto& [kind, name] : kinds)
        if (data->hasFormat(kind))
            return document_.addArtwork(tr(name), [bytes = data->data(kind)] { return bytes; });
    if (!data->hasImage())
        return notice_->warn(tr("Nothing to paste: the clipboard holds no picture, drawing or file"));
    document_.addArtwork(tr("Pasted picture.png"), [image = data->imageData().value<QImage>()] {
        QByteArray bytes;
        QBuffer buffer(&bytes);
        image.save(&buffer, "PNG");
        return bytes;
    });
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (!localFiles(*event->mimeData()).isEmpty())
        event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    event->acceptProposedAction();
    const QStringList paths = localFiles(*event->mimeData());
    if (paths.size() == 1 && !paths.front().endsWith(".hasami") && places_->currentIndex() == stickers)
        if (const auto item = stickers_->bench().ownArtworkAt(
                stickers_->bench().mapFrom(this, event->position().toPoint())))
            return document_.putInside(document_.selected(), *item, paths.front());
    if (run_ && places_->currentWidget() == run_)
        return queue_->addFiles(paths);
    openPaths(paths);
}

} // namespace hasami
