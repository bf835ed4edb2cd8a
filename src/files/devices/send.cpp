#include "files/devices/send.h"

#include "base/error.h"
#include "base/number_text.h"
#include "base/translation.h"
#include "files/hpgl.h"
#include "files/safe_write.h"

#include <algorithm>
#include <chrono>
#include <thread>

namespace hasami {

namespace {

using std::chrono::milliseconds;
using std::chrono::steady_clock;

constexpr milliseconds lookAgain{20};       // whether to stop or to pause
constexpr milliseconds timeoutOfStop{2000}; // without anything taken
constexpr milliseconds timeoutOfAnswer{5000};

/// The length of the whole commands at the start of `hpgl`, at most `most` bytes of them, but at least one
/// command.
std::size_t wholeCommands(std::string_view hpgl, std::size_t most) {
    if (hpgl.size() <= most)
        return hpgl.size();
    std::size_t end = hpgl.substr(0, most).find_last_of(";\n");
    if (end == std::string_view::npos)
        end = std::min(hpgl.find_first_of(";\n"), hpgl.size() - 1);
    return end + 1;
}

/// Whether the first `size` bytes end between two commands.
bool endsBetweenCommands(std::string_view hpgl, std::size_t size) {
    return size == 0 || hpgl[size - 1] == ';' || hpgl[size - 1] == '\n';
}

bool endsLine(std::string_view hpgl, std::size_t size) {
    return size == 0 || hpgl[size - 1] == '\n';
}

/// A cut on its way to a machine.
class Sending {
public:
    Sending(Connection& machine, const SendTarget& target, std::string_view hpgl,
            const SendProgress& progress)
        : machine_(machine), target_(target), hpgl_(hpgl), progress_(progress) {}

    void run(const std::stop_token& stop, const std::atomic<bool>* isPaused) {
        try {
            while (given_ < hpgl_.size() && !stop.stop_requested())
                if (isPaused && *isPaused && endsLine(hpgl_, given_))
                    hold(*isPaused, stop);
                else
                    giveNext(isPaused && *isPaused);
            if (given_ < hpgl_.size()) {
                end();
                throw Stopped();
            }
            waitForReceipt(stop);
        } catch (const ConnectionLost& lost) {
            throw OutputError(sentence("%1 ended the connection after %2 %: %3", target_.name(),
                                       numberText(100 * double(received_) / double(hpgl_.size()), 0),
                                       lost.reason));
        }
    }

private:
    /// Whole commands, of this line alone where it is to pause at its end.
    void giveNext(bool toEndOfLine) {
        if (left_ == 0) {
            std::string_view next = hpgl_.substr(given_);
            if (toEndOfLine)
                next = next.substr(0, std::min(next.find('\n'), next.size() - 1) + 1);
            left_ = wholeCommands(next, Connection::mostWaiting / 2);
        }
        const std::size_t count = machine_.give(hpgl_.substr(given_, left_), lookAgain);
        given_ += count;
        left_ -= count;
        report();
    }

    /// At the end of a line: lifts the knife, and waits.
    void hold(const std::atomic<bool>& isPaused, const std::stop_token& stop) {
        std::string lift = "PU;";
        while ((isPaused || !lift.empty()) && !stop.stop_requested()) {
            lift.erase(0, machine_.give(lift, lookAgain));
            report();
            if (lift.empty())
                std::this_thread::sleep_for(lookAgain);
        }
    }

    /// Completes the command under way, then lifts the knife.
    void end() {
        std::string last(hpgl_.substr(given_, endsBetweenCommands(hpgl_, given_) ? 0 : left_));
        last += hpglLift;
        std::size_t sent = 0, waiting = machine_.waiting();
        auto lastTaken = steady_clock::now();
        while (sent < last.size() || waiting > 0) {
            const std::size_t count = sent < last.size()
                                          ? machine_.give(std::string_view(last).substr(sent), lookAgain,
                                                          2 * Connection::mostWaiting)
                                          : 0;
            sent += count;
            const std::size_t now = machine_.waiting();
            if (count > 0 || now < waiting)
                lastTaken = steady_clock::now();
            waiting = now;
            if (steady_clock::now() - lastTaken > timeoutOfStop)
                return leave(last, sent);
            if (sent == last.size())
                std::this_thread::sleep_for(milliseconds(2));
        }
        report();
    }

    /// The machine takes nothing.
    [[noreturn]] void leave(const std::string& last, std::size_t sent) {
        report();
        const std::string all = std::string(hpgl_.substr(0, given_)) + last;
        const std::size_t gone = given_ + sent - machine_.drop();
        std::size_t end = gone;
        while (end < all.size() && !endsBetweenCommands(all, end))
            ++end;
        const bool isLiftGiven = gone == all.size();
        machine_.setUnfinished(isLiftGiven ? std::string()
                                           : all.substr(gone, end - gone) +
                                                 (end < all.size() ? std::string(hpglLift) : std::string()));
        throw OutputError(sentence(
            "Stopped, but %1 takes nothing: its knife may be down. Lift it at the machine", target_.name()));
    }

    void waitForReceipt(const std::stop_token& stop) {
        auto lastTaken = steady_clock::now();
        for (std::size_t before = 0, now = machine_.waiting(); now > 0; now = machine_.waiting()) {
            if (now != before)
                lastTaken = steady_clock::now();
            before = now;
            if (stop.stop_requested() && steady_clock::now() - lastTaken > timeoutOfStop)
                leave({}, 0);
            report();
            std::this_thread::sleep_for(milliseconds(2));
        }
        report();
    }

    void report() {
        if (!progress_)
            return;
        const std::size_t gone = given_ - std::min(machine_.waiting(), given_);
        const std::size_t whole = gone == 0 ? 0 : hpgl_.substr(0, gone).find_last_of(";\n") + 1;
        if (whole <= received_)
            return;
        received_ = whole;
        progress_(hpgl_.substr(0, received_));
    }

    Connection& machine_;
    const SendTarget& target_;
    std::string_view hpgl_;
    const SendProgress& progress_;
    std::size_t given_ = 0;    ///< bytes of it
    std::size_t left_ = 0;     ///< of what is being given, up to the end of its last command
    std::size_t received_ = 0; ///< as it was reported
};

} // namespace

void sendTo(const SendTarget& target, const std::string& name, std::string_view hpgl,
            const SendProgress& progress, const std::stop_token& stop, const std::atomic<bool>* isPaused,
            HostLookUp lookUp) {
    if (target.kind == SendTarget::Kind::folder) {
        writeSafely(target.path / name, hpgl);
        if (progress)
            progress(hpgl);
        return;
    }
    Connection machine = Connection::open(target, Connection::Access::send, stop, lookUp);
    Sending(machine, target, hpgl, progress).run(stop, isPaused);
}

std::string askMachine(const SendTarget& target, std::string_view question, const std::stop_token& stop,
                       std::chrono::seconds patience) {
    if (target.kind == SendTarget::Kind::folder)
        throw OutputError(sentence("%1 is a folder, and can't be asked where the head is", target.name()));
    Connection machine = Connection::open(target, Connection::Access::sendAndReceive, stop);
    std::string answer;
    const auto end = steady_clock::now() + patience;
    try {
        while (steady_clock::now() < end) {
            throwIfStopped(stop);
            if (!question.empty()) {
                question.remove_prefix(machine.give(question, lookAgain));
                continue;
            }
            answer += machine.receive(lookAgain);
            if (const auto line = answer.find_first_of("\r\n"); line != std::string::npos && line > 0)
                return answer.substr(0, line);
        }
    } catch (const OutputError&) {
        // it closed without an answer
    }
    throw OutputError(sentence("%1 does not say where its head is: type the position", target.name()));
}

} // namespace hasami
