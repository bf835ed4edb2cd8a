#include "app/run/line_layer.h"

#include <QDeadlineTimer>
#include <QPainter>

namespace hasami {

void LineLayer::clear() {
    *this = {};
}

void LineLayer::begin(QSize pixels, double ratio, const QTransform& place) {
    picture_ = QPixmap(pixels);
    picture_.setDevicePixelRatio(ratio);
    picture_.fill(Qt::transparent);
    pixels_ = pixels;
    place_ = place;
    waiting_.clear();
    drawn_ = 0;
}

bool LineLayer::paint(QPainter& painter, const Draw& draw) {
    constexpr int together = 16;   // lines between two looks at the clock
    const QDeadlineTimer until(8); // ms, half a frame
    if (drawn_ < waiting_.size()) {
        QPainter onLayer(&picture_);
        onLayer.setRenderHint(QPainter::Antialiasing);
        onLayer.setTransform(place_);
        while (drawn_ < waiting_.size()) {
            draw(onLayer, waiting_[drawn_++]);
            if (drawn_ % together == 0 && until.hasExpired())
                break;
        }
    }
    painter.save();
    painter.resetTransform();
    painter.drawPixmap(0, 0, picture_);
    painter.restore();
    const bool isWhole = drawn_ == waiting_.size();
    if (isWhole) {
        waiting_.clear();
        drawn_ = 0;
    }
    return isWhole;
}

} // namespace hasami
