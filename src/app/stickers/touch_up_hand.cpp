#include "app/stickers/touch_up_hand.h"

#include "app/document/step_state.h"
#include "app/kit/quantity_field.h"
#include "app/words/words.h"

#include <algorithm>

namespace hasami {

namespace {

Point nodeOf(const EdgeLoop& line, std::size_t node) {
    return line.curve.segments[node].end;
}

std::size_t nearestNode(const EdgeLoop& line, Point to) {
    std::size_t best = 0;
    for (std::size_t i = 1; i < line.curve.segments.size(); ++i)
        if (distance(nodeOf(line, i), to) < distance(nodeOf(line, best), to))
            best = i;
    return best;
}

} // namespace

TouchUpHand::TouchUpHand(Document& document, QObject* parent) : QObject(parent), document_(document) {
    connect(&document, &Document::madeChanged, this, &TouchUpHand::followMade);
    connect(&document, &Document::selectionChanged, this, &TouchUpHand::letGo);
}

void TouchUpHand::setOn(bool on) {
    if (on == isOn_)
        return;
    isOn_ = on;
    letGo();
}

const MadeDesign* TouchUpHand::made() const {
    const Design* design = document_.selectedDesign();
    const MadeDesign* made = design ? document_.newest(design->id) : nullptr;
    if (!made || !(made->artwork == design->artwork) || design->recipe.edge.way == EdgeWay::shape)
        return nullptr;
    return made;
}

const EdgeLoop* TouchUpHand::line() const {
    if (preview_)
        return &*preview_;
    if (done_)
        return &*done_;
    const MadeDesign* made = this->made();
    if (!held_ || !made || held_->item >= made->loops.size() ||
        held_->loop >= made->loops[held_->item]->size())
        return nullptr;
    return &(*made->loops[held_->item])[held_->loop];
}

const EdgeLoop* TouchUpHand::foundLine() const {
    const MadeDesign* made = this->made();
    if (!held_ || !made || held_->item >= made->found.size() ||
        held_->loop >= made->found[held_->item]->size())
        return nullptr;
    return &(*made->found[held_->item])[held_->loop];
}

const Item* TouchUpHand::heldItem() const {
    const Design* design = document_.selectedDesign();
    return held_ && design && held_->item < design->artwork.items.size() ? &design->artwork.items[held_->item]
                                                                         : nullptr;
}

Affine TouchUpHand::toDesign() const {
    const Item* item = heldItem();
    return item ? item->toDesign() : Affine{};
}

TouchUpHand::Target TouchUpHand::at(Point inDesign, double reach) const {
    Point place = own(inDesign);
    using Kind = Target::Kind;
    Target best;
    double least = reach;
    const auto offer = [&](Kind kind, std::size_t item, std::size_t loop, std::size_t node, Point p) {
        if (const double d = distance(p, place); d <= least) {
            least = d;
            best = {kind, item, loop, node, {}};
        }
    };
    if (const EdgeLoop* own = line(); own && nodes_.size() == 1) {
        const std::size_t node = *nodes_.begin();
        const CurveSegment &in = own->curve.segments[node],
                           &out = own->curve.segments[(node + 1) % own->curve.segments.size()];
        if (!in.straight)
            offer(Kind::handleBefore, held_->item, held_->loop, node, in.control2);
        if (!out.straight)
            offer(Kind::handleBehind, held_->item, held_->loop, node, out.control1);
        if (best.kind != Kind::nothing && least < distance(nodeOf(*own, node), place))
            return best;
        best = {};
        least = reach;
    }
    const MadeDesign* made = this->made();
    if (!made)
        return best;
    std::optional<Target> onLine;
    double leastToLine = reach;
    for (std::size_t item = 0; item < made->loops.size(); ++item) {
        place = inverse(made->artwork.items[item].toDesign())(inDesign);
        for (std::size_t loop = 0; loop < made->loops[item]->size(); ++loop) {
            const bool isHeld = held_ && held_->item == item && held_->loop == loop;
            const EdgeLoop& candidate = isHeld ? *line() : (*made->loops[item])[loop];
            const bool mayBeFar = !candidate.byHand.empty(); // by hand it may leave its box
            if (!mayBeFar && !candidate.facts.box.grownBy(reach).meets({place, place}))
                continue;
            for (std::size_t node = 0; node < candidate.curve.segments.size(); ++node)
                offer(Kind::node, item, loop, node, nodeOf(candidate, node));
            const CurvePlace near = nearestPlace(candidate.curve, place);
            if (const double d = distance(pointAt(candidate.curve, near), place); d <= leastToLine) {
                leastToLine = d;
                onLine = Target{Kind::line, item, loop, 0, near};
            }
        }
    }
    return best.kind == Kind::nothing && onLine ? *onLine : best;
}

void TouchUpHand::hold(const Target& target, bool more) {
    const bool sameLine = held_ && held_->item == target.item && held_->loop == target.loop;
    if (!sameLine) {
        done_.reset();
        nodes_.clear();
    }
    held_ = Held{target.item, target.loop};
    if (target.kind == Target::Kind::node) {
        if (more && nodes_.contains(target.node)) {
            nodes_.erase(target.node);
        } else {
            if (!more && !nodes_.contains(target.node))
                nodes_.clear();
            nodes_.insert(target.node);
        }
    } else if (target.kind == Target::Kind::line && !more) {
        nodes_.clear();
    }
    Q_EMIT changed();
}

void TouchUpHand::letGo() {
    held_.reset();
    nodes_.clear();
    done_.reset();
    preview_.reset();
    drawn_.clear();
    Q_EMIT changed();
}

void TouchUpHand::walk(int by) {
    const EdgeLoop* own = line();
    if (!own) {
        const MadeDesign* made = this->made();
        if (!made || made->loops.empty() || made->loops.front()->empty())
            return;
        held_ = Held{0, 0};
        own = line();
    }
    const int n = int(own->curve.segments.size());
    const int now = nodes_.empty() ? (by > 0 ? -1 : 0) : int(*nodes_.begin());
    nodes_ = {std::size_t((now + by + n) % n)};
    Q_EMIT changed();
}

void TouchUpHand::preview(const Target& dragged, Point from, Point to) {
    drop();
    const EdgeLoop* line = this->line();
    if (!line)
        return;
    using Kind = Target::Kind;
    if (dragged.kind == Kind::node) {
        preview_ = touch::moved(*line, nodes_, own(to) - own(from));
        previewLabel_ = counted(nodes_.size(), "Move %1 point", "Move %1 points");
    } else {
        preview_ = touch::withHandle(*line, dragged.node, dragged.kind == Kind::handleBefore, own(to));
        previewLabel_ = tr("Bend the line");
    }
    Q_EMIT changed();
}

void TouchUpHand::previewDrawn(const std::vector<Point>& path) {
    drawn_ = path;
    Q_EMIT changed();
}

void TouchUpHand::drop() {
    preview_.reset();
    drawn_.clear();
}

void TouchUpHand::commit() {
    if (preview_)
        apply(previewLabel_, *std::exchange(preview_, {}));
}

void TouchUpHand::apply(const QString& label, const EdgeLoop& changed) {
    const MadeDesign* made = this->made();
    const EdgeLoop* found = foundLine();
    if (!made || !found)
        return;
    const Held held = *held_;
    const std::string id = document_.selected();
    document_.endRun();
    done_ = changed;
    const std::vector<EdgeLoop> all = *made->found[held.item];
    document_.change(label, [&](Job& job) {
        Design* design = job.find(id);
        if (!design)
            return;
        std::vector<TouchUp>& touchUps = design->recipe.edge.touchUps;
        const hasami::Box artwork = design->artwork.items[held.item].wholeBox();
        const TouchedLines before =
            applyTouchUps(all, forItem(design->recipe.edge, held.item).touchUps, artwork);
        std::vector<TouchUp> kept;
        std::size_t ofItem = 0;
        for (const TouchUp& touchUp : touchUps)
            if (std::size_t(touchUp.item) != held.item || before.loopOf[ofItem++] != held.loop)
                kept.push_back(touchUp);
        for (TouchUp& touchUp : touchUpsOf(all[held.loop], changed, artwork)) {
            touchUp.item = int(held.item);
            kept.push_back(std::move(touchUp));
        }
        touchUps = std::move(kept);
    });
    Q_EMIT this->changed();
}

void TouchUpHand::followMade() {
    if (preview_)
        return;
    const Design* design = document_.selectedDesign();
    if (!design || !isMadeFor(RecipeStep::edge, *design, document_.newest(design->id)))
        return;
    // The made line may count its nodes from elsewhere: those held are found again by their places.
    std::vector<Point> places;
    if (const EdgeLoop* own = line())
        for (const std::size_t node : nodes_)
            if (node < own->curve.segments.size())
                places.push_back(nodeOf(*own, node));
    done_.reset();
    nodes_.clear();
    if (const EdgeLoop* own = line())
        for (const Point p : places)
            nodes_.insert(nearestNode(*own, p));
    else
        held_.reset();
    Q_EMIT changed();
}

void TouchUpHand::addNode(const Target& target) {
    hold(target, false);
    const EdgeLoop* own = line();
    if (!own)
        return;
    const Point place = pointAt(own->curve, target.place);
    const EdgeLoop more = touch::withNode(*own, target.place);
    apply(tr("Add a point"), more);
    nodes_ = {nearestNode(more, place)};
    Q_EMIT changed();
}

bool TouchUpHand::redraw(const std::vector<Point>& path, double reach) {
    drawn_.clear();
    const EdgeLoop* own = line();
    const Design* design = document_.selectedDesign();
    Q_EMIT changed();
    if (!own || !design || path.size() < 2)
        return false;
    std::vector<Point> ownPath;
    for (const Point p : path)
        ownPath.push_back(this->own(p));
    const Point end = pointAt(own->curve, nearestPlace(own->curve, ownPath.back()));
    if (distance(end, ownPath.back()) > reach)
        return false;
    // As fine as the screen that it was drawn on.
    apply(tr("Redraw a stretch"), touch::redrawn(*own, ownPath, reach / 12));
    nodes_.clear();
    Q_EMIT changed();
    return true;
}

template <class Change>
void TouchUpHand::applyToNodes(const QString& label, Change change) {
    if (const EdgeLoop* own = line(); own && !nodes_.empty())
        apply(label, change(EdgeLoop(*own)));
}

void TouchUpHand::moveBy(Point by) {
    const Point ownBy = own(by) - own({});
    applyToNodes(counted(nodes_.size(), "Move %1 point", "Move %1 points"),
                 [&](const EdgeLoop& own) { return touch::moved(own, nodes_, ownBy); });
}

void TouchUpHand::remove() {
    const std::set<std::size_t> nodes = std::exchange(nodes_, {});
    const EdgeLoop* own = line();
    if (own && !nodes.empty())
        apply(counted(nodes.size(), "Remove %1 point", "Remove %1 points"), touch::withoutNodes(*own, nodes));
}

void TouchUpHand::makeCorners() {
    applyToNodes(counted(nodes_.size(), "Make %1 point a corner", "Make %1 points corners"),
                 [&](const EdgeLoop& own) { return touch::withCorners(own, nodes_); });
}

void TouchUpHand::makeSmooth() {
    applyToNodes(counted(nodes_.size(), "Make %1 point smooth", "Make %1 points smooth"),
                 [&](const EdgeLoop& own) { return touch::withSmooth(own, nodes_); });
}

/// A change of the way between the two nodes held, which stay held.
void TouchUpHand::applyBetween(const QString& label, BetweenTwo change) {
    if (nodes_.size() != 2)
        return;
    applyToNodes(label, [&](const EdgeLoop& own) {
        const Point places[] = {nodeOf(own, *nodes_.begin()), nodeOf(own, *nodes_.rbegin())};
        EdgeLoop changed = change(own, *nodes_.begin(), *nodes_.rbegin());
        nodes_ = {nearestNode(changed, places[0]), nearestNode(changed, places[1])};
        return changed;
    });
}

void TouchUpHand::straighten() {
    applyBetween(tr("Straighten a stretch"), touch::straightened);
}

void TouchUpHand::span() {
    applyBetween(tr("Span a gap"), touch::spanned);
}

bool TouchUpHand::canPutBack() const {
    const EdgeLoop* own = line();
    if (!own || own->byHand.empty())
        return false;
    const std::size_t n = own->byHand.size();
    return std::any_of(nodes_.begin(), nodes_.end(), [&](std::size_t node) {
        return node < n && (own->byHand[node] || own->byHand[(node + 1) % n]);
    });
}

bool TouchUpHand::hasTouchUps() const {
    const Design* design = document_.selectedDesign();
    return design && !design->recipe.edge.touchUps.empty();
}

void TouchUpHand::putBack() {
    const EdgeLoop *own = line(), *found = foundLine();
    if (!own || !found || !canPutBack())
        return;
    const EdgeLoop back = touch::putBack(*own, *found, nodes_);
    nodes_.clear();
    apply(tr("Put a stretch back"), back);
}

void TouchUpHand::putBackAll() {
    const std::string id = document_.selected();
    letGo();
    document_.endRun();
    document_.change(tr("Put all touch-ups back"), [&](Job& job) {
        if (Design* design = job.find(id))
            design->recipe.edge.touchUps.clear();
    });
}

} // namespace hasami
