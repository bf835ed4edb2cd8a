#include "app/document/send_run.h"
#include "app/kit/elided_label.h"
#include "app/sheet/outputs_panel.h"
#include "app/sheet/sheet_place.h"
#include "files/hpgl.h"
#include "files/read_file.h"
#include "support/window_driver.h"

#include <cstdlib>
#include <fcntl.h>
#include <unistd.h>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString bee = HASAMI_SOURCE_DIR "/data/demo/bee.png";

/// The machine's side of a serial line, which reads only when it is told to.
class Machine {
public:
    Machine() : master_(posix_openpt(O_RDWR | O_NOCTTY | O_NONBLOCK)) {
        REQUIRE(master_ >= 0);
        REQUIRE(grantpt(master_) == 0);
        REQUIRE(unlockpt(master_) == 0);
        keep_ = open(name().c_str(), O_RDWR | O_NOCTTY); // the line stays up between two senders
    }
    ~Machine() {
        close(keep_);
        close(master_);
    }

    std::string name() const { return ptsname(master_); } // NOLINT(concurrency-mt-unsafe)

    /// What there is, or has come within some time.
    void read(std::size_t most = 1 << 20, int milliseconds = 300) {
        for (int waited = 0; got.size() < most && waited < milliseconds;) {
            std::array<char, 512> some{};
            const ssize_t count = ::read(master_, some.data(), std::min(some.size(), most - got.size()));
            if (count > 0)
                got.append(some.data(), std::size_t(count));
            else {
                QTest::qWait(10);
                waited += 10;
            }
        }
    }

    std::string got;

private:
    int master_, keep_;
};

/// Many bees on the sheet, and the panel open.
struct Sending {
    Sending() {
        w.drop({bee});
        w.click("Sheet place");
        w.type("Copies field", "60");
        w.click("Outputs");
        w.type("Machine field", QString::fromStdString("device:" + machine.name() + ",9600"));
    }

    SendRun& run() { return *w.window().findChild<SendRun*>(); }
    void readToTheEnd() {
        REQUIRE(QTest::qWaitFor(
            [&] {
                machine.read(1 << 24, 20);
                return !run().isOn();
            },
            60'000));
        machine.read();
    }
    QString state() { return w.find<ElidedLabel>("Send state")->whole(); }
    std::string hpgl() {
        const Document& document = w.window().document();
        return cutHpgl(*document.namedJob(), *document.made(), 0);
    }

    Machine machine;
    WindowDriver w;
};

} // namespace

TEST_CASE("a sheet is sent to the machine from the window, with its progress") {
    Sending t;
    t.w.click("Send");
    CHECK(t.w.find<QPushButton>("Stop sending")->isVisible());
    t.readToTheEnd();
    CHECK(t.run().state() == SendRun::State::done);
    CHECK(t.machine.got == t.hpgl());
    CHECK(t.state().startsWith("Sent to " + QString::fromStdString(t.machine.name())));
    CHECK(t.w.find<QPushButton>("Send")->isVisible());
}

TEST_CASE("sending pauses at the end of a line with the knife up, and goes on where it was") {
    Sending t;
    t.w.click("Send");
    t.machine.read(6000);
    t.w.click("Pause sending");
    CHECK(t.run().state() == SendRun::State::paused);
    t.machine.read(1 << 24, 1000);
    const std::string whole = t.hpgl();
    REQUIRE(t.machine.got.size() < whole.size());
    CHECK(t.machine.got.ends_with(";\nPU;")); // the line is whole, then the knife goes up
    CHECK(whole.starts_with(t.machine.got.substr(0, t.machine.got.size() - 3)));
    CHECK(t.state().startsWith("Paused at "));
    t.w.click("Pause sending"); // it says "Go on"
    t.readToTheEnd();
    std::string sent = t.machine.got;
    sent.erase(sent.find("PU;"), 3);
    CHECK(sent == whole);
}

TEST_CASE("a machine that takes no more can be left: the knife is lifted after the command under way") {
    Sending t;
    t.w.click("Send");
    t.machine.read(3000);
    t.w.click("Stop sending");
    t.readToTheEnd();
    CHECK(t.machine.got.ends_with(hpglLift));
    CHECK(t.state().startsWith("Stopped: "));
    CHECK(t.machine.got.size() < t.hpgl().size());
}

TEST_CASE("what is no machine is said at its field, and a machine that is not there when one sends to it") {
    Sending t;
    t.w.type("Machine field", "com1");
    CHECK(t.state().startsWith("A machine is named tcp:HOST:PORT"));
    CHECK(t.w.window().document().job().profile.cutter.connection.starts_with("device:"));
    t.w.type("Machine field", "device:/dev/no-such-machine");
    t.w.click("Send");
    REQUIRE(QTest::qWaitFor([&] { return !t.run().isOn(); }, 60'000));
    CHECK(t.state().contains("can't be opened"));
}

TEST_CASE("the window asks before it stops a machine at work") {
    Sending t;
    t.w.click("Send");
    t.machine.read(3000);
    const auto asked = t.w.answerNextQuestion(QString("Go on"));
    t.w.window().close();
    CHECK(asked->contains("still cutting"));
    CHECK(t.w.window().isVisible());
    CHECK(t.run().isOn());
    t.w.click("Stop sending");
}
