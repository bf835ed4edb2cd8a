#include "app/sheet/profile_editor.h"
#include "app/sheet/profile_picture.h"
#include "base/json_reader.h"
#include "files/file_name.h"
#include "files/profile_file.h"
#include "support/temporary_folder.h"
#include "support/window_driver.h"

#include <QCheckBox>
#include <QListWidget>
#include <QTabWidget>
#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include <filesystem>
#include <fstream>

using namespace hasami;
using namespace hasami::test;

namespace {

/// The editor over a window, with a library in a folder of its own.
struct Editing {
    TemporaryFolder folder;
    WindowDriver w;
    ProfileLibrary library{toPath(folder.path("profiles"))};
    ProfileEditor editor{w.window().document(), library, &w.window()};

    Editing() {
        editor.show();
        editor.activateWindow();
        REQUIRE(QTest::qWaitForWindowActive(&editor));
    }

    template <class T>
    T* find(const char* name) {
        for (T* widget : editor.findChildren<T*>(name))
            if (widget->isVisible())
                return widget;
        FAIL("there is no " << name);
        return nullptr;
    }
    void choose(const char* name) {
        auto* list = find<QListWidget>("Profiles");
        const auto items = list->findItems(name, Qt::MatchStartsWith);
        REQUIRE_FALSE(items.isEmpty());
        list->scrollToItem(items.front());
        QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(items.front()).center());
    }
    void openPart(int page) { find<QTabWidget>("Parts of the profile")->setCurrentIndex(page); }
    void click(const char* name) { QTest::mouseClick(find<QAbstractButton>(name), Qt::LeftButton); }
    void type(const char* name, const char* text) {
        auto* line = find<QLineEdit>(name);
        line->setFocus();
        line->selectAll();
        QTest::keyClicks(line, text);
        QTest::keyClick(line, Qt::Key_Return);
    }
    void take(const char* name, const char* choice) {
        auto* box = find<QComboBox>(name);
        const int place = box->findText(choice);
        REQUIRE(place >= 0);
        box->setCurrentIndex(place);
        Q_EMIT box->activated(place);
    }
    const Profile& profile(const std::string& name) const {
        const auto* entry = library.find(name);
        REQUIRE(entry);
        return entry->profile;
    }
    QString notice() { return editor.findChild<QLabel*>("Profile notice")->text(); }
};

constexpr int cutterPage = 1, marksPage = 2, namesPage = 4;

} // namespace

TEST_CASE(
    "a profile that is changed is kept at once, its picture follows, and undo and reset bring it back") {
    Editing e;
    e.choose("Roll print-and-cut machine");
    const Profile before = e.profile("Roll print-and-cut machine");
    const auto* picture = e.find<ProfilePicture>("Profile picture");
    CHECK(picture->sheet().marks.size() == 4);
    e.openPart(marksPage);
    e.take("Mark shape", "Filled squares");
    e.type("Mark size field", "6");
    e.type("Pairs every field", "150");
    CHECK(e.profile(before.name).marks.shape == MarkShape::square);
    CHECK(e.profile(before.name).marks.size == 6);
    CHECK(picture->sheet().marks.size() > 4);
    const ProfileLibrary again(toPath(e.folder.path("profiles"))); // from the disk
    REQUIRE(again.find(before.name));
    CHECK(again.find(before.name)->profile == e.profile(before.name));
    CHECK(again.find(before.name)->comes);
    CHECK(again.find(before.name)->isOwn());

    e.find<QListWidget>("Profiles")->setFocus();
    QTest::keyClick(e.find<QListWidget>("Profiles"), Qt::Key_Z, Qt::ControlModifier);
    CHECK(e.profile(before.name).marks.interval == 0);
    CHECK(e.profile(before.name).marks.size == 6);
    e.click("Delete profile"); // "Reset profile", of one that came with the program
    CHECK(e.profile(before.name) == before);
    CHECK(std::filesystem::is_empty(toPath(e.folder.path("profiles"))));
    e.click("Undo the change");
    CHECK(e.profile(before.name).marks.size == 6);
}

TEST_CASE("inks and colours are put in order, by buttons, keys and dragging") {
    Editing e;
    e.choose("Roll print-and-cut machine");
    const std::string name = "Roll print-and-cut machine";
    e.openPart(0);
    auto* list = e.find<QListWidget>("Order of the inks");
    const auto texts = [&] {
        QStringList all;
        for (int i = 0; i < list->count(); ++i)
            all << list->item(i)->text();
        return all.join(", ");
    };
    CHECK(texts() == "Gloss, Colours, White ink, Primer");
    list->setCurrentRow(2);
    e.click("Move ink up");
    CHECK(texts() == "Gloss, White ink, Colours, Primer");
    CHECK(e.profile(name).printer.inkOrder.white() == WhitePlace::over);
    QTest::keyClick(list, Qt::Key_Down, Qt::AltModifier);
    CHECK(texts() == "Gloss, Colours, White ink, Primer");
    CHECK(list->currentRow() == 2);
    e.find<QCheckBox>("Print the colours twice")->click();
    CHECK(texts() == "Gloss, Colours, White ink, Colours, Primer");
    CHECK(e.profile(name).printer.inkOrder.white() == WhitePlace::between);
    list->setCurrentRow(1);
    e.click("Move ink down"); // beside the other colours they would be one pass: white goes with them
    CHECK(InkOrder::isValid(e.profile(name).printer.inkOrder.passes()));
    CHECK(e.profile(name).printer.inkOrder.printsColoursTwice());
    e.click("Undo the change");
    CHECK(texts() == "Gloss, Colours, White ink, Colours, Primer");
    REQUIRE(list->model()->moveRow({}, 0, {}, 5)); // as dragging does
    REQUIRE(
        QTest::qWaitFor([&] { return e.profile(name).printer.inkOrder.passes().front() == InkKind::gloss; }));
    CHECK(texts() == "Colours, White ink, Colours, Primer, Gloss");
    REQUIRE(list->model()->moveRow({}, 1, {}, 5)); // two passes of colours side by side: put back
    REQUIRE(QTest::qWaitFor([&] { return texts() == "Colours, White ink, Colours, Primer, Gloss"; }));
    e.find<QCheckBox>("Print the colours twice")->click();
    CHECK_FALSE(e.profile(name).printer.inkOrder.printsColoursTwice());
}

TEST_CASE("what can't work is refused with a sentence, and the profile stays") {
    Editing e;
    e.choose("Roll print-and-cut machine");
    const Profile before = e.profile("Roll print-and-cut machine");
    e.openPart(marksPage);
    e.type("Mark distance field", "1");
    CHECK(e.notice().contains("marks.distance must be at least"));
    CHECK(e.find<QLineEdit>("Mark distance field")->text() == "12 mm");
    e.type("Pairs every field", "5");
    CHECK(e.notice().contains("marks.interval must be at least"));
    e.openPart(namesPage);
    e.type("Kiss cut field", "DieCut");
    CHECK(e.notice().contains("give each its own"));
    e.openPart(cutterPage);
    e.type("Connection field", "printer");
    CHECK(e.notice().contains("A machine is named tcp:HOST:PORT"));
    e.type("Profile name field", "Sheet label cutter");
    CHECK(e.notice().contains("already"));
    CHECK(e.profile(before.name) == before);
    CHECK_FALSE(std::filesystem::exists(toPath(e.folder.path("profiles/roll-print-and-cut-machine.json"))));
}

TEST_CASE("profiles are added, copied, renamed, exported, imported and deleted") {
    Editing e;
    e.click("New profile");
    REQUIRE(e.library.find("New machine"));
    e.type("Profile name field", "Moor, left");
    CHECK_FALSE(e.library.find("New machine"));
    e.openPart(cutterPage);
    e.type("Rollers field", "50-60, 300-310");
    e.type("Not reached at the sides field", "7");
    e.take("Cut file", "Cut files in HPGL");
    e.type("Connection field", "tcp:cutter:9100");
    e.take("Tool of choice", "Die cut");
    e.type("Speed in mm/s field", "99");
    const Profile made = e.profile("Moor, left");
    CHECK(made.cutter.rollers == std::vector<Track>{{50, 10}, {300, 10}});
    CHECK(made.cutter.reach.sides == 7);
    CHECK(made.cutter.language == CutLanguage::hpgl);
    CHECK(made.cutter.connection == "tcp:cutter:9100");
    CHECK(made.cutter.tool(LineKind::die).speed == 99);
    CHECK(made.cutter.tool(LineKind::kiss).speed == startProfile().cutter.tool(LineKind::kiss).speed);
    CHECK(std::filesystem::exists(toPath(e.folder.path("profiles/moor-left.json"))));

    e.click("Duplicate profile");
    CHECK(e.profile("Moor, left 2").cutter.rollers == made.cutter.rollers);
    e.choose("Moor, left 2");
    e.click("Delete profile");
    CHECK_FALSE(e.library.find("Moor, left 2"));

    std::ofstream(e.folder.path("mine.json").toStdString()) << toJson(made).dump();
    ProfileLibrary other(toPath(e.folder.path("other")));
    const Profile read = readProfile(toPath(e.folder.path("mine.json")));
    CHECK(read == made);
    CHECK(other.freeName(read.name) == "Moor, left");
    other.keep(read, {});
    CHECK(other.freeName(read.name) == "Moor, left 2");
}

TEST_CASE("the job takes a copy of a profile on request alone, and says when the library's differs") {
    Editing e;
    Document& document = e.w.window().document();
    e.choose("Small desktop cutter");
    e.openPart(marksPage);
    e.type("Quiet zone field", "5");
    CHECK(document.job().profile == startProfile());
    e.click("Use for this job");
    CHECK(document.job().profile == e.profile("Small desktop cutter"));
    CHECK(document.undoLabel() == "Machine: Small desktop cutter");
    CHECK(e.editor.findChild<QLabel*>("About the profile")->text().contains("uses the profile as it is"));
    e.type("Quiet zone field", "4.5");
    CHECK(document.job().profile.marks.quiet == 5);
    CHECK(
        e.editor.findChild<QLabel*>("About the profile")->text().contains("copy of its own, which differs"));
    e.click("Keep the job's copy");
    CHECK(e.profile("Small desktop cutter 2").marks.quiet == 5);
}

TEST_CASE("a file in the library's folder that is no profile is named and left alone") {
    TemporaryFolder folder;
    std::filesystem::create_directories(toPath(folder.path("profiles")));
    std::ofstream(folder.path("profiles/broken.json").toStdString()) << "{\"name\": 7}";
    const ProfileLibrary library(toPath(folder.path("profiles")));
    CHECK(library.entries().size() == knownProfiles().size());
    REQUIRE(library.troubles().size() == 1);
    CHECK(library.troubles()[0].find("broken.json is not a machine profile") == 0);
    CHECK(std::filesystem::exists(toPath(folder.path("profiles/broken.json"))));
}

TEST_CASE("a profile of a newer format is named, one with members of another version keeps them") {
    TemporaryFolder folder;
    std::filesystem::create_directories(toPath(folder.path("profiles")));
    nlohmann::json json = nlohmann::json::parse(profileText(startProfile()));
    CHECK(json["format"] == profileFormat);
    json["name"] = "Mine";
    json["feeder"] = 2;
    const std::filesystem::path file = toPath(folder.path("profiles/mine.json"));
    std::ofstream(file) << json.dump();
    json["format"] = profileFormat + 1;
    std::ofstream(folder.path("profiles/newer.json").toStdString()) << json.dump();
    ProfileLibrary library(toPath(folder.path("profiles")));
    REQUIRE(library.troubles().size() == 2);
    CHECK(library.troubles()[0].find("\"feeder\" is no field of a profile") != std::string::npos);
    CHECK(library.troubles()[1].find("of a newer version") != std::string::npos);
    Profile mine = library.find("Mine")->profile;
    mine.printer.resolution = 600;
    library.keep(mine, "Mine");
    const nlohmann::json kept = nlohmann::json::parse(std::ifstream(file));
    CHECK(kept["feeder"] == 2);
    CHECK(kept["printResolution"] == 600);
    CHECK(std::filesystem::exists(toPath(folder.path("profiles/newer.json"))));
}

TEST_CASE("the sheet's panel opens the editor, and takes the library's profile over the job's copy") {
    WindowDriver w;
    w.click("Sheet place");
    Document& document = w.window().document();
    w.choose("Machine choice", "Small desktop cutter");
    CHECK_FALSE(w.find<QLabel>("Machine differs")->isVisible());
    w.type("Quiet zone field", "5");
    CHECK(w.find<QLabel>("Machine differs")->text().contains("differs from the library's"));
    CHECK(w.find<QPushButton>("Take the library's")->isVisible());
    w.click("Take the library's");
    CHECK(document.job().profile.marks.quiet == 4);
    CHECK_FALSE(w.find<QLabel>("Machine differs")->isVisible());
    bool wasOpen = false;
    QTimer::singleShot(50, &w.window(), [&] {
        auto* editor = qobject_cast<ProfileEditor*>(QApplication::activeModalWidget());
        wasOpen = editor != nullptr;
        if (editor)
            editor->accept();
    });
    w.click("Edit profiles");
    CHECK(wasOpen);
}
