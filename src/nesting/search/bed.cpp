#include "nesting/search/bed.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <utility>

namespace hasami::nesting {

namespace {

using std::numbers::pi;
constexpr double infinite = std::numeric_limits<double>::infinity();
constexpr double shallowPart = 0.01; // of a diameter: circles closer than this count a little
constexpr double longest = 1.1;      // of the length that cells were laid for
constexpr double decay = 0.95, leastGrowth = 1.2, mostGrowth = 2.0;

/// Powers of the decay; a weight is back at 1 long before the last.
const std::array<double, 512> fading = [] {
    std::array<double, 512> powers{1};
    for (std::size_t i = 1; i < powers.size(); ++i)
        powers[i] = powers[i - 1] * decay;
    return powers;
}();

std::uint64_t pairKey(std::uint32_t a, std::uint32_t b) {
    return a < b ? std::uint64_t(a) << 32 | b : std::uint64_t(b) << 32 | a;
}

} // namespace

Bed::Bed(const std::vector<Item>& items, std::vector<std::size_t> copies,
         const std::vector<Obstacle>& obstacles, const Box& room, bool isRoll)
    : items_(items), itemOf_(std::move(copies)), room_(room), isRoll_(isRoll) {
    for (const Item& item : items) {
        probeOf_.push_back(probes_.size());
        for (const Shape& shape : item.shapes) {
            probes_.emplace_back(shape);
            probings_.emplace_back(shape);
        }
    }
    std::vector<double> sizes;
    for (const std::size_t item : itemOf_) {
        const Shape& shape = items_[item].shapes.front();
        copies_.push_back({Placed(shape), {}, {}, 0, 1});
        sizes.push_back(shape.radius);
        largestRadius_ = std::max(largestRadius_, shape.radius);
    }
    for (const Obstacle& obstacle : obstacles) {
        Box box;
        for (const Loop& loop : obstacle.loops)
            box.add(bounds(loop));
        fixed_.push_back(
            {Placed(obstacle.loops, obstacle.poles), std::sqrt(box.width() * box.height()), obstacle.sheet});
        fixed_.back().placed.place({});
    }
    if (!sizes.empty()) {
        std::nth_element(sizes.begin(), sizes.begin() + std::ptrdiff_t(sizes.size() / 2), sizes.end());
        smallestCell_ = std::max(sizes[sizes.size() / 2] * 1.5, 1e-3);
    }
    visited_.assign(bodies(), 0);
    hints_.resize(bodies());
}

Box Bed::roomOn(int sheet) const {
    Box room = room_;
    if (sheet + 1 == sheets_)
        room.most.x = room.least.x + length_;
    return room;
}

double Bed::spreadOf(std::uint32_t body) const {
    return body < copies_.size() ? itemOf(body).shapes.front().spread : fixed_[body - copies_.size()].spread;
}

/// From poles alone: deep circles count by their depth, those that are close by ever less.
double Bed::pairLoss(std::uint32_t a, const Placed& placedA, std::uint32_t b) const {
    const Placed& placedB = placed(b);
    const double spread = std::sqrt(spreadOf(a) * spreadOf(b));
    const double shallow = shallowPart * 2 * std::max(spreadOf(a), spreadOf(b));
    return std::sqrt(placedA.depth(placedB, shallow) * pi + shallow * shallow) * spread;
}

double Bed::outsideLoss(const Placed& placed, int sheet, double spread) const {
    const Box room = roomOn(sheet);
    const Box& box = placed.box();
    if (room.holds(box))
        return 0;
    const double x = std::max({0.0, room.least.x - box.least.x, box.most.x - room.most.x});
    const double y = std::max({0.0, room.least.y - box.least.y, box.most.y - room.most.y});
    const double out = std::min(x, box.width()) * box.height() + std::min(y, box.height()) * box.width() +
                       (std::max(0.0, x - box.width()) + std::max(0.0, y - box.height())) * spread;
    const double shallow = shallowPart * 2 * spread;
    return 2 * std::sqrt(out + shallow * shallow) * spread;
}

double Bed::weightOf(std::uint32_t a, std::uint32_t b) const {
    const auto found = weights_.find(pairKey(a, b));
    if (found == weights_.end())
        return 1;
    const std::uint32_t sweeps = sweep_ - found->second.sweep;
    return sweeps < fading.size() ? std::max(1.0, double(found->second.value) * fading[sweeps]) : 1;
}

/// Every cell that the box meets, until `act` gives false.
template <class Act>
void Bed::eachCell(const Box& box, int sheet, Act act) {
    Cells& cells = cells_[std::size_t(sheet)];
    const int rows = int(cells.all.size()) / cells.columns;
    const auto column = [&](double x) {
        return std::clamp(int((x - room_.least.x) / cell_), 0, cells.columns - 1);
    };
    const auto row = [&](double y) { return std::clamp(int((y - room_.least.y) / cell_), 0, rows - 1); };
    const int right = column(box.most.x), bottom = row(box.most.y);
    for (int y = row(box.least.y); y <= bottom; ++y)
        for (int x = column(box.least.x); x <= right; ++x)
            if (!act(cells.all[std::size_t(y) * std::size_t(cells.columns) + std::size_t(x)]))
                return;
}

template <class Visit>
void Bed::visitNear(const Box& box, int sheet, Visit visit) {
    ++visit_;
    eachCell(box, sheet, [&](const std::vector<std::uint32_t>& cell) {
        return std::all_of(cell.begin(), cell.end(), [&](std::uint32_t body) {
            return std::exchange(visited_[body], visit_) == visit_ || visit(body);
        });
    });
}

void Bed::enter(std::uint32_t body, int sheet) {
    cover_.add(placed(body), sheet);
    eachCell(placed(body).box(), sheet, [&](std::vector<std::uint32_t>& cell) {
        cell.push_back(body);
        return true;
    });
}

void Bed::leave(std::uint32_t body, int sheet) {
    cover_.take(placed(body), sheet);
    eachCell(placed(body).box(), sheet, [&](std::vector<std::uint32_t>& cell) {
        const auto found = std::find(cell.begin(), cell.end(), body);
        *found = cell.back();
        cell.pop_back();
        return true;
    });
}

void Bed::layCells() {
    constexpr double mostCells = 1e6, mostCoverCells = 6e6; // in all: few parts on much medium need no more
    constexpr double coverPart = 1.0 / 30;
    const double area = room_.height() * ((sheets_ - 1) * (isRoll_ ? 0 : room_.width()) + length_);
    cell_ = std::max({smallestCell_, std::sqrt(area / mostCells), room_.height() / 2000, length_ / 20'000});
    cells_.assign(std::size_t(sheets_), {});
    const int rows = int(room_.height() / cell_) + 1;
    for (int sheet = 0; sheet < sheets_; ++sheet) {
        Cells& cells = cells_[std::size_t(sheet)];
        cells.columns = int(roomOn(sheet).width() / cell_) + 1;
        cells.all.resize(std::size_t(cells.columns) * std::size_t(rows));
    }
    cellsLength_ = length_;
    // Around each sheet there are cells as far as a shape reaches: much where a plank lies on a narrow roll.
    const double sheetArea = (room_.height() + 2 * largestRadius_) *
                             ((sheets_ > 1 ? room_.width() : longest * length_) + 2 * largestRadius_);
    const double coverCell =
        std::max(coverPart * smallestCell_, std::sqrt(sheets_ * sheetArea / mostCoverCells));
    cover_.lay(room_, longest * length_, sheets_, coverCell, largestRadius_);
    for (std::size_t i = 0; i < fixed_.size(); ++i)
        if (fixed_[i].sheet < sheets_)
            enter(std::uint32_t(copies_.size() + i), fixed_[i].sheet);
}

/// Tells the copy what it touches among those wanted, and those it.
template <class Wanted>
void Bed::findTouching(std::uint32_t self, Wanted wanted) {
    Copy& copy = copies_[self];
    visitNear(copy.placed.box(), copy.spot.sheet, [&](std::uint32_t other) {
        if (other == self || !wanted(other) || !placed(other).isNear(copy.placed))
            return true;
        if (copy.placed.polesMeet(placed(other)) || copy.placed.touches(placed(other))) {
            const double loss = pairLoss(self, copy.placed, other);
            copy.touching.push_back({other, loss});
            if (other < copies_.size())
                copies_[other].touching.push_back({self, loss});
        }
        return true;
    });
}

/// Copies that keep their places to each other have one number: 0 for those that stay where they are.
std::vector<std::ptrdiff_t> Bed::groupsTo(const Spots& spots) const {
    constexpr double told = 1e6; // ways are the same to a millionth of a millimetre
    std::vector<std::ptrdiff_t> groups(copies_.size());
    std::unordered_map<long long, std::ptrdiff_t> byWay;
    for (std::size_t i = 0; i < copies_.size(); ++i) {
        const Spot &from = copies_[i].spot, &to = spots.at[i];
        const bool staysInRow = isLaid_ && from.sheet == to.sheet && from.pose.y == to.pose.y &&
                                from.pose.rotation == to.pose.rotation &&
                                from.pose.isMirrored == to.pose.isMirrored;
        if (!staysInRow)
            groups[i] = -1 - std::ptrdiff_t(i);
        else if (from.pose.x != to.pose.x)
            groups[i] =
                byWay
                    .emplace(std::llround((to.pose.x - from.pose.x) * told), std::ptrdiff_t(byWay.size()) + 1)
                    .first->second;
    }
    return groups;
}

/// Only what changes its place to others is weighed again.
void Bed::put(const Spots& spots) {
    const bool fitsCells = isLaid_ && spots.sheets == sheets_ && spots.length < longest * cellsLength_ &&
                           spots.length > 0.8 * cellsLength_;
    const std::vector<std::ptrdiff_t> groups = groupsTo(spots);
    if (fitsCells)
        for (std::size_t i = 0; i < copies_.size(); ++i)
            if (groups[i] != 0)
                leave(std::uint32_t(i), copies_[i].spot.sheet);
    sheets_ = spots.sheets;
    length_ = spots.length;
    if (!fitsCells)
        layCells();
    cover_.setLength(length_);
    for (std::size_t i = 0; i < copies_.size(); ++i) {
        Copy& copy = copies_[i];
        const Spot& spot = spots.at[i];
        if (groups[i] < 0) {
            const auto& shapes = itemOf(i).shapes;
            if (shapes.size() > 1 && spot.pose.isMirrored != copy.spot.pose.isMirrored)
                copy.placed = Placed(shapes[spot.pose.isMirrored ? 1 : 0]);
            copy.placed.place(spot.pose);
        } else if (groups[i] > 0) {
            copy.placed.moveTo({spot.pose.x, spot.pose.y});
        }
        copy.spot = spot;
        if (!fitsCells || groups[i] != 0)
            enter(std::uint32_t(i), spot.sheet);
        std::erase_if(copy.touching, [&](const Touch& touch) {
            return touch.other < copies_.size() ? groups[touch.other] != groups[i] : groups[i] != 0;
        });
    }
    isLaid_ = true;
    for (std::uint32_t i = 0; i < copies_.size(); ++i) {
        if (groups[i] != 0)
            findTouching(i, [&](std::uint32_t other) {
                return other >= copies_.size() ||
                       (groups[other] != groups[i] && (groups[other] == 0 || other > i));
            });
        copies_[i].outside =
            outsideLoss(copies_[i].placed, copies_[i].spot.sheet, itemOf(i).shapes.front().spread);
    }
}

Spots Bed::spots() const {
    Spots spots{{}, sheets_, length_};
    spots.at.reserve(copies_.size());
    for (const Copy& copy : copies_)
        spots.at.push_back(copy.spot);
    return spots;
}

Spots Bed::usedSpots() const {
    Spots used = spots();
    used.sheets = 1;
    for (const Spot& spot : used.at)
        used.sheets = std::max(used.sheets, spot.sheet + 1);
    used.length = 0;
    for (const Copy& copy : copies_)
        if (copy.spot.sheet + 1 == used.sheets)
            used.length = std::max(used.length, copy.placed.box().most.x - room_.least.x);
    return used;
}

/// Computes again what the copy touches, and informs those.
void Bed::touchAnew(std::size_t number) {
    Copy& copy = copies_[number];
    const auto self = std::uint32_t(number);
    for (const Touch& touch : copy.touching)
        if (touch.other < copies_.size())
            std::erase_if(copies_[touch.other].touching, [&](const Touch& t) { return t.other == self; });
    copy.touching.clear();
    findTouching(self, [](std::uint32_t) { return true; });
    copy.outside = outsideLoss(copy.placed, copy.spot.sheet, itemOf(number).shapes.front().spread);
}

void Bed::move(std::size_t number, const Spot& spot) {
    Copy& copy = copies_[number];
    leave(std::uint32_t(number), copy.spot.sheet);
    const auto& shapes = itemOf(number).shapes;
    if (spot.pose.isMirrored != copy.spot.pose.isMirrored)
        copy.placed = Placed(shapes[spot.pose.isMirrored ? 1 : 0]);
    copy.spot = spot;
    copy.placed.place(spot.pose);
    enter(std::uint32_t(number), spot.sheet);
    touchAnew(number);
}

double Bed::loss() const {
    double twice = 0, once = 0;
    for (const Copy& copy : copies_) {
        for (const Touch& touch : copy.touching)
            (touch.other < copies_.size() ? twice : once) += touch.loss;
        once += copy.outside;
    }
    return twice / 2 + once;
}

bool Bed::isFree() const {
    for (std::size_t i = 0; i < copies_.size(); ++i)
        if (!isFree(i))
            return false;
    return true;
}

std::vector<std::size_t> Bed::troubled() const {
    std::vector<std::size_t> some;
    for (std::size_t i = 0; i < copies_.size(); ++i)
        if (!isFree(i))
            some.push_back(i);
    return some;
}

double Bed::costOf(std::size_t number) const {
    const Copy& copy = copies_[number];
    double cost = copy.outside * copy.outsideWeight;
    for (const Touch& touch : copy.touching)
        cost += touch.loss * weightOf(std::uint32_t(number), touch.other);
    return cost;
}

double Bed::costHere(std::size_t number, const Placed& here, const Spot& spot, double most) {
    ++evaluations_;
    const auto self = std::uint32_t(number);
    double cost =
        outsideLoss(here, spot.sheet, itemOf(number).shapes.front().spread) * copies_[number].outsideWeight;
    if (cost > most)
        return infinite;
    shallow_.clear();
    visitNear(here.box(), spot.sheet, [&](std::uint32_t other) {
        if (other == self || !placed(other).isNear(here))
            return true;
        if (here.polesMeet(placed(other)))
            cost += pairLoss(self, here, other) * weightOf(self, other);
        else
            shallow_.push_back(other);
        return cost <= most;
    });
    // Those first that it still meets where it did; mostly it costs too much by then.
    std::size_t rest = 0;
    for (std::size_t i = 0; i < shallow_.size() && cost <= most; ++i) {
        const std::uint32_t other = shallow_[i];
        if (here.touchesAt(placed(other), hints_[other]))
            cost += pairLoss(self, here, other) * weightOf(self, other);
        else
            shallow_[rest++] = other;
    }
    for (std::size_t i = 0; i < rest && cost <= most; ++i)
        if (here.touches(placed(shallow_[i]), hints_[shallow_[i]]))
            cost += pairLoss(self, here, shallow_[i]) * weightOf(self, shallow_[i]);
    return cost <= most ? cost : infinite;
}

Placed& Bed::probe(std::size_t copy, bool isMirrored) {
    return probes_[probeNumber(copy, isMirrored)];
}

double Bed::costAt(std::size_t copy, const Spot& spot, double most) {
    Placed& here = probe(copy, spot.pose.isMirrored);
    here.place(spot.pose);
    return costHere(copy, here, spot, most);
}

void Bed::weigh() {
    ++sweep_;
    double largest = 0;
    for (const Copy& copy : copies_) {
        largest = std::max(largest, copy.outside);
        for (const Touch& touch : copy.touching)
            largest = std::max(largest, touch.loss);
    }
    if (largest == 0)
        return;
    const auto growth = [&](double loss) {
        return leastGrowth + (mostGrowth - leastGrowth) * loss / largest;
    };
    for (std::uint32_t i = 0; i < copies_.size(); ++i) {
        Copy& copy = copies_[i];
        copy.outsideWeight =
            std::max(1.0, copy.outsideWeight * (copy.outside > 0 ? growth(copy.outside) : decay));
        for (const Touch& touch : copy.touching)
            if (touch.other > i)
                weights_[pairKey(i, touch.other)] = {float(weightOf(i, touch.other) * growth(touch.loss)),
                                                     sweep_};
    }
}

void Bed::forgetWeights() {
    weights_.clear();
    for (Copy& copy : copies_)
        copy.outsideWeight = 1;
}

} // namespace hasami::nesting
