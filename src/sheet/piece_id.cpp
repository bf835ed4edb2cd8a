#include "sheet/piece_id.h"

#include <map>
#include <set>

namespace hasami {

void numberCopies(std::vector<CopyNumber> pieces) {
    std::map<std::string_view, std::set<int>> taken;
    for (CopyNumber& piece : pieces)
        if (piece.copy > 0 && !taken[piece.design].insert(piece.copy).second)
            piece.copy = 0;
    std::map<std::string_view, int> next;
    for (CopyNumber& piece : pieces) {
        int& free = next.try_emplace(piece.design, 1).first->second;
        const std::set<int>& others = taken[piece.design];
        if (piece.copy > 0)
            continue;
        while (others.contains(free))
            ++free;
        piece.copy = free++;
    }
}

} // namespace hasami
