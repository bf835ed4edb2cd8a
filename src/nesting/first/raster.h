#pragma once

#include "nesting/shape/prepare.h"

#include <cstdint>
#include <vector>

namespace hasami::nesting {

/// A set of cells across the medium, one bit each.
using Bits = std::vector<std::uint64_t>;

/// A part's cells at one turn: runs across, column by column.
struct Stamp {
    struct Run {
        int column, from, count;
    };
    std::vector<Run> runs;
    std::vector<Run> rim; ///< cells around it, where they were asked for
    int rimCells = 0;
    int columns = 0, rows = 0;
    double turn = 0;
    bool isMirrored = false;
    Box box;
};

/// All cells that the shape touches.
Stamp stampOf(const Shape& shape, double turn, bool isMirrored, double cell);

/// Finds the cells that lie close around the stamp's.
void addRim(Stamp& stamp);

/// How far a stamp's rim reaches out: further than the cells next to it, since cells are taken that shapes
/// only touch.
inline constexpr int rimWidth = 2;

inline constexpr int wordBits = 64;

/// The bits of a word that lie in [from, to), counted from the word's first.
constexpr std::uint64_t bitsBetween(int from, int to) {
    const std::uint64_t all = ~std::uint64_t{0};
    if (to <= 0)
        return 0;
    const std::uint64_t begun = from <= 0 ? all : all << from;
    return to >= wordBits ? begun : begun & ~(all << to);
}

/// One sheet's cells that are taken.
class Field {
public:
    /// `longestRun`: of any stamp that is asked for, cells.
    Field(int rows, int columns, int longestRun);

    /// What was taken at once, in cells: `to` is past it.
    struct Patch {
        int fromColumn, toColumn, fromRow, toRow;
    };
    const std::vector<Patch>& patches() const { return patches_; }

    /// Adds the rows at which a run of the stamp would lie on what is taken, where the stamp begins in a
    /// column; of these rows' words only. False where there is nothing. The last of `taken` stays out of it.
    bool addTaken(const Stamp::Run& run, int column, std::size_t fromWord, std::size_t toWord,
                  Bits& taken) const;

    /// How much of the stamp's rim is taken or out of the sheet, 0 to 1; or 0 where that is less than
    /// `bound`.
    double contact(const Stamp& stamp, int column, int row, double bound) const;

    void take(const Stamp& stamp, int column, int row);
    void take(int column, int from, int count);

    int rows() const { return rows_; }
    std::size_t words() const { return words_; }
    int mostColumns() const { return mostColumns_; }
    int usedColumns() const { return int(columns_.size()); }

private:
    void fill(int column, int from, int count);

    int rows_;
    std::size_t words_;
    int mostColumns_;
    std::size_t longestReach_; // a power of two
    /// Which cells are taken, then from which rows on a cell of 2, of 4, of 8 … is; each ends with a word of
    /// zeros. Empty where none is taken.
    std::vector<Bits> columns_;
    std::vector<Patch> patches_;
};

} // namespace hasami::nesting
