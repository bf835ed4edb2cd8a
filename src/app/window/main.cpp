#include "app/kit/settings.h"
#include "app/kit/theme.h"
#include "app/window/end_signals.h"
#include "app/window/main_window.h"
#include "app/words/words.h"

#include <QApplication>
#include <QCommandLineParser>
#include <QPalette>

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    QApplication::setApplicationName("Hasami");
    QApplication::setApplicationVersion(HASAMI_VERSION);
    QApplication::setDesktopFileName("hasami");
    QCommandLineParser arguments;
    hasami::useSystemLanguage();
    arguments.setApplicationDescription(hasami::tr("Artwork to contour cuts and print-and-cut sheets."));
    arguments.addHelpOption();
    arguments.addVersionOption();
    arguments.addPositionalArgument("files", hasami::tr("A job to open, or artworks to start with."),
                                    hasami::tr("[files…]"));
    const QCommandLineOption demo("demo", hasami::tr("Open the demo job."));
    arguments.addOption(demo);
    arguments.process(application);

    const bool systemIsDark = QApplication::palette().color(QPalette::Window).lightness() < 128;
    using hasami::Appearance;
    hasami::applyTheme(application,
                       hasami::Settings::appearance(systemIsDark ? Appearance::dark : Appearance::light));
    hasami::MainWindow window;
    window.show();
    const hasami::EndSignals signals;
    QObject::connect(&signals, &hasami::EndSignals::received, &window, &hasami::MainWindow::endNow);
    QObject::connect(&window, &hasami::MainWindow::ended, &application, &QApplication::quit,
                     Qt::QueuedConnection);
    if (arguments.isSet(demo))
        window.openDemo();
    window.openPaths(arguments.positionalArguments());
    return QApplication::exec();
}
