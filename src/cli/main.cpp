#include "base/error.h"
#include "base/translation.h"
#include "cli/check_command.h"
#include "cli/commands.h"
#include "cli/nest_command.h"
#include "cli/rehearse_command.h"

#include <QGuiApplication>

#include <iostream>

namespace {

enum ExitStatus { wrongArguments = 2, unusableInput = 3, unwritableOutput = 4 };

int runProgram(int argc, char** argv) {
    CLI::App program(hasami::translated(
        "Hasami's work without a window: artwork to cut lines, jobs to print and cut files."));
    program.name("hasami-cli");
    program.set_version_flag("--version", "hasami-cli " HASAMI_VERSION);
    program.set_help_all_flag("--help-all", hasami::translated("Help on every command"));
    program.require_subcommand(1);
    hasami::OutlineCommand outline;
    hasami::NewCommand newJob;
    hasami::MakeCommand make;
    outline.addTo(program);
    newJob.addTo(program);
    make.addTo(program);
    hasami::SendCommand send;
    send.addTo(program);
    hasami::InfoCommand info;
    info.addTo(program);
    hasami::CheckCommand check;
    check.addTo(program);
    hasami::NestCommand nest;
    nest.addTo(program);
    hasami::RehearseCommand rehearse;
    rehearse.addTo(program);
    try {
        program.parse(argc, argv);
    } catch (const CLI::ParseError& error) {
        return program.exit(error) == 0 ? 0 : wrongArguments;
    }
    if (program.got_subcommand("outline"))
        return outline.run();
    if (program.got_subcommand("new"))
        return newJob.run();
    if (program.got_subcommand("nest"))
        return nest.run();
    if (program.got_subcommand("check"))
        return check.run();
    if (program.got_subcommand("rehearse"))
        return rehearse.run();
    if (program.got_subcommand("info"))
        return info.run();
    if (program.got_subcommand("send"))
        return send.run();
    return make.run();
}

} // namespace

int main(int argc, char** argv) { // NOLINT(bugprone-exception-escape): all exceptions are of std::exception
    // Fonts and pictures need Qt Gui, but never a display.
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    // What goes wrong is reported by exceptions; Qt's and libpng's remarks would only blur it.
    qInstallMessageHandler([](QtMsgType type, const QMessageLogContext&, const QString& text) {
        if (type == QtFatalMsg)
            std::cerr << text.toStdString() << "\n";
    });
    const QGuiApplication application(argc, argv);
    hasami::chooseLanguage(hasami::catalogueFolder(QGuiApplication::applicationFilePath().toStdString()));
    const auto complain = [](const std::exception& error, int status) {
        std::cerr << "hasami-cli: " << error.what() << "\n";
        return status;
    };
    try {
        return runProgram(argc, argv);
    } catch (const hasami::UsageError& error) {
        return complain(error, wrongArguments);
    } catch (const hasami::InputError& error) {
        return complain(error, unusableInput);
    } catch (const hasami::OutputError& error) {
        return complain(error, unwritableOutput);
    } catch (const std::bad_alloc&) {
        std::cerr << "hasami-cli: " << hasami::translated("not enough memory for this job") << "\n";
        return unusableInput;
    } catch (const std::exception& error) {
        return complain(error, unusableInput);
    }
}
