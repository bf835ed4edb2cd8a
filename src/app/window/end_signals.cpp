#include "app/window/end_signals.h"

#include <QSocketNotifier>

#include <array>
#include <csignal>
#include <fcntl.h>
#include <unistd.h>

namespace hasami {

namespace {

constexpr std::array endingSignals{SIGTERM, SIGHUP, SIGINT};

/// A signal handler can do little but write a byte, which the event loop reads.
std::array<int, 2> endPipe{-1, -1};

extern "C" void hearEndSignal(int) {
    const char one = 1;
    [[maybe_unused]] const ssize_t written = write(endPipe[1], &one, 1);
}

} // namespace

EndSignals::EndSignals(QObject* parent) : QObject(parent) {
    if (pipe2(endPipe.data(), O_CLOEXEC | O_NONBLOCK) != 0)
        qFatal("no pipe for signals");
    notifier_ = new QSocketNotifier(endPipe[0], QSocketNotifier::Read, this);
    connect(notifier_, &QSocketNotifier::activated, this, [this] {
        for (char some = 0; read(endPipe[0], &some, 1) > 0;) {
        }
        Q_EMIT received();
    });
    struct sigaction action {};
    action.sa_handler = hearEndSignal;
    action.sa_flags = SA_RESTART;
    for (const int signal : endingSignals)
        sigaction(signal, &action, nullptr);
}

EndSignals::~EndSignals() {
    for (const int signal : endingSignals)
        std::signal(signal, SIG_DFL); // NOLINT(cert-err33-c): it takes these
    delete notifier_;
    for (const int end : endPipe)
        close(end);
}

} // namespace hasami
