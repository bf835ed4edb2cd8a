#include "app/paint/line_names.h"

#include "app/kit/theme.h"

namespace hasami {

QIcon signOf(LineKind kind, bool isCut) {
    QPixmap picture(28, 16);
    picture.fill(Qt::transparent);
    QPainter painter(&picture);
    QPainterPath line;
    const auto add = [&](double from, double to) {
        line.moveTo(from, 8);
        line.lineTo(to, 8);
    };
    if (kind == LineKind::perforated && isCut) {
        add(2, 11);
        add(17, 26);
    } else {
        add(2, 26);
    }
    if (!isCut) {
        painter.setPen(QPen(colour::quiet, 1.5, Qt::DotLine));
        painter.drawPath(line);
        return picture;
    }
    LinePaths paths;
    paths[std::size_t(kind)] = line;
    paintCutLines(painter, paths, 2);
    return picture;
}

} // namespace hasami
