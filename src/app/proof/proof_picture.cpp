#include "app/proof/proof_picture.h"

#include "app/kit/theme.h"
#include "app/words/words.h"

#include <QPainter>
#include <QSaveFile>

#include <cmath>

namespace hasami {

namespace {

constexpr double stripHeight = 30; // mm
constexpr double discSize = 24;    // mm
constexpr double mostPixels = 40e6;

/// A ruler and a disc in the strip below the picture, whose width in mm is given. `painter` stands in mm.
void paintScale(QPainter& painter, double width, LengthUnit unit) {
    painter.setPen(QPen(colour::ink, 0.2));
    const bool isInches = unit == LengthUnit::inch;
    const double tick = isInches ? 25.4 / 8 : 1;
    const int large = isInches ? 8 : 10;
    const double end = width - discSize - 10;
    QFont font = painter.font();
    font.setPointSizeF(1);
    font.setPixelSize(3);
    painter.setFont(font);
    for (int i = 0; 4 + i * tick <= end; ++i) {
        const double x = 4 + i * tick;
        const double high = i % large == 0 ? 6 : i % (large / 2) == 0 ? 4.5 : 3;
        painter.drawLine(QPointF(x, 3), QPointF(x, 3 + high));
        if (i % large == 0)
            painter.drawText(QRectF(x - 6, 9.5, 12, 5), Qt::AlignHCenter | Qt::AlignTop,
                             QString::number(isInches ? i / large : i));
    }
    painter.drawText(QRectF(4, 15, 40, 5), Qt::AlignLeft | Qt::AlignTop, isInches ? tr("inches") : tr("mm"));
    painter.setBrush(QColor(0xD8, 0xD2, 0xC4));
    painter.drawEllipse(QRectF(width - discSize - 3, 3, discSize, discSize));
    painter.drawText(QRectF(width - discSize - 3, 3, discSize, discSize), Qt::AlignCenter,
                     tr("%1 mm").arg(discSize));
}

} // namespace

std::optional<QString> saveProofPicture(ProofView& view, const QString& path, bool withScale,
                                        LengthUnit unit) {
    double scale = 300 / 25.4;
    const QSize size = view.picture(1).size();
    scale = std::min(scale, std::sqrt(mostPixels / std::max(1.0, double(size.width()) * size.height())));
    QImage image = view.picture(scale);
    if (image.isNull())
        return tr("There is nothing to be shown.");
    if (withScale) {
        const double width = image.width() / scale;
        QImage both(image.width(), image.height() + int(std::lround(stripHeight * scale)),
                    QImage::Format_ARGB32_Premultiplied);
        both.fill(Qt::white);
        QPainter painter(&both);
        painter.setRenderHints(QPainter::Antialiasing | QPainter::TextAntialiasing);
        painter.drawImage(0, 0, image);
        painter.translate(0, image.height());
        painter.scale(scale, scale);
        paintScale(painter, width, unit);
        painter.end();
        image = both;
    }
    image.setDotsPerMeterX(int(std::lround(scale * 1000)));
    image.setDotsPerMeterY(int(std::lround(scale * 1000)));
    QSaveFile file(path);
    if (!file.open(QIODevice::WriteOnly) || !image.save(&file, "PNG") || !file.commit())
        return tr("%1 can't be written.").arg(path);
    return {};
}

} // namespace hasami
