#include "workshop/cache.h"

#include <array>
#include <charconv>

namespace hasami {

CacheKey& CacheKey::operator<<(std::string_view part) {
    text_ += '|';
    text_ += std::to_string(part.size());
    text_ += ':';
    text_ += part;
    return *this;
}

CacheKey& CacheKey::operator<<(double part) {
    std::array<char, 32> digits{}; // the shortest text that reads back as the same number
    const auto [end, error] = std::to_chars(digits.data(), digits.data() + digits.size(), part);
    text_ += '|';
    text_.append(digits.data(), end);
    return *this;
}

std::shared_ptr<const void> Cache::find(const std::string& key) {
    const std::scoped_lock lock(mutex_);
    const auto found = byKey_.find(key);
    if (found == byKey_.end())
        return nullptr;
    entries_.splice(entries_.begin(), entries_, found->second);
    return found->second->value;
}

void Cache::keep(const std::string& key, std::shared_ptr<const void> value, std::size_t bytes) {
    const std::scoped_lock lock(mutex_);
    if (byKey_.contains(key))
        return;
    entries_.push_front({key, std::move(value), bytes});
    byKey_[key] = entries_.begin();
    bytes_ += bytes;
    while (bytes_ > mostBytes_ && entries_.size() > 1) {
        bytes_ -= entries_.back().bytes;
        byKey_.erase(entries_.back().key);
        entries_.pop_back();
    }
}

} // namespace hasami
