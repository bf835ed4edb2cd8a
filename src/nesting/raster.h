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
    int columns = 0, rows = 0;
    double turn = 0;
    bool isMirrored = false;
    Box box;
};

/// All cells that the shape touches.
Stamp stampOf(const Shape& shape, double turn, bool isMirrored, double cell);

/// One sheet's cells that are taken.
class Field {
public:
    Field(int rows, int columns) : rows_(rows), words_(std::size_t(rows + 63) / 64), mostColumns_(columns) {}

    /// The least row at which the stamp fits in a column, or -1.
    int rowFor(const Stamp& stamp, int column);

    void take(const Stamp& stamp, int column, int row);
    void take(int column, int from, int count);

    int mostColumns() const { return mostColumns_; }
    int usedColumns() const { return int(columns_.size()); }

private:
    bool isFull(int places) const;
    void add(const Bits& bits, const Stamp::Run& run);
    void spreadDown(int by);

    int rows_;
    std::size_t words_;
    int mostColumns_;
    std::vector<Bits> columns_; // none is taken in an empty one
    Bits taken_, spread_;
};

} // namespace hasami::nesting
