#pragma once

#include "edge/touch_up.h"

#include <set>
#include <span>

namespace hasami {

/// Changes by hand. A node is the end of the segment with its number. Each gives the changed line, whose
/// pieces know that they were made by hand.
namespace touch {

/// The nodes and the handles at them, moved.
EdgeLoop moved(const EdgeLoop& line, const std::set<std::size_t>& nodes, Point by);

/// The handle before a node (`isBefore`) or behind it, put elsewhere. At a smooth node the other one stays in
/// line with it.
EdgeLoop withHandle(const EdgeLoop& line, std::size_t node, bool isBefore, Point place);

/// One more node; the line keeps its form.
EdgeLoop withNode(const EdgeLoop& line, const CurvePlace& place);

/// The nodes gone, the line as near as one piece can be to what it was. A line keeps two nodes.
EdgeLoop withoutNodes(const EdgeLoop& line, const std::set<std::size_t>& nodes);

/// The line leaves a corner straight towards the next handles, or passes through it smoothly.
EdgeLoop withCorners(const EdgeLoop& line, const std::set<std::size_t>& nodes);
EdgeLoop withSmooth(const EdgeLoop& line, const std::set<std::size_t>& nodes);

/// The shorter way between two nodes as a straight piece, or as one that goes on smoothly at both ends.
EdgeLoop straightened(const EdgeLoop& line, std::size_t a, std::size_t b);
EdgeLoop spanned(const EdgeLoop& line, std::size_t a, std::size_t b);

/// The shorter way between the ends of a drawn path, redrawn: its ends are put on the line, what is
/// between is fitted within the tolerance. REQUIRES: two points or more.
EdgeLoop redrawn(const EdgeLoop& line, std::span<const Point> drawn, double tolerance);

/// The stretches done by hand that hold or touch the nodes, as they were found.
EdgeLoop putBack(const EdgeLoop& line, const EdgeLoop& found, const std::set<std::size_t>& nodes);

/// Whether the line goes on in the same direction at a node.
bool isSmooth(const Curve& curve, std::size_t node);

} // namespace touch

} // namespace hasami
