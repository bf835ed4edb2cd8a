#pragma once

#include "files/picture_file.h"
#include "workshop/make_all.h"

#include <QImage>
#include <QObject>

#include <map>
#include <memory>
#include <set>
#include <vector>

namespace hasami {

/// A picture at its own size and halved again and again, so that any zoom draws quickly and without skipping
/// pixels.
class Pyramid {
public:
    explicit Pyramid(QImage image);

    /// The smallest one that has at least `pixelsWide` columns.
    const QImage& atLeast(double pixelsWide) const;

private:
    std::vector<QImage> levels_; // the largest first
};

/// Pictures for the screen, decoded in the background.
class PictureCache : public QObject {
    Q_OBJECT
public:
    explicit PictureCache(QObject* parent = nullptr);

    const std::shared_ptr<PictureStore>& store() const { return store_; }
    PictureSource source() const;

    /// The asset's picture, or nothing yet: then `ready` follows, unless it can't be read.
    std::shared_ptr<const Pyramid> find(const std::shared_ptr<const Asset>& asset, const PictureWish& wish);

    /// The same of a bleed's colours. Small ones are there at once.
    std::shared_ptr<const Pyramid> find(const std::shared_ptr<const BleedPicture>& bleed);

Q_SIGNALS:
    void ready();

private:
    using Key = std::pair<std::string, PictureWish>; // by SHA-256

    void load(const Key& key, const std::shared_ptr<const Asset>& asset);

    std::shared_ptr<PictureStore> store_; // shared with work that may outlive the window
    std::map<Key, std::shared_ptr<const Pyramid>> pyramids_;
    std::set<Key> asked_;

    struct Bleed {
        std::weak_ptr<const BleedPicture> of;
        std::shared_ptr<const Pyramid> pyramid; ///< none while it is being made
    };
    std::map<const BleedPicture*, Bleed> bleeds_;
};

} // namespace hasami
