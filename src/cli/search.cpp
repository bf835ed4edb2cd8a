#include "cli/search.h"

#include "base/number_text.h"
#include "base/translation.h"
#include "cli/interrupts.h"

#include <iostream>
#include <unistd.h>

namespace hasami {

namespace {

void tellProgress(const nesting::Nest& nest) {
    const std::string used = numberText(nest.usedLength, 2), full = numberText(nest.density * 100, 1);
    std::cerr << "\r"
              << (nest.sheets > 1 ? sentence("%1 sheets, the last used up to %2 mm, %3 % full",
                                             std::to_string(nest.sheets), used, full)
                                  : sentence("%1 mm, %2 % full", used, full))
              << "   " << std::flush;
}

} // namespace

nesting::Nest nestWatched(const nesting::Problem& problem, const nesting::Effort& effort) {
    const bool isWatched = isatty(STDERR_FILENO) != 0;
    const Interrupts interrupts;
    nesting::Nest result = nesting::nest(problem, effort, interrupts.token(),
                                         isWatched ? nesting::Progress(tellProgress) : nesting::Progress());
    if (isWatched)
        std::cerr << "\n";
    return result;
}

} // namespace hasami
