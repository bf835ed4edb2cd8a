// The window in other languages: every text comes from the catalogue, and nothing of it is cut off.

#include "app/document/findings_watch.h"
#include "app/kit/theme.h"
#include "app/run/history_dialog.h"
#include "app/run/run_place.h"
#include "app/sheet/piece_hand.h"
#include "app/sheet/profile_editor.h"
#include "app/sheet/sheet_place.h"
#include "app/stickers/item_hand.h"
#include "app/stickers/making_strip.h"
#include "app/stickers/stickers_place.h"
#include "app/words/words.h"
#include "codes/code.h"
#include "files/file_name.h"
#include "job/job.h"
#include "support/temporary_folder.h"
#include "support/window_driver.h"
#include "support/window_texts.h"

#include <QListWidget>
#include <QLocale>
#include <QMenuBar>
#include <QRegularExpression>
#include <QTabWidget>
#include <QTableWidget>
#include <catch2/catch.hpp>

#include <clocale>
#include <cstdlib>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString demo = HASAMI_SOURCE_DIR "/data/demo/";

/// The program in another language, as long as it lives.
class InLanguage {
public:
    InLanguage(const char* language, const QLocale& numbers) {
        setenv("LANGUAGE", language, 1);
        setenv("LC_ALL", "C.UTF-8", 1);
        chooseLanguage(HASAMI_CATALOGUES);
        QLocale::setDefault(numbers);
        QApplication::installTranslator(&translator_);
    }
    ~InLanguage() {
        QApplication::removeTranslator(&translator_);
        QLocale::setDefault(QLocale::c());
        unsetenv("LANGUAGE");
        std::setlocale(LC_MESSAGES, "C");
    }
    InLanguage(const InLanguage&) = delete;
    InLanguage& operator=(const InLanguage&) = delete;

private:
    Translator translator_;
};

/// A design of each kind of own artwork, with all that its panels show.
void addOwnArtwork(WindowDriver& w) {
    ItemHand& hand = w.window().stickersPlace().items();
    const auto add = [&](const ItemHand::OwnChange& fill) {
        hand.addOwn("Add", fill, "heather", true);
        w.settle();
    };
    add([&](OwnArtwork& own, Job& job) {
        FontLibrary& fonts = w.window().document().fonts();
        Lettering lettering;
        lettering.text = "heather\nbee";
        lettering.fonts = {fonts.choose(job, fonts.fonts().front())};
        lettering.arcRadius = 60;
        own.what = lettering;
        own.lineWidth = 1;
    });
    add([](OwnArtwork& own, Job&) {
        Figure figure{FigureKind::star, 40, 40};
        figure.hole = 5;
        own.what = figure;
        own.fill = Gradient{};
    });
    add([](OwnArtwork& own, Job&) {
        CodeArtwork code;
        code.kind = CodeKind::qr;
        code.text = "heather";
        own.what = code;
    });
}

/// A job that shows most controls: several artworks, kinds of line, inks, a shared box, pieces held.
void fill(WindowDriver& w) {
    w.drop({demo + "bee.png", demo + "smoke-can.jpg", demo + "heather-tags.pdf"});
    Document& document = w.window().document();
    document.layOn(document.job().designs[0].id, {demo + "comb-ring.png"});
    w.settle();
    document.change("Rich", [](Job& job) {
        Recipe& recipe = job.designs[0].recipe;
        recipe.border = {2, {{0xC6, 0x7B, 0x1E, 255}}, true};
        recipe.lines = {{LineKind::kiss, 2, {}}, {LineKind::perforated, 4, {}}, {LineKind::crease, 0, {}}};
        recipe.inks = {{InkKind::white}, {InkKind::gloss, InkArea::notWhite}};
        recipe.bridge = 1;
        job.designs[0].count = 20;
        job.plan.medium.price = 4.5;
        job.plan.box = SharedBox{};
        job.plan.box->kind = LineKind::perforated;
    });
    w.settle();
    addOwnArtwork(w);
}

/// Goes through places, steps and designs, and calls `look` at each.
void walk(WindowDriver& w, const std::function<void(const QString&)>& look) {
    Document& document = w.window().document();
    w.window().goTo(MainWindow::stickers);
    for (const Design& design :
         std::vector<Design>(document.job().designs.begin(), document.job().designs.end())) {
        document.select(design.id);
        const bool isOwn = design.artwork.items.front().own(); // whose other steps show what all do
        for (const RecipeStep step : recipeSteps) {
            if (isOwn && step != RecipeStep::artwork)
                continue;
            w.window().stickersPlace().strip().setStep(step);
            w.settle();
            look(QString::fromStdString(design.name) + ", " + stepName(step));
            if (step == RecipeStep::artwork && design.artwork.items.size() > 1) {
                w.window().stickersPlace().items().hold(std::optional<std::size_t>(1));
                w.settle();
                look(QString::fromStdString(design.name) + ", one artwork held");
            }
            if (const auto* touchUp = w.window().findChild<QPushButton*>("Touch up");
                touchUp && touchUp->isVisible()) {
                w.click("Touch up");
                look(QString::fromStdString(design.name) + ", touch up");
                w.click("Find lines");
            }
        }
    }
    w.window().goTo(MainWindow::sheet);
    w.settle();
    look("sheet, rows");
    document.change("Nest", [](Job& job) { job.plan.packing = Packing::nest; });
    w.click("More of the medium");
    look("sheet, nest, all of the medium's settings");
    w.window().sheetPlace().hand().hold({0});
    w.settle();
    look("sheet, one held");
    document.change("Machine that is off", [](Job& job) {
        job.profile.printer.error = job.profile.cutter.error = 0.4;
        job.designs.front().recipe.lines.front().offset = 0.1;
    });
    w.window().goTo(MainWindow::proof);
    w.settle();
    REQUIRE(QTest::qWaitFor([&] { return w.window().findings().isUpToDate(); }, 20'000));
    w.settle();
    look("proof");
    w.click("Costs page");
    w.settle();
    look("proof, costs");
    document.change("A small sheet, which is soon printed", [](Job& job) {
        while (job.designs.size() > 1)
            job.designs.pop_back();
        job.designs.front().count = 1;
        job.designs.front().fills = false;
        job.designs.front().artwork = scaledToWidth(job.designs.front().artwork, 60);
        job.plan.sets = 1;
        job.plan.medium.width = 200;
    });
    w.settle();
    w.window().goTo(MainWindow::run);
    RunControl& run = w.window().runPlace().run();
    const auto next = [&] {
        w.click("Next run");
        REQUIRE(QTest::qWaitFor([&] { return !run.isBusy() && !run.model().isCutting(); }, 60'000));
        w.settle();
    };
    run.setSpeed(1000);
    run.setFault(TrainingFault::smudgedMark);
    look("run, print");
    next();
    look("run, load");
    next();
    look("run, find marks");
    next();
    look("run, marks missing");
    if (w.find<QPushButton>("Place a mark by hand run")->isVisible()) {
        w.click("Place a mark by hand run");
        look("run, a mark by hand");
    }
    run.setFault(TrainingFault::wrongTool);
    for (int i = 0; i < 8 && !run.model().isDone(); ++i) {
        next();
        look("run, cutting");
    }
    INFO(int(run.model().task()) << " " << run.trouble().toStdString());
    REQUIRE(run.model().isDone());
    look("run, weed");
    w.click("Add this job queue");
    RunQueue& queue = w.window().queue();
    const std::string added = queue.entries().back().id;
    queue.change(added, [](QueueEntry& entry) {
        entry.work = RunWork::cutLater;
        entry.copies = 20;
        entry.code = "x";
    });
    run.chooseEntry(added);
    REQUIRE(QTest::qWaitFor([&] { return !run.isBusy(); }, 60'000));
    w.settle();
    look("run, an entry of the queue");
    next();
    look("run, printed to be cut later");
    queue.change(added, [](QueueEntry& entry) { entry.isHeld = true; });
    look("run, on hold");
    HistoryDialog history(queue, &w.window());
    history.setVisible(true);
    REQUIRE(QTest::qWaitFor([&] { return history.findChild<QTableWidget*>()->rowCount() > 0; }, 20'000));
    look("run, history");
    history.setVisible(false);
    run.choose(0);
    document.change("A connection", [](Job& job) { job.profile.cutter.connection = "tcp:127.0.0.1:1"; });
    w.settle();
    const auto isIdle = [&] { return !run.isBusy() && !run.model().isCutting(); };
    run.useMachine(RunControl::Machine::ofProfile);
    REQUIRE(QTest::qWaitFor(isIdle, 20'000));
    w.settle();
    look("run, marks touched on a real cutter");
    run.act(RunAction::withoutMarks);
    look("run, a tool of a real cutter");
    run.next(); // nobody is there
    REQUIRE(QTest::qWaitFor(isIdle, 20'000));
    look("run, a stopped pass of a real cutter");
}

/// What is left of a text once what the catalogue brackets, and what is no language, is taken away.
QString untranslated(QString text) {
    static const QRegularExpression innermost("⟦[^⟦⟧]*(⟧|…$)"), words("[A-Za-z]{2,}"); // or elided
    while (text.contains(innermost))
        text.remove(innermost);
    QStringList left;
    for (auto all = words.globalMatch(text); all.hasNext();) {
        const QString word = all.next().captured();
        static const QStringList fine{"mm",  "cm",      "in",   "pt",  "min", "bee", "smoke",
                                      "can", "heather", "tags", "png", "jpg", "pdf"};
        if (!fine.contains(word))
            left << word;
    }
    return left.join(' ');
}

} // namespace

TEST_CASE("every text of the window comes from the catalogue") {
    const InLanguage language("xx", QLocale::c());
    WindowDriver w;
    QStringList found;
    const auto look = [&](const QString& where) {
        eachText(w.window(), [&](const QString& widget, const QString& text) {
            // The names of machines and artworks are their own, and some texts are Qt's.
            static const QRegularExpression own(
                "Machine choice|Artworks|Font choice|Text field|Holds field|qt_");
            if (!widget.contains(own) && !untranslated(text).isEmpty())
                found << where + ": " + widget + ": " + text;
        });
    };
    look("first start");
    fill(w);
    walk(w, look);
    found.removeDuplicates();
    CHECK(found.join('\n').toStdString() == "");
}

TEST_CASE("the profiles' editor speaks the language, and cuts nothing off") {
    const char* name = GENERATE("en", "de", "xx");
    INFO(name);
    const InLanguage language(name, *name == 'd' ? QLocale(QLocale::German, QLocale::Germany) : QLocale::c());
    const TemporaryFolder folder;
    WindowDriver w;
    ProfileLibrary library(toPath(folder.path("profiles")));
    ProfileEditor editor(w.window().document(), library, &w.window());
    editor.show();
    auto* list = editor.findChild<QListWidget*>("Profiles");
    auto* pages = editor.findChild<QTabWidget*>("Parts of the profile");
    for (int row = 0; row < list->count(); ++row)
        for (int page = 0; page < pages->count(); ++page) {
            list->setCurrentRow(row);
            pages->setCurrentIndex(page);
            QTest::qWait(1);
            INFO(list->item(row)->text().toStdString() << ", " << page);
            CHECK(cutOff(editor).join('\n').toStdString() == "");
            eachText(editor, [&](const QString& widget, const QString& text) {
                static const QRegularExpression own(
                    "Profiles|Profile name|qt_| field|Scroll(Left|Right)Button"); // names of people's own
                INFO(widget.toStdString());
                if (*name == 'x' && !widget.contains(own))
                    CHECK(untranslated(text).toStdString() == "");
            });
        }
}

TEST_CASE("numbers in fields follow the language, and are read in either form") {
    const InLanguage language("de", QLocale(QLocale::German, QLocale::Germany));
    WindowDriver w;
    w.drop({demo + "bee.png"});
    w.window().stickersPlace().strip().setStep(RecipeStep::cutLines);
    w.type("Offset field", "2,5");
    CHECK(w.find<QLineEdit>("Offset field")->text() == "2,5 mm");
    w.type("Offset field", "1.25 mm");
    CHECK(w.find<QLineEdit>("Offset field")->text() == "1,25 mm");
    CHECK(w.window().document().job().designs[0].recipe.lines[0].offset == 1.25);
    CHECK(w.window().document().undoLabel() == "Versatz 1,25 mm");
}

TEST_CASE("no text is cut off in either language, with long names and large numbers, at either size") {
    const bool isGerman = GENERATE(false, true);
    const QSize size = GENERATE(QSize(1280, 800), QSize(1100, 700));
    std::unique_ptr<InLanguage> language;
    if (isGerman)
        language = std::make_unique<InLanguage>("de", QLocale(QLocale::German, QLocale::Germany));
    WindowDriver w;
    w.window().resize(size);
    fill(w);
    w.window().document().change("Long", [](Job& job) {
        job.designs[0].name = "Quillmoor Heather Honey, late harvest, large round lid with a bee";
        job.designs[0].count = 9876;
        job.designs[1].artwork = scaledToWidth(job.designs[1].artwork, 1234.56);
        job.plan.medium.width = 1600;
    });
    w.settle();
    CHECK(w.window().size() == size); // no text holds it wider
    INFO((isGerman ? "German, " : "English, ") << size.width());
    walk(w, [&](const QString& where) {
        INFO(where.toStdString());
        CHECK(cutOff(w.window()).join('\n').toStdString() == "");
    });
}

TEST_CASE("within a menu, no two entries share their letter") {
    const bool isGerman = GENERATE(false, true);
    std::unique_ptr<InLanguage> language;
    if (isGerman)
        language = std::make_unique<InLanguage>("de", QLocale(QLocale::German, QLocale::Germany));
    WindowDriver w;
    const auto lettersOf = [](const QList<QAction*>& actions) {
        QStringList letters;
        for (const QAction* action : actions)
            if (const auto at = action->text().indexOf('&'); at >= 0)
                letters << action->text().mid(at + 1, 1).toLower();
        return letters;
    };
    QList<QMenu*> menus = w.window().menuBar()->findChildren<QMenu*>();
    CHECK(menus.size() >= 4);
    for (const QMenu* menu : menus) {
        QStringList letters = lettersOf(menu->actions());
        INFO(menu->title().toStdString() << ": " << letters.join(' ').toStdString());
        CHECK(letters.removeDuplicates() == 0);
    }
    QStringList bar = lettersOf(w.window().menuBar()->actions());
    CHECK(bar.removeDuplicates() == 0);
}
