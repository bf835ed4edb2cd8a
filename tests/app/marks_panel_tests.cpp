// The registration marks' settings on the Sheet.

#include "app/sheet/sheet_place.h"
#include "app/sheet/sheet_view.h"
#include "checks/findings.h"
#include "support/window_driver.h"

#include <QHelpEvent>
#include <QLabel>
#include <QToolTip>
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

TEST_CASE("where nothing can lie on the sheet, the pointer is told why") {
    WindowDriver w;
    w.drop({bee});
    w.click("Sheet place");
    auto& view = *w.find<SheetView>("Sheet view");
    const auto told = [&](double x, double y) {
        const QPoint at = view.toScreen({x, y}).toPoint();
        QHelpEvent hover(QEvent::ToolTip, at, view.mapToGlobal(at));
        QApplication::sendEvent(&view, &hover);
        return QToolTip::isVisible() ? QToolTip::text() : QString();
    };
    const Layout& layout = w.window().document().made()->layout;
    const Box work = layout.sheets.front().work;
    CHECK(told(work.least.x + 1, 2).contains("does not reach"));
    CHECK(told(layout.sheets.front().marks[0].centre.x, layout.sheets.front().marks[0].centre.y)
              .contains("quiet zone"));
    CHECK(told(work.centre().x, work.least.y - 3).contains("registration marks"));
    told(work.centre().x, work.centre().y);
    CHECK(QTest::qWaitFor([] { return !QToolTip::isVisible(); }, 5000)); // it fades
}

TEST_CASE("the marks' slider is one step to undo, and goes no lower than the quiet zones allow") {
    WindowDriver w;
    w.drop({bee});
    w.click("Sheet place");
    Document& document = w.window().document();
    const double start = document.job().profile.marks.distance;
    auto* slider = w.find<QSlider>("Mark distance slider");
    slider->setSliderDown(true);
    for (const int steps : {30, 40, 1})
        slider->setValue(steps);
    CHECK(document.job().profile.marks.distance == leastDistance(document.job().profile.marks));
    slider->setValue(36);
    slider->setSliderDown(false);
    w.settle();
    CHECK(document.job().profile.marks.distance == 18);
    document.undo();
    CHECK(document.job().profile.marks.distance == start);
}

TEST_CASE("on a dark medium a finding asks for white under the marks") {
    WindowDriver w;
    w.drop({bee});
    const auto codes = [&] {
        QStringList all;
        for (const Finding& finding : findingsOf(w.window().document().job(), *w.window().document().made()))
            all << QString::fromUtf8(codeName(finding.code).data());
        return all;
    };
    w.click("Sheet place");
    CHECK_FALSE(codes().contains("marks-low-contrast"));
    w.type("Medium colour field", "#202428");
    CHECK(codes().contains("marks-low-contrast"));
    w.click("White under the marks");
    CHECK_FALSE(codes().contains("marks-low-contrast"));
    w.type("Medium colour field", "#FFFFFF");
    CHECK_FALSE(w.window().document().job().plan.medium.colour);
}
