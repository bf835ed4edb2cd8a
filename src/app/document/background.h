#pragma once

#include "base/work_queue.h"

#include <QCoreApplication>
#include <QPointer>
#include <QString>

#include <memory>
#include <type_traits>
#include <utility>

namespace hasami {

/// The window's work in the background: a queue for each purpose, so that none waits for another's. (What is
/// made of a job has the Workshop's.) What was asked to be saved is saved when the window goes; all else is
/// stopped.
struct Background {
    WorkQueue reading{2};  ///< jobs and artwork, into the job
    WorkQueue pictures{2}; ///< for the screen, and what is looked for in them
    WorkQueue saving{1, WorkQueue::AtEnd::finish};
    WorkQueue recovery{1, WorkQueue::AtEnd::finish};
    WorkQueue queue{1, WorkQueue::AtEnd::finish}; ///< of sheets to be run, on disk
    WorkQueue writing;                            ///< print and cut files
    WorkQueue sending{2};                         ///< to machines; of two cuts for one, the second is refused
    WorkQueue printing{2};                        ///< on printers, and which there are
    WorkQueue routes, figures;
    WorkQueue machines;   ///< the simulated printer and cutter's sensor
    WorkQueue checks{2};  ///< what is wrong, and how far a cut may be off
    WorkQueue nesting{2}; ///< a search that was just stopped may still be ending while the next one begins
    WorkQueue nestShown;
};

/// Does `work(stop token)` in the background, then calls `then(Outcome)` in the interface's thread, between
/// two events; also where the work was stopped or failed, but not at all once `context` is gone. `what` names
/// the work in a sentence on its failure, as "bee.png can't be read". Called in the interface's thread.
template <class Work, class Then>
std::stop_source runInBackground(WorkQueue& queue, QObject* context, const QString& what, Work work,
                                 Then then) {
    using Result = std::invoke_result_t<Work, const std::stop_token&>;
    const auto deliver = [context = QPointer<QObject>(context),
                          then = std::move(then)](Outcome<Result> outcome) {
        const auto shared = std::make_shared<const Outcome<Result>>(std::move(outcome));
        QMetaObject::invokeMethod(
            QCoreApplication::instance(),
            [context, then, shared] {
                if (context)
                    then(*shared);
            },
            Qt::QueuedConnection);
    };
    return queue.run(what.toStdString(), std::move(work), deliver);
}

} // namespace hasami
