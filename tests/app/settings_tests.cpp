#include "app/kit/settings.h"
#include "files/job_file.h"
#include "support/temporary_folder.h"
#include "support/window_driver.h"

#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

/// Contrast of two colours after WCAG 2.1.
double contrast(const QColor& a, const QColor& b) {
    const auto luminance = [](const QColor& c) {
        const auto linear = [](double v) {
            return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
        };
        return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
    };
    const double l1 = luminance(a), l2 = luminance(b);
    return (std::max(l1, l2) + 0.05) / (std::min(l1, l2) + 0.05);
}

} // namespace

TEST_CASE("text has a contrast of 4.5 to 1 or better, by day and by night") {
    for (const int lightness : {255, 0}) {
        const Colours& c = coloursOf(QPalette(QColor(lightness, lightness, lightness)));
        for (const QColor& text : {c.ink, c.quiet, c.indigo, c.warning})
            for (const QColor& ground : {c.ground, c.panel}) {
                INFO(text.name().toStdString() << " on " << ground.name().toStdString());
                CHECK(contrast(text, ground) >= 4.5);
            }
        CHECK(contrast(c.onIndigo, c.indigo) >= 4.5);
        CHECK(contrast(c.ink, c.field) >= 4.5);
        CHECK(contrast(c.ink, c.tint) >= 4.5);
        CHECK(contrast(c.quiet, c.tint) >= 4.5);
    }
}

TEST_CASE("jobs opened and saved are remembered, the newest first, as long as they are there") {
    WindowDriver w;
    const TemporaryFolder folder;
    for (const char* name : {"a.hasami", "b.hasami", "c.hasami"}) {
        saveJob(folder / name, Job{}, "");
        w.drop({folder.path(name)});
    }
    w.drop({folder.path("a.hasami")});
    CHECK(Settings::recentJobs() ==
          QStringList{folder.path("a.hasami"), folder.path("c.hasami"), folder.path("b.hasami")});
    std::filesystem::remove(folder / "c.hasami");
    CHECK(Settings::recentJobs() == QStringList{folder.path("a.hasami"), folder.path("b.hasami")});
}

TEST_CASE("dark and light are chosen in the menu, act at once and are remembered") {
    WindowDriver w;
    const auto choose = [&](const QString& text) {
        for (QAction* action : w.window().findChildren<QAction*>())
            if (action->text() == text)
                action->trigger();
        w.settle();
    };
    choose("&Dark");
    CHECK(w.window().palette().color(QPalette::Window).lightness() < 60);
    CHECK(w.window().grab().toImage().pixelColor(5, 300).lightness() < 60);
    CHECK(Settings::appearance(Appearance::light) == Appearance::dark);
    choose("&Light");
    CHECK(w.window().grab().toImage().pixelColor(5, 300).lightness() > 200);
    CHECK(Settings::appearance(Appearance::dark) == Appearance::light);
}
