#include "workshop/workshop.h"

#include "base/error.h"

#include <utility>

namespace hasami {

Workshop::Workshop(PictureSource pictures, Tells tells)
    : pictures_(std::move(pictures)), tells_(std::move(tells)),
      thread_([this](const std::stop_token& closing) { work(closing); }) {}

Workshop::~Workshop() {
    thread_.request_stop();
    const std::scoped_lock lock(mutex_);
    underWay_.request_stop();
}

void Workshop::submit(Job job, std::uint64_t revision, std::string first) {
    const std::scoped_lock lock(mutex_);
    underWay_.request_stop();
    next_ = Order{std::move(job), revision, std::move(first), {}};
    wake_.notify_one();
}

void Workshop::work(const std::stop_token& closing) {
    for (;;) {
        std::optional<Order> order;
        {
            std::unique_lock lock(mutex_);
            wake_.wait(lock, closing, [this] { return next_.has_value(); });
            if (closing.stop_requested())
                return;
            order = std::exchange(next_, std::nullopt);
            underWay_ = order->stop;
        }
        try {
            const Progress progress{order->first, [&](const MadeDesign& made) {
                                        if (tells_.designMade && !closing.stop_requested())
                                            tells_.designMade(order->revision, made);
                                    }};
            tells_.done(std::make_shared<const Made>(
                makeAll(order->job, order->revision, pictures_, cache_, order->stop.get_token(), progress)));
        } catch (const Stopped&) {
            // A newer revision is waiting, or the workshop is closing.
        }
    }
}

} // namespace hasami
