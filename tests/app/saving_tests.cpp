#include "files/job_file.h"
#include "support/window_driver.h"

#include <future>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString bee = HASAMI_SOURCE_DIR "/data/demo/bee.png";

/// Holds up all saves of a document until it is opened or gone.
class Gate {
public:
    explicit Gate(Document& document) {
        document.background().saving.run(
            "", [open = open_.get_future().share()](const std::stop_token&) { return open.wait(), 0; },
            [](const Outcome<int>&) {});
    }
    ~Gate() { open(); }
    void open() {
        if (!std::exchange(isOpen_, true))
            open_.set_value();
    }

private:
    std::promise<void> open_;
    bool isOpen_ = false;
};

void setGap(Document& document, double gap) {
    document.change("Gap", [&](Job& job) { job.plan.gap = gap; });
}

/// The window while a job was changed since its save began, which is still going on.
struct EditedWhileSaving {
    TemporaryFolder folder;
    WindowDriver w;
    Document& document = w.window().document();

    EditedWhileSaving() {
        w.drop({bee});
        w.keysAndSave(Qt::Key_S, Qt::ControlModifier, folder.path("mine.hasami"));
        setGap(document, 5);
    }
};

} // namespace

TEST_CASE("a slow save does not replace a newer one") {
    EditedWhileSaving t;
    {
        Gate gate(t.document);
        t.document.save(t.folder.path("mine.hasami"));
        setGap(t.document, 9);
        t.document.save(t.folder.path("mine.hasami"));
    }
    t.w.settle();
    CHECK(openJob(t.folder / "mine.hasami").plan.gap == 9);
    CHECK_FALSE(t.document.isModified());
}

TEST_CASE("closing with Save, while one goes on editing, asks again") {
    EditedWhileSaving t;
    Gate gate(t.document);
    t.w.answerNextQuestion(QMessageBox::Save);
    t.w.window().close();
    setGap(t.document, 9);
    t.w.answerNextQuestion(QMessageBox::Cancel);
    gate.open();
    t.w.settle();
    CHECK(t.w.window().isVisible());
    CHECK(t.document.isModified());
    CHECK(openJob(t.folder / "mine.hasami").plan.gap == 5);
}

TEST_CASE("closing while what is there is being saved waits for it, and asks nothing") {
    EditedWhileSaving t;
    Gate gate(t.document);
    t.document.save(t.folder.path("mine.hasami"));
    t.w.window().close();
    CHECK(t.w.window().isVisible());
    gate.open();
    t.w.settle();
    CHECK_FALSE(t.w.window().isVisible());
    CHECK(openJob(t.folder / "mine.hasami").plan.gap == 5);
}

TEST_CASE("what was asked to be saved is saved, though the program ends meanwhile") {
    TemporaryFolder folder;
    {
        Document document;
        setGap(document, 5);
        Gate gate(document);
        document.save(folder.path("mine.hasami"));
    }
    CHECK(openJob(folder / "mine.hasami").plan.gap == 5);
}

TEST_CASE("opening another job with Save, while one goes on editing, asks again; cancelled, one stays") {
    EditedWhileSaving t;
    saveJob(t.folder / "other.hasami", Job{}, "");
    Gate gate(t.document);
    t.w.answerNextQuestion(QMessageBox::Save);
    t.w.window().openPaths({t.folder.path("other.hasami")});
    setGap(t.document, 9);
    t.w.answerNextQuestion(QMessageBox::Cancel);
    gate.open();
    t.w.settle();
    CHECK(t.document.job().plan.gap == 9);
    CHECK(t.document.title() == "mine");
}

TEST_CASE("a job that is changed while another is being read is not given up unasked") {
    EditedWhileSaving t;
    saveJob(t.folder / "other.hasami", Job{}, "");
    t.document.open(t.folder.path("other.hasami"));
    setGap(t.document, 9);
    t.w.answerNextQuestion(QMessageBox::Cancel);
    t.w.settle();
    CHECK(t.document.job().plan.gap == 9);
    t.document.open(t.folder.path("other.hasami"));
    setGap(t.document, 8);
    t.w.answerNextQuestion(QMessageBox::Discard);
    t.w.settle();
    CHECK(t.document.title() == "other");
}

TEST_CASE("a preview that fails, for whatever reason, keeps no job from being saved") {
    EditedWhileSaving t;
    t.document.pictures().setSource(
        [](const Asset&, const PictureWish&, const std::stop_token&) -> std::shared_ptr<const Picture> {
            throw std::bad_alloc();
        });
    t.w.settle();
    t.document.save(t.folder.path("mine.hasami"));
    t.w.settle();
    CHECK_FALSE(t.document.isModified());
    CHECK(openJob(t.folder / "mine.hasami").plan.gap == 5);
}

TEST_CASE("artwork whose reading throws any exception gives one sentence, and reading ends") {
    WindowDriver w;
    w.window().document().addArtwork("odd.png",
                                     []() -> QByteArray { throw std::runtime_error("a library failed"); });
    w.settle();
    CHECK(w.window().document().filesUnderWay().empty());
    CHECK(w.find<QLabel>("Notice")->text() == "▲ odd.png can't be read: a library failed");
}

TEST_CASE("a name typed without its ending gets it before the question about replacing") {
    EditedWhileSaving t;
    const auto typed = [&](const QString& name, int key, Qt::KeyboardModifiers modifiers) {
        const auto asked = t.w.answerNextQuestion(QString("Replace"));
        t.w.keysAndSave(key, modifiers, t.folder.path(name));
        return *asked;
    };
    CHECK(typed("mine", Qt::Key_S, Qt::ControlModifier | Qt::ShiftModifier) ==
          "mine.hasami exists already. Replace it?");
    CHECK(openJob(t.folder / "mine.hasami").plan.gap == 5);
    // A full stop in the name is no ending.
    saveJob(t.folder / "batch 2.5.hasami", Job{}, "");
    CHECK(typed("batch 2.5", Qt::Key_S, Qt::ControlModifier | Qt::ShiftModifier) ==
          "batch 2.5.hasami exists already. Replace it?");
    CHECK(openJob(t.folder / "batch 2.5.hasami").designs.size() == 1);
}

TEST_CASE("what another window has saved there meanwhile is not overwritten unasked") {
    EditedWhileSaving t;
    t.w.settle();
    t.document.save(t.folder.path("mine.hasami"));
    t.w.settle();
    Job other = t.document.job();
    other.plan.gap = 17;
    saveJob(t.folder / "mine.hasami", other, {});
    setGap(t.document, 9);
    const auto asked = t.w.answerNextQuestion(QString("Cancel"));
    t.w.keys(Qt::Key_S, Qt::ControlModifier);
    CHECK(asked->contains("changed"));
    CHECK(openJob(t.folder / "mine.hasami").plan.gap == 17);
    CHECK(t.document.isModified());
    t.w.answerNextQuestion(QString("Replace the file"));
    t.w.keys(Qt::Key_S, Qt::ControlModifier);
    CHECK(openJob(t.folder / "mine.hasami").plan.gap == 9);
    CHECK_FALSE(t.document.isModified());
    setGap(t.document, 8); // and nothing is asked from now on
    t.w.keys(Qt::Key_S, Qt::ControlModifier);
    CHECK(openJob(t.folder / "mine.hasami").plan.gap == 8);
}

TEST_CASE("an older recovered copy does not replace a newer file unasked") {
    EditedWhileSaving t;
    t.w.settle();
    const auto job = std::make_shared<const Job>(t.document.job());
    t.document.restore(job, t.folder.path("mine.hasami"), QDateTime::currentDateTime().addDays(-1));
    t.w.settle();
    const auto asked = t.w.answerNextQuestion(QString("Cancel"));
    t.w.keys(Qt::Key_S, Qt::ControlModifier);
    CHECK(asked->contains("the file is newer"));
    t.document.restore(job, t.folder.path("mine.hasami"), QDateTime::currentDateTime().addDays(1));
    t.w.keys(Qt::Key_S, Qt::ControlModifier);
    CHECK_FALSE(t.document.isModified());
}

TEST_CASE("a job that is not saved goes by its first design, a copy by the name it is given") {
    WindowDriver w;
    Document& document = w.window().document();
    CHECK(document.title() == "Untitled job");
    w.drop({HASAMI_SOURCE_DIR "/data/demo/bee.png", HASAMI_SOURCE_DIR "/data/demo/comb-ring.png"});
    CHECK(document.title() == "bee");
    const TemporaryFolder folder;
    document.save(folder.path() + "/market.hasami");
    w.settle();
    CHECK(document.title() == "market");
    document.openCopy(folder.path() + "/market.hasami", "Spring Market");
    w.settle();
    CHECK(document.title() == "Spring Market");
    CHECK(document.path().isEmpty());
    document.startNew();
    w.settle();
    CHECK(document.title() == "Untitled job");
}
