#pragma once

#include "job/job.h"

#include <CLI/CLI.hpp>

#include <string>

namespace hasami {

/// The options of the machine and its registration marks.
struct MarkArguments {
    std::string profile, marks, size, distance, interval, code, colour;
    int corners = 0;  ///< 0: the profile's
    int between = -1; ///< below 0: the profile's

    void addTo(CLI::App& command);
    /// Throws InputError or UsageError where the profile could not be used so.
    void applyTo(Job& job) const;
};

} // namespace hasami
