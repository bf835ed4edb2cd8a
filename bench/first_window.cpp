// Starts, draws its window, says so on its standard output, and ends: ours, or a bare one of Qt's to compare
// with.

#ifdef HASAMI_OURS
#include "app/kit/settings.h"
#include "app/kit/theme.h"
#include "app/window/main_window.h"
#else
#include <QLabel>
#include <QMainWindow>
#include <QMenuBar>
#endif

#include <QApplication>
#include <QTimer>

#include <cstdio>

int main(int argc, char** argv) {
    QApplication application(argc, argv);
#ifdef HASAMI_OURS
    hasami::applyTheme(application, hasami::Settings::appearance(hasami::Appearance::light));
    hasami::MainWindow window;
#else
    QMainWindow window;
    window.menuBar()->addMenu("File")->addAction("Quit");
    window.setCentralWidget(new QLabel("Hello"));
    window.resize(1280, 800);
#endif
    window.show();
    QTimer::singleShot(0, &window, [&] {
        window.grab();
        std::puts("drawn");
        std::fflush(stdout);
        QApplication::quit();
    });
    return QApplication::exec();
}
