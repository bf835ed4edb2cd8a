#include "app/kit/theme.h"
#include "support/run_tests.h"

#include <QApplication>

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    hasami::applyTheme(application);
    QApplication::setDoubleClickInterval(100); // ms; tests wait for it where a double click is not meant
    return runTests(argc, argv);
}
