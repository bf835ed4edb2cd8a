#include "workshop/cache.h"

#include "base/error.h"

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

std::size_t Cache::bytes() const {
    const std::scoped_lock lock(mutex_);
    return bytes_;
}

void Cache::release(const std::string& key) {
    const std::scoped_lock lock(mutex_);
    claimed_.erase(key);
    released_.notify_all();
}

std::shared_ptr<const void> Cache::findOrClaim(const std::string& key, const std::stop_token& stop) {
    std::unique_lock lock(mutex_);
    if (!released_.wait(lock, stop, [&] { return !claimed_.contains(key); }))
        throw Stopped();
    const auto found = byKey_.find(key);
    if (found == byKey_.end()) {
        claimed_.insert(key);
        return nullptr;
    }
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
