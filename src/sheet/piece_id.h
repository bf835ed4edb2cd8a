#pragma once

#include <compare>
#include <string>
#include <string_view>
#include <vector>

namespace hasami {

/// Which copy of a design a piece is. It stays the same for as long as the piece is there, wherever it is
/// laid; pieces laid by rules keep theirs as long as there are as many of them.
struct PieceId {
    std::string design; ///< its id
    int copy = 0;       ///< counted from 1 in each design; 0: not numbered yet

    friend auto operator<=>(const PieceId&, const PieceId&) = default;
};

/// A piece's number, to be given.
struct CopyNumber {
    std::string_view design;
    int& copy;
};

/// Gives each piece without a number, and each behind one that has the same, the lowest that is free in its
/// design. O(n log n).
void numberCopies(std::vector<CopyNumber> pieces);

} // namespace hasami
