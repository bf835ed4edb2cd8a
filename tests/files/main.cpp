#define CATCH_CONFIG_RUNNER
#include <QGuiApplication>
#include <catch2/catch.hpp>

int main(int argc, char** argv) {
    const QGuiApplication application(argc, argv);
    return Catch::Session().run(argc, argv);
}
