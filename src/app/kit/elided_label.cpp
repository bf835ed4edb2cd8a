#include "app/kit/elided_label.h"

namespace hasami {

void ElidedLabel::setWhole(const QString& text) {
    whole_ = text;
    setToolTip(text);
    updateGeometry();
    shorten();
}

QSize ElidedLabel::sizeHint() const {
    return {fontMetrics().horizontalAdvance(whole_) + 2, QLabel::sizeHint().height()};
}

void ElidedLabel::resizeEvent(QResizeEvent* event) {
    QLabel::resizeEvent(event);
    shorten();
}

void ElidedLabel::shorten() {
    setText(fontMetrics().elidedText(whole_, mode_, width()));
}

} // namespace hasami
