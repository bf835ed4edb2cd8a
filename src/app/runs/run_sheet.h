#pragma once

#include "workshop/make_all.h"

#include <memory>

namespace hasami {

/// A sheet that is run, of the job as it was when the run began or the sheet was added to the queue.
struct RunSheet {
    std::shared_ptr<const Job> job;
    std::shared_ptr<const Made> made; ///< from that job
    std::size_t number = 0;           ///< from 0 on

    /// nullptr where there is none, or nothing lies on it.
    const Sheet* sheet() const {
        return made && number < made->layout.sheets.size() && !made->layout.sheets[number].pieces.empty()
                   ? &made->layout.sheets[number]
                   : nullptr;
    }

    friend bool operator==(const RunSheet&, const RunSheet&) = default; ///< the same job, not one like it
};

} // namespace hasami
