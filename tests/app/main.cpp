#include "app/theme.h"
#include "support/run_tests.h"

#include <QApplication>

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    hasami::applyTheme(application);
    return runTests(argc, argv);
}
