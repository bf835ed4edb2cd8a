#pragma once

#include "app/run/run_place.h"
#include "support/window_driver.h"

#include <arpa/inet.h>
#include <array>
#include <atomic>
#include <cstdlib>
#include <fcntl.h>
#include <mutex>
#include <poll.h>
#include <set>
#include <sstream>
#include <sys/socket.h>
#include <thread>
#include <unistd.h>

namespace hasami::test {

/// A cutter that speaks HPGL over the network: it keeps what it is sent, and says where its head is.
class StandIn {
public:
    StandIn() : listening_(socket(AF_INET, SOCK_STREAM, 0)) {
        sockaddr_in address{};
        address.sin_family = AF_INET;
        address.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
        socklen_t size = sizeof address;
        REQUIRE(bind(listening_, reinterpret_cast<sockaddr*>(&address), size) == 0);
        REQUIRE(listen(listening_, 8) == 0);
        REQUIRE(getsockname(listening_, reinterpret_cast<sockaddr*>(&address), &size) == 0);
        port_ = ntohs(address.sin_port);
        server_ = std::jthread([this](const std::stop_token& stop) { serve(stop); });
    }
    ~StandIn() {
        server_.request_stop();
        server_.join();
        close(listening_);
    }

    std::string connection() const { return "tcp:127.0.0.1:" + std::to_string(port_); }
    void answer(const std::string& text) {
        const std::lock_guard lock(mutex_);
        answer_ = text;
    }
    void headAt(Point axes) { // mm along the cutter's axes
        answer(std::to_string(std::lround(axes.x * 40)) + "," + std::to_string(std::lround(axes.y * 40)) +
               ",0");
    }
    QByteArray got() {
        const std::lock_guard lock(mutex_);
        return QByteArray::fromStdString(got_);
    }
    /// It reads nothing, until it goes on.
    void setBusy(bool isBusy) { isBusy_ = isBusy; }

private:
    static bool isReady(int descriptor) {
        pollfd asked{descriptor, POLLIN, 0};
        return poll(&asked, 1, 10) > 0;
    }
    void serve(const std::stop_token& stop) {
        while (!stop.stop_requested()) {
            if (!isReady(listening_))
                continue;
            const int line = accept(listening_, nullptr, nullptr);
            for (bool isOpen = true; isOpen && !stop.stop_requested();) {
                std::array<char, 4096> some{};
                if (!isReady(line))
                    continue;
                if (isBusy_) {
                    std::this_thread::yield();
                    continue;
                }
                const ssize_t count = read(line, some.data(), some.size());
                isOpen = count > 0;
                const std::string text(some.data(), std::size_t(std::max<ssize_t>(0, count)));
                const std::lock_guard lock(mutex_);
                if (text == "OA;")
                    isOpen = write(line, (answer_ + "\r").data(), answer_.size() + 1) > 0;
                else
                    got_ += text;
            }
            close(line);
        }
    }

    int listening_, port_ = 0;
    std::mutex mutex_;
    std::atomic<bool> isBusy_ = false;
    std::string got_, answer_ = "0,0,0";
    std::jthread server_;
};

struct Cutting {
    /// `state`: where the program keeps its queue.
    explicit Cutting(const QString& state = {}, bool isNew = true) : w(state) {
        if (!isNew)
            return;
        w.drop({HASAMI_SOURCE_DIR "/data/demo/comb-ring.png"});
        w.window().document().change("Test", [&](Job& job) {
            job.designs.front().artwork = scaledToWidth(job.designs.front().artwork, 40);
            LineRecipe die;
            die.kind = LineKind::die;
            die.offset = 4;
            job.designs.front().recipe.lines.push_back(die);
            job.plan.medium.width = width;
            job.profile.marks.corners = 4;
            job.profile.cutter.connection = cutter.connection();
        });
        w.settle();
        w.click("Run place");
        useCutter();
    }
    RunControl& run() { return w.window().runPlace().run(); }
    void useCutter() {
        w.choose("Cutter of the run", "Of the profile");
        REQUIRE(QTest::qWaitFor([&] { return !run().isBusy(); }, 20'000));
        w.settle();
    }
    bool isAtMarks() { return run().model().task() == RunTask::findMarks; }
    bool isReady() { // for a pass, or to go on with one
        const RunTask task = run().model().task();
        return run().model().activity() == RunActivity::none &&
               (task == RunTask::changeTool || task == RunTask::cut);
    }
    bool isSending() { return run().model().activity() == RunActivity::cutting; }
    bool isStopping() { return run().model().activity() == RunActivity::stopping; }
    bool isDone() { return run().model().isDone(); }
    QString instruction() { return w.find<QLabel>("Run instruction")->text(); }
    void next() {
        w.click("Next run");
        REQUIRE(QTest::qWaitFor([&] { return !run().isBusy() && !isSending(); }, 20'000));
        w.settle();
    }
    Point axesOf(Point sheet) const { return {sheet.x, width - sheet.y}; }

    static constexpr double width = 150;
    StandIn cutter;
    WindowDriver w;
};

/// The lines of a file that cut, each once.
inline std::set<std::string> cutLines(const std::string& hpgl) {
    std::set<std::string> lines;
    std::istringstream in(hpgl);
    for (std::string line; std::getline(in, line);)
        if (line.starts_with("PU") && line.find("PD") != std::string::npos && line.ends_with(";"))
            lines.insert(line);
    return lines;
}

/// A cutter on a serial line whose memory is full until it starts to read.
class FullMachine {
public:
    FullMachine() : master_(posix_openpt(O_RDWR | O_NOCTTY | O_NONBLOCK)) {
        REQUIRE(master_ >= 0);
        REQUIRE(grantpt(master_) == 0);
        REQUIRE(unlockpt(master_) == 0);
        name_ = ptsname(master_);                       // NOLINT(concurrency-mt-unsafe)
        keep_ = open(name_.c_str(), O_RDWR | O_NOCTTY); // the line stays up between two senders
    }
    ~FullMachine() {
        reader_.request_stop();
        if (reader_.joinable())
            reader_.join();
        close(keep_);
        close(master_);
    }
    FullMachine(const FullMachine&) = delete;
    FullMachine& operator=(const FullMachine&) = delete;

    std::string connection() const { return "device:" + name_; }
    /// Whether no more can be sent to it.
    bool isFull() const {
        pollfd line{keep_, POLLOUT, 0};
        return poll(&line, 1, 0) == 0;
    }
    /// Fills its memory with line ends but for a number of bytes.
    void fillAllBut(std::size_t room) {
        while (!isFull())
            REQUIRE(write(keep_, "\n", 1) == 1);
        std::array<char, 4096> some{};
        while (room > 0) {
            const ssize_t freed = read(master_, some.data(), std::min(room, some.size()));
            REQUIRE(freed > 0);
            room -= std::size_t(freed);
        }
    }
    /// From now on it takes all that comes.
    void readAll() {
        reader_ = std::jthread([this](const std::stop_token& stop) {
            while (!stop.stop_requested()) {
                std::array<char, 4096> some{};
                pollfd asked{master_, POLLIN, 0};
                if (poll(&asked, 1, 10) <= 0)
                    continue;
                const ssize_t count = read(master_, some.data(), some.size());
                const std::lock_guard lock(mutex_);
                got_.append(some.data(), std::size_t(std::max<ssize_t>(0, count)));
            }
        });
    }
    std::string got() {
        const std::lock_guard lock(mutex_);
        return got_;
    }

private:
    int master_, keep_ = -1;
    std::string name_, got_;
    std::mutex mutex_;
    std::jthread reader_;
};

} // namespace hasami::test
