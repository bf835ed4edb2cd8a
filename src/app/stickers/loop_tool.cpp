#include "app/stickers/loop_tool.h"

#include "app/kit/marking.h"
#include "app/kit/theme.h"
#include "files/paint_sticker.h"

#include <algorithm>

namespace hasami {

namespace {

constexpr double sweepFrom = 5; // pixels: a press that moves less is a click

} // namespace

bool LoopTool::press(const PointerPlace& pointer) {
    pressed_ = now_ = pointer;
    return true;
}

void LoopTool::move(const PointerPlace& pointer) {
    now_ = pointer;
    if (pressed_)
        return;
    const auto found = picker_.linesAt(pointer.at, pointer.reach());
    under_ = found.empty() ? std::nullopt : std::optional(found.front());
}

void LoopTool::release(const PointerPlace& pointer) {
    now_ = pointer;
    if (!pressed_)
        return;
    if (isSweep()) {
        const auto found = picker_.linesWithin(swept());
        const auto lines = picker_.lines();
        const bool anyIsCut =
            std::any_of(found.begin(), found.end(), [&](std::size_t i) { return lines[i].isCut; });
        if (!found.empty())
            picker_.setCut(found, !anyIsCut);
    } else {
        click();
    }
    pressed_.reset();
}

void LoopTool::stop() {
    pressed_.reset();
    under_.reset();
}

bool LoopTool::isSweep() const {
    return pressed_ && distance(pressed_->at, now_.at) >= sweepFrom * now_.pixel;
}

Box LoopTool::swept() const {
    Box box;
    box.add(pressed_->at);
    box.add(now_.at);
    return box;
}

void LoopTool::click() {
    const auto found = picker_.linesAt(pressed_->at, pressed_->reach());
    if (found.empty())
        return;
    const bool isHere = distance(pressed_->at, lastClick_) < sweepFrom * pressed_->pixel;
    clicksHere_ = isHere ? clicksHere_ + 1 : 0;
    lastClick_ = pressed_->at;
    const std::size_t line = found[clicksHere_ % found.size()];
    picker_.setCut({line}, !picker_.lines()[line].isCut);
}

void LoopTool::paint(QPainter& painter, double) const {
    painter.setRenderHint(QPainter::Antialiasing);
    if (under_ && !pressed_) {
        painter.setPen(cosmetic(colour::indigo, 3));
        if (const auto lines = picker_.lines(); *under_ < lines.size())
            painter.drawPath(painterPath(std::vector<Curve>{lines[*under_].curve()}));
    }
    if (isSweep()) {
        QColor tint = colour::indigo;
        tint.setAlpha(40);
        painter.setPen(cosmetic(colour::indigo, 1));
        painter.setBrush(tint);
        const Box box = swept();
        painter.drawRect(QRectF(box.least.x, box.least.y, box.width(), box.height()));
    }
}

} // namespace hasami
