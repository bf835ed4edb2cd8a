#include "support/run_tests.h"

#include <QGuiApplication>

int main(int argc, char** argv) {
    const QGuiApplication application(argc, argv);
    return runTests(argc, argv);
}
