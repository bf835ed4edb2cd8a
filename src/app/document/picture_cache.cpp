#include "app/document/picture_cache.h"

#include "app/words/words.h"
#include "base/error.h"
#include "files/paint_sticker.h"

#include <algorithm>

namespace hasami {

Pyramid::Pyramid(QImage image) {
    constexpr int smallest = 64;
    levels_.push_back(image.convertToFormat(QImage::Format_ARGB32_Premultiplied));
    while (levels_.back().width() > smallest && levels_.back().height() > smallest) {
        const QSize half(levels_.back().width() / 2, levels_.back().height() / 2);
        levels_.push_back(levels_.back().scaled(half, Qt::IgnoreAspectRatio, Qt::SmoothTransformation));
    }
}

const QImage& Pyramid::atLeast(double pixelsWide) const {
    std::size_t level = 0;
    while (level + 1 < levels_.size() && levels_[level + 1].width() >= pixelsWide)
        ++level;
    return levels_[level];
}

std::size_t Pyramid::bytes() const {
    std::size_t sum = 0;
    for (const QImage& level : levels_)
        sum += std::size_t(level.sizeInBytes());
    return sum;
}

PictureCache::PictureCache(WorkQueue& queue, QObject* parent)
    : QObject(parent), queue_(queue), store_(std::make_shared<PictureStore>()) {
    source_ = [store = store_](const Asset& asset, const PictureWish& wish, const std::stop_token& stop) {
        return store->get(asset, wish, stop);
    };
    constexpr int tellEvery = 40; // ms
    telling_.setSingleShot(true);
    telling_.setInterval(tellEvery);
    connect(&telling_, &QTimer::timeout, this, &PictureCache::ready);
}

std::shared_ptr<const Pyramid> PictureCache::found(const std::shared_ptr<const Pyramid>& pyramid) {
    missed_ += pyramid ? 0 : 1;
    return pyramid;
}

std::shared_ptr<const Pyramid> PictureCache::find(const std::shared_ptr<const Asset>& asset,
                                                  const PictureWish& wish) {
    const Key key(asset->sha256, wish);
    const auto [entry, isNew] = pyramids_.try_emplace(key);
    entry->second.lastUse = ++uses_;
    if (isNew)
        load(key, asset);
    return found(entry->second.pyramid);
}

std::shared_ptr<const Pyramid> PictureCache::find(const std::shared_ptr<const BleedPicture>& bleed) {
    constexpr std::size_t small = 1'000'000; // pixels: made within a frame
    std::erase_if(bleeds_, [](const auto& entry) { return entry.second.of.expired(); });
    const auto [entry, isNew] = bleeds_.try_emplace(bleed.get(), Bleed{bleed, nullptr});
    if (!isNew)
        return found(entry->second.pyramid);
    const auto make = [bleed] {
        return std::make_shared<const Pyramid>(
            toImage(std::shared_ptr<const Picture>(bleed, &bleed->picture)));
    };
    if (bleed->picture.pixels.cells().size() <= small)
        return entry->second.pyramid = make();
    runInBackground(
        queue_, this, tr("The bleed can't be shown"), [make](const std::stop_token&) { return make(); },
        [this, bleed](const Outcome<std::shared_ptr<const Pyramid>>& pyramid) {
            if (!pyramid.value)
                return;
            bleeds_[bleed.get()] = {bleed, *pyramid.value};
            tell();
        });
    return found(nullptr);
}

void PictureCache::load(const Key& key, const std::shared_ptr<const Asset>& asset) {
    const auto read = [store = store_, asset, wish = key.second](const std::stop_token& stop) {
        return std::make_shared<const Pyramid>(toImage(store->get(*asset, wish, stop)));
    };
    runInBackground(queue_, this, tr("The picture can't be shown"), read,
                    [this, key](const Outcome<std::shared_ptr<const Pyramid>>& pyramid) {
                        if (pyramid.value) // else the workshop says what is wrong with it
                            keep(key, *pyramid.value);
                    });
}

void PictureCache::keep(const Key& key, const std::shared_ptr<const Pyramid>& pyramid) {
    pyramids_[key] = {pyramid, ++uses_};
    std::size_t sum = 0;
    for (const auto& [whose, shown] : pyramids_)
        sum += shown.pyramid ? shown.pyramid->bytes() : 0;
    while (sum > mostBytes) {
        const auto oldest =
            std::min_element(pyramids_.begin(), pyramids_.end(), [](const auto& a, const auto& b) {
                return std::pair(!a.second.pyramid, a.second.lastUse) <
                       std::pair(!b.second.pyramid, b.second.lastUse);
            });
        if (oldest->first == key)
            break; // alone over the limit, or shown just now with all others
        sum -= oldest->second.pyramid->bytes();
        pyramids_.erase(oldest);
    }
    tell();
}

void PictureCache::tell() {
    if (!telling_.isActive())
        telling_.start();
}

} // namespace hasami
