#include "app/main_window.h"
#include "app/theme.h"

#include <QApplication>
#include <QCommandLineParser>

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    QApplication::setApplicationName("Hasami");
    QApplication::setApplicationVersion(HASAMI_VERSION);
    QApplication::setDesktopFileName("hasami");
    QCommandLineParser arguments;
    arguments.setApplicationDescription("Artwork to contour cuts and print-and-cut sheets.");
    arguments.addHelpOption();
    arguments.addVersionOption();
    arguments.addPositionalArgument("files", "A job to open, or artworks to start with.", "[files…]");
    const QCommandLineOption demo("demo", "Open the demo job.");
    arguments.addOption(demo);
    arguments.process(application);

    hasami::applyTheme(application);
    hasami::MainWindow window;
    window.show();
    if (arguments.isSet(demo))
        window.openDemo();
    window.openPaths(arguments.positionalArguments());
    return QApplication::exec();
}
