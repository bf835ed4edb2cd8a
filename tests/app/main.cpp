#define CATCH_CONFIG_RUNNER
#include "app/theme.h"

#include <QApplication>
#include <catch2/catch.hpp>

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    hasami::applyTheme(application);
    return Catch::Session().run(argc, argv);
}
