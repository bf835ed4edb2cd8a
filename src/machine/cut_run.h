#pragma once

#include "machine/program.h"

#include <algorithm>
#include <compare>
#include <cstddef>
#include <map>
#include <optional>
#include <utility>
#include <vector>

namespace hasami {

/// Identifies one cut of a sheet, in whichever order it is cut.
struct CutKey {
    LineKind kind = LineKind::kiss;
    std::size_t piece = 0, line = 0;
    int pass = 0;
    std::size_t run = 0; ///< of the line's: the first, second… stretch between its tabs

    friend auto operator<=>(const CutKey&, const CutKey&) = default; // NOLINT(modernize-use-nullptr)
};

/// What of a sheet was cut: of each cut how far along its path, mm. A plain value, kept on disk while a sheet
/// is cut, so that it goes on where it stopped.
using CutRecord = std::map<CutKey, double>;

/// Cuts with how far along each, mm: a part of a record.
using CutLengths = std::vector<std::pair<CutKey, double>>;

/// The cuts of a program, in its order, each with its identity. O(cuts log cuts).
struct KeyedCut {
    CutKey key;
    const Cut* cut = nullptr; ///< of the program
};
std::vector<KeyedCut> keyedCuts(const CutProgram& program);

/// How long the path of a cut is, mm: what its record holds once it is whole.
double pathLength(const Cut& cut);

/// One step of a program, with the identity of what it cuts.
struct KeyedStep {
    CutStep step;
    std::optional<CutKey> key; ///< of a cut
    double before = 0;         ///< of its path, mm, that was cut earlier
};

/// What of a program is still to be cut, with the ways between. Cuts that were stopped half-way begin where
/// they stopped. O(points).
std::vector<KeyedStep> remaining(const CutProgram& program, const CutRecord& done);

/// The head of a cutter that runs a program with the tools that are in: where it is after a time, and what
/// was cut by then.
class CutHead {
public:
    /// `done`: what of the program was cut before.
    CutHead(const CutProgram& program, const Cutter& cutter, const CutRecord& done);

    bool isDone() const { return step_ >= steps_.size(); }
    /// Moves on for a time, seconds of the machine.
    void advance(double seconds);
    /// The kind of line that is cut next, or now.
    LineKind kind() const { return kind_; }

    Point place() const; ///< mm of the sheet
    bool isDown() const; ///< whether it cuts
    /// What was cut since this was called last.
    CutLengths takeNews() { return std::exchange(news_, {}); }
    double secondsLeft() const { return isDone() ? 0 : std::max(0.0, all_ - gone_ - inStep_); }
    double share() const { return all_ > 0 ? 1 - secondsLeft() / all_ : 1; } ///< of the time, 0 to 1

private:
    void skipSelected();

    std::vector<KeyedStep> steps_;
    std::vector<double> seconds_; ///< of each step
    CutLengths news_;
    LineKind kind_ = LineKind::kiss;
    std::size_t step_ = 0;
    double inStep_ = 0, gone_ = 0, all_ = 0; ///< s: in the present step, in those before, in all
};

} // namespace hasami
