#pragma once

#include "app/document/document.h"
#include "app/stickers/bench_tool.h"

#include <functional>
#include <optional>

namespace hasami {

/// What the pointer does in Cut lines with a line that is drawn by hand: two clicks draw it; its ends and
/// corners are dragged, and where the line itself is pressed it gets another corner. With Shift its pieces go
/// by steps of 15 degrees; with Control a click draws it on from its nearer end.
class DrawnLineTool : public BenchTool {
public:
    /// `line`: the recipe's line that is chosen in the step's list.
    DrawnLineTool(Document& document, std::function<std::size_t()> line)
        : document_(document), line_(std::move(line)) {}

    bool isFor(RecipeStep step) const override;
    bool press(const PointerPlace& pointer) override;
    void move(const PointerPlace& pointer) override;
    void release(const PointerPlace& pointer) override;
    void stop() override;
    bool isMoving() const override { return isDragging_; }
    std::optional<Qt::CursorShape> cursor() const override;

    /// Page Up and Down walk the corners; arrows move the one walked to (with Shift farther), Insert puts
    /// another behind it, Delete takes it away. Where nothing is drawn yet, Insert draws a line through the
    /// middle. Escape puts a drag, or the first click, back.
    bool key(int key, bool shift) override;

    void paint(QPainter& painter, double pixelsPerMillimetre) const override;

private:
    using Points = std::vector<Point>; ///< mm of the design

    const LineRecipe* line() const;
    Points points() const;
    void put(const QString& label, const Points& points, const QString& run = {});
    std::optional<std::size_t> pointAt(const Points& points, const PointerPlace& pointer) const;
    std::optional<std::size_t> pieceAt(const Points& points, const PointerPlace& pointer) const;
    bool pressPoint(const Points& points, const PointerPlace& pointer);
    void drawOn(Points points, Point to);
    void drawThroughMiddle();
    bool moveHeld(Point by);
    bool addBehindHeld();
    bool removeHeld();

    Document& document_;
    std::function<std::size_t()> line_;
    std::optional<Point> first_; ///< of the two clicks
    Point under_;                ///< where the pointer is
    std::optional<std::size_t> held_;
    bool isOverLine_ = false, isDragging_ = false;
};

} // namespace hasami
