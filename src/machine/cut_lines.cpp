#include "machine/cut_lines.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <numeric>

namespace hasami {

namespace {

/// FNV-1a, 64 bits: G. Fowler, L. C. Noll and K.-P. Vo, 1991.
class Hash {
public:
    void add(std::uint64_t number) {
        for (int byte = 0; byte < 8; ++byte, number >>= 8)
            hash_ = (hash_ ^ (number & 0xff)) * 0x100000001b3;
    }
    std::string text() const {
        std::string text;
        for (int shift = 60; shift >= 0; shift -= 4)
            text += "0123456789abcdef"[hash_ >> shift & 0xf];
        return text;
    }

private:
    std::uint64_t hash_ = 0xcbf29ce484222325;
};

} // namespace

CutLines::CutLines(CutProgram program) : program_(std::move(program)) {
    for (const auto& [key, cut] : keyedCuts(program_))
        lines_.push_back({key, cut, pathLength(*cut)});
    byKey_.resize(lines_.size());
    std::iota(byKey_.begin(), byKey_.end(), std::size_t{0});
    std::ranges::sort(byKey_, {}, [this](std::size_t number) { return lines_[number].key; });
    Hash hash;
    for (const std::size_t number : byKey_) {
        const auto& [key, cut, length] = lines_[number];
        for (const std::uint64_t part :
             {std::uint64_t(key.kind), std::uint64_t(key.piece), std::uint64_t(key.line),
              std::uint64_t(key.pass), std::uint64_t(key.run)})
            hash.add(part);
        hash.add(std::uint64_t(std::llround(length * 10)));
    }
    fingerprint_ = hash.text();
}

std::optional<std::size_t> CutLines::find(const CutKey& key) const {
    const auto found =
        std::ranges::lower_bound(byKey_, key, {}, [this](std::size_t number) { return lines_[number].key; });
    return found != byKey_.end() && lines_[*found].key == key ? std::optional(*found) : std::nullopt;
}

std::vector<std::size_t> CutLines::some(std::span<const LineKind> kinds, const std::set<std::size_t>& pieces,
                                        std::size_t allPieces) const {
    std::vector<std::size_t> numbers;
    for (std::size_t i = 0; i < lines_.size(); ++i) {
        const CutKey& key = lines_[i].key;
        if (std::ranges::find(kinds, key.kind) == kinds.end())
            continue;
        const bool isShared = key.piece >= allPieces;
        if (pieces.empty() || (isShared ? pieces.size() == allPieces : pieces.contains(key.piece)))
            numbers.push_back(i);
    }
    return numbers;
}

CutProgram CutLines::programOf(std::span<const std::size_t> numbers) const {
    CutProgram some;
    std::optional<LineKind> kind;
    for (const std::size_t number : numbers) {
        const Cut& cut = *lines_[number].cut;
        if (kind != cut.kind)
            some.push_back(SelectTool{cut.kind});
        kind = cut.kind;
        some.emplace_back(cut);
    }
    return some;
}

} // namespace hasami
