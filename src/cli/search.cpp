#include "cli/search.h"

#include "base/number_text.h"
#include "base/translation.h"

#include <csignal>
#include <cstdlib>
#include <iostream>
#include <thread>
#include <unistd.h>

namespace hasami {

namespace {

/// Takes interrupts while it lives, and asks to stop in place of ending the program; another one ends it:
/// nothing is written yet.
class Interrupts {
public:
    Interrupts() {
        sigemptyset(&signals_);
        sigaddset(&signals_, SIGINT);
        sigaddset(&signals_, SIGTERM);
        pthread_sigmask(SIG_BLOCK, &signals_, &before_); // for the threads begun from now on as well
        waiter_ = std::jthread([this](const std::stop_token& closing) {
            int signal = 0;
            while (sigwait(&signals_, &signal) == 0 && !closing.stop_requested())
                if (!stop_.request_stop()) // asked for before
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

void tellProgress(const nesting::Nest& nest) {
    const std::string used = numberText(nest.usedLength, 2), full = numberText(nest.density * 100, 1);
    std::cerr << "\r"
              << (nest.sheets > 1 ? sentence("%1 sheets, the last used up to %2 mm, %3 % full",
                                             std::to_string(nest.sheets), used, full)
                                  : sentence("%1 mm, %2 % full", used, full))
              << "   " << std::flush;
}

} // namespace

nesting::Nest nestWatched(const nesting::Problem& problem, const nesting::Effort& effort) {
    const bool isWatched = isatty(STDERR_FILENO) != 0;
    const Interrupts interrupts;
    nesting::Nest result = nesting::nest(problem, effort, interrupts.token(),
                                         isWatched ? nesting::Progress(tellProgress) : nesting::Progress());
    if (isWatched)
        std::cerr << "\n";
    return result;
}

} // namespace hasami
