// Takes a picture of each main view, from the demo job: hasami-shots DEMO.hasami
// FOLDER BACKDROP-PICTURE OPENINGS-PICTURE, beside which the jobs of own artwork lie. On a screen of twice
// the pixels (QT_SCALE_FACTOR=2), of a light and a dark one.

#include "app/document/nest_run.h"
#include "app/kit/theme.h"
#include "app/proof/proof_place.h"
#include "app/run/run_place.h"
#include "app/sheet/piece_hand.h"
#include "app/sheet/profile_editor.h"
#include "app/sheet/sheet_place.h"
#include "app/stickers/bench.h"
#include "app/stickers/item_hand.h"
#include "app/stickers/lettering_hand.h"
#include "app/stickers/making_strip.h"
#include "app/stickers/stickers_place.h"
#include "app/window/main_window.h"
#include "app/words/words.h"
#include "files/file_name.h"

#include <QAbstractButton>
#include <QApplication>
#include <QComboBox>
#include <QDeadlineTimer>
#include <QDir>
#include <QFileInfo>
#include <QKeyEvent>
#include <QPainter>
#include <QTabWidget>
#include <QTemporaryDir>
#include <QThread>

#include <cstdio>
#include <tuple>

namespace {

using hasami::MainWindow;
using hasami::RecipeStep;

/// Lets the window work until everything is made and drawn; false if that takes more than 30 s.
bool settle(MainWindow& window) {
    const QDeadlineTimer end(30'000);
    int quietRounds = 0;
    while (quietRounds < 20 && !end.hasExpired()) {
        QApplication::processEvents();
        QThread::msleep(10);
        const bool busy = !window.document().isMade() || !window.document().filesUnderWay().empty();
        quietRounds = busy ? 0 : quietRounds + 1;
    }
    return quietRounds > 0;
}

bool shoot(MainWindow& window, const QString& path) {
    return settle(window) && window.grab().save(path);
}

/// A picture amid the search, which then goes on for a while.
bool nest(MainWindow& window, const QString& path) {
    constexpr int until = 4000, longer = 6000; // ms
    hasami::NestRun& nest = window.sheetPlace().nest();
    nest.start();
    const auto wait = [&](int time) {
        for (const QDeadlineTimer end(time); nest.isOn() && !end.hasExpired(); QThread::msleep(5))
            QApplication::processEvents();
    };
    wait(until);
    const bool fine = window.grab().save(path);
    wait(longer);
    nest.stop();
    return settle(window) && fine;
}

/// The panel of outputs, with one of each kind.
bool outputs(MainWindow& window, const QString& path) {
    window.document().change("Outputs", [](hasami::Job& job) {
        job.outputs.folder = "/home/honey/market";
        job.outputs.outputs.push_back({hasami::PlannedOutput::What::print, hasami::PrintFormat::tiff});
        job.profile.cutter.connection = "tcp:192.168.0.20:9100";
    });
    auto* panel = window.findChild<QAbstractButton*>("Outputs");
    panel->click();
    const bool fine = settle(window) && shoot(window, path);
    panel->click();
    window.document().undo();
    return settle(window) && fine;
}

/// Bees cut along their edge, with less bleed than machine and printer are assumed to be off, seen on kraft
/// paper where the error does the most harm.
bool proof(MainWindow& window, const QString& path) {
    window.document().change("Cut along the edge", [](hasami::Job& job) {
        job.designs.front().recipe.lines.front().offset = 0;
        job.designs.front().recipe.bleed.amount = 0.3;
    });
    window.goTo(MainWindow::proof);
    if (!settle(window))
        return false;
    const auto choose = [&](const char* box, int place) {
        auto* found = window.findChild<QComboBox*>(box);
        found->setCurrentIndex(place);
        Q_EMIT found->activated(place);
        return settle(window);
    };
    const bool fine =
        choose("Shown in proof", 1) && choose("Background of proof", int(hasami::Backdrop::kraft));
    window.findChild<QAbstractButton*>("Show the worst")->click();
    return fine && shoot(window, path);
}

/// Other jobs wait in the queue: of one several copies, another one is held.
void fillQueue(hasami::RunQueue& queue, const QDir& demos) {
    while (!queue.entries().empty()) // of the pictures taken before
        queue.remove(std::string(queue.entries().front().id));
    queue.addFiles({demos.filePath("wild-heather.hasami"), demos.filePath("jar-label.hasami")});
    while (queue.reading() > 0)
        QApplication::processEvents(QEventLoop::AllEvents, 20);
    const auto entries = queue.entries();
    for (const hasami::QueueEntry& entry : entries)
        queue.change(entry.id, [](hasami::QueueEntry& changed) {
            changed.isHeld = changed.sheet == 1;
            changed.copies = changed.sheets == 1 ? 3 : 1;
        });
}

/// The bees' print as it lies askew on the bed, with the marks that were found, and the queue.
bool run(MainWindow& window, const QDir& demos, const QString& path) {
    fillQueue(window.queue(), demos);
    window.document().change("A sheet", [](hasami::Job& job) {
        job.designs.front().count = 12;
        job.plan.medium.width = 300;
    });
    if (!settle(window))
        return false;
    window.goTo(MainWindow::run);
    hasami::RunControl& run = window.runPlace().run();
    for (int step = 0; step < 3; ++step) {
        run.next();
        while (run.isBusy())
            QApplication::processEvents(QEventLoop::AllEvents, 20);
    }
    return shoot(window, path);
}

/// The same stickers with four schemes of marks, in one picture.
bool marks(MainWindow& window, const QString& path) {
    auto* view = window.findChild<QWidget*>("Sheet view");
    window.sheetPlace().hand().hold({});
    constexpr int gap = 8;
    const QSize size = view->size() * 0.85;
    QImage all(2 * size + QSize(gap, gap), QImage::Format_RGB32);
    all.fill(Qt::white);
    QPainter painter(&all);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    int place = 0;
    for (const char* name : {"Drag knife with corner brackets", "Roll print-and-cut machine",
                             "Wide roll machine with pairs of squares", "Flatbed with two tools"}) {
        const auto known = hasami::knownProfiles();
        const auto found = std::ranges::find(known, name, &hasami::Profile::name);
        if (found == known.end())
            return false;
        window.document().change("Marks", [&](hasami::Job& job) {
            job.profile = *found;
            if (job.profile.marks.interval > 0)
                job.profile.marks.interval = 160;
            job.plan.gap = job.profile.marks.between > 0 ? 16 : 3;
        });
        if (!settle(window))
            return false;
        const QPixmap seen = view->grab().scaled(size, Qt::KeepAspectRatio, Qt::SmoothTransformation);
        painter.drawPixmap(place % 2 * (size.width() + gap), place / 2 * (size.height() + gap), seen);
        ++place;
    }
    return all.save(path);
}

bool profiles(MainWindow& window, const QString& path) {
    const QTemporaryDir none;
    hasami::ProfileLibrary library(hasami::toPath(none.path()));
    hasami::ProfileEditor editor(window.document(), library, &window);
    editor.show();
    editor.findChild<QTabWidget*>("Parts of the profile")->setCurrentIndex(2); // marks
    return settle(window) && editor.grab().save(path);
}

/// A word that is being typed, and a label of a shape, lettering and a code, with guides.
bool ownArtwork(MainWindow& window, const QDir& demos, const QDir& folder) {
    window.document().openCopy(demos.filePath("wild-heather.hasami"), "Wild Heather");
    bool fine = settle(window);
    hasami::StickersPlace& stickers = window.stickersPlace();
    stickers.strip().setStep(RecipeStep::artwork);
    stickers.lettering().begin(bounds(window.document().selectedDesign()->artwork).most);
    stickers.bench().fit();
    fine = fine && shoot(window, folder.filePath("lettering.png"));
    stickers.lettering().end();
    window.document().openCopy(demos.filePath("jar-label.hasami"), "Jar Label");
    fine = fine && settle(window);
    stickers.strip().setStep(RecipeStep::artwork);
    stickers.items().layGuidesThroughMiddle();
    stickers.items().hold(std::optional<std::size_t>(2));
    stickers.bench().fit();
    return fine && shoot(window, folder.filePath("own-artwork.png"));
}

} // namespace

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    hasami::useSystemLanguage();
    hasami::applyTheme(application);
    if (argc != 5) {
        std::fputs("usage: hasami-shots DEMO.hasami FOLDER BACKDROP-PICTURE OPENINGS-PICTURE\n", stderr);
        return 2;
    }
    const QString demo = QString::fromLocal8Bit(argv[1]);
    const QDir folder(QString::fromLocal8Bit(argv[2]));
    MainWindow window;
    window.resize(1280, 800);
    window.show();

    const bool dense = application.devicePixelRatio() > 1.5;
    bool fine = dense || shoot(window, folder.filePath("first-start.png"));
    window.document().openCopy(demo, "Quillmoor Honey");
    fine = fine && settle(window) && !window.document().job().designs.empty();
    window.stickersPlace().strip().setStep(RecipeStep::cutLines);
    if (dense) {
        window.goTo(MainWindow::sheet);
        hasami::applyTheme(application, hasami::Appearance::dark);
        return fine && shoot(window, folder.filePath("sheet-dark-200.png")) ? 0 : 1;
    }
    fine = fine && shoot(window, folder.filePath("stickers.png"));
    window.stickersPlace().strip().setStep(RecipeStep::edge);
    window.stickersPlace().bench().zoomBy(1.8);
    fine = fine && shoot(window, folder.filePath("edge.png"));
    window.findChild<QAbstractButton*>("Touch up")->click();
    window.stickersPlace().bench().fit();
    for (const auto& [key, modifier] :
         {std::pair(Qt::Key_PageUp, Qt::NoModifier), std::pair(Qt::Key_Up, Qt::ShiftModifier)}) {
        QKeyEvent press(QEvent::KeyPress, key, modifier);
        QApplication::sendEvent(&window.stickersPlace().bench(), &press);
        fine = fine && settle(window);
    }
    fine = fine && shoot(window, folder.filePath("touch-up.png"));
    window.document().undo();
    window.findChild<QAbstractButton*>("Find lines")->click();
    window.goTo(MainWindow::sheet);
    window.document().change("Price", [](hasami::Job& job) { job.plan.medium.price = 4.5; });
    fine = fine && shoot(window, folder.filePath("sheet.png")) &&
           outputs(window, folder.filePath("outputs.png"));
    fine = fine && nest(window, folder.filePath("nest.png")) && proof(window, folder.filePath("proof.png"));
    window.goTo(MainWindow::sheet);
    while (!window.document().undoLabel().isEmpty())
        window.document().undo();
    fine = fine && settle(window) && marks(window, folder.filePath("marks.png")) &&
           profiles(window, folder.filePath("profiles.png"));
    while (!window.document().undoLabel().isEmpty())
        window.document().undo();
    fine = fine && settle(window) && run(window, QFileInfo(demo).dir(), folder.filePath("run.png"));
    window.document().undo();
    window.goTo(MainWindow::stickers);
    fine = fine && settle(window);
    window.goTo(MainWindow::stickers);
    for (const auto& [art, name] :
         {std::pair<const char*, const char*>(argv[3], "backdrop.png"), {argv[4], nullptr}}) {
        window.document().addArtworks({QString::fromLocal8Bit(art)});
        fine = fine && settle(window);
        window.stickersPlace().strip().setStep(RecipeStep::edge);
        window.document().change("Openings too", [&](hasami::Job& job) {
            job.designs.back().recipe.edge.loops = hasami::LoopChoice::openings;
        });
        if (name)
            fine = fine && shoot(window, folder.filePath(name));
    }
    window.document().change("Border and lines", [&](hasami::Job& job) {
        hasami::Recipe& recipe = job.designs.back().recipe;
        recipe.border = {2, *hasami::parsePaintColour("Comb Gold = 0 38 85 22"), true};
        recipe.lines = {{hasami::LineKind::kiss, -0.5, {}}, {hasami::LineKind::perforated, 4, {}}};
        recipe.lines[1].tabs.length = 2;
        recipe.lines[1].liftTab.size = 12;
    });
    for (const auto& [step, name] :
         {std::pair(RecipeStep::border, "border.png"), std::pair(RecipeStep::cutLines, "cut-lines.png")}) {
        window.stickersPlace().strip().setStep(step);
        window.stickersPlace().bench().fit();
        fine = fine && shoot(window, folder.filePath(name));
    }
    window.document().select(window.document().job().designs[1].id);
    window.document().change("Bleed", [](hasami::Job& job) {
        job.designs[1].recipe.lines[0].offset = -0.3;
        job.designs[1].recipe.bleed.amount = 1.5;
    });
    window.stickersPlace().strip().setStep(RecipeStep::bleed);
    fine = fine && settle(window);
    window.stickersPlace().bench().fit();
    fine = fine && shoot(window, folder.filePath("bleed.png"));
    window.document().select(window.document().job().designs.front().id);
    window.document().change("White", [](hasami::Job& job) {
        job.designs.front().recipe.inks = {{hasami::InkKind::white, hasami::InkArea::notWhite, 0.4}};
    });
    window.stickersPlace().strip().setStep(RecipeStep::inks);
    auto* look = window.findChild<QComboBox*>("Medium look");
    look->setCurrentIndex(int(hasami::MediumLook::kraft));
    Q_EMIT look->activated(look->currentIndex());
    fine = fine && settle(window);
    window.stickersPlace().bench().fit();
    fine = fine && shoot(window, folder.filePath("inks.png"));
    fine = fine && ownArtwork(window, QFileInfo(demo).dir(), folder);
    if (!fine)
        std::fputs("hasami-shots: a view did not settle or could not be saved\n", stderr);
    return fine ? 0 : 1;
}
