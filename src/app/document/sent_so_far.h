#pragma once

#include "files/devices/send.h"
#include "files/hpgl.h"

#include <QCoreApplication>

#include <algorithm>
#include <atomic>
#include <cstddef>
#include <functional>
#include <memory>
#include <string_view>

namespace hasami {

/// What a machine has received of what is being sent to it, as the thread that sends knows it at any time.
struct SentSoFar {
    std::atomic<double> share = 0;      ///< of the bytes, 0 to 1
    std::atomic<std::size_t> lines = 0; ///< that are cut, whole
    std::atomic<bool> isPaused = false;
};

/// Follows the sending of `size` bytes; `show` is called in the interface's thread at each percent.
inline SendProgress followed(const std::shared_ptr<SentSoFar>& soFar, std::size_t size,
                             std::function<void()> show) {
    return [soFar, size, show = std::move(show), counted = std::size_t{0},
            percent = -1](std::string_view received) mutable {
        const std::size_t end = received.rfind('\n') + 1; // 0 where there is none
        if (end > counted) {
            soFar->lines += cutsIn(received.substr(counted, end - counted));
            counted = end;
        }
        soFar->share = double(received.size()) / double(std::max<std::size_t>(1, size));
        if (const int now = int(soFar->share * 100); now > percent) {
            percent = now;
            QMetaObject::invokeMethod(QCoreApplication::instance(), show, Qt::QueuedConnection);
        }
    };
}

} // namespace hasami
