#pragma once

#include <condition_variable>
#include <cstdint>
#include <functional>
#include <list>
#include <memory>
#include <mutex>
#include <set>
#include <stop_token>
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

/// Results kept by what they were made from; the least recently used go first once the cost is over the
/// limit. May be used from several threads: of those that ask for the same result at once, one makes it and
/// the others wait.
class Cache {
public:
    explicit Cache(std::size_t mostBytes = std::size_t{512} << 20) : mostBytes_(mostBytes) {}

    /// The kept result for the key, or what `make` gives; `bytes` is its cost. What `make` throws goes
    /// through and nothing is kept; another that waited for it makes the result itself. Throws Stopped where
    /// `stop` is requested while another makes it.
    template <class T>
    std::shared_ptr<const T> findOrMake(const CacheKey& key, const std::function<T()>& make,
                                        const std::function<std::size_t(const T&)>& bytes,
                                        const std::stop_token& stop = {}) {
        if (auto kept = findOrClaim(key.text(), stop))
            return std::static_pointer_cast<const T>(kept);
        const Claim claim{*this, key.text()};
        auto made = std::make_shared<const T>(make());
        keep(key.text(), made, bytes(*made));
        return made;
    }

    std::size_t bytes() const; ///< of everything kept

private:
    struct Entry {
        std::string key;
        std::shared_ptr<const void> value;
        std::size_t bytes;
    };

    /// That a thread makes the result for a key; ends when it is kept or can't be made.
    struct Claim {
        Cache& cache;
        const std::string& key;
        ~Claim() { cache.release(key); }
    };

    /// The result for the key; or nothing, and the caller is the one that makes it.
    std::shared_ptr<const void> findOrClaim(const std::string& key, const std::stop_token& stop);
    void release(const std::string& key);
    void keep(const std::string& key, std::shared_ptr<const void> value, std::size_t bytes);

    mutable std::mutex mutex_;
    std::condition_variable_any released_;
    std::set<std::string> claimed_;
    std::list<Entry> entries_; // the one used last in front
    std::unordered_map<std::string, std::list<Entry>::iterator> byKey_;
    std::size_t bytes_ = 0, mostBytes_;
};

} // namespace hasami
