#include "app/stickers/bench.h"
#include "app/stickers/making_strip.h"
#include "support/window_driver.h"

#include <QCheckBox>
#include <QComboBox>
#include <QListWidget>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString bee = QString(HASAMI_SOURCE_DIR) + "/data/demo/bee.png";
const QString comb = QString(HASAMI_SOURCE_DIR) + "/data/demo/comb-ring.png";

const Sticker& made(WindowDriver& w) {
    return *w.window().document().made()->designs.at(0).sticker;
}

} // namespace

TEST_CASE("a border is typed, coloured and undone") {
    WindowDriver w;
    w.drop({comb});
    w.click("Border frame");
    CHECK(w.find<StripFrame>("Border frame")->figure() == "none");
    const double before = made(w).peeledBox.width();
    w.type("Width field", "3");
    w.settle();
    CHECK(w.find<StripFrame>("Border frame")->figure() == "3 mm wide");
    CHECK(made(w).peeledBox.width() == Approx(before + 6).margin(0.05));
    w.type("Colour field", "c03020");
    w.settle();
    REQUIRE(made(w).border);
    CHECK(made(w).border->colour == PaintColour{{0xC0, 0x30, 0x20, 255}});
    w.type("Colour field", "no colour");
    CHECK(w.find<QLineEdit>("Colour field")->text() == "#C03020");
    CHECK(w.find<QCheckBox>("Around openings too")->isChecked());
    w.click("Around openings too");
    CHECK_FALSE(w.window().document().job().designs[0].recipe.border.onOpenings);
    CHECK(w.window().document().undoLabel() == "Border on the outside alone");
    for (int i = 0; i < 3; ++i)
        w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    CHECK_FALSE(made(w).border);
}

TEST_CASE("a click on the artwork gives the border its colour, a chip of colour too") {
    WindowDriver w;
    w.drop({bee});
    w.click("Border frame");
    w.type("Width field", "2");
    w.settle();
    const auto colour = [&] { return w.window().document().job().designs[0].recipe.border.colour; };
    const PaintColour first = colour();
    auto* bench = w.find<Bench>("Bench");
    const hasami::Box box = made(w).artwork;
    QTest::mouseClick(bench, Qt::LeftButton, {}, bench->toScreen({box.centre().x, box.centre().y}).toPoint());
    const PaintColour taken = colour();
    CHECK_FALSE(taken == first);
    const auto chips = w.window().findChildren<QToolButton*>(QRegularExpression("^Take #"));
    REQUIRE(chips.size() >= 3);
    w.click("Take #FFFFFF");
    CHECK(colour() == PaintColour{{255, 255, 255, 255}});
}

TEST_CASE("a border is printed in inks, in a spot colour and in black alone") {
    WindowDriver w;
    w.drop({bee});
    w.click("Border frame");
    w.type("Width field", "2");
    const auto colour = [&] { return w.window().document().job().designs[0].recipe.border.colour; };
    auto* kind = w.find<QComboBox>("Colour kind");
    auto* field = w.find<QLineEdit>("Colour field");
    const auto choose = [&](int place) {
        kind->setCurrentIndex(place);
        Q_EMIT kind->activated(place);
    };
    CHECK(colour() == blackInk());
    CHECK(field->text() == "0 0 0 100");
    CHECK(kind->currentText() == "CMYK");

    w.type("Colour field", "0 60 100 0");
    CHECK(colour() == colourOfInks({0, 0.6, 1, 0}));
    CHECK(w.window().document().undoLabel() == "Border colour: 0 60 100 0");
    choose(0); // RGB
    CHECK(colour() == PaintColour{{255, 102, 0, 255}});
    CHECK(field->text() == "#FF6600");
    choose(1); // CMYK
    CHECK(colour() == colourOfInks({0, 0.6, 1, 0}));

    CHECK_FALSE(w.find<QLineEdit>("Colour spot")->isVisible());
    choose(2); // a spot colour, once it has a name
    CHECK(colour() == colourOfInks({0, 0.6, 1, 0}));
    REQUIRE(w.find<QLineEdit>("Colour spot")->isVisible());
    w.type("Colour spot", "Comb Gold");
    CHECK(colour().spot == "Comb Gold");
    CHECK(colour().inks == colourOfInks({0, 0.6, 1, 0}).inks);
    w.type("Colour field", "0 30 90 10"); // what shows it
    CHECK(colour().spot == "Comb Gold");
    CHECK(colour().inks->at(1) == Approx(0.3));
    w.type("Colour spot", "All"); // the colour of every plate
    CHECK(colour().spot == "Comb Gold");
    CHECK(w.find<QLineEdit>("Colour spot")->text() == "Comb Gold");

    w.click("Take 0 0 0 100");
    CHECK(colour() == blackInk());
    CHECK_FALSE(w.find<QLineEdit>("Colour spot")->isVisible());
    w.type("Colour field", "Hive Red = #C03020");
    CHECK(colour().spot == "Hive Red");
    CHECK(kind->currentText() == "Spot colour");
    w.type("Colour spot", "");
    CHECK(colour() == PaintColour{{0xC0, 0x30, 0x20, 255}});
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(colour().spot == "Hive Red");
}

TEST_CASE("die lines are added around the others, moved and removed") {
    WindowDriver w;
    w.drop({bee});
    w.click("Cut lines frame");
    auto* list = w.find<QListWidget>("Cut lines list");
    REQUIRE(list->count() == 1);
    CHECK(list->item(0)->text() == "Kiss cut, 2 mm outside");
    CHECK_FALSE(w.find<QPushButton>("Remove")->isEnabled());
    w.trigger("Add die cut");
    w.settle();
    REQUIRE(list->count() == 2);
    CHECK(list->item(1)->text() == "Die cut, 5 mm outside");
    CHECK(list->currentRow() == 1);
    CHECK(w.find<StripFrame>("Cut lines frame")->figure() == "2 lines");
    CHECK(made(w).has(LineKind::die));
    w.type("Offset field", "6.5"); // of the chosen line
    w.settle();
    const auto& lines = w.window().document().job().designs[0].recipe.lines;
    CHECK(lines[0].offset == 2);
    CHECK(lines[1].offset == 6.5);
    CHECK(made(w).footprint.width() == Approx(made(w).peeledBox.width() + 9).margin(0.05));
    list->setCurrentRow(0);
    w.type("Offset field", "1");
    CHECK(w.window().document().job().designs[0].recipe.lines[0].offset == 1);
    list->setCurrentRow(1);
    w.click("Remove");
    w.settle();
    CHECK(list->count() == 1);
    CHECK_FALSE(made(w).has(LineKind::die));
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    CHECK(made(w).has(LineKind::die));
}

TEST_CASE("a number whose 0 means none shows the word, and takes it") {
    WindowDriver w;
    w.drop({bee});
    w.click("Border frame");
    const auto border = [&] { return w.window().document().job().designs[0].recipe.border.width; };
    auto* field = w.find<QLineEdit>("Width field");
    CHECK(field->text() == "none");
    w.type("Width field", "3");
    CHECK(field->text() == "3 mm");
    w.type("Width field", "None");
    CHECK(field->text() == "none");
    CHECK(border() == 0);
    CHECK(w.window().document().undoLabel() == "Border none");
    w.type("Width field", "nothing");
    CHECK(field->property("wrong").toBool());
    CHECK(field->toolTip() == "Takes none to 100 mm");
    CHECK(border() == 0);
    w.click("Sheet place");
    CHECK(w.find<QLineEdit>("Length on the roll field")->text() == "no limit");
    w.type("Most per row field", "3");
    CHECK(w.window().document().job().plan.rows.most == 3);
    w.type("Most per row field", "no limit");
    CHECK(w.window().document().job().plan.rows.most == 0);
    CHECK(w.window().document().undoLabel() == "Most per row no limit");
}
