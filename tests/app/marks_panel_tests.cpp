// The registration marks' settings on the Sheet.

#include "app/sheet/sheet_place.h"
#include "support/window_driver.h"

#include <QLabel>
#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString bee = HASAMI_SOURCE_DIR "/data/demo/bee.png";

class OnSheet : public WindowDriver {
public:
    OnSheet() {
        drop({bee});
        window().goTo(MainWindow::sheet);
        settle();
    }
    Document& document() { return window().document(); }
    const MarkScheme& marks() { return document().job().profile.marks; }
    const Sheet& sheet() { return document().made()->layout.sheets.at(0); }
};

} // namespace

TEST_CASE("marks are chosen by shape, size and corners, each one step to undo, and the sheet follows") {
    OnSheet w;
    REQUIRE(w.sheet().marks.size() == 4);
    w.choose("Mark shape", "Corner brackets");
    CHECK(w.document().undoLabel() == "Mark shape: Corner brackets");
    CHECK(w.marks().shape == MarkShape::bracket);
    CHECK(w.find<QLineEdit>("Line width field")->isVisible());
    w.type("Mark size field", "12mm");
    w.type("Line width field", "0.5mm");
    CHECK(w.marks().size == 12);
    Box ink;
    for (const Curve& curve : w.sheet().marks.at(0).ink)
        ink.add(bounds(flatten(curve, 0.001)));
    CHECK(ink.width() == Approx(12));
    CHECK(ink.height() == Approx(12));
    w.choose("Corners with marks", "At three corners");
    CHECK(w.sheet().marks.size() == 3);
    w.choose("Corners with marks", "No marks");
    CHECK(w.sheet().marks.empty());
    CHECK_FALSE(w.find<QLineEdit>("Mark size field")->isVisible());
    for (int i = 0; i < 5; ++i)
        w.document().undo();
    w.settle();
    CHECK(w.sheet().marks.size() == 4);
    CHECK(w.marks() == startProfile().marks);
}

TEST_CASE("a distance whose quiet zone would reach into the work is refused with a sentence") {
    OnSheet w;
    const MarkScheme before = w.marks();
    w.type("Mark distance field", "1mm");
    CHECK(w.marks() == before);
    CHECK(w.find<QLabel>("Notice")->text().contains("marks.distance must be at least"));
    CHECK(w.find<QLineEdit>("Mark distance field")
              ->text()
              .startsWith(QString::number(before.distance))); // what counts is shown again
}

TEST_CASE("marks as close as possible leave more room, as much as was announced") {
    OnSheet w;
    w.choose("Medium kind", "Sheet A4");
    w.type("Mark distance field", "20mm");
    const auto usable = [&] {
        const Box area = workArea(w.document().job().plan, w.document().job().profile);
        return area.width() * area.height();
    };
    const double before = usable();
    const QString text = w.find<QLabel>("Marks text")->text();
    w.click("Marks as close as possible");
    CHECK(w.marks().distance == Approx(leastDistance(w.marks())).margin(0.01));
    const QString gain = QString::number((usable() / before - 1) * 100, 'f', 1) + " %";
    INFO(text.toStdString());
    CHECK(text.contains(gain));
    CHECK_FALSE(w.find<QPushButton>("Marks as close as possible")->isVisible());
}
