#pragma once

#include "cli/options.h"

#include <string>

namespace hasami {

/// `hasami-cli check`: all that is wrong with a job, one finding a line.
struct CheckCommand {
    std::string job;
    bool asJson = false;

    void addTo(CLI::App& program);
    int run() const;
};

} // namespace hasami
