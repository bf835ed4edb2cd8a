#pragma once

#include "machine/program.h"

#include <compare>
#include <cstddef>
#include <map>
#include <optional>
#include <set>
#include <string>
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

/// The cuts of a program, in its order, each with its identity. O(cuts log cuts).
struct KeyedCut {
    CutKey key;
    const Cut* cut = nullptr; ///< of the program
};
std::vector<KeyedCut> keyedCuts(const CutProgram& program);

/// Identifies the lines that a program cuts (which there are, and how long each is to 0.1 mm), in whatever
/// order: 16 hexadecimal digits. A record belongs to a program of the same fingerprint alone.
std::string fingerprintOf(const CutProgram& program);

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

/// The cuts of some pieces alone; those of lines that pieces share only where all pieces are among them.
CutProgram onlyPieces(const CutProgram& program, const std::set<std::size_t>& pieces, std::size_t allPieces);

/// The cuts of one kind of line alone.
CutProgram onlyKind(const CutProgram& program, LineKind kind);

/// The head of a cutter that runs a program: where it is after a time, and what was cut by then. It stops
/// where another holder's tool is needed, until that is said to be in.
class CutHead {
public:
    enum class State { moving, waitsForTool, done };

    /// The tool of `holder` is in.
    CutHead(const CutProgram& program, const Cutter& cutter, CutRecord done, std::optional<int> holder);

    State state() const;
    /// Moves on for a time, seconds of the machine.
    void advance(double seconds);
    /// Lets it go on with another tool. REQUIRES: it waits for one.
    void changeTool();
    /// The kind of line that is cut next, or now.
    LineKind kind() const { return kind_; }

    Point place() const; ///< mm of the sheet
    bool isDown() const; ///< whether it cuts
    const CutRecord& record() const { return record_; }
    double secondsLeft() const;
    double share() const; ///< of the time, 0 to 1

private:
    void skipSelected();

    Cutter cutter_;
    std::vector<KeyedStep> steps_;
    std::vector<double> seconds_; ///< of each step
    CutRecord record_;
    std::optional<int> holder_;
    LineKind kind_ = LineKind::kiss;
    std::size_t step_ = 0;
    double inStep_ = 0; ///< seconds
    double all_ = 0;    ///< seconds
};

} // namespace hasami
