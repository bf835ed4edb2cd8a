#include "app/stickers/bench.h"
#include "app/stickers/item_hand.h"
#include "app/stickers/lettering_hand.h"
#include "app/stickers/stickers_place.h"
#include "artwork/vector_page.h"
#include "geometry/region_operations.h"
#include "job/job_json.h"
#include "support/temporary_folder.h"
#include "support/window_driver.h"

#include <QCheckBox>
#include <QClipboard>
#include <QListWidget>
#include <QMenu>
#include <QPlainTextEdit>
#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString can = HASAMI_SOURCE_DIR "/data/demo/smoke-can.jpg";

/// Makes own artwork in the window.
class Studio : public WindowDriver {
public:
    Bench& bench() { return window().stickersPlace().bench(); }
    ItemHand& hand() { return window().stickersPlace().items(); }
    LetteringHand& caret() { return window().stickersPlace().lettering(); }
    const Design& design() { return *window().document().selectedDesign(); }
    const Item& item(std::size_t i = 0) { return design().artwork.items.at(i); }
    const Lettering& lettering() { return std::get<Lettering>(hand().own()->what); }
    const Figure& figure() { return std::get<Figure>(hand().own()->what); }
    const CodeArtwork& code() { return std::get<CodeArtwork>(hand().own()->what); }
    const Sticker& sticker() { return *window().document().newest(design().id)->sticker; }

    void make(const QString& name) { pick("Make artwork menu", name); }
    void layOn(const QString& name) { pick("Lay on it menu", name); }
    void write(const QString& text) { typeInto(bench(), text); }
    void press(Qt::Key key, Qt::KeyboardModifiers modifiers = {}) {
        QTest::keyClick(&bench(), key, modifiers);
        settle();
    }
    QPoint screen(Point place) { return bench().toScreen({place.x, place.y}).toPoint(); }
};

} // namespace

TEST_CASE("a sticker starts with a word that is typed on the bench") {
    Studio t;
    t.click("Start with a word");
    REQUIRE(t.caret().isEditing());
    t.write("WILD");
    t.press(Qt::Key_Return);
    t.write("HEATHER");
    CHECK(t.lettering().text == "WILD\nHEATHER");
    CHECK(t.design().name == "WILD HEATHER");
    CHECK(t.sticker().lines.size() >= 2);
    t.press(Qt::Key_Escape);
    CHECK_FALSE(t.caret().isEditing());
    t.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(t.lettering().text != "WILD\nHEATHER");
    t.keys(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(t.lettering().text == "WILD\nHEATHER");
}

TEST_CASE("the caret moves by letters, words and lines, selects, and takes what is pasted") {
    Studio t;
    t.click("Start with a word");
    t.write("heather honey");
    t.press(Qt::Key_Home);
    t.press(Qt::Key_Right, Qt::ControlModifier);
    t.press(Qt::Key_Backspace);
    CHECK(t.lettering().text == "heathe honey");
    t.press(Qt::Key_End, Qt::ShiftModifier);
    CHECK(t.caret().selectedText() == " honey");
    t.press(Qt::Key_X, Qt::ControlModifier);
    CHECK(t.lettering().text == "heathe");
    t.press(Qt::Key_V, Qt::ControlModifier);
    CHECK(t.lettering().text == "heathe honey");
    QApplication::clipboard()->setText("\xC3\xA4\r\n\t!");
    t.press(Qt::Key_A, Qt::ControlModifier);
    t.press(Qt::Key_V, Qt::ControlModifier);
    CHECK(t.lettering().text == "\xC3\xA4\n !");
    t.press(Qt::Key_Up);
    t.press(Qt::Key_Home);
    t.press(Qt::Key_Delete);
    CHECK(t.lettering().text == "\n !");
}

TEST_CASE("a click puts the caret between the letters, a drag selects them") {
    Studio t;
    t.click("Start with a word");
    t.write("HHHH");
    const Box box = bounds(t.item());
    const double letter = box.width() / 4;
    const auto place = [&](double letters) {
        return t.screen({box.least.x + letters * letter, box.centre().y});
    };
    QTest::mouseClick(&t.bench(), Qt::LeftButton, {}, place(2));
    t.write("I");
    CHECK(t.lettering().text == "HHIHH");
    t.keys(Qt::Key_Z, Qt::ControlModifier);
    QTest::mousePress(&t.bench(), Qt::LeftButton, {}, place(1));
    QTest::mouseMove(&t.bench(), place(2));
    QTest::mouseMove(&t.bench(), place(3));
    QTest::mouseRelease(&t.bench(), Qt::LeftButton, {}, place(3));
    CHECK(t.caret().selectedText() == "HH");
    // A click beside the lettering ends it; a double click begins again.
    QTest::mouseClick(&t.bench(), Qt::LeftButton, {}, t.screen(box.most + Point{12, 12}));
    CHECK_FALSE(t.caret().isEditing());
    QTest::mouseDClick(&t.bench(), Qt::LeftButton, {}, place(1));
    CHECK(t.caret().isEditing());
}

TEST_CASE("letters come closer by the slider in one undo step, and are welded") {
    Studio t;
    t.click("Start with a word");
    t.write("HEATHER");
    t.press(Qt::Key_Escape);
    const double loose = t.item().place.width;
    t.dragSlider("Closeness slider", 60);
    const double closer = t.item().place.width;
    CHECK(closer < loose);
    t.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(t.item().place.width == Approx(loose));
    t.type("Closeness field", "100");
    REQUIRE(t.sticker().edge.size() == 1); // touching letters are welded from the start
    t.click("Weld letters");
    CHECK(t.sticker().edge.size() == 7);
    t.click("Weld letters");
    t.click("Keep the openings of letters");
    CHECK_FALSE(t.lettering().keepsCounters);
    t.type("Cap height field", "40");
    CHECK(t.lettering().capHeight == 40);
    t.type("Width field", "210");
    CHECK(t.item().place.width == Approx(210));
    CHECK(t.lettering().capHeight == Approx(t.item().place.height).epsilon(0.01)); // its capitals fill it
}

TEST_CASE("single openings of letters are picked on the bench") {
    Studio t;
    t.click("Start with a word");
    t.write("O");
    t.press(Qt::Key_Escape);
    const auto holes = [&] {
        int count = 0;
        for (const DrawnArea& area : t.hand().own()->drawing->drawing->areas)
            for (const Curve& rim : area.rims)
                count += signedArea(flatten(rim, 0.01)) < 0;
        return count;
    };
    REQUIRE(holes() == 1);
    t.click("Pick openings");
    QTest::mouseClick(&t.bench(), Qt::LeftButton, {}, t.screen(bounds(t.item()).centre()));
    t.settle();
    CHECK(holes() == 0);
    QTest::mouseClick(&t.bench(), Qt::LeftButton, {}, t.screen(bounds(t.item()).centre()));
    t.settle();
    CHECK(holes() == 1);
}

TEST_CASE("a picture dropped on lettering shows inside it only, and stays in the job") {
    Studio t;
    t.click("Start with a word");
    t.write("HEATHER");
    t.press(Qt::Key_Escape);
    t.dropOn(t.bench(), t.screen(bounds(t.item()).centre()), can);
    CHECK(t.find<QLabel>("Notice")->text().toStdString() == "");
    REQUIRE(t.window().document().job().designs.size() == 1);
    REQUIRE(std::holds_alternative<PictureFill>(t.hand().own()->fill));
    CHECK(t.find<QComboBox>("Filled with choice")->currentText() == "Picture");
    const auto& shown = std::get<PictureFill>(t.hand().own()->drawing->drawing->areas.front().fill);
    CHECK(shown.place.width >= t.item().place.width - 1e-6);
    t.type("Picture width field", "500");
    CHECK_FALSE(std::get<PictureFill>(t.hand().own()->fill).isFitted);
    const Job& job = t.window().document().job();
    CHECK(withoutUnusedAssets(job).assets->size() == job.assets->size());
    CHECK(jobFromJson(jobToJson(job), *job.assets) == job);
    // What is seen on the bench has the picture's colours within the letters.
    const QImage seen = WindowDriver::pictureOf(t.bench());
    const QRect around = QRect(t.screen(bounds(t.item()).least), t.screen(bounds(t.item()).most));
    int coloured = 0;
    for (int x = around.left(); x < around.right(); x += 3)
        coloured += QColor(seen.pixel(x, around.center().y())).hsvSaturation() > 40;
    CHECK(coloured > 5);
}

TEST_CASE("a shape has the exact size typed, also after it was dragged") {
    Studio t;
    t.make("Rectangle");
    t.type("Shape width field", "58");
    t.type("Shape height field", "122");
    t.type("Corner radius field", "4");
    const Box box = bounds(flatten(t.sticker().edge, 0.001));
    CHECK(box.width() == Approx(58).margin(0.01));
    CHECK(box.height() == Approx(122).margin(0.01));
    t.choose("Form choice", "Heart");
    CHECK(t.figure().kind == FigureKind::heart);
    CHECK(bounds(flatten(t.sticker().edge, 0.001)).width() == Approx(58).margin(0.01));
    const Point corner = bounds(t.item()).most;
    QTest::mousePress(&t.bench(), Qt::LeftButton, {}, t.screen(corner));
    QTest::mouseMove(&t.bench(), t.screen(corner - Point{10, 21}));
    QTest::mouseMove(&t.bench(), t.screen(corner - Point{14.5, 30.5}));
    QTest::mouseRelease(&t.bench(), Qt::LeftButton, {}, t.screen(corner - Point{14.5, 30.5}));
    t.settle();
    CHECK(t.figure().width < 50);
    CHECK(t.figure().width == Approx(t.item().place.width));
    t.choose("Filled with choice", "Gradient");
    CHECK(std::holds_alternative<Gradient>(t.hand().own()->fill));
    t.type("Line field", "1.5");
    CHECK(t.hand().own()->lineWidth == 1.5);
}

TEST_CASE("a code says while one types what it can't hold, and keeps what it had") {
    Studio t;
    t.make("EAN-13");
    t.type("Holds field", "4012345678901");
    CHECK(t.code().text == "4012345678901");
    auto* field = t.find<QLineEdit>("Holds field");
    field->setFocus();
    QTest::keyClick(field, Qt::Key_Backspace);
    CHECK(t.code().text == "401234567890"); // the check digit is added
    QTest::keyClick(field, Qt::Key_Backspace);
    CHECK(t.find<QLabel>("Code note")->text().contains("12"));
    CHECK(t.code().text == "401234567890");
    t.choose("Code choice", "QR");
    CHECK(t.code().kind == CodeKind::qr);
    t.type("Code width field", "4");
    CHECK(t.find<QLabel>("Code note")->text().contains("larger"));
}

TEST_CASE("lettering and codes are laid on a picture, cut as one with it") {
    Studio t;
    t.drop({HASAMI_SOURCE_DIR "/data/demo/bee.png"});
    t.click("Artwork frame");
    t.layOn("Lettering");
    REQUIRE(t.design().artwork.items.size() == 2);
    CHECK(t.caret().isEditing());
    t.write("bee");
    CHECK(t.lettering().text == "bee");
    t.press(Qt::Key_Escape);
    CHECK(t.design().name == "bee"); // the file's name, as before
    t.layOn("QR");
    REQUIRE(t.design().artwork.items.size() == 3);
    CHECK(t.window().document().newest(t.design().id)->trouble.empty());
    // Lettering that is left empty goes.
    t.layOn("Lettering");
    t.press(Qt::Key_Delete);
    CHECK(t.lettering().text.empty());
    t.press(Qt::Key_Escape);
    CHECK(t.design().artwork.items.size() == 3);
}

TEST_CASE("fonts are found by their name and set the lettering") {
    Studio t;
    t.click("Start with a word");
    t.write("Honey");
    t.press(Qt::Key_Escape);
    const double before = t.item().place.width;
    t.click("Font choice");
    auto* search = t.window().findChild<QLineEdit*>("Search fonts");
    REQUIRE(search->isVisible());
    QTest::keyClicks(search, "bebas");
    QTest::keyClick(search, Qt::Key_Return);
    t.settle();
    CHECK_FALSE(search->isVisible());
    CHECK(t.lettering().fonts.front().family == "Bebas Neue");
    CHECK(t.item().place.width != Approx(before));
    CHECK(t.window().document().job().assets->contains(t.lettering().fonts.front().asset));
}

TEST_CASE("a drawing of many stickers is split in one step, and gathered again") {
    const TemporaryFolder folder;
    QFile file(folder.path("eight.svg"));
    REQUIRE(file.open(QIODevice::WriteOnly));
    file.write("<svg xmlns='http://www.w3.org/2000/svg' width='130mm' height='90mm' viewBox='0 0 130 90'>");
    for (int i = 0; i < 8; ++i)
        file.write(QString("<rect x='%1' y='%2' width='20' height='20' fill='#248'/>")
                       .arg(10 + 30 * (i % 4))
                       .arg(10 + 40 * (i / 4))
                       .toUtf8());
    file.write("</svg>");
    file.close();
    Studio t;
    t.drop({folder.path("eight.svg")});
    t.click("Artwork frame");
    CHECK(t.find<QLabel>("Parts")->text().contains("8"));
    t.type("Together within field", "15");
    CHECK(t.find<QLabel>("Parts")->text().contains("2")); // rows: 10 mm apart within, 20 between
    t.type("Together within field", "0");
    t.click("Split into designs");
    REQUIRE(t.window().document().job().designs.size() == 8);
    for (const MadeDesign& made : t.window().document().made()->designs) {
        CHECK(made.trouble.empty());
        CHECK(made.sticker->edge.size() == 1);
    }
    auto* menu = t.window().findChild<QMenu*>("Designs to gather");
    Q_EMIT menu->aboutToShow();
    menu->actions().back()->trigger();
    t.settle();
    CHECK(t.window().document().job().designs.size() == 1);
    CHECK(t.design().artwork.items.size() == 8);
    t.keys(Qt::Key_Z, Qt::ControlModifier);
    t.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(t.window().document().job().designs.size() == 1);
    CHECK(t.design().artwork.items.size() == 1);
}

TEST_CASE("what a circle is too small for is told, and the lettering stays") {
    Studio t;
    t.click("Start with a word");
    t.write("AROUND THE COMB");
    t.press(Qt::Key_Escape);
    t.choose("Baseline choice", "Outside a circle");
    CHECK(t.lettering().arcRadius > 0);
    const double radius = t.lettering().arcRadius;
    t.type("Circle radius field", "3");
    CHECK(t.lettering().arcRadius == radius);
    CHECK(t.find<QLabel>("Notice")->text().contains("circle"));
}

namespace {

/// Three squares of 10 mm, their left sides at 0, 13 and 50 mm.
void laySquares(Studio& t) {
    t.make("Rectangle");
    t.type("Shape width field", "10");
    t.type("Shape height field", "10");
    for (const char* left : {"13", "50"}) {
        t.layOn("Rectangle");
        t.type("Shape width field", "10");
        t.type("Shape height field", "10");
        t.type("From the left field", left);
        t.type("From the top field", left);
    }
}

double leftOf(Studio& t, std::size_t item) {
    return bounds(t.item(item)).least.x - bounds(t.item(0)).least.x;
}

} // namespace

TEST_CASE("several artworks are held with Shift, moved together, aligned and spaced") {
    Studio t;
    laySquares(t);
    REQUIRE(t.design().artwork.items.size() == 3);
    const double first = leftOf(t, 1);
    t.hand().hold(std::optional<std::size_t>(0));
    QTest::mouseClick(&t.bench(), Qt::LeftButton, Qt::ShiftModifier, t.screen(bounds(t.item(1)).centre()));
    CHECK(t.hand().several().size() == 2);
    const Point before = bounds(t.item(0)).least;
    t.type("From the left field", "5");
    CHECK(bounds(t.item(0)).least.x ==
          Approx(before.x < bounds(t.item(1)).least.x ? 5 : bounds(t.item(0)).least.x));
    CHECK(leftOf(t, 1) == Approx(first)); // as they lay
    QTest::mouseClick(&t.bench(), Qt::LeftButton, Qt::ShiftModifier, t.screen(bounds(t.item(2)).centre()));
    REQUIRE(t.hand().several().size() == 3);
    t.hand().distribute(true);
    std::vector<double> lefts;
    for (std::size_t i = 0; i < 3; ++i)
        lefts.push_back(bounds(t.item(i)).least.x);
    std::ranges::sort(lefts);
    CHECK(lefts[1] - lefts[0] == Approx(lefts[2] - lefts[1]));
    t.hand().align(Alignment::top);
    CHECK(bounds(t.item(0)).least.y == Approx(bounds(t.item(2)).least.y));
}

TEST_CASE("a group is picked as one, what is locked stays, and names are typed") {
    Studio t;
    laySquares(t);
    t.hand().hold(std::set<std::size_t>{0, 2});
    t.click("Group");
    t.hand().hold(std::nullopt);
    QTest::mouseClick(&t.bench(), Qt::LeftButton, {}, t.screen(bounds(t.item(2)).centre()));
    CHECK(t.hand().several() == std::set<std::size_t>{0, 2});
    t.click("Group");
    t.hand().hold(std::optional<std::size_t>(2));
    CHECK(t.hand().several() == std::set<std::size_t>{2});
    t.click("Lock");
    const Point place = t.item(2).place.at;
    t.hand().nudge({5, 5});
    CHECK(t.item(2).place.at == place);
    CHECK(t.find<QLabel>("Notice")->text().contains("locked"));
    CHECK_FALSE(t.hand().itemAt(bounds(t.item(2)).centre()) == std::optional<std::size_t>(2));
    t.find<QListWidget>("Artworks")->item(1)->setText("Lid");
    t.settle();
    CHECK(t.item(2).name == "Lid");
    const Job& job = t.window().document().job();
    CHECK(jobFromJson(jobToJson(job), *job.assets) == job);
}

TEST_CASE("a background is printed up to the bleed, and the edge is found without it") {
    Studio t;
    t.click("Start with a word");
    t.write("Moor");
    t.press(Qt::Key_Escape);
    const double edgeArea = area(flatten(t.sticker().edge, 0.01));
    t.layOn("Background behind it");
    REQUIRE(t.design().artwork.items.size() == 2);
    CHECK(t.item(0).isBackground);
    CHECK(area(flatten(t.sticker().edge, 0.01)) == Approx(edgeArea));
    // Within the cut line and a millimetre beyond everything is printed, and nothing farther out.
    const Sticker& sticker = t.sticker();
    std::vector<Curve> line;
    for (const CutLine& cut : sticker.lines)
        line.push_back(cut.curve);
    const Region cut = flatten(line, 0.01), within = flatten(sticker.within, 0.01);
    REQUIRE_FALSE(within.isEmpty());
    CHECK(area(difference(offset(cut, 0.95), within)) < 0.2);
    CHECK(area(difference(within, offset(withoutOpenings(cut), 1.1))) < 0.2);
    CHECK(t.find<QCheckBox>("Background only")->isChecked());
    t.click("Background only");
    CHECK(area(flatten(t.sticker().edge, 0.01)) > 2 * edgeArea);
}

TEST_CASE("a shape's corner moves both sides; with Shift evenly, with Control from its middle") {
    Studio t;
    t.make("Rectangle");
    t.type("Shape width field", "40");
    t.type("Shape height field", "30");
    const auto drag = [&](Point by, Qt::KeyboardModifiers modifiers) {
        t.bench().fit();
        const Point corner = bounds(t.item()).most;
        const auto send = [&](QEvent::Type type, Point at, Qt::MouseButtons buttons) {
            QMouseEvent event(type, QPointF(t.screen(at)), t.bench().mapToGlobal(QPointF(t.screen(at))),
                              type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton, buttons, modifiers);
            QApplication::sendEvent(&t.bench(), &event);
        };
        send(QEvent::MouseButtonPress, corner, Qt::LeftButton);
        for (const double share : {0.4, 0.7, 1.0})
            send(QEvent::MouseMove, corner + by * share, Qt::LeftButton);
        send(QEvent::MouseButtonRelease, corner + by, Qt::NoButton);
        t.settle();
    };
    const Box before = bounds(t.item());
    drag({10, -5}, {});
    CHECK(t.figure().width == Approx(50).margin(0.3));
    CHECK(t.figure().height == Approx(25).margin(0.3));
    CHECK(bounds(t.item()).least.x == Approx(before.least.x).margin(1e-6));
    const double ratio = t.figure().width / t.figure().height;
    drag({10, 0}, Qt::ShiftModifier);
    CHECK(t.figure().width / t.figure().height == Approx(ratio));
    const Point middle = bounds(t.item()).centre();
    const double width = t.figure().width;
    drag({4, 0}, Qt::ControlModifier);
    CHECK(t.figure().width == Approx(width + 8).margin(0.6));
    CHECK(distance(bounds(t.item()).centre(), middle) < 1e-6);
}

TEST_CASE("a colour is taken from the artwork by a click") {
    Studio t;
    t.drop({can});
    t.click("Artwork frame");
    const Box photo = bounds(t.item());
    t.layOn("Heart");
    t.click("Take from the artwork");
    CHECK(t.hand().isPickingColour());
    QTest::mouseClick(&t.bench(), Qt::LeftButton, {}, t.screen(photo.least + Point{3, 3}));
    t.settle();
    CHECK_FALSE(t.hand().isPickingColour());
    const Rgba taken = std::get<PaintColour>(t.hand().own()->fill).shown;
    CHECK(taken.red > 200); // the backdrop is light
    CHECK(t.design().artwork.items.size() == 2);
}

TEST_CASE("artwork becomes a shape of its outline, and another picture takes its place inside") {
    Studio t;
    t.drop({HASAMI_SOURCE_DIR "/data/demo/bee.png"});
    t.click("Artwork frame");
    const Box bee = bounds(flatten(t.sticker().edge, 0.01));
    const double covered = area(flatten(t.sticker().edge, 0.01));
    t.click("Make a shape of it");
    REQUIRE(t.hand().own());
    CHECK(t.figure().kind == FigureKind::outline);
    CHECK(area(flatten(t.sticker().edge, 0.01)) == Approx(covered).epsilon(0.001));
    CHECK(bounds(flatten(t.sticker().edge, 0.01)).least.x == Approx(bee.least.x).margin(0.01));
    t.dropOn(t.bench(), t.screen(bee.centre()), can);
    CHECK(std::get<PictureFill>(t.hand().own()->fill).isFitted);
    CHECK(area(flatten(t.sticker().edge, 0.01)) == Approx(covered).epsilon(0.001));
}

TEST_CASE("what was done by hand to another artwork stays when one becomes a shape") {
    Studio t;
    t.drop({HASAMI_SOURCE_DIR "/data/demo/bee.png"});
    t.click("Artwork frame");
    t.layOn("Lettering");
    t.write("bee");
    t.press(Qt::Key_Escape);
    const std::string id = t.design().id;
    t.window().document().change("By hand", [&](Job& job) {
        job.find(id)->recipe.edge.switches = {{{1, 1}, 1, false, true, 0}, {{2, 2}, 1, false, true, 1}};
        job.find(id)->recipe.edge.touchUps = {
            {{0.1, 0.1}, {0.2, 0.2}, {}, {straightSegment({0.1, 0.1}, {0.2, 0.2})}, 0},
            {{0.3, 0.3}, {0.4, 0.4}, {}, {straightSegment({0.3, 0.3}, {0.4, 0.4})}, 1}};
    });
    t.settle();
    t.hand().hold(std::optional<std::size_t>(0));
    t.settle();
    t.click("Make a shape of it");
    REQUIRE(t.item(0).own());
    REQUIRE(t.design().recipe.edge.switches.size() == 1);
    CHECK(t.design().recipe.edge.switches[0].item == 1);
    REQUIRE(t.design().recipe.edge.touchUps.size() == 1);
    CHECK(t.design().recipe.edge.touchUps[0].item == 1);
}

TEST_CASE("a picture inside lettering is taken anew when its file changes, where it was") {
    const TemporaryFolder folder;
    const QString path = folder.path("moor.png");
    QImage picture(80, 40, QImage::Format_RGB32);
    picture.fill(Qt::darkGreen);
    REQUIRE(picture.save(path));
    Studio t;
    t.click("Start with a word");
    t.write("MOOR");
    t.press(Qt::Key_Escape);
    t.dropOn(t.bench(), t.screen(bounds(t.item()).centre()), path);
    const PictureFill before = std::get<PictureFill>(t.hand().own()->fill);
    picture = QImage(80, 80, QImage::Format_RGB32);
    picture.fill(Qt::darkBlue);
    REQUIRE(picture.save(path));
    REQUIRE(QTest::qWaitFor([&] { return t.find<QLabel>("Notice")->isVisible(); }, 20'000));
    t.click("First answer");
    t.settle();
    const PictureFill after = std::get<PictureFill>(t.hand().own()->fill);
    CHECK(after.file.asset != before.file.asset);
    CHECK(after.isFitted);
    CHECK(t.window().document().newest(t.design().id)->trouble.empty());
    CHECK(t.window().document().undoLabel() == "Take the new moor.png");
}

TEST_CASE("what an input method composes is typed into the lettering") {
    Studio t;
    t.click("Start with a word");
    t.write("Caf");
    QInputMethodEvent composing("e\u0301", {});
    QCoreApplication::sendEvent(&t.bench(), &composing);
    CHECK(t.lettering().text == "Caf"); // not yet
    QInputMethodEvent done("", {});
    done.setCommitString("\u00e9");
    QCoreApplication::sendEvent(&t.bench(), &done);
    t.settle();
    CHECK(t.lettering().text == "Caf\u00e9");
}

TEST_CASE("the list of fonts begins with the heaviest where that is asked for") {
    Studio t;
    t.click("Start with a word");
    t.write("Honey");
    t.press(Qt::Key_Escape);
    t.click("Font choice");
    auto* list = t.window().findChild<QListWidget*>("Font list");
    const auto placeOf = [&](const QString& name) {
        for (int row = 0; row < list->count(); ++row)
            if (list->item(row)->text() == name)
                return row;
        return -1;
    };
    const QString light = "Open Sans Regular", heavy = "Open Sans ExtraBold"; // shipped, the lighter one last
    const auto isHeavyFirst = [&] { return placeOf(heavy) < placeOf(light); };
    list->sortItems(Qt::DescendingOrder);
    REQUIRE_FALSE(isHeavyFirst());
    t.window().findChild<QCheckBox*>("Heaviest first")->click(); // its text ends before its middle
    REQUIRE(QTest::qWaitFor(isHeavyFirst, 60'000));
}

TEST_CASE("artwork is copied into another design, with the files it needs") {
    Studio t;
    t.click("Start with a word");
    t.write("Moor");
    t.press(Qt::Key_Escape);
    t.bench().setFocus();
    t.keys(Qt::Key_C, Qt::ControlModifier);
    const Lettering copied = t.lettering();
    t.drop({HASAMI_SOURCE_DIR "/data/demo/bee.png"});
    t.keys(Qt::Key_V, Qt::ControlModifier);
    REQUIRE(t.design().artwork.items.size() == 2);
    CHECK(std::get<Lettering>(t.item(1).own()->what) == copied);
    CHECK(t.hand().several() == std::set<std::size_t>{1});
    t.window().document().startNew();
    t.settle();
    t.drop({HASAMI_SOURCE_DIR "/data/demo/bee.png"});
    t.keys(Qt::Key_V, Qt::ControlModifier); // into another job
    REQUIRE(t.design().artwork.items.size() == 2);
    const Job& job = t.window().document().job();
    CHECK(jobFromJson(jobToJson(job), *job.assets) == job);
}

TEST_CASE("the picture inside is moved and sized on the bench, and the shape stays") {
    Studio t;
    t.make("Heart");
    const Box heart = bounds(t.item());
    t.dropOn(t.bench(), t.screen(heart.centre()), can);
    t.click("Place on the bench");
    REQUIRE(t.hand().isPlacingPicture());
    const Placement before = *t.hand().pictureInside();
    const auto drag = [&](Point from, Point to) {
        QTest::mousePress(&t.bench(), Qt::LeftButton, {}, t.screen(from));
        QTest::mouseMove(&t.bench(), t.screen(between(from, to, 0.5)));
        QTest::mouseMove(&t.bench(), t.screen(to));
        QTest::mouseRelease(&t.bench(), Qt::LeftButton, {}, t.screen(to));
        t.settle();
    };
    drag(heart.centre(), heart.centre() + Point{6, -4});
    const Placement moved = *t.hand().pictureInside();
    CHECK(moved.at.x - before.at.x == Approx(6).margin(0.3));
    CHECK(moved.at.y - before.at.y == Approx(-4).margin(0.3));
    CHECK(moved.width == before.width);
    const Point corner = t.hand().fromDrawing()(moved.at + Point{moved.width, moved.height});
    drag(corner, corner - Point{moved.width, moved.height} * 0.25);
    const Placement sized = *t.hand().pictureInside();
    CHECK(sized.width == Approx(moved.width * 0.75).margin(0.5));
    CHECK(sized.at.x == Approx(moved.at.x).margin(1e-6));
    CHECK(bounds(t.item()).width() == Approx(heart.width()));
    t.press(Qt::Key_Return);
    CHECK_FALSE(t.hand().isPlacingPicture());
    t.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(t.hand().pictureInside()->width == moved.width);
}

TEST_CASE("inks keep what they are when their field is only passed through") {
    Studio t;
    t.make("Heart");
    t.hand().editOwn("Inks", [](OwnArtwork& own, Job&) {
        PaintColour gold;
        gold.inks = {{0.055, 0.305, 0.805, 0}};
        gold.shown = {200, 150, 40, 255};
        own.fill = gold;
    });
    t.settle();
    auto* field = t.find<QLineEdit>("Fill colour field");
    field->setFocus();
    QTest::keyClick(field, Qt::Key_Return);
    CHECK(std::get<PaintColour>(t.hand().own()->fill).inks->at(0) == 0.055);
    CHECK(std::get<PaintColour>(t.hand().own()->fill).shown == Rgba{200, 150, 40, 255});
    t.type("Fill colour field", "0 60 100 0");
    CHECK(std::get<PaintColour>(t.hand().own()->fill).inks->at(1) == Approx(0.6));
}

TEST_CASE("a drawing's page has the spot colours of its gradients") {
    Studio t;
    t.make("Heart");
    t.hand().editOwn("Gradient", [](OwnArtwork& own, Job&) {
        own.fill = Gradient{false, 0, blackInk(), *parsePaintColour("Comb Gold = 0 30 90 10")};
    });
    t.settle();
    const Document& document = t.hand().document();
    const auto picture = t.hand().document().pictures().source()(*assetOf(document.job(), t.item()), {}, {});
    REQUIRE(picture->page);
    CHECK(picture->page->spots == std::set<std::string>{"Comb Gold"});
}
