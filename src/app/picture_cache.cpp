#include "app/picture_cache.h"

#include "app/work_aside.h"
#include "base/error.h"
#include "files/paint_sticker.h"

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

PictureCache::PictureCache(QObject* parent) : QObject(parent), store_(std::make_shared<PictureStore>()) {}

PictureSource PictureCache::source() const {
    return [store = store_](const Asset& asset, const PictureWish& wish) { return store->get(asset, wish); };
}

std::shared_ptr<const Pyramid> PictureCache::find(const std::shared_ptr<const Asset>& asset,
                                                  const PictureWish& wish) {
    const Key key(asset->sha256, wish);
    const auto found = pyramids_.find(key);
    if (found != pyramids_.end())
        return found->second;
    if (asked_.insert(key).second)
        load(key, asset);
    return nullptr;
}

std::shared_ptr<const Pyramid> PictureCache::find(const std::shared_ptr<const BleedPicture>& bleed) {
    constexpr std::size_t small = 1'000'000; // pixels: made within a frame
    std::erase_if(bleeds_, [](const auto& entry) { return entry.second.of.expired(); });
    const auto [entry, isNew] = bleeds_.try_emplace(bleed.get(), Bleed{bleed, nullptr});
    if (!isNew)
        return entry->second.pyramid;
    const auto make = [bleed] {
        return std::make_shared<const Pyramid>(
            toImage(std::shared_ptr<const Picture>(bleed, &bleed->picture)));
    };
    if (bleed->picture.pixels.cells().size() <= small)
        return entry->second.pyramid = make();
    workAside(this, make, [this, bleed](const std::shared_ptr<const Pyramid>& pyramid) {
        bleeds_[bleed.get()] = {bleed, pyramid};
        Q_EMIT ready();
    });
    return nullptr;
}

void PictureCache::load(const Key& key, const std::shared_ptr<const Asset>& asset) {
    const auto read = [store = store_, asset, wish = key.second]() -> std::shared_ptr<const Pyramid> {
        try {
            return std::make_shared<const Pyramid>(toImage(store->get(*asset, wish)));
        } catch (const InputError&) {
            return nullptr; // the workshop tells what is wrong with it
        }
    };
    workAside(this, read, [this, key](const std::shared_ptr<const Pyramid>& pyramid) {
        if (!pyramid)
            return;
        pyramids_[key] = pyramid;
        Q_EMIT ready();
    });
}

} // namespace hasami
