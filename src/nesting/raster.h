#pragma once

#include "nesting/prepare.h"

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

/// One sheet's cells that are taken.
class Field {
public:
    Field(int rows, int columns) : rows_(rows), words_(std::size_t(rows + 63) / 64), mostColumns_(columns) {}

    /// The least row at which the stamp fits in a column, or -1.
    int rowFor(const Stamp& stamp, int column);

    /// All rows at which the stamp fits in a column and not in the next row up or down.
    void edgeRows(const Stamp& stamp, int column, std::vector<int>& rows);

    /// How much of the stamp's rim is taken or out of the sheet, 0 to 1; or 0 where that is less than
    /// `bound`.
    double contact(const Stamp& stamp, int column, int row, double bound) const;

    void take(const Stamp& stamp, int column, int row);
    void take(int column, int from, int count);

    int mostColumns() const { return mostColumns_; }
    int usedColumns() const { return int(columns_.size()); }

private:
    /// Which cells are taken, then from which rows on a cell of 2, of 4, of 8 … is: made as it is asked for.
    /// A word of zeros ends each. None is taken where there is nothing.
    using Column = std::vector<Bits>;

    bool findFree(const Stamp& stamp, int column);
    bool isFull(int places) const;
    void add(Column& column, const Stamp::Run& run);

    int rows_;
    std::size_t words_;
    int mostColumns_;
    std::vector<Column> columns_;
    Bits taken_;
};

} // namespace hasami::nesting
