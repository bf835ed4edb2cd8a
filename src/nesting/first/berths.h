#pragma once

#include "nesting/first/raster.h"

#include <deque>
#include <optional>
#include <vector>

namespace hasami::nesting {

/// Where a stamp fits on a field, column by column, from the first one that it fits in at all. Kept up as the
/// field fills: only places near to what came are looked at again. The field may only ever fill.
class Berths {
public:
    struct Berth {
        int column, row;
        double contact = 0;
    };

    Berths(const Field& field, const Stamp& stamp) : field_(&field), stamp_(&stamp) {}

    /// In the first column, up to `last`, that it fits in, the least row.
    std::optional<Berth> foremost(int last);

    /// The one with the most contact in a column, of those where the next row up or down has no room; only
    /// where that is more than `least`. Not for columns before the foremost one's.
    std::optional<Berth> snuggest(int column, double least);

private:
    /// A row that it fits at, and not in the next one up or down.
    struct Edge {
        int row;
        double contact = 1; ///< or an upper bound of it
        bool isKnown = false;
    };
    struct Column {
        Bits taken; ///< at which rows it does not fit
        std::vector<Edge> edges;
        std::size_t seen = 0; ///< of the field's patches
        bool isFull = false, hasEdges = false;
    };

    int places() const { return field_->rows() - stamp_->rows + 1; }
    bool isFull(const Bits& taken) const;
    Column& upToDate(int column);
    void lookAtAll(Column& column, int at) const;
    void lookAt(const Field::Patch& patch, Column& column, int at) const;
    void addEdges(const Column& column, int from, int to, std::vector<Edge>& edges) const;

    const Field* field_;
    const Stamp* stamp_;
    std::deque<Column> columns_; // from the first one on
    int first_ = 0;
};

} // namespace hasami::nesting
