#pragma once

#include "machine/cut_run.h"

#include <cstddef>

namespace hasami {

/// A cutter that keeps some lines that it was sent in a memory of its own: what it has received, as those who
/// send know it, and what its knife has really cut.
class CutMemory {
public:
    static constexpr std::size_t lines = 8; ///< that it is ahead of its knife

    /// It is sent what is left of a program.
    void begin(const CutProgram& program, const CutRecord& done);
    /// The knife has cut. Gives the whole lines that were received since the last time.
    CutLengths cut(const CutLengths& news);

    const CutRecord& knife() const { return knife_; } ///< what it has cut
    /// Lines of a record that the knife has not cut to their end.
    std::size_t missingIn(const CutRecord& record) const;
    std::size_t twice() const { return twice_; } ///< lines that were cut once more after their end

private:
    CutLengths order_; ///< the lines of what is sent, in order
    std::size_t told_ = 0, finished_ = 0;
    CutRecord knife_, lengths_;
    std::size_t twice_ = 0;
};

} // namespace hasami
