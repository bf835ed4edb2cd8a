#pragma once

#include "cli/options.h"

#include <string>

namespace hasami {

/// `hasami-cli rehearse`: prints and cuts a sheet on simulated machines, and measures what comes out.
struct RehearseCommand {
    std::string job, folder, shift = "0,0", stretch = "0,0", turn = "0", noise = "2", scaled = "100";
    int sheet = 1, marksLost = 0;
    unsigned seed = 1;
    bool withoutBleed = false, isUpsideDown = false, isExact = false;

    void addTo(CLI::App& program);
    int run() const;
};

} // namespace hasami
