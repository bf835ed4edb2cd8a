#include "workshop/workshop.h"

#include "base/error.h"

namespace hasami {

Workshop::Workshop(PictureSource pictures, std::function<void(std::shared_ptr<const Made>)> done)
    : pictures_(std::move(pictures)), done_(std::move(done)),
      thread_([this](const std::stop_token& closing) { work(closing); }) {}

Workshop::~Workshop() {
    thread_.request_stop();
    const std::scoped_lock lock(mutex_);
    underWay_.request_stop();
}

void Workshop::submit(Job job, std::uint64_t revision) {
    const std::scoped_lock lock(mutex_);
    underWay_.request_stop();
    next_ = Order{std::move(job), revision, {}};
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
            auto made = std::make_shared<const Made>(
                makeAll(order->job, order->revision, pictures_, cache_, order->stop.get_token()));
            done_(std::move(made));
        } catch (const Stopped&) {
            // A newer revision is waiting, or the workshop is closing.
        }
    }
}

} // namespace hasami
