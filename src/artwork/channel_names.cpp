#include "artwork/channel_names.h"

#include <algorithm>
#include <cstdint>

namespace hasami {

namespace {

/// Goes through bytes, numbers in big-endian order; what lies beyond their end is 0.
class BigEndian {
public:
    explicit BigEndian(std::span<const std::byte> all) : left_(all) {}

    bool isOver() const { return left_.empty(); }
    std::uint32_t number(std::size_t bytes) {
        std::uint32_t value = 0;
        for (const std::byte b : part(bytes))
            value = value << 8 | std::to_integer<std::uint32_t>(b);
        return value;
    }
    std::span<const std::byte> part(std::size_t bytes) {
        const auto first = left_.first(std::min(bytes, left_.size()));
        left_ = left_.subspan(first.size());
        return first;
    }

private:
    std::span<const std::byte> left_;
};

void takeNames(std::vector<ExtraChannel>& channels, std::span<const std::byte> content) {
    BigEndian in(content);
    while (!in.isOver()) {
        const auto name = in.part(in.number(1));
        channels.push_back({{reinterpret_cast<const char*>(name.data()), name.size()}});
    }
}

void takeKinds(std::vector<ExtraChannel>& channels, std::span<const std::byte> content) {
    constexpr std::size_t beforeKind = 12; // how it is shown
    constexpr std::uint32_t ink = 2;
    BigEndian in(content);
    for (ExtraChannel& channel : channels) {
        in.part(beforeKind);
        if (in.isOver())
            return;
        channel.isInk = in.number(1) == ink;
        in.part(1);
    }
}

} // namespace

std::vector<ExtraChannel> extraChannels(std::span<const std::byte> resources) {
    constexpr std::uint32_t signature = 0x3842494d, names = 1006, kinds = 1007; // "8BIM"
    std::vector<ExtraChannel> channels;
    std::span<const std::byte> kindsFound;
    BigEndian in(resources);
    while (!in.isOver() && in.number(4) == signature) {
        const std::uint32_t which = in.number(2), title = in.number(1);
        in.part(title + (title % 2 == 0 ? 1 : 0)); // with its length, an even number of bytes
        const std::uint32_t size = in.number(4);
        const auto content = in.part(size);
        in.part(size % 2);
        if (which == names && channels.empty())
            takeNames(channels, content);
        if (which == kinds)
            kindsFound = content;
    }
    takeKinds(channels, kindsFound);
    return channels;
}

} // namespace hasami
