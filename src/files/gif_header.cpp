#include "files/gif_header.h"

#include <optional>

namespace hasami {

namespace {

/// Goes through the bytes; past their end there is nothing.
class Walk {
public:
    explicit Walk(std::span<const std::byte> bytes) : bytes_(bytes) {}

    std::optional<unsigned> byte() {
        if (at_ >= bytes_.size())
            return {};
        return std::to_integer<unsigned>(bytes_[at_++]);
    }

    int word() {
        const unsigned low = byte().value_or(0);
        return int(low | byte().value_or(0) << 8);
    }

    void skip(std::size_t count) { at_ += count; }

    /// The table of colours that a byte of flags announces.
    void skipTable(unsigned flags) {
        if (flags & 0x80)
            skip(std::size_t{3} << ((flags & 7) + 1));
    }

    /// To the empty block behind a run of blocks; whether it is there.
    bool skipBlocks() {
        for (;;) {
            const auto length = byte();
            if (!length)
                return false;
            if (*length == 0)
                return true;
            skip(*length);
        }
    }

private:
    std::span<const std::byte> bytes_;
    std::size_t at_ = 0;
};

} // namespace

GifHeader readGifHeader(std::span<const std::byte> bytes) {
    constexpr unsigned extension = 0x21, picture = 0x2c;
    Walk walk(bytes);
    walk.skip(6);
    GifHeader header;
    header.width = walk.word();
    header.height = walk.word();
    const auto flags = walk.byte();
    walk.skip(2);
    walk.skipTable(flags.value_or(0));
    for (;;) {
        const auto kind = walk.byte();
        if (kind == extension) {
            walk.skip(1);
            if (!walk.skipBlocks())
                return header;
        } else if (kind == picture) {
            walk.skip(8);
            walk.skipTable(walk.byte().value_or(0));
            walk.skip(1);
            header.isWhole = walk.skipBlocks();
            return header;
        } else {
            return header;
        }
    }
}

} // namespace hasami
