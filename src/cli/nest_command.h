#pragma once

#include "cli/options.h"

#include <cstdint>
#include <string>

namespace hasami {

/// `hasami-cli nest`: parts onto the least medium. An interrupt ends the search, and the best is written.
struct NestCommand {
    std::string input, output;
    double seconds = 10;
    std::uint64_t moves = 0, seed = 1;
    int threads = 0;

    void addTo(CLI::App& program);
    int run() const;
};

} // namespace hasami
