#include "app/stickers/making_strip.h"
#include "app/stickers/stickers_place.h"
#include "support/temporary_folder.h"
#include "support/window_driver.h"

#include <QTextBrowser>
#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString bee = HASAMI_SOURCE_DIR "/data/demo/bee.png";

QStringList names(const Document& document) {
    QStringList all;
    for (const Design& design : document.job().designs)
        all << QString::fromStdString(design.name);
    return all;
}

/// A plain square picture, all red.
void drawSquare(const QString& path, int side) {
    QImage image(side, side, QImage::Format_ARGB32);
    image.fill(Qt::red);
    REQUIRE(image.save(path));
}

} // namespace

TEST_CASE("a design is duplicated with its recipe and count, renamed and moved along the shelf") {
    WindowDriver w;
    w.drop({bee});
    const Document& document = w.window().document();
    w.click("Cut lines frame");
    w.type("Offset field", "3");
    w.keys(Qt::Key_D, Qt::ControlModifier);
    REQUIRE(names(document) == QStringList{"bee", "bee 2"});
    CHECK(document.selectedDesign()->name == "bee 2");
    CHECK(document.job().designs[1].recipe.lines[0].offset == 3);
    CHECK(document.job().designs[1].id != document.job().designs[0].id);
    CHECK(document.undoLabel() == "Duplicate bee");

    w.keys(Qt::Key_F2);
    CHECK(w.window().stickersPlace().strip().step() == RecipeStep::artwork);
    auto* name = w.find<QLineEdit>("Name field");
    QTest::keyClicks(name, "queen");
    QTest::keyClick(name, Qt::Key_Return);
    CHECK(names(document) == QStringList{"bee", "queen"});
    CHECK(document.undoLabel() == "Rename to queen");

    w.keys(Qt::Key_Up, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(names(document) == QStringList{"queen", "bee"});
    w.keys(Qt::Key_Up, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(names(document) == QStringList{"queen", "bee"});
    w.keys(Qt::Key_Down, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(names(document) == QStringList{"bee", "queen"});
    CHECK(w.shelf()->currentIndex().data().toString() == "queen");
}

TEST_CASE("a count is typed on the card, by double click or by key") {
    WindowDriver w;
    w.drop({bee});
    const Document& document = w.window().document();
    const auto typeCount = [&](const QString& text, Qt::Key end) {
        auto* field = w.find<QLineEdit>("Card count field");
        REQUIRE(field->isVisible());
        QTest::keyClicks(field, text);
        QTest::keyClick(field, end);
        w.settle();
    };
    const QPoint card = w.shelf()->visualRect(w.shelf()->model()->index(0, 0)).center();
    QTest::mouseClick(w.shelf()->viewport(), Qt::LeftButton, {}, card);
    QTest::mouseDClick(w.shelf()->viewport(), Qt::LeftButton, {}, card);
    typeCount("24", Qt::Key_Return);
    CHECK(document.job().designs[0].count == 24);
    CHECK(document.undoLabel() == "24 copies");
    CHECK(document.made()->layout.pieces() == 24);
    w.keys(Qt::Key_F2, Qt::ShiftModifier);
    typeCount("7", Qt::Key_Escape);
    CHECK(document.job().designs[0].count == 24);
    w.keys(Qt::Key_F2, Qt::ShiftModifier);
    typeCount("many", Qt::Key_Return);
    CHECK(document.job().designs[0].count == 24);
}

TEST_CASE("a card dropped between others moves its design there") {
    WindowDriver w;
    w.drop({bee, bee, bee});
    const Document& document = w.window().document();
    const std::string first = document.job().designs[0].id;
    QAbstractItemModel* model = w.shelf()->model();
    const std::unique_ptr<QMimeData> card(model->mimeData({model->index(0, 0)}));
    CHECK(model->supportedDropActions() == Qt::MoveAction);
    model->dropMimeData(card.get(), Qt::MoveAction, 2, 0, {});
    CHECK(document.job().designs[1].id == first);
    model->dropMimeData(card.get(), Qt::MoveAction, 0, 0, {});
    CHECK(document.job().designs[0].id == first);
    model->dropMimeData(card.get(), Qt::MoveAction, -1, -1, {});
    CHECK(document.job().designs[2].id == first);
    CHECK(document.job().designs.size() == 3);
}

TEST_CASE("a recipe is copied to another design: all of it, or one step") {
    WindowDriver w;
    w.drop({bee, bee});
    Document& document = w.window().document();
    w.click("Cut lines frame");
    w.type("Offset field", "4");
    w.click("Edge frame");
    w.type("Level field", "30");
    const auto pick = [&](int row) {
        QTest::mouseClick(w.shelf()->viewport(), Qt::LeftButton, {},
                          w.shelf()->visualRect(w.shelf()->model()->index(row, 0)).center());
        w.settle();
    };
    w.keys(Qt::Key_V, Qt::ControlModifier | Qt::ShiftModifier); // nothing is copied yet
    w.keys(Qt::Key_C, Qt::ControlModifier | Qt::ShiftModifier);
    pick(0);
    const std::string id = document.selected();
    CHECK(document.selectedDesign()->recipe == Recipe{});
    document.applyRecipe({id}, Document::RecipePart::edge);
    CHECK(document.selectedDesign()->recipe.edge.level == 30);
    CHECK(document.selectedDesign()->recipe.lines[0].offset == 2);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    document.applyRecipe({id}, Document::RecipePart::cutLines);
    CHECK_FALSE(document.selectedDesign()->recipe.edge.level.has_value()); // as suggested
    CHECK(document.selectedDesign()->recipe.lines[0].offset == 4);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.keys(Qt::Key_V, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(document.job().designs[0].recipe == document.job().designs[1].recipe);
    CHECK(document.undoLabel() == "Apply recipe of bee");
}

TEST_CASE("artwork is replaced, its width and recipe stay, the line is made anew") {
    WindowDriver w;
    const TemporaryFolder folder;
    drawSquare(folder.path("square.png"), 400);
    w.drop({bee});
    Document& document = w.window().document();
    w.click("Artwork frame");
    w.type("Width field", "40");
    w.click("Cut lines frame");
    w.type("Offset field", "1");
    document.replaceArtwork(document.selected(), 0, folder.path("square.png"));
    w.settle();
    const Design& design = document.job().designs[0];
    CHECK(bounds(design.artwork).width() == Approx(40));
    CHECK(bounds(design.artwork).height() == Approx(40));
    CHECK(design.recipe.lines[0].offset == 1);
    CHECK(design.name == "bee");
    // A square of 40 mm with round corners 1 mm outside.
    const Loop line = flatten(document.made()->designs[0].sticker->lines.at(0).curve, 0.001);
    CHECK(signedArea(line) == Approx(1600 + 160 + M_PI).epsilon(0.001));
    CHECK(document.undoLabel() == "Replace artwork of bee");

    writeSafely(folder / "notes.png", "no picture");
    const Job before = document.job();
    document.replaceArtwork(document.selected(), 0, folder.path("notes.png"));
    w.settle();
    CHECK(document.job() == before);
    CHECK(w.find<QLabel>("Notice")->text().contains("notes.png is not artwork that Hasami reads"));
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(document.job().designs[0].artwork.items[0].name == "bee.png");
}

TEST_CASE("one setting changes the unit of every field, and of what is typed") {
    WindowDriver w;
    w.drop({bee});
    w.click("Artwork frame");
    w.type("Width field", "2in");
    CHECK(w.find<QLineEdit>("Width field")->text() == "50.8 mm");
    for (QAction* action : w.window().findChildren<QAction*>())
        if (action->text() == "&Inches")
            action->trigger();
    w.settle();
    CHECK(w.find<QLineEdit>("Width field")->text() == "2 in");
    w.type("Width field", "1 1/2");
    CHECK(bounds(w.window().document().job().designs[0].artwork).width() == Approx(38.1));
    CHECK(w.window().document().undoLabel() == "Width 1.5 in");
    w.type("Width field", "30 mm");
    CHECK(w.find<QLineEdit>("Width field")->text() == "1.181 in");
    w.click("Sheet place");
    CHECK(w.find<QLineEdit>("Gap field")->text() == "0.118 in");
    CHECK(w.find<QLabel>("Length used figure")->text().endsWith(" in"));
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.find<QLineEdit>("Gap field")->text() == "3 mm");
}

TEST_CASE("Help > Keys lists every shortcut") {
    WindowDriver w;
    QString listed;
    QTimer::singleShot(100, &w.window(), [&] {
        auto* dialog = QApplication::activeModalWidget();
        listed = dialog->findChild<QTextBrowser*>()->toPlainText();
        QTest::keyClick(dialog, Qt::Key_Escape);
    });
    w.keys(Qt::Key_F1);
    for (const QAction* action : w.window().findChildren<QAction*>())
        if (!action->shortcut().isEmpty() && !action->text().isEmpty())
            CHECK(listed.contains(action->shortcut().toString(QKeySequence::NativeText)));
    CHECK(listed.contains("Duplicate design"));
}
