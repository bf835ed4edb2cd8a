#include "app/sheet/piece_hand.h"

#include "app/kit/quantity_field.h"
#include "app/words/words.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <utility>

namespace hasami {

namespace {

/// Only designs whose count changes become the job's own.
template <class CountOf>
void setCounts(Job& job, const CountOf& countOf) {
    for (std::size_t i = 0; i < job.designs.size(); ++i) {
        const Design& design = std::as_const(job).designs[i];
        if (const int count = countOf(design); count != design.count)
            job.designs[i].count = count;
    }
}

constexpr std::size_t mostWays = 3;
constexpr std::size_t mostMeasured = 20; // of those held; distances of more would hold the drag up
constexpr double farthestWay = 60;       // mm: distances to neighbours farther off are not shown

} // namespace

PieceHand::PieceHand(Document& document, NestRun& nest, QObject* parent)
    : QObject(parent), document_(document), nest_(nest) {
    connect(&document, &Document::madeChanged, this, &PieceHand::follow);
    connect(&document, &Document::jobChanged, this, [this] {
        if (isOwnChange_ || document_.isMade())
            return;
        giveUp();
        rememberHeld();
        laid_.clear(); // until it is made
        Q_EMIT changed();
    });
    connect(&document, &Document::aboutToReset, this, [this] {
        held_.clear();
        heldIds_.clear();
    });
}

void PieceHand::follow() {
    if (!document_.isMade())
        return;
    copies_ = copiesOf(document_.job(), document_.made()->designs);
    rememberHeld();
    laid_ = laidOf(document_.made()->layout, copies_);
    held_.clear();
    for (std::size_t i = 0; i < laid_.size() && !heldIds_.empty(); ++i)
        if (heldIds_.contains(laid_[i].id()))
            held_.push_back(i);
    if (!dragged_)
        moving_.clear();
    around_.reset();
    Q_EMIT changed();
}

void PieceHand::rememberHeld() {
    if (laid_.empty())
        return;
    heldIds_.clear();
    for (const std::size_t number : held_)
        if (number < laid_.size())
            heldIds_.insert(laid_[number].id());
}

PieceArrangement PieceHand::arrangement() const {
    return {laid_, copies_, document_.job().plan, document_.job().profile};
}

bool PieceHand::isHeld(std::size_t number) const {
    return std::binary_search(held_.begin(), held_.end(), number);
}

bool PieceHand::arePinned() const {
    return !held_.empty() && !laid_.empty() &&
           std::all_of(held_.begin(), held_.end(), [this](std::size_t i) { return laid_[i].isPinned; });
}

void PieceHand::hold(Numbers numbers) {
    std::sort(numbers.begin(), numbers.end());
    numbers.erase(std::unique(numbers.begin(), numbers.end()), numbers.end());
    if (numbers == held_)
        return;
    held_ = std::move(numbers);
    around_.reset();
    if (held_.size() == 1 && !laid_.empty())
        document_.select(laid_[held_.front()].design);
    Q_EMIT changed();
}

void PieceHand::toggle(std::size_t number) {
    Numbers numbers = held_;
    if (!numbers.empty() && laid_.at(numbers.front()).sheet != laid_.at(number).sheet)
        numbers.clear();
    if (std::erase(numbers, number) == 0)
        numbers.push_back(number);
    hold(std::move(numbers));
}

void PieceHand::holdAll() {
    if (laid_.empty())
        return;
    const int sheet = held_.empty() ? 0 : laid_[held_.front()].sheet;
    Numbers numbers;
    for (std::size_t i = 0; i < laid_.size(); ++i)
        if (laid_[i].sheet == sheet)
            numbers.push_back(i);
    hold(std::move(numbers));
}

void PieceHand::walk(int by) {
    const int n = int(laid_.size());
    if (n > 0)
        hold({std::size_t(((held_.empty() ? (by > 0 ? -1 : 0) : int(held_.front())) + by + n) % n)});
}

/// What lies under the place, or has it in an opening that nothing else lies in.
std::optional<std::size_t> PieceHand::pieceAt(int sheet, Point place) const {
    std::optional<std::size_t> around;
    for (std::size_t i = laid_.size(); i-- > 0;) {
        if (laid_[i].sheet != sheet)
            continue;
        const auto copies = std::find_if(copies_.begin(), copies_.end(),
                                         [&](const Copies& c) { return c.design == laid_[i].design; });
        if (distance(laid_[i].centre, place) >
            std::hypot(copies->footprint.width(), copies->footprint.height()))
            continue;
        bool isInside = false, isAround = false;
        for (const Loop& loop : bodyOf(i).outline.loops)
            if (contains(loop, place)) {
                isInside = !isInside;
                isAround = true;
            }
        if (isInside)
            return i;
        if (isAround && !around)
            around = i;
    }
    return around;
}

PieceHand::Numbers PieceHand::piecesIn(int sheet, const Box& box) const {
    Numbers numbers;
    for (std::size_t i = 0; i < laid_.size(); ++i)
        if (laid_[i].sheet == sheet && box.meets({laid_[i].centre, laid_[i].centre}) &&
            box.holds(bodyOf(i).box))
            numbers.push_back(i);
    return numbers;
}

Box PieceHand::boxOfHeld() const {
    Box box;
    if (laid_.empty())
        return box;
    if (!isDragging())
        return arrangement().boxOf(held_);
    for (const Shown& shown : moving_)
        box.add(hasami::bodyOf(shown.piece, copies_).box);
    return box;
}

void PieceHand::drag(Point by, int sheet) {
    showDrag({by, sheet, 0});
}

void PieceHand::dragTurn(double degrees) {
    if (!held_.empty() && !laid_.empty())
        showDrag({{}, laid_[held_.front()].sheet, degrees});
}

void PieceHand::showDrag(const Drag& drag) {
    if (held_.empty() || laid_.empty())
        return;
    dragged_ = drag;
    PieceArrangement moved = arrangement();
    if (drag.turn != 0)
        moved.turn(held_, drag.turn);
    moved.move(held_, drag.by, drag.sheet);
    if (!around_ || aroundSheet_ != drag.sheet) {
        around_.emplace(laid_, copies_, document_.job().plan, document_.job().profile, drag.sheet, held_);
        aroundSheet_ = drag.sheet;
    }
    moving_.clear();
    hindering_.clear();
    ways_.clear();
    for (const std::size_t i : held_) {
        const Body body = hasami::bodyOf(moved.laid()[i], copies_);
        const Numbers others = around_->tooClose(body);
        hindering_.insert(hindering_.end(), others.begin(), others.end());
        moving_.push_back({i, moved.laid()[i], !others.empty() || !around_->isFree(body)});
        if (held_.size() <= mostMeasured && !moving_.back().collides) {
            const auto ways = around_->waysToNearest(body, mostWays, farthestWay);
            ways_.insert(ways_.end(), ways.begin(), ways.end());
        }
    }
    std::sort(ways_.begin(), ways_.end(),
              [](const ShortestWay& a, const ShortestWay& b) { return a.length < b.length; });
    ways_.resize(std::min(ways_.size(), mostWays));
    Q_EMIT changed();
}

PieceHand::Numbers PieceHand::hindering() const {
    return hindering_;
}

QString PieceHand::readout() const {
    if (!dragged_)
        return {};
    if (dragged_->turn != 0)
        return quantityText(dragged_->turn, QuantityKind::angle);
    const LengthUnit unit = document_.job().unit;
    return quantityText(dragged_->by.x, QuantityKind::length, unit) + ", " +
           quantityText(dragged_->by.y, QuantityKind::length, unit);
}

void PieceHand::drop() {
    if (!dragged_)
        return;
    const Drag drag = *dragged_;
    giveUp(); // a sentence may say that nothing is moved
    if (laid_.empty() || (drag.by == Point{} && drag.turn == 0 && drag.sheet == laid_[held_.front()].sheet))
        return;
    edit(drag.turn != 0 ? tr("Turn %1") : tr("Move %1"), [&](PieceArrangement& pieces) {
        if (drag.turn != 0)
            pieces.turn(held_, drag.turn);
        pieces.move(held_, drag.by, drag.sheet);
    });
}

void PieceHand::giveUp() {
    if (!dragged_)
        return;
    dragged_.reset();
    around_.reset();
    moving_.clear();
    hindering_.clear();
    ways_.clear();
    Q_EMIT changed();
}

QString PieceHand::heldText() const {
    return counted(held_.size(), "%1 sticker", "%1 stickers");
}

/// Changes the held ones, and puts them to the nearest free place where they lie on others. Where there is
/// none, nothing is changed.
void PieceHand::edit(const QString& label, const Change& change) {
    nest_.stop();
    if (held_.empty() || laid_.empty())
        return;
    PieceArrangement pieces = arrangement();
    change(pieces);
    const LaidPiece before = laid_[held_.front()], asked = pieces.laid()[held_.front()];
    const bool hasRoom = pieces.makeRoom(held_);
    const Point found = pieces.laid()[held_.front()].centre;
    const bool wasNearer = before.sheet == asked.sheet && before.turn == asked.turn &&
                           distance(before.centre, asked.centre) < distance(found, asked.centre);
    if (!hasRoom || wasNearer) {
        Q_EMIT told(tr("There is no room for %1 there: nothing was moved.").arg(heldText()));
        return;
    }
    enter(label.arg(heldText()), pieces.laid());
}

void PieceHand::enter(const QString& label, std::vector<LaidPiece> laid,
                      const std::function<void(Job&)>& also) {
    moving_.clear();
    for (const std::size_t i : held_)
        if (i < laid.size())
            moving_.push_back({i, laid[i]});
    // What moved to another sheet changes its number.
    std::vector<std::size_t> order(laid.size());
    for (std::size_t i = 0; i < order.size(); ++i)
        order[i] = i;
    std::stable_sort(order.begin(), order.end(),
                     [&](std::size_t a, std::size_t b) { return laid[a].sheet < laid[b].sheet; });
    std::vector<LaidPiece> sorted;
    Numbers held;
    for (std::size_t i = 0; i < order.size(); ++i) {
        sorted.push_back(laid[order[i]]);
        if (isHeld(order[i]))
            held.push_back(i);
    }
    isOwnChange_ = true;
    document_.endRun();
    document_.change(label, [&](Job& job) {
        job.plan.packing = Packing::nest;
        job.plan.laid = sorted;
        setCounts(job, [sets = job.plan.sets](const Design& design) {
            return std::min(design.count * sets, Limits::mostCopies);
        });
        job.plan.sets = 1;
        if (also)
            also(job);
    });
    isOwnChange_ = false;
    laid_ = std::move(sorted);
    held_ = std::move(held);
    around_.reset();
    Q_EMIT changed();
}

void PieceHand::nudge(Point by) {
    edit(tr("Move %1"), [&](PieceArrangement& pieces) { pieces.move(held_, by); });
}

void PieceHand::turnBy(double degrees) {
    edit(tr("Turn %1"), [&](PieceArrangement& pieces) { pieces.turn(held_, degrees); });
}

void PieceHand::setTurn(double degrees) {
    if (held_.size() == 1 && !laid_.empty())
        turnBy(degrees - laid_[held_.front()].turn);
}

void PieceHand::setCentre(Point centre) {
    if (held_.size() == 1 && !laid_.empty())
        nudge(centre - laid_[held_.front()].centre);
}

void PieceHand::pin(bool isPinned) {
    nest_.stop();
    if (held_.empty() || laid_.empty())
        return;
    PieceArrangement pieces = arrangement();
    pieces.pin(held_, isPinned);
    enter((isPinned ? tr("Pin %1") : tr("Unpin %1")).arg(heldText()), pieces.laid());
}

void PieceHand::align(Alignment alignment) {
    nest_.stop();
    if (held_.empty() || laid_.empty())
        return;
    PieceArrangement pieces = arrangement();
    pieces.align(held_, alignment);
    enter(tr("Align %1").arg(heldText()), pieces.laid());
}

void PieceHand::remove() {
    nest_.stop();
    if (held_.empty() || laid_.empty())
        return;
    std::map<std::string, int> fewer;
    std::vector<LaidPiece> rest;
    for (std::size_t i = 0; i < laid_.size(); ++i)
        if (isHeld(i))
            ++fewer[laid_[i].design];
        else
            rest.push_back(laid_[i]);
    const QString label = tr("Take out %1").arg(heldText());
    held_.clear();
    enter(label, std::move(rest), [&](Job& job) {
        setCounts(job, [&](const Design& design) { return std::max(0, design.count - fewer[design.id]); });
    });
}

void PieceHand::duplicate() {
    nest_.stop();
    if (held_.empty() || laid_.empty())
        return;
    PieceArrangement pieces = arrangement();
    const Numbers made = pieces.duplicate(held_);
    if (made.size() < held_.size())
        Q_EMIT told(tr("There is room for %1 of %2 more on this sheet.").arg(made.size()).arg(held_.size()));
    if (made.empty())
        return;
    std::map<std::string, int> more;
    for (const std::size_t i : made)
        ++more[pieces.laid()[i].design];
    held_ = made;
    enter(tr("Duplicate %1").arg(heldText()), pieces.laid(), [&](Job& job) {
        setCounts(job, [&](const Design& design) { return design.count + more[design.id]; });
    });
}

void PieceHand::pushApart() {
    nest_.stop();
    if (!document_.isMade() || laid_.empty())
        return;
    const Layout& layout = document_.made()->layout;
    std::vector<std::size_t> firsts{0};
    for (const Sheet& sheet : layout.sheets)
        firsts.push_back(firsts.back() + sheet.pieces.size());
    Numbers numbers;
    for (const Conflict& conflict : layout.conflicts)
        numbers.push_back(firsts[conflict.sheet] +
                          (conflict.with == Conflict::With::piece ? conflict.other : conflict.piece));
    std::sort(numbers.begin(), numbers.end());
    numbers.erase(std::unique(numbers.begin(), numbers.end()), numbers.end());
    PieceArrangement pieces = arrangement();
    const std::size_t lost = pieces.pushApart(numbers);
    if (lost > 0)
        Q_EMIT told(counted(lost, "There is no room for %1 sticker on its sheet.",
                            "There is no room for %1 stickers on their sheets."));
    held_ = numbers;
    enter(tr("Push %1 apart").arg(heldText()), pieces.laid());
}

void PieceHand::layOutAgain() {
    nest_.stop();
    if (!document_.isMade())
        return;
    const Numbers lieBadly = misplaced(document_.made()->layout);
    std::vector<LaidPiece> staying;
    for (std::size_t i = 0; i < laid_.size(); ++i)
        if (laid_[i].isPinned && !std::binary_search(lieBadly.begin(), lieBadly.end(), i))
            staying.push_back(laid_[i]);
    held_.clear();
    enter(tr("Lay out again"), std::move(staying));
}

} // namespace hasami
