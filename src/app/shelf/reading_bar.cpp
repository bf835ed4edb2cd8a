#include "app/shelf/reading_bar.h"

#include "app/words/words.h"

#include <QGridLayout>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>

namespace hasami {

namespace {

std::shared_ptr<Document::FileWork> readingOf(const Document& document) {
    for (const auto& work : document.filesUnderWay())
        if (work->reads)
            return work;
    return nullptr;
}

} // namespace

ReadingBar::ReadingBar(Document& document, QWidget* parent)
    : QWidget(parent), document_(document), text_(new QLabel), progress_(new QProgressBar),
      stop_(new QPushButton(tr("Stop"))) {
    text_->setObjectName("Reading");
    text_->setWordWrap(true);
    progress_->setTextVisible(false);
    progress_->setFixedHeight(6);
    progress_->setAccessibleName(tr("Progress of reading"));
    stop_->setObjectName("Stop reading");
    stop_->setToolTip(tr("Stop reading; the job stays as it is"));
    auto* layout = new QGridLayout(this);
    layout->setContentsMargins(4, 4, 4, 4);
    layout->setVerticalSpacing(6);
    layout->addWidget(text_, 0, 0);
    layout->addWidget(stop_, 0, 1, Qt::AlignTop);
    layout->addWidget(progress_, 1, 0, 1, 2);
    layout->setColumnStretch(0, 1);
    constexpr int refreshEvery = 120; // ms
    refresh_.setInterval(refreshEvery);
    connect(&refresh_, &QTimer::timeout, this, &ReadingBar::showWork);
    connect(stop_, &QPushButton::clicked, &document, &Document::stopReading);
    connect(&document, &Document::filesUnderWayChanged, this, &ReadingBar::follow);
    hide();
}

void ReadingBar::follow() {
    if (!readingOf(document_)) {
        refresh_.stop();
        hide();
    } else if (!refresh_.isActive()) {
        refresh_.start();
    }
}

void ReadingBar::showWork() {
    const auto work = readingOf(document_);
    if (!work)
        return;
    const int done = std::min<int>(work->done, work->total);
    text_->setText(work->total > 1 ? tr("%1: %2 done…").arg(work->text).arg(done) : work->text + "…");
    progress_->setMaximum(work->total > 1 ? work->total : 0); // of one file, nobody knows how far it is
    progress_->setValue(done);
    show();
}

} // namespace hasami
