#pragma once

#include "artwork/picture.h"
#include "edge/find_edge.h"
#include "sticker/sticker.h"
#include "workshop/cache.h"

namespace hasami {

/// How many bytes results take in the cache, about.
std::size_t bytesOf(const std::vector<Curve>& edge);
std::size_t bytesOf(const Sticker& sticker);
std::size_t bytesOf(const std::vector<EdgeLoop>& loops);
std::size_t bytesOf(const Picture& picture);

/// How the edge is found, without the choice of loops: that is made of those found.
CacheKey& operator<<(CacheKey& key, const EdgeOptions& options);
void addChoice(CacheKey& key, const EdgeOptions& options);
void addTouchUps(CacheKey& key, const EdgeOptions& options);

void addBorderAndLines(CacheKey& key, const Recipe& recipe);

/// Which part of which picture.
void addShown(CacheKey& key, const Item& item);

/// All that what is found in an item's own frame depends on.
void addOwn(CacheKey& key, const Item& item);

/// And where it lies.
CacheKey& operator<<(CacheKey& key, const Item& item);

} // namespace hasami
