#include "artwork/shared_picture.h"

#include "base/error.h"
#include "base/translation.h"

#include <utility>

namespace hasami {

namespace {

constexpr std::uint64_t longestProfile = 64 << 20; // bytes

template <class Value>
auto bytesOf(Value& value) {
    return std::as_bytes(std::span(&value, 1));
}

template <class Value>
auto writableBytesOf(Value& value) {
    return std::as_writable_bytes(std::span(&value, 1));
}

/// Takes what comes next, or refuses the picture.
class Taker {
public:
    Taker(const std::string& name, const TakeBytes& take) : name_(name), take_(take) {}

    void take(std::span<std::byte> to) {
        if (!to.empty() && !take_(to))
            refuse();
    }
    void end() {
        std::byte more{};
        if (take_(writableBytesOf(more)))
            refuse();
    }
    [[noreturn]] void refuse() const { throw InputError(sentence("%1 is too damaged to be read", name_)); }

private:
    const std::string& name_;
    const TakeBytes& take_;
};

FineColours takeFine(const SharedPictureHeading& heading, Taker& from) {
    const int channels = heading.fineChannels, bits = heading.fineBits;
    if ((channels != 1 && channels != 3 && channels != 4) || (bits != 8 && bits != 16))
        from.refuse();
    FineColours fine(channels, bits, heading.width, heading.height);
    from.take(std::as_writable_bytes(fine.samples()));
    return fine;
}

SpotPlate takeSpotPlate(const SharedPictureHeading& heading, Taker& from) {
    std::uint32_t length = 0;
    from.take(writableBytesOf(length));
    if (length > longestSpotPlateName)
        from.refuse();
    SpotPlate spot;
    spot.name.resize(length);
    from.take(std::as_writable_bytes(std::span(spot.name)));
    spot.amounts = Grid<std::uint8_t>(heading.width, heading.height);
    from.take(std::as_writable_bytes(spot.amounts.cells()));
    return spot;
}

} // namespace

bool putShared(Picture picture, const PutBytes& put) {
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
        heading.fineChannels = picture.fine->channels();
        heading.fineBits = picture.fine->bits();
    }
    bool isPut = put(bytesOf(heading)) && put(std::as_bytes(picture.pixels.cells()));
    picture.pixels = {};
    if (picture.fine)
        isPut = isPut && put(std::as_bytes(std::as_const(*picture.fine).samples()));
    picture.fine.reset();
    isPut = isPut && put(picture.iccProfile);
    for (const SpotPlate& spot : picture.spotPlates) {
        const auto length = std::uint32_t(spot.name.size());
        isPut = isPut && put(bytesOf(length)) && put(std::as_bytes(std::span(spot.name))) &&
                put(std::as_bytes(spot.amounts.cells()));
    }
    return isPut;
}

Picture takeShared(const std::string& name, const TakeBytes& take) {
    Taker from(name, take);
    SharedPictureHeading heading;
    from.take(writableBytesOf(heading));
    constexpr std::int32_t mostPages = 1'000'000;
    if (heading.form != SharedPictureHeading::thisForm || heading.pages < 1 || heading.pages > mostPages ||
        heading.width < 1 || heading.height < 1 || heading.profileBytes > longestProfile ||
        heading.spotPlates < 0 || heading.spotPlates > mostSpotPlates)
        from.refuse();
    checkSize(name, heading.width, heading.height);
    Picture picture;
    picture.pages = heading.pages;
    picture.hasCoverage = heading.hasCoverage != 0;
    picture.isGrey = heading.isGrey != 0;
    picture.pixelsPerMillimetre = plausibleResolution(heading.pixelsPerMillimetre);
    picture.pixels = Grid<Rgba>(heading.width, heading.height);
    from.take(std::as_writable_bytes(picture.pixels.cells()));
    if (heading.fineChannels != 0)
        picture.fine = takeFine(heading, from);
    picture.iccProfile.resize(heading.profileBytes);
    from.take(picture.iccProfile);
    for (std::int32_t i = 0; i < heading.spotPlates; ++i)
        picture.spotPlates.push_back(takeSpotPlate(heading, from));
    from.end();
    return picture;
}

} // namespace hasami
