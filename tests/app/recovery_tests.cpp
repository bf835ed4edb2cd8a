#include "app/document/recovery_keeper.h"
#include "files/job_file.h"
#include "files/recovery.h"
#include "support/temporary_folder.h"
#include "support/window_driver.h"

#include <catch2/catch.hpp>

#include <filesystem>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString bee = HASAMI_SOURCE_DIR "/data/demo/bee.png";

std::size_t copiesIn(const TemporaryFolder& state) {
    std::error_code none;
    std::size_t count = 0;
    for ([[maybe_unused]] const auto& entry :
         std::filesystem::directory_iterator(state / "hasami" / "recovery", none))
        ++count;
    return count;
}

/// Waits for what the keeper writes in the background.
bool keeps(WindowDriver& w) {
    return QTest::qWaitFor(
        [&] { return std::filesystem::exists(w.window().recovery().folder() / "job.json"); }, 5000);
}

} // namespace

TEST_CASE("a program that ends without saving is offered its job again") {
    const TemporaryFolder state;
    Job lost;
    {
        WindowDriver w(state.path());
        w.drop({bee});
        w.type("Offset field", "3.5");
        w.keys(Qt::Key_2, Qt::ControlModifier); // a change of place keeps a copy
        REQUIRE(keeps(w));
        lost = w.window().document().job();
    } // gone without being closed, as in a crash
    REQUIRE(copiesIn(state) == 1);
    WindowDriver w(state.path());
    CHECK(w.find<QLabel>("Notice")->text().contains("ended last time"));
    w.click("First answer");
    CHECK(w.window().document().job().designs == lost.designs);
    CHECK(w.window().document().made()->designs.at(0).trouble.empty());
    CHECK(w.window().isWindowModified());
    CHECK(copiesIn(state) == 1); // still kept until it is saved
    const TemporaryFolder folder;
    w.keysAndSave(Qt::Key_S, Qt::ControlModifier, folder.path("found.hasami"));
    CHECK(openJob(folder / "found.hasami").designs == lost.designs);
    CHECK(copiesIn(state) == 0);
}

TEST_CASE("a lost job can be thrown away") {
    const TemporaryFolder state;
    {
        WindowDriver w(state.path());
        w.drop({bee});
        w.click("Sheet place");
        REQUIRE(keeps(w));
    }
    WindowDriver w(state.path());
    w.click("Second answer");
    CHECK(w.window().document().job().designs.empty());
    CHECK(copiesIn(state) == 0);
}

TEST_CASE("two running programs do not take each other's copies") {
    const TemporaryFolder state;
    WindowDriver first(state.path());
    first.drop({bee});
    first.click("Sheet place");
    REQUIRE(keeps(first));
    WindowDriver second(state.path());
    CHECK(second.window().recovery().abandoned() == 0);
    CHECK_FALSE(second.find<QLabel>("Notice")->isVisible());
    second.drop({bee});
    second.click("Sheet place");
    REQUIRE(keeps(second));
    CHECK(copiesIn(state) == 2);
}

TEST_CASE("nothing is kept of what is saved, or of a job that was closed on purpose") {
    const TemporaryFolder state, folder;
    {
        WindowDriver w(state.path());
        w.drop({bee});
        w.click("Sheet place");
        REQUIRE(keeps(w));
        w.answerNextQuestion(QMessageBox::Discard);
        w.window().close();
        w.settle();
    }
    CHECK(copiesIn(state) == 0);
    WindowDriver again(state.path());
    CHECK(again.window().recovery().abandoned() == 0);
}

TEST_CASE("changes are kept after a while, without being asked") {
    const TemporaryFolder state;
    qputenv("XDG_STATE_HOME", state.path().toUtf8());
    Document document;
    RecoveryKeeper keeper(document, 30);
    document.addArtworks({bee});
    REQUIRE(QTest::qWaitFor([&] { return std::filesystem::exists(keeper.folder() / "job.json"); }, 5000));
    CHECK(readRecovery(keeper.folder()).job.designs == document.job().designs);
    document.change("Gap", [](Job& job) { job.plan.gap = 17; });
    REQUIRE(QTest::qWaitFor([&] { return readRecovery(keeper.folder()).job.plan.gap == 17; }, 5000));
    document.undo();
    document.undo();
    CHECK(QTest::qWaitFor([&] { return copiesIn(state) == 0; }, 5000)); // nothing is unsaved any more
}

TEST_CASE("a damaged copy is told and set aside, not offered for ever") {
    const TemporaryFolder state;
    std::filesystem::create_directories(state / "hasami" / "recovery" / "broken");
    writeSafely(state / "hasami/recovery/broken/job.json", "{");
    {
        WindowDriver w(state.path());
        w.click("First answer");
        CHECK(w.find<QLabel>("Notice")->text().contains("can't be used"));
    }
    WindowDriver w(state.path());
    CHECK(w.window().recovery().abandoned() == 0);
}

TEST_CASE("a place that can't be written to is told once, and work goes on") {
    const TemporaryFolder state;
    writeSafely(state / "hasami", "a file where a folder should be");
    WindowDriver w(state.path());
    w.drop({bee});
    w.click("Sheet place");
    REQUIRE(QTest::qWaitFor([&] { return w.find<QLabel>("Notice")->isVisible(); }, 5000));
    CHECK(w.find<QLabel>("Notice")->text().contains("No recovery copy is kept"));
    CHECK(w.window().document().made()->layout.pieces() == 1);
}
