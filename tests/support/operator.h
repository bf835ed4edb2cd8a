#pragma once

#include "app/run/run_place.h"
#include "support/temporary_folder.h"
#include "support/window_driver.h"

namespace hasami::test {

/// Runs sheets in the fourth place of the window.
class Operator : public WindowDriver {
public:
    using WindowDriver::WindowDriver;

    RunControl& run() { return window().runPlace().run(); }
    QString instruction() { return find<QLabel>("Run instruction")->text(); }
    QString trouble() { return find<QLabel>("Run trouble")->text(); }
    QString facts() { return find<QLabel>("Run facts")->text(); }

    /// Two squares of 20 mm, each with a kiss line and a perforated one around it, on sheets.
    void layOut(const TemporaryFolder& folder, const std::function<void(Job&)>& change = {}) {
        QFile file(folder.path("square.svg"));
        REQUIRE(file.open(QIODevice::WriteOnly));
        file.write("<svg xmlns='http://www.w3.org/2000/svg' width='20mm' height='20mm' viewBox='0 0 20 20'>"
                   "<path d='M0 0H20V20H0Z' fill='#c86'/></svg>");
        file.close();
        drop({folder.path("square.svg")});
        window().document().change("Test", [&](Job& job) {
            Design& design = job.designs.front();
            design.count = 2;
            design.recipe.edge.takesBackdrop = true;
            LineRecipe die;
            die.kind = LineKind::perforated;
            die.course = LineCourse::shape;
            die.shape = {PlainShapeKind::rounded, 4, 2};
            design.recipe.lines.push_back(die);
            job.plan.medium.width = 100;
            job.plan.medium.length = 130;
            job.profile.marks.corners = 4;
            if (change)
                change(job);
        });
        settle();
        window().goTo(MainWindow::run);
        settle();
        REQUIRE(run().sheet());
        run().setSpeed(400);
    }
    void next() {
        click("Next run");
        idle();
    }
    void idle() {
        REQUIRE(QTest::qWaitFor([&] { return !run().isBusy() && !isMoving(); }, 30'000));
        settle();
    }
    bool isMoving() { return run().model().isCutting() && run().model().activity() != RunActivity::paused; }
    /// From the printer to where the marks are read.
    void toMarks() {
        next();
        next();
        next();
    }
    /// On to the end, through all tools.
    void toWeed() {
        for (int i = 0; i < 6 && !run().model().isDone(); ++i)
            next();
        REQUIRE(run().model().isDone());
    }
    void queueChangesElsewhere() {
        window().queue().addSheets();
        settle();
    }
    double cutLength() {
        double sum = 0;
        for (const auto& [key, along] : run().model().record())
            sum += along;
        return sum;
    }
};

} // namespace hasami::test
