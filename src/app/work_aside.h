#pragma once

#include <QtConcurrentRun>

#include <type_traits>
#include <utility>

namespace hasami {

/// Does `work` in the background and gives what it returns to `then`, in the thread of `context`; not at all
/// once the context is gone, and never before this call is over (which QFuture::then alone may do).
template <class Work, class Then>
auto workAside(QObject* context, Work work, Then then) {
    using Result = std::invoke_result_t<Work>;
    QFuture<Result> future = QtConcurrent::run(std::move(work));
    future.then(context, [context, then = std::move(then)](const Result& result) {
        QMetaObject::invokeMethod(
            context, [then, result] { then(result); }, Qt::QueuedConnection);
    });
    return future;
}

} // namespace hasami
