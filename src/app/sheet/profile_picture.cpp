#include "app/sheet/profile_picture.h"

#include "app/kit/theme.h"
#include "app/sheet/sheet_ground.h"
#include "app/words/words.h"
#include "workshop/make_all.h"

#include <QPainter>

namespace hasami {

ProfilePicture::ProfilePicture(QWidget* parent) : QWidget(parent) {
    setObjectName("Profile picture");
    setAccessibleName(tr("A sheet with this profile"));
    setMinimumSize(320, 240);
}

void ProfilePicture::show(const Profile& profile, const Medium& medium) {
    job_.profile = profile;
    job_.plan.medium = medium;
    job_.plan.medium.used.clear();
    job_.name = "Hasami";
    job_.day = "2026-01-31";
    const Box sticker{{0, 0}, {70, 45}};
    // Of a roll as much as shows a section and some of the next.
    const double length = medium.whole().value_or(std::clamp(1.4 * profile.marks.interval, 300.0, 4000.0));
    job_.plan.gap = 3;
    const double marks = profile.marks.between > 0 ? 2 * quietRadius(profile.marks) : 0;
    job_.plan.gap = std::max(job_.plan.gap, marks); // room for those between
    const double each = (sticker.width() + job_.plan.gap) * (sticker.height() + job_.plan.gap);
    const int count = std::clamp(int(0.7 * length * medium.width / each), 1, 2000);
    Layout layout = layOut({{"a", sticker, count}}, job_.plan, profile, Checking::no);
    addLead(layout, job_);
    sheet_ = layout.sheets.empty() ? Sheet() : std::move(layout.sheets.front());
    if (sheet_.length == 0)
        sheet_.length = length;
    update();
}

void ProfilePicture::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), coloursOf(palette()).ground);
    constexpr double inset = 14;
    const double width = job_.plan.medium.width;
    const bool isTurned = (width > sheet_.length) == (this->width() > height());
    const double along = isTurned ? height() : this->width(), across = isTurned ? this->width() : height();
    const double scale = std::min((along - 2 * inset) / sheet_.length, (across - 2 * inset) / width);
    painter.translate(this->width() / 2.0, height() / 2.0);
    if (isTurned)
        painter.rotate(90);
    painter.scale(scale, scale);
    painter.translate(-sheet_.length / 2, -width / 2);
    const SheetGround ground(job_, sheet_, 0);
    ground.paint(painter, scale);
    painter.setRenderHint(QPainter::Antialiasing);
    QPen rim(colour::kiss, 1);
    rim.setCosmetic(true);
    painter.setPen(rim);
    painter.setBrush(QColor(0x2E, 0x8B, 0x57, 30));
    for (const Piece& piece : sheet_.pieces) {
        const Box box = boundsOfMapped({{0, 0}, {70, 45}}, piece.place);
        painter.drawRoundedRect(QRectF(box.least.x, box.least.y, box.width(), box.height()), 4, 4);
    }
    ground.paintMarks(painter);
}

} // namespace hasami
