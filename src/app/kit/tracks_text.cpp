#include "app/kit/tracks_text.h"

#include "base/number_text.h"

#include <QRegularExpression>
#include <QStringList>

namespace hasami {

QString tracksText(const std::vector<Track>& tracks, LengthUnit unit) {
    const auto number = [&](double millimetres) {
        return QString::fromStdString(numberText(millimetres / millimetresIn(unit), 3));
    };
    QStringList parts;
    for (const Track& track : tracks)
        parts << number(track.at) + "-" + number(track.at + track.width);
    return parts.join(", ");
}

std::optional<std::vector<Track>> readTracks(const QString& text, LengthUnit unit, std::size_t most) {
    constexpr double widest = 20'000; // mm
    std::vector<Track> tracks;
    for (const QString& part : text.split(QRegularExpression("[,;]"), Qt::SkipEmptyParts)) {
        const QStringList ends = part.split('-');
        if (ends.size() != 2)
            return {};
        const auto from = readQuantity(ends[0].trimmed(), QuantityKind::length, unit);
        const auto to = readQuantity(ends[1].trimmed(), QuantityKind::length, unit);
        if (!from || !to || *from < 0 || *to <= *from || *to > widest)
            return {};
        tracks.push_back({*from, *to - *from});
    }
    return tracks.size() <= most ? std::optional(tracks) : std::nullopt;
}

} // namespace hasami
