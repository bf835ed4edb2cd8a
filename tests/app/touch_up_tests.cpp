#include "app/stickers/bench.h"
#include "app/stickers/making_strip.h"
#include "support/window_driver.h"

using namespace hasami;
using namespace hasami::test;

namespace {

const QString bee = QString(HASAMI_SOURCE_DIR) + "/data/demo/bee.png";

/// The bee's edge under the hand.
class Touch : public WindowDriver {
public:
    Touch() {
        drop({bee});
        click("Edge frame");
        click("Touch up");
        bench_ = find<Bench>("Bench");
    }

    const Curve& line() { return window().document().made()->designs.at(0).sticker->edge.at(0); }
    double area() { return signedArea(flatten(line(), 0.005)); }
    const EdgeOptions& options() { return window().document().job().designs[0].recipe.edge; }

    QPoint onScreen(Point p) { return bench_->toScreen({p.x, p.y}).toPoint(); }

    /// The node that lies farthest up, with nothing else near.
    std::size_t topNode() {
        std::size_t best = 0;
        for (std::size_t i = 1; i < line().segments.size(); ++i)
            if (line().segments[i].end.y < line().segments[best].end.y)
                best = i;
        return best;
    }

    void drag(const std::vector<QPoint>& way) {
        QTest::mousePress(bench_, Qt::LeftButton, {}, way.front());
        for (const QPoint p : way)
            QTest::mouseMove(bench_, p);
        QTest::mouseRelease(bench_, Qt::LeftButton, {}, way.back());
        settle();
    }

    QString held() { return find<QLabel>("Points held")->text(); }
    Bench* bench() { return bench_; }

private:
    Bench* bench_ = nullptr;
};

} // namespace

TEST_CASE("a point of the edge is dragged, stays when the size changes, and is undone") {
    Touch w;
    const double before = w.area();
    const std::size_t top = w.topNode();
    const Point node = w.line().segments[top].end;
    const QPoint from = w.onScreen(node);
    w.drag({from, from - QPoint(0, 10), from - QPoint(0, 34)});
    CHECK(w.held() == "1 point held");
    REQUIRE(w.options().touchUps.size() == 1);
    CHECK(w.window().document().undoLabel() == "Move 1 point");
    const hasami::Box touched = bounds(flatten(w.line(), 0.005));
    const double moved = 34 / w.bench()->pixelsPerMillimetre();
    CHECK(touched.least.y == Approx(node.y - moved).margin(0.6));
    CHECK(w.area() > before);

    // Twice the size: the touch-up is twice as large as well.
    const double width = w.window().document().made()->designs[0].sticker->artwork.width();
    const double share = touched.height() / width;
    w.click("Artwork frame");
    w.type("Width field", QString::number(2 * width));
    w.settle();
    CHECK(bounds(flatten(w.line(), 0.005)).height() / (2 * width) == Approx(share).epsilon(0.01));
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    CHECK(w.options().touchUps.empty());
    CHECK(w.area() == Approx(before));
}

TEST_CASE("a held point answers keys and the panel's buttons") {
    Touch w;
    const double before = w.area();
    const std::size_t top = w.topNode();
    const Point node = w.line().segments[top].end;
    CHECK_FALSE(w.find<QPushButton>("Corner")->isEnabled());
    QTest::mouseClick(w.bench(), Qt::LeftButton, {}, w.onScreen(node));
    CHECK(w.held() == "1 point held");
    CHECK(w.options().touchUps.empty()); // a click alone changes nothing
    CHECK_FALSE(w.find<QPushButton>("Put back here")->isEnabled());
    QTest::keyClick(w.bench(), Qt::Key_Up, Qt::ShiftModifier); // 1 mm
    w.settle();
    CHECK(w.held() == "1 point held");
    CHECK(bounds(flatten(w.line(), 0.005)).least.y == Approx(node.y - 1).margin(0.15));
    w.click("Smooth");
    w.settle();
    REQUIRE(w.options().touchUps.size() == 1);
    CHECK(w.find<QPushButton>("Put back here")->isEnabled());
    w.click("Put back here");
    w.settle();
    CHECK(w.options().touchUps.empty());
    CHECK(w.area() == Approx(before).epsilon(1e-6));

    const std::size_t points = w.line().points();
    QTest::keyClick(w.bench(), Qt::Key_PageDown); // walks to a point
    CHECK(w.held() == "1 point held");
    QTest::keyClick(w.bench(), Qt::Key_Delete);
    w.settle();
    CHECK(w.line().points() == points - 1);
    CHECK(w.held() == "No point is held");
    w.click("Put all back");
    w.settle();
    CHECK(w.line().points() == points);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    CHECK(w.line().points() == points - 1);
}

TEST_CASE("a double click adds a point, and two points held can be straightened between") {
    Touch w;
    const double before = w.area();
    const std::size_t points = w.line().points(), top = w.topNode();
    const Curve line = w.line();
    const Point middle = pointAt(line, {top, 0.5});
    const QPoint at = w.onScreen(middle);
    QTest::mouseClick(w.bench(), Qt::LeftButton, {}, at);
    QTest::mouseDClick(w.bench(), Qt::LeftButton, {}, at);
    w.settle();
    CHECK(w.line().points() == points + 1);
    CHECK(w.area() == Approx(before).epsilon(1e-4));
    CHECK(w.window().document().undoLabel() == "Add a point");

    const std::size_t n = w.line().points(), node = w.topNode();
    const Point a = w.line().segments[node].end, b = w.line().segments[(node + 3) % n].end;
    QTest::mouseClick(w.bench(), Qt::LeftButton, {}, w.onScreen(a));
    QTest::mouseClick(w.bench(), Qt::LeftButton, Qt::ShiftModifier, w.onScreen(b));
    CHECK(w.held() == "2 points held");
    w.click("Straighten");
    w.settle();
    const auto& segments = w.line().segments;
    CHECK(std::any_of(segments.begin(), segments.end(), [&](const CurveSegment& s) {
        return s.straight && (distance(s.end, b) < 0.01 || distance(s.end, a) < 0.01);
    }));
}

TEST_CASE("a stretch is drawn anew from the line to the line, and not elsewhere") {
    Touch w;
    const double before = w.area();
    const Curve line = w.line();
    const std::size_t top = w.topNode(), n = line.points();
    const QPoint from = w.onScreen(pointAt(line, {(top + n - 1) % n, 0.5}));
    const QPoint to = w.onScreen(pointAt(line, {(top + 2) % n, 0.5}));
    w.drag({from, from - QPoint(0, 30), from - QPoint(0, 60)}); // ends nowhere
    CHECK(w.options().touchUps.empty());
    std::vector<QPoint> way;
    for (int i = 0; i <= 20; ++i) {
        const QPointF p = QPointF(from) + QPointF(to - from) * i / 20;
        way.push_back((p - QPointF(0, 25 * std::sin(3.14159 * i / 20))).toPoint());
    }
    w.drag(way);
    REQUIRE(w.options().touchUps.size() == 1);
    CHECK(w.window().document().undoLabel() == "Redraw a stretch");
    CHECK(w.area() != Approx(before).epsilon(1e-3));
}

TEST_CASE("where the line beneath has changed too much, the Edge frame says so") {
    Touch w;
    const QPoint from = w.onScreen(w.line().segments[w.topNode()].end);
    w.drag({from, from - QPoint(0, 40)});
    REQUIRE(w.options().touchUps.size() == 1);
    w.window().document().replaceArtwork(w.window().document().selected(), 0,
                                         QString(HASAMI_SOURCE_DIR) + "/data/demo/comb-ring.png");
    w.settle();
    const StepReport report = w.find<StripFrame>("Edge frame")->report();
    CHECK(report.state == StepState::finding);
    CHECK(report.finding.contains("touched up by hand is left out"));
    w.click("Put all back");
    w.settle();
    CHECK(w.find<StripFrame>("Edge frame")->report().state == StepState::fine);
}
