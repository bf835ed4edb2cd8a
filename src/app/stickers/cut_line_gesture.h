#pragma once

#include "app/document/document.h"

#include <QPainter>

#include <functional>
#include <optional>

namespace hasami {

/// What the pointer does in Cut lines: draws the sides of a plain shape in and out, and puts, moves and takes
/// away the tabs of a perforated line. Places are in mm, `reach` is how far the pointer may miss.
class CutLineGesture {
public:
    /// `line`: the recipe's line that is chosen in the step's list.
    CutLineGesture(Document& document, std::function<std::size_t()> line)
        : document_(document), line_(std::move(line)) {}

    /// False if there is nothing to take hold of.
    bool press(Point at, double reach);
    void move(Point at);
    void release();
    void stop();
    bool isDragging() const { return pressed_.has_value(); }

    /// What the pointer would take hold of; true if that changed.
    bool hover(Point at, double reach);
    Qt::CursorShape cursor() const;

    /// Page Up and Down walk the tabs; arrows move the tab under the pointer, or the one walked to, along the
    /// line (with Shift in longer steps), Insert puts another behind it, Delete takes it away; Escape puts a
    /// drag back. True if the key did something.
    bool key(int key, bool shift);

    void paint(QPainter& painter, double pixelsPerMillimetre) const;

private:
    struct Target {
        enum class What { nothing, side, tab, line } what = What::nothing;
        std::size_t number = 0; ///< of the side, clockwise from the left; of the tab, among all of the line
        friend bool operator==(const Target&, const Target&) = default;
    };

    const LineRecipe* line() const;
    std::vector<CutLine> cuts() const; ///< that follow from the chosen line
    Box shapeBox() const;
    std::vector<Point> tabMiddles() const;
    std::vector<Point> places() const;
    std::optional<std::size_t> held(const std::vector<Point>& of) const;
    bool walk(int by);
    bool moveHeld(double by);
    bool addBehindHeld();
    bool removeHeld();
    Point alongLine(Point from, double by) const;
    void put(const QString& label, const std::vector<Point>& places, const QString& run = {});
    Target at(Point place, double reach) const;
    void change(const QString& label, const std::function<void(Design&, LineRecipe&)>& change,
                const QString& run = {});
    Point partsOf(const Design& design, Point place) const;

    Document& document_;
    std::function<std::size_t()> line_;
    Target under_, dragged_;
    std::optional<Point> held_; ///< where the tab is that keys act on
    std::optional<Point> pressed_;
    Stretch from_;
};

} // namespace hasami
