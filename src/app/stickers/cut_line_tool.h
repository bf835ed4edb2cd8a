#pragma once

#include "app/document/document.h"
#include "app/stickers/bench_tool.h"

#include <QPainter>

#include <functional>
#include <optional>

namespace hasami {

/// What the pointer does in Cut lines: draws the sides of a plain shape in and out, and puts, moves and takes
/// away the tabs of a perforated line.
class CutLineTool : public BenchTool {
public:
    /// `line`: the recipe's line that is chosen in the step's list.
    CutLineTool(Document& document, std::function<std::size_t()> line)
        : document_(document), line_(std::move(line)) {}

    bool isFor(RecipeStep step) const override { return step == RecipeStep::cutLines; }
    bool press(const PointerPlace& pointer) override;
    void move(const PointerPlace& pointer) override;
    void release(const PointerPlace& pointer) override;
    void stop() override;
    bool isMoving() const override { return pressed_.has_value(); }
    std::optional<Qt::CursorShape> cursor() const override;

    /// Page Up and Down walk the tabs; arrows move the tab under the pointer, or the one walked to, along the
    /// line (with Shift in longer steps), Insert puts another behind it, Delete takes it away; Escape puts a
    /// drag back.
    bool key(int key, bool shift) override;

    void paint(QPainter& painter, double pixelsPerMillimetre) const override;

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
