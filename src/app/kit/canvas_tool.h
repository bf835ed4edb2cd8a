#pragma once

#include "geometry/point.h"

#include <QPainter>
#include <QString>

#include <optional>

namespace hasami {

/// The pointer over a canvas.
struct PointerPlace {
    Point at;         ///< mm of the canvas
    double pixel = 1; ///< mm of the canvas
    bool shift = false, control = false;
    bool isOnCanvas = true; ///< else over its rulers, or out of it

    /// How far the pointer may miss what it means, mm.
    double reach() const { return 6 * pixel; }
};

/// A key that was pressed, or text that an input method gave (`key` is 0).
struct KeyStroke {
    int key = 0;
    bool shift = false, control = false;
    QString text = {};
};

/// What the pointer and the keys do on a canvas under a mode. The canvas passes on what happens over it to
/// the tool that is active, and looks at its cursor and what it paints afterwards.
class CanvasTool {
public:
    virtual ~CanvasTool() = default;

    /// The left button: false where the press meant nothing.
    virtual bool press(const PointerPlace& pointer) = 0;
    /// A second press in the same place; false: as another press.
    virtual bool pressTwice(const PointerPlace& /*pointer*/) { return false; }
    /// With the left button held after a press, or over the canvas.
    virtual void move(const PointerPlace& pointer) = 0;
    virtual void release(const PointerPlace& pointer) = 0;
    virtual void leave() {}
    /// True if the key did something.
    virtual bool key(int /*key*/, bool /*shift*/) { return false; }
    /// The same for a tool that takes text.
    virtual bool stroke(const KeyStroke& stroke) { return key(stroke.key, stroke.shift); }
    /// Whether letters are typed into what it does: then they are no shortcuts.
    virtual bool takesText() const { return false; }
    /// Gives up what is under way.
    virtual void stop() = 0;

    /// Whether the pointer moves something of what the canvas shows, which stays in place meanwhile.
    virtual bool isMoving() const { return false; }
    /// Over what lies under the pointer; none: the canvas's own.
    virtual std::optional<Qt::CursorShape> cursor() const { return {}; }
    /// In mm, on top of all.
    virtual void paint(QPainter& /*painter*/, double /*pixelsPerMillimetre*/) const {}
};

} // namespace hasami
