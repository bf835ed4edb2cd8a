#include "base/work_queue.h"

#include "base/translation.h"

#include <algorithm>
#include <new>
#include <sys/resource.h>
#include <unistd.h>

namespace hasami {

std::string failureSentence(const std::exception_ptr& failure, const std::string& what) {
    try {
        std::rethrow_exception(failure);
    } catch (const InputError& error) {
        return error.what();
    } catch (const OutputError& error) {
        return error.what();
    } catch (const std::bad_alloc&) {
        return sentence("%1: there is not enough memory", what);
    } catch (const std::exception& error) {
        return what + ": " + error.what();
    } catch (...) {
        return sentence("%1: an unknown error", what);
    }
}

WorkQueue::~WorkQueue() {
    {
        const std::scoped_lock lock(mutex_);
        if (atEnd_ == AtEnd::stop) {
            for (std::stop_source& stop : underWay_)
                stop.request_stop();
            for (Order& order : waiting_)
                order.stop.request_stop();
        }
    }
    for (std::jthread& worker : workers_)
        worker.request_stop();
    workers_.clear();
}

void WorkQueue::add(Order order) {
    const std::scoped_lock lock(mutex_);
    waiting_.push_back(std::move(order));
    if (idle_ < int(waiting_.size()) && int(workers_.size()) < threads_)
        workers_.emplace_back([this](const std::stop_token& closing) { serve(closing); });
    wake_.notify_one();
}

namespace {

/// The thread, and those that it begins, get the processor when nobody waits for an answer of the window.
/// Linux counts niceness by thread.
void yieldToInterface() {
    constexpr int nicer = 5;
    const auto thread = id_t(gettid());
    setpriority(PRIO_PROCESS, thread, getpriority(PRIO_PROCESS, thread) + nicer);
}

} // namespace

void WorkQueue::serve(const std::stop_token& closing) {
    yieldToInterface();
    std::unique_lock lock(mutex_);
    for (;;) {
        ++idle_;
        wake_.wait(lock, closing, [this] { return !waiting_.empty(); });
        --idle_;
        if (waiting_.empty())
            return; // closing, and all is done
        Order order = std::move(waiting_.front());
        waiting_.pop_front();
        underWay_.push_back(order.stop);
        lock.unlock();
        order.work(order.stop.get_token());
        order.work = nullptr; // what it holds goes now, not with the next
        lock.lock();
        std::erase(underWay_, order.stop);
    }
}

} // namespace hasami
