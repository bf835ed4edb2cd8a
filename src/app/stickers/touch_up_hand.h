#pragma once

#include "app/document/document.h"
#include "edge/touch_changes.h"

#include <QObject>

#include <optional>
#include <set>

namespace hasami {

/// Touching up the selected design's edge by hand: which line and nodes are held, and what is done with them.
/// Each change is one undo step. While the line is computed again, the change is shown at once.
class TouchUpHand : public QObject {
    Q_OBJECT
public:
    explicit TouchUpHand(Document& document, QObject* parent = nullptr);

    /// While off, clicks on the bench choose lines.
    bool isOn() const { return isOn_; }
    void setOn(bool on);

    /// The line that is held, with what was done to it last, in its item's own frame; nullptr while none is.
    const EdgeLoop* line() const;
    /// From the frame of the held line's item to mm of the design, in which all places are given.
    Affine toDesign() const;
    const std::set<std::size_t>& nodes() const { return nodes_; }

    /// What lies at a place, within `reach` mm: a handle of the one node held, a node, or a line.
    struct Target {
        enum class Kind { nothing, handleBefore, handleBehind, node, line } kind = Kind::nothing;
        std::size_t item = 0, loop = 0, node = 0;
        CurvePlace place;
    };
    Target at(Point place, double reach) const;

    /// Holds the target's line and node; with `more`, the node is held beside the others of its line, or let
    /// go.
    void hold(const Target& target, bool more);
    void letGo();
    void walk(int by); ///< holds the next node of the line

    // What is done. While something is dragged it is only shown, by `preview`; then it is done by `commit`.
    void preview(const Target& dragged, Point from, Point to);
    void previewDrawn(const std::vector<Point>& path);
    void commit();
    void drop(); ///< what was previewed

    void addNode(const Target& target);
    /// False, and nothing is done, if the path does not end on the line within `reach` mm.
    bool redraw(const std::vector<Point>& path, double reach);
    void moveBy(Point by);
    void remove();
    void makeCorners();
    void makeSmooth();
    void straighten();
    void span();
    void putBack();
    void putBackAll();

    bool canPutBack() const; ///< whether something was done by hand where nodes are held
    bool hasTouchUps() const;

    /// The path that is being drawn.
    const std::vector<Point>& drawn() const { return drawn_; }

Q_SIGNALS:
    void changed();

private:
    struct Held {
        std::size_t item, loop;
    };

    const MadeDesign* made() const;
    const EdgeLoop* foundLine() const;
    const Item* heldItem() const;
    Point own(Point place) const { return inverse(toDesign())(place); }
    void apply(const QString& label, const EdgeLoop& changed);
    void followMade();
    using BetweenTwo = EdgeLoop (*)(const EdgeLoop& line, std::size_t a, std::size_t b);
    void applyBetween(const QString& label, BetweenTwo change);
    template <class Change>
    void applyToNodes(const QString& label, Change change);

    Document& document_;
    bool isOn_ = false;
    std::optional<Held> held_;
    std::set<std::size_t> nodes_;
    std::optional<EdgeLoop> done_;    ///< what was done last, until it is made
    std::optional<EdgeLoop> preview_; ///< what is being dragged
    QString previewLabel_;
    std::vector<Point> drawn_;
};

} // namespace hasami
