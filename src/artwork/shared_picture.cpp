#include "artwork/shared_picture.h"

#include "base/error.h"
#include "base/translation.h"

#include <cstring>
#include <numeric>

namespace hasami {

namespace {

constexpr std::size_t bytesOfPixel = sizeof(Rgba), bytesOfFine = sizeof(std::array<std::uint16_t, 4>);

/// Takes what comes next of the bytes.
class Taker {
public:
    Taker(const std::string& name, std::span<const std::byte> bytes) : name_(name), bytes_(bytes) {}

    void take(void* to, std::size_t count) {
        if (count > bytes_.size())
            refuse();
        std::memcpy(to, bytes_.data(), count);
        bytes_ = bytes_.subspan(count);
    }
    void end() const {
        if (!bytes_.empty())
            refuse();
    }
    [[noreturn]] void refuse() const { throw InputError(sentence("%1 is too damaged to be read", name_)); }

private:
    const std::string& name_;
    std::span<const std::byte> bytes_;
};

} // namespace

std::size_t sharedBytes(const Picture& picture) {
    const std::size_t pixels = picture.pixels.cells().size();
    return sizeof(SharedPictureHeading) + pixels * bytesOfPixel + (picture.fine ? pixels * bytesOfFine : 0) +
           picture.iccProfile.size() +
           std::accumulate(picture.spotPlates.begin(), picture.spotPlates.end(), std::size_t{0},
                           [](std::size_t sum, const auto& spot) {
                               return sum + sizeof(std::uint32_t) + spot.name.size() +
                                      spot.amounts.cells().size();
                           });
}

void putShared(const Picture& picture, std::span<std::byte> room) {
    SharedPictureHeading heading;
    heading.width = picture.pixels.width();
    heading.height = picture.pixels.height();
    heading.pages = picture.pages;
    heading.hasCoverage = picture.hasCoverage;
    heading.isGrey = picture.isGrey;
    heading.pixelsPerMillimetre = picture.pixelsPerMillimetre;
    heading.profileBytes = picture.iccProfile.size();
    heading.spotPlates = std::int32_t(picture.spotPlates.size());
    if (picture.fine) {
        heading.fineChannels = picture.fine->channels;
        heading.fineBits = picture.fine->bits;
    }
    const auto put = [&](const void* from, std::size_t count) {
        if (count > 0)
            std::memcpy(room.data(), from, count);
        room = room.subspan(count);
    };
    put(&heading, sizeof heading);
    put(picture.pixels.cells().data(), picture.pixels.cells().size_bytes());
    if (picture.fine)
        put(picture.fine->cells.cells().data(), picture.fine->cells.cells().size_bytes());
    put(picture.iccProfile.data(), picture.iccProfile.size());
    for (const SpotPlate& spot : picture.spotPlates) {
        const auto length = std::uint32_t(spot.name.size());
        put(&length, sizeof length);
        put(spot.name.data(), length);
        put(spot.amounts.cells().data(), spot.amounts.cells().size());
    }
}

Picture takeShared(const std::string& name, std::span<const std::byte> bytes) {
    Taker from(name, bytes);
    SharedPictureHeading heading;
    from.take(&heading, sizeof heading);
    constexpr std::int32_t mostPages = 1'000'000;
    if (heading.form != SharedPictureHeading::thisForm || heading.pages < 1 || heading.pages > mostPages ||
        heading.width < 1 || heading.height < 1)
        from.refuse();
    checkSize(name, heading.width, heading.height);
    Picture picture;
    picture.pages = heading.pages;
    picture.hasCoverage = heading.hasCoverage != 0;
    picture.isGrey = heading.isGrey != 0;
    picture.pixelsPerMillimetre = plausibleResolution(heading.pixelsPerMillimetre);
    picture.pixels = Grid<Rgba>(heading.width, heading.height);
    from.take(picture.pixels.cells().data(), picture.pixels.cells().size_bytes());
    if (const int channels = heading.fineChannels) {
        const int bits = heading.fineBits;
        if ((channels != 1 && channels != 3 && channels != 4) || (bits != 8 && bits != 16))
            from.refuse();
        picture.fine = FineColours{channels, bits, {heading.width, heading.height}};
        from.take(picture.fine->cells.cells().data(), picture.fine->cells.cells().size_bytes());
    }
    if (heading.profileBytes > bytes.size())
        from.refuse();
    picture.iccProfile.resize(heading.profileBytes);
    if (!picture.iccProfile.empty())
        from.take(picture.iccProfile.data(), picture.iccProfile.size());
    if (heading.spotPlates < 0 || heading.spotPlates > mostSpotPlates)
        from.refuse();
    for (std::int32_t i = 0; i < heading.spotPlates; ++i) {
        std::uint32_t length = 0;
        from.take(&length, sizeof length);
        if (length > longestSpotPlateName)
            from.refuse();
        SpotPlate& spot = picture.spotPlates.emplace_back();
        spot.name.resize(length);
        from.take(spot.name.data(), length);
        spot.amounts = Grid<std::uint8_t>(heading.width, heading.height);
        from.take(spot.amounts.cells().data(), spot.amounts.cells().size());
    }
    from.end();
    return picture;
}

} // namespace hasami
