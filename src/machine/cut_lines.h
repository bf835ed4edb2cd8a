#pragma once

#include "machine/cut_run.h"

#include <cstddef>
#include <optional>
#include <set>
#include <span>
#include <string>
#include <vector>

namespace hasami {

/// The lines that a program cuts, with what a run needs to know of each. It is made once, where that may take
/// its time, and then shared. O(points + lines log lines).
class CutLines {
public:
    struct Line {
        CutKey key;
        const Cut* cut = nullptr; ///< of the program
        double length = 0;        ///< of its path, mm: what its record has once it is whole
    };

    explicit CutLines(CutProgram program);
    CutLines(const CutLines&) = delete;
    CutLines& operator=(const CutLines&) = delete;

    const CutProgram& program() const { return program_; }
    const std::vector<Line>& all() const { return lines_; } ///< in the order in which they are cut
    const Line& operator[](std::size_t number) const { return lines_[number]; }
    std::optional<std::size_t> find(const CutKey& key) const; ///< its number. O(log lines)

    /// Identifies the lines (which there are, and how long each is to 0.1 mm), in whatever order: 16
    /// hexadecimal digits. A record belongs to lines of the same fingerprint alone.
    const std::string& fingerprint() const { return fingerprint_; }

    /// The numbers of the lines of some kinds, and of some pieces (none: all): those that pieces share only
    /// where all of these are among them.
    std::vector<std::size_t> some(std::span<const LineKind> kinds, const std::set<std::size_t>& pieces,
                                  std::size_t allPieces) const;
    /// A program that cuts these lines; without the ways between them, which `remaining` adds.
    CutProgram programOf(std::span<const std::size_t> numbers) const;

private:
    CutProgram program_;
    std::vector<Line> lines_;
    std::vector<std::size_t> byKey_; ///< their numbers, in the order of the keys
    std::string fingerprint_;
};

} // namespace hasami
