#include "files/psd_plates.h"

#include "artwork/channel_names.h"

#include <QtEndian>

#include <algorithm>
#include <span>

namespace hasami {

namespace {

constexpr int processChannels = 4;

/// Goes through the bytes; what lies beyond their end is 0.
class PsdReader {
public:
    explicit PsdReader(const QByteArray& all) : all_(all) {}

    qsizetype at() const { return at_; }
    void skip(qsizetype count) { at_ = std::min(all_.size(), at_ + std::max(qsizetype(0), count)); }
    template <class Number>
    Number next() {
        if (all_.size() - at_ < qsizetype(sizeof(Number))) {
            at_ = all_.size();
            return 0;
        }
        const auto number = qFromBigEndian<Number>(all_.constData() + at_);
        at_ += qsizetype(sizeof(Number));
        return number;
    }
    QByteArray next(qsizetype count) {
        QByteArray part = all_.mid(at_, count);
        skip(count);
        return part;
    }

private:
    const QByteArray& all_;
    qsizetype at_ = 0;
};

} // namespace

std::optional<Plates> platesOfPsd(const QByteArray& file) {
    constexpr int most = 20'000; // pixels of a side
    PsdReader in(file);
    const bool isPsd = in.next(4) == "8BPS" && in.next<std::uint16_t>() == 1;
    in.skip(6);
    const int channels = in.next<std::uint16_t>();
    const auto height = int(in.next<std::uint32_t>()), width = int(in.next<std::uint32_t>());
    const int bits = in.next<std::uint16_t>();
    in.skip(2);
    in.skip(in.next<std::uint32_t>()); // the table of colours
    const QByteArray resources = in.next(in.next<std::uint32_t>());
    const auto extras =
        extraChannels(std::as_bytes(std::span(resources.data(), std::size_t(resources.size()))));
    in.skip(in.next<std::uint32_t>()); // layers
    const bool isPlain = in.next<std::uint16_t>() == 0;
    if (!isPsd || !isPlain || bits != 8 || channels < processChannels || width < 1 || height < 1 ||
        width > most || height > most || file.size() - in.at() < qsizetype(channels) * width * height ||
        extras.size() < std::size_t(channels - processChannels))
        return {};
    const auto* bytes = reinterpret_cast<const std::uint8_t*>(file.constData()) + in.at();
    const std::size_t cells = std::size_t(width) * std::size_t(height);
    const auto inkOf = [&](int channel, std::size_t cell) { // stored as what is left of the paper
        return std::uint8_t(255 - bytes[std::size_t(channel) * cells + cell]);
    };
    Plates plates{{processChannels, 8, width, height}, {}};
    for (std::size_t cell = 0; cell < cells; ++cell)
        plates.process.set(cell, {inkOf(0, cell), inkOf(1, cell), inkOf(2, cell), inkOf(3, cell)});
    for (int channel = processChannels; channel < channels; ++channel) {
        SpotPlate& spot = plates.spots.emplace_back(
            SpotPlate{extras[std::size_t(channel - processChannels)].name, {width, height}});
        for (std::size_t cell = 0; cell < cells; ++cell)
            spot.amounts.cells()[cell] = inkOf(channel, cell);
    }
    return plates;
}

} // namespace hasami
