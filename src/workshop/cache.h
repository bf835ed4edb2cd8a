#pragma once

#include <cstdint>
#include <functional>
#include <list>
#include <memory>
#include <mutex>
#include <string>
#include <string_view>
#include <unordered_map>

namespace hasami {

/// A key made of what a result was made from: equal inputs give equal keys, and no two others do.
class CacheKey {
public:
    explicit CacheKey(std::string_view what) : text_(what) {}
    CacheKey& operator<<(std::string_view part);
    CacheKey& operator<<(double part);
    const std::string& text() const { return text_; }

private:
    std::string text_;
};

/// Results kept by what they were made from; those not used for longest go first once the cost is over the
/// limit. May be used from several threads; two that miss at once may both make the result.
class Cache {
public:
    explicit Cache(std::size_t mostBytes = std::size_t{512} << 20) : mostBytes_(mostBytes) {}

    /// The kept result for the key, or what `make` gives; `bytes` tells its cost. What `make` throws goes
    /// through and nothing is kept.
    template <class T>
    std::shared_ptr<const T> findOrMake(const CacheKey& key, const std::function<T()>& make,
                                        const std::function<std::size_t(const T&)>& bytes) {
        if (auto kept = find(key.text()))
            return std::static_pointer_cast<const T>(kept);
        auto made = std::make_shared<const T>(make());
        keep(key.text(), made, bytes(*made));
        return made;
    }

private:
    struct Entry {
        std::string key;
        std::shared_ptr<const void> value;
        std::size_t bytes;
    };

    std::shared_ptr<const void> find(const std::string& key);
    void keep(const std::string& key, std::shared_ptr<const void> value, std::size_t bytes);

    std::mutex mutex_;
    std::list<Entry> entries_; // the one used last in front
    std::unordered_map<std::string, std::list<Entry>::iterator> byKey_;
    std::size_t bytes_ = 0, mostBytes_;
};

} // namespace hasami
