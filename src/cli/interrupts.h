#pragma once

#include <csignal>
#include <cstdlib>
#include <stop_token>
#include <thread>

namespace hasami {

/// Takes interrupts, and the end of the session or terminal, while it lives, and asks to stop in place of
/// ending the program. Another one ends it, where nothing is written yet; it is ignored where a knife is down
/// that has to be lifted, which takes only seconds.
class Interrupts {
public:
    enum class Another { ends, isIgnored };
    explicit Interrupts(Another another = Another::ends) {
        sigemptyset(&signals_);
        sigaddset(&signals_, SIGINT);
        sigaddset(&signals_, SIGTERM);
        sigaddset(&signals_, SIGHUP);
        pthread_sigmask(SIG_BLOCK, &signals_, &before_); // for the threads begun from now on as well
        waiter_ = std::jthread([this, another](const std::stop_token& closing) {
            int signal = 0;
            while (sigwait(&signals_, &signal) == 0 && !closing.stop_requested())
                if (!stop_.request_stop() && another == Another::ends) // asked for before
                    std::_Exit(128 + signal);
        });
    }
    ~Interrupts() {
        waiter_.request_stop();
        pthread_kill(waiter_.native_handle(), SIGINT); // it waits for one
        waiter_.join();
        pthread_sigmask(SIG_SETMASK, &before_, nullptr);
    }
    Interrupts(const Interrupts&) = delete;
    Interrupts& operator=(const Interrupts&) = delete;

    std::stop_token token() const { return stop_.get_token(); }

private:
    sigset_t signals_{}, before_{};
    std::stop_source stop_;
    std::jthread waiter_;
};

} // namespace hasami
