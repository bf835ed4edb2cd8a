#pragma once

#include "app/document/background.h"
#include "files/picture_file.h"
#include "workshop/make_all.h"

#include <QImage>
#include <QObject>
#include <QTimer>

#include <map>
#include <memory>
#include <vector>

namespace hasami {

/// A picture at its own size and halved again and again, so that any zoom draws quickly and without skipping
/// pixels.
class Pyramid {
public:
    explicit Pyramid(QImage image);

    /// The smallest one that has at least `pixelsWide` columns.
    const QImage& atLeast(double pixelsWide) const;

    std::size_t bytes() const;

private:
    std::vector<QImage> levels_; // the largest first
};

/// Pictures for the screen, decoded in the background, up to a limit in bytes: those shown least recently go
/// first.
class PictureCache : public QObject {
    Q_OBJECT
public:
    /// `queue` decodes.
    explicit PictureCache(WorkQueue& queue, QObject* parent = nullptr);

    const std::shared_ptr<PictureStore>& store() const { return store_; }
    PictureSource source() const { return source_; }

    /// From now on, source() gives pictures from there: a test's own, slow or failing.
    void setSource(PictureSource source) { source_ = std::move(source); }

    /// The asset's picture, or nothing yet: then `ready` follows, unless it can't be read.
    std::shared_ptr<const Pyramid> find(const std::shared_ptr<const Asset>& asset, const PictureWish& wish);

    /// The same of a bleed's colours. Small ones are there at once.
    std::shared_ptr<const Pyramid> find(const std::shared_ptr<const BleedPicture>& bleed);

    /// How often something was asked for that was not there yet: if that grew while something was drawn, it
    /// is to be drawn again when `ready`.
    std::size_t missed() const { return missed_; }

Q_SIGNALS:
    void ready(); ///< for several at once where they come close after one another

private:
    using Key = std::pair<std::string, PictureWish>; // by SHA-256

    void load(const Key& key, const std::shared_ptr<const Asset>& asset);

    struct Shown {
        std::shared_ptr<const Pyramid> pyramid; ///< none while it is being decoded, or where it can't be
        std::uint64_t lastUse = 0;
    };
    void keep(const Key& key, const std::shared_ptr<const Pyramid>& pyramid);
    void tell();
    std::shared_ptr<const Pyramid> found(const std::shared_ptr<const Pyramid>& pyramid);

    static constexpr std::size_t mostBytes = std::size_t{768} << 20;

    WorkQueue& queue_;
    PictureSource source_;
    std::shared_ptr<PictureStore> store_; // shared with work that may outlive the window
    std::map<Key, Shown> pyramids_;
    std::uint64_t uses_ = 0;
    std::size_t missed_ = 0;
    QTimer telling_;

    struct Bleed {
        std::weak_ptr<const BleedPicture> of;
        std::shared_ptr<const Pyramid> pyramid; ///< none while it is being made
    };
    std::map<const BleedPicture*, Bleed> bleeds_;
};

} // namespace hasami
