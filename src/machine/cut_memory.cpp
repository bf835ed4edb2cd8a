#include "machine/cut_memory.h"

#include <algorithm>

namespace hasami {

namespace {

constexpr double sameLength = 1e-6; // mm

bool isWhole(const CutRecord& record, const CutKey& key, double length) {
    const auto found = record.find(key);
    return found != record.end() && found->second >= length - sameLength;
}

} // namespace

void CutMemory::begin(const CutProgram& program, const CutRecord& done) {
    order_.clear();
    told_ = finished_ = 0;
    for (const KeyedStep& step : remaining(program, done))
        if (step.key) {
            const double length = step.before + pathLength(std::get<Cut>(step.step));
            order_.emplace_back(*step.key, length);
            lengths_[*step.key] = length;
        }
}

CutLengths CutMemory::cut(const CutLengths& news) {
    for (const auto& [key, along] : news) {
        const double length = lengths_[key];
        if (isWhole(knife_, key, length) && along < length - sameLength) {
            ++twice_;
            knife_.erase(key);
        }
        knife_[key] = along;
        if (along >= length - sameLength)
            ++finished_;
    }
    const std::size_t received = std::min(order_.size(), finished_ + lines);
    const auto first = order_.begin();
    CutLengths some(first + std::ptrdiff_t(told_), first + std::ptrdiff_t(std::max(told_, received)));
    told_ = std::max(told_, received);
    return some;
}

std::size_t CutMemory::missingIn(const CutRecord& record) const {
    return std::size_t(std::ranges::count_if(record, [this](const auto& line) {
        const auto length = lengths_.find(line.first);
        return length != lengths_.end() && !isWhole(knife_, line.first, length->second);
    }));
}

} // namespace hasami
