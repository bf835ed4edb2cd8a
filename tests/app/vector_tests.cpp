#include "app/stickers/making_strip.h"
#include "app/stickers/stickers_place.h"
#include "support/temporary_folder.h"
#include "support/window_driver.h"

#include <QCheckBox>
#include <QListWidget>
#include <QSpinBox>
#include <QStandardItemModel>
#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString label = HASAMI_SOURCE_DIR "/data/demo/honey-label.svg";
const QString tags = HASAMI_SOURCE_DIR "/data/demo/heather-tags.pdf";
const QString bee = HASAMI_SOURCE_DIR "/data/demo/bee.png";

QString writeSvg(const TemporaryFolder& folder, const QString& name, const QByteArray& body) {
    const QString path = folder.path(name);
    QFile file(path);
    REQUIRE(file.open(QIODevice::WriteOnly));
    file.write("<svg xmlns='http://www.w3.org/2000/svg' width='60mm' height='40mm' viewBox='0 0 60 40'>" +
               body + "</svg>");
    return path;
}

bool isOffered(WindowDriver& w, const QString& way) {
    auto* choice = w.find<QComboBox>("Find the edge by choice");
    const auto found = static_cast<QStandardItemModel*>(choice->model())->findItems(way);
    REQUIRE(found.size() == 1);
    return found[0]->isEnabled();
}

const MadeDesign& made(WindowDriver& w) {
    return *w.window().document().newest(w.window().document().selected());
}

} // namespace

TEST_CASE("a drawing is dropped: its natural size, its paint as edge, no level to set") {
    WindowDriver w;
    w.drop({label});
    const Document& document = w.window().document();
    REQUIRE(document.selectedDesign());
    const Item& item = document.selectedDesign()->artwork.items.front();
    CHECK(item.isVector());
    CHECK(item.place.width == Approx(80).margin(0.01));
    CHECK(item.place.height == Approx(52).margin(0.01));
    CHECK(made(w).sticker->edge.size() == 1);
    CHECK(made(w).sticker->edge[0].points() < 25);
    w.click("Artwork frame");
    CHECK(w.find<QLabel>("Resolution")->text() == "Vector art: sharp at every size");
    CHECK_FALSE(w.find<QSpinBox>("Page field")->isVisible());
    w.click("Edge frame");
    CHECK_FALSE(w.find<QLineEdit>("Level field")->isVisible());
    CHECK(w.find<QLineEdit>("Smoothing field")->isVisible());
    CHECK(isOffered(w, "All that is painted"));
    CHECK_FALSE(isOffered(w, "Backdrop"));
    w.drop({bee});
    w.click("Edge frame");
    CHECK(w.find<QLineEdit>("Level field")->isVisible());
    CHECK(isOffered(w, "Backdrop"));
    CHECK_FALSE(isOffered(w, "Cut lines in the file"));
}

TEST_CASE("cut lines that a file brings are taken, one by one if wished, and given back by another choice") {
    WindowDriver w;
    w.drop({tags});
    const Document& document = w.window().document();
    CHECK(document.selectedDesign()->recipe.edge.way == EdgeWay::lines);
    REQUIRE(made(w).sticker->lines.size() == 3);
    CHECK(made(w).sticker->has(LineKind::die));
    w.click("Cut lines frame");
    CHECK_FALSE(w.find<QLineEdit>("Offset field")->isVisible());
    w.click("Edge frame");
    auto* list = w.find<QListWidget>("Line list");
    REQUIRE(list->count() == 3);
    list->item(2)->setCheckState(Qt::Unchecked); // the tag's hole
    w.settle();
    CHECK(made(w).sticker->lines.size() == 2);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(made(w).sticker->lines.size() == 3);

    w.choose("Find the edge by choice", "All that is painted");
    CHECK(made(w).sticker->lines.size() > 0);
    CHECK_FALSE(made(w).sticker->has(LineKind::die));
    w.click("Cut lines frame");
    CHECK(w.find<QLineEdit>("Offset field")->isVisible());
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(made(w).sticker->has(LineKind::die));
}

TEST_CASE("another page of the file keeps width and recipe") {
    WindowDriver w;
    w.drop({tags});
    const Document& document = w.window().document();
    w.click("Artwork frame");
    w.type("Width field", "50");
    auto* page = w.find<QSpinBox>("Page field");
    CHECK(page->isVisible());
    CHECK(page->maximum() == 2);
    page->setFocus();
    page->selectAll();
    QTest::keyClicks(page, "2");
    QTest::keyClick(page, Qt::Key_Return);
    w.settle();
    CHECK(document.selectedDesign()->artwork.items[0].file()->page == 2);
    CHECK(document.selectedDesign()->artwork.items[0].place.width == Approx(50));
    CHECK(document.selectedDesign()->recipe.edge.way == EdgeWay::lines);
    CHECK(document.undoLabel() == "Page 2 of heather-tags");
    CHECK(made(w).sticker->lines.size() == 3);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(document.selectedDesign()->artwork.items[0].file()->page == 1);
    CHECK(page->value() == 1);
}

TEST_CASE("a page that can't be shown leaves the one that is") {
    const TemporaryFolder folder;
    QFile original(tags);
    REQUIRE(original.open(QIODevice::ReadOnly));
    QByteArray bytes = original.readAll();
    const qsizetype second = bytes.lastIndexOf("/Type /Page "); // of the last page: no page any more
    REQUIRE(second > 0);
    bytes.replace(second, 12, "/Type /Wrong");
    const qsizetype contents = bytes.indexOf("/Contents", second);
    bytes.replace(contents, 9, "/Nothing ");
    QFile changed(folder.path("half.pdf"));
    REQUIRE(changed.open(QIODevice::WriteOnly));
    changed.write(bytes);
    changed.close();
    WindowDriver w;
    w.drop({folder.path("half.pdf")});
    w.click("Artwork frame");
    auto* page = w.find<QSpinBox>("Page field");
    REQUIRE(page->maximum() == 2);
    page->setValue(2);
    w.settle();
    CHECK(w.window().document().selectedDesign()->artwork.items[0].file()->page == 1);
    CHECK(page->value() == 1);
    CHECK(w.find<QLabel>("Notice")->text().contains("half.pdf"));
}

TEST_CASE("a page's backdrop is left out and can be taken in") {
    const TemporaryFolder folder;
    WindowDriver w;
    w.drop({writeSvg(folder, "on-paper.svg",
                     "<rect width='60' height='40' fill='#eee'/><circle cx='30' cy='20' r='10'/>")});
    w.click("Edge frame");
    auto* check = w.find<QCheckBox>("Backdrop check");
    REQUIRE(check->isVisible());
    CHECK(made(w).sticker->edge.at(0).points() <= 6);
    w.click("Backdrop check");
    CHECK(bounds(flatten(made(w).sticker->edge, 0.01)).width() == Approx(60).margin(0.02));
    CHECK(w.window().document().undoLabel() == "Backdrop counts");
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK_FALSE(check->isChecked());

    w.drop({writeSvg(folder, "plain.svg", "<circle cx='30' cy='20' r='10'/>")});
    w.click("Edge frame");
    CHECK_FALSE(check->isVisible());
}

TEST_CASE("a damaged drawing is one sentence, and the job stays as it was") {
    const TemporaryFolder folder;
    WindowDriver w;
    w.drop({label});
    const QString broken = writeSvg(folder, "broken.svg", "<rect");
    w.drop({broken});
    CHECK(w.window().document().job().designs.size() == 1);
    CHECK(w.find<QLabel>("Notice")->text().contains("broken.svg is a damaged SVG drawing"));
}
