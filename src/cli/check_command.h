#pragma once

#include "cli/options.h"

#include <string>

namespace hasami {

/// `hasami-cli check`: lists the findings of a job, one a line.
struct CheckCommand {
    std::string job;
    bool asJson = false;

    void addTo(CLI::App& program);
    int run() const;
};

} // namespace hasami
