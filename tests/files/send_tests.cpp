#include "base/error.h"
#include "files/devices/send.h"
#include "files/hpgl.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

#include <array>
#include <atomic>
#include <chrono>
#include <cstdlib>
#include <fcntl.h>
#include <future>
#include <latch>
#include <netinet/in.h>
#include <poll.h>
#include <sys/ioctl.h>
#include <sys/socket.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <thread>
#include <unistd.h>

using namespace hasami;
using namespace hasami::test;

namespace {

/// Some lines of fifty numbers each.
std::string someHpgl(int lines) {
    std::string hpgl = "IN;PA;\nSP1;VS30.0;\n";
    for (int i = 0; i < lines; ++i) {
        hpgl += "PU" + std::to_string(1000 + i) + ",2000;PD";
        for (int k = 0; k < 50; ++k)
            hpgl += (k ? "," : "") + std::to_string(1000 + i + k) + "," + std::to_string(15'000 + 7 * k);
        hpgl += ";\n";
    }
    return hpgl + "PU0,0;SP0;\n";
}

/// What a descriptor holds until nothing more comes from an open sender, or its end.
std::string readAll(int descriptor) {
    std::string got;
    std::array<char, 4096> some{};
    for (;;) {
        pollfd asked{descriptor, POLLIN, 0};
        if (poll(&asked, 1, 300) <= 0)
            return got;
        const ssize_t count = read(descriptor, some.data(), some.size());
        if (count <= 0)
            return got;
        got.append(some.data(), std::size_t(count));
    }
}

/// Whether `got` is the first part of the file up to the end of a command, and then the lift.
bool isLiftedPart(const std::string& got, const std::string& hpgl) {
    if (!got.ends_with(hpglLift))
        return false;
    const std::string part = got.substr(0, got.size() - hpglLift.size());
    return hpgl.starts_with(part) && (part.empty() || part.back() == ';' || part.back() == '\n');
}

/// Sends in a thread of its own.
struct Sending {
    Sending(const std::string& to, const std::string& hpgl, HostLookUp lookUp = &getaddrinfo)
        : done(std::async(std::launch::async, [this, to, hpgl, lookUp]() -> std::string {
              try {
                  sendTo(
                      SendTarget::parse(to), "f.plt", hpgl,
                      [this](std::string_view part) { received = part.size(); }, stop.get_token(), &isPaused,
                      lookUp);
              } catch (const Stopped&) {
                  return "stopped";
              } catch (const OutputError& error) {
                  return error.what();
              }
              return {};
          })) {}
    ~Sending() { stop.request_stop(); }

    std::atomic<std::size_t> received = 0;
    std::atomic<bool> isPaused = false;
    std::stop_source stop;
    std::future<std::string> done;
};

/// A machine with a port of its own.
class NetworkMachine {
public:
    NetworkMachine() : listening_(socket(AF_INET, SOCK_STREAM | SOCK_CLOEXEC, 0)) {
        const int little = 2304; // bytes that it takes without being read
        setsockopt(listening_, SOL_SOCKET, SO_RCVBUF, &little, sizeof little);
        sockaddr_in address{};
        address.sin_family = AF_INET;
        address.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
        socklen_t size = sizeof address;
        REQUIRE(bind(listening_, reinterpret_cast<sockaddr*>(&address), size) == 0);
        REQUIRE(listen(listening_, 4) == 0);
        REQUIRE(getsockname(listening_, reinterpret_cast<sockaddr*>(&address), &size) == 0);
        port_ = ntohs(address.sin_port);
    }
    ~NetworkMachine() { close(listening_); }
    NetworkMachine(const NetworkMachine&) = delete;
    NetworkMachine& operator=(const NetworkMachine&) = delete;

    std::string name() const { return "tcp:127.0.0.1:" + std::to_string(port_); }
    int accepted() const { return accept(listening_, nullptr, nullptr); }

private:
    int listening_, port_ = 0;
};

/// A serial line: the machine's end of it, and what the sender opens.
class SerialMachine {
public:
    SerialMachine() : master_(posix_openpt(O_RDWR | O_NOCTTY | O_NONBLOCK | O_CLOEXEC)) {
        REQUIRE(master_ >= 0);
        REQUIRE(grantpt(master_) == 0);
        REQUIRE(unlockpt(master_) == 0);
        name_ = ptsname(master_);                                   // NOLINT(concurrency-mt-unsafe)
        keep_ = open(name_.c_str(), O_RDWR | O_NOCTTY | O_CLOEXEC); // the line stays up between two senders
    }
    ~SerialMachine() {
        close(keep_);
        close(master_);
    }
    SerialMachine(const SerialMachine&) = delete;
    SerialMachine& operator=(const SerialMachine&) = delete;

    std::string name() const { return "device:" + name_; }
    int end() const { return master_; }

private:
    int master_, keep_ = -1;
    std::string name_;
};

template <class Condition>
bool waitFor(const Condition& condition) {
    const auto end = std::chrono::steady_clock::now() + std::chrono::seconds(20);
    while (!condition() && std::chrono::steady_clock::now() < end)
        std::this_thread::yield();
    return condition();
}

/// Until it is not 0 and does not change any more.
void waitUntilStill(const std::atomic<std::size_t>& count) {
    std::size_t last = 0;
    auto since = std::chrono::steady_clock::now();
    REQUIRE(waitFor([&] {
        const auto now = std::chrono::steady_clock::now();
        if (count != std::exchange(last, std::size_t(count)))
            since = now;
        return last > 0 && now - since > std::chrono::milliseconds(300);
    }));
}

int waitingIn(int descriptor) {
    int count = 0;
    ioctl(descriptor, FIONREAD, &count);
    return count;
}

} // namespace

TEST_CASE("a stopped cut ends between two commands with the knife up, though the machine read nothing then") {
    const NetworkMachine machine;
    const std::string hpgl = someHpgl(400);
    Sending sending(machine.name(), hpgl);
    const int line = machine.accepted();
    REQUIRE(waitFor([&] { return waitingIn(line) > 0; }));
    sending.stop.request_stop();
    const std::string said = sending.done.get();
    CHECK((said == "stopped" || said.find("its knife may be down") != std::string::npos));
    const std::string got = readAll(line); // the machine reads on
    CHECK(isLiftedPart(got, hpgl));
    CHECK(got.size() < 20'000); // of 190,000: what its own memory takes, and little more
    CHECK(sending.received <= got.size());
    close(line);
}

TEST_CASE("what a machine has not taken does not count as received, and few bytes wait for it") {
    const TemporaryFolder folder;
    const std::string path = folder.path("machine").toStdString();
    REQUIRE(mkfifo(path.c_str(), 0600) == 0);
    const int end = open(path.c_str(), O_RDONLY | O_NONBLOCK | O_CLOEXEC);
    const std::string hpgl = someHpgl(100);
    Sending sending("device:" + path, hpgl);
    REQUIRE(waitFor([&] { return waitingIn(end) > 0; }));
    CHECK(sending.received == 0);
    sending.stop.request_stop();
    CHECK(sending.done.get().find("its knife may be down") != std::string::npos);
    CHECK(sending.received == 0);
    CHECK(waitingIn(end) <= int(2 * Connection::mostWaiting));
    const std::string got = readAll(end);
    CHECK(isLiftedPart(got, hpgl));
    close(end);
}

TEST_CASE("what was cut off within a number is completed before anything else is sent") {
    const SerialMachine machine;
    const std::string hpgl = someHpgl(200);
    std::string said;
    {
        Sending sending(machine.name(), hpgl);
        waitUntilStill(sending.received); // its memory is full, at some byte
        sending.stop.request_stop();
        said = sending.done.get();
    }
    CHECK(said.find("its knife may be down") != std::string::npos);
    const std::string second = someHpgl(3);
    Sending sending(machine.name(), second);
    std::string got;
    while (sending.done.wait_for(std::chrono::seconds(0)) != std::future_status::ready)
        got += readAll(machine.end());
    got += readAll(machine.end());
    CHECK(sending.done.get().empty());
    REQUIRE(got.ends_with(second));
    CHECK(isLiftedPart(got.substr(0, got.size() - second.size()), hpgl));
}

TEST_CASE("a machine that holds the line back is left in time, and its line is free again") {
    const SerialMachine machine;
    REQUIRE(write(machine.end(), "\x13", 1) == 1); // XOFF
    Sending sending(machine.name(), someHpgl(5000));
    sending.stop.request_stop();
    const std::string said = sending.done.get();
    CHECK((said == "stopped" || said.find("its knife may be down") != std::string::npos));
    Sending next(machine.name(), "IN;\n"); // neither refused as in use nor kept for ever
    next.stop.request_stop();
    CHECK(next.done.get().find("in use") == std::string::npos);
}

TEST_CASE("of two cuts for one machine the second is refused, from another process too") {
    const SerialMachine machine;
    Sending first(machine.name(), someHpgl(2000));
    REQUIRE(waitFor([&] { return waitingIn(machine.end()) > 0; }));
    Sending second(machine.name(), someHpgl(1));
    CHECK(second.done.get().find("in use by another cut") != std::string::npos);
    const pid_t other = fork();
    if (other == 0) {
        try {
            const ConnectionLock lock(SendTarget::parse(machine.name()));
            _exit(1);
        } catch (const OutputError&) {
            _exit(0);
        }
    }
    int status = 1;
    REQUIRE(waitpid(other, &status, 0) == other);
    CHECK(status == 0);
    first.stop.request_stop();
    std::string got;
    while (first.done.wait_for(std::chrono::seconds(0)) != std::future_status::ready)
        got += readAll(machine.end());
    CHECK(first.done.get() == "stopped");
    got += readAll(machine.end());
    INFO(got.substr(got.size() - std::min<std::size_t>(got.size(), 200)));
    CHECK(isLiftedPart(got, someHpgl(2000)));
    const ConnectionLock lock(SendTarget::parse(machine.name())); // it is free
}

TEST_CASE("a stop is heard while a machine's name is looked up") {
    static std::latch isEnding(1);
    const HostLookUp neverEnding = [](const char*, const char*, const addrinfo*, addrinfo**) {
        isEnding.wait();
        return EAI_FAIL;
    };
    Sending sending("tcp:cutter.example:9100", someHpgl(1), neverEnding);
    sending.stop.request_stop();
    CHECK(sending.done.get() == "stopped");
    isEnding.count_down();
}

TEST_CASE("a pause begins at the end of a line, knife up, and nothing is lost by it") {
    const NetworkMachine machine;
    const std::string hpgl = someHpgl(60);
    Sending sending(machine.name(), hpgl);
    sending.isPaused = true;
    const int line = machine.accepted();
    std::string got;
    REQUIRE(waitFor([&] {
        got += readAll(line);
        return got.ends_with("\nPU;") || got == "PU;";
    }));
    CHECK(hpgl.starts_with(got.substr(0, got.size() - 3)));
    const std::size_t at = got.size() - 3;
    sending.isPaused = false;
    while (sending.done.wait_for(std::chrono::seconds(0)) != std::future_status::ready)
        got += readAll(line);
    got += readAll(line);
    CHECK(sending.done.get().empty());
    CHECK(got == hpgl.substr(0, at) + "PU;" + hpgl.substr(at));
    CHECK(sending.received == hpgl.size());
    close(line);
}

TEST_CASE("a machine that talks all the time still gets everything") {
    const NetworkMachine machine;
    const std::string hpgl = someHpgl(60);
    Sending sending(machine.name(), hpgl);
    const int line = machine.accepted();
    REQUIRE(write(line, "busy\r\nbusy\r\n", 12) == 12);
    std::string got;
    while (sending.done.wait_for(std::chrono::seconds(0)) != std::future_status::ready)
        got += readAll(line);
    got += readAll(line);
    CHECK(sending.done.get().empty());
    CHECK(got == hpgl);
    close(line);
}

TEST_CASE("a machine that goes away is named, with how much of the cut it received") {
    const NetworkMachine machine;
    Sending sending(machine.name(), someHpgl(400));
    const int line = machine.accepted();
    REQUIRE(waitFor([&] { return waitingIn(line) > 0; }));
    close(line);
    CHECK(sending.done.get().find("ended the connection after") != std::string::npos);
}
