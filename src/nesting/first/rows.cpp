#include "nesting/first/rows.h"

#include "base/translation.h"

#include <algorithm>
#include <cmath>

namespace hasami::nesting {

namespace {

constexpr double boxGap = 1e-6; // mm boxGap boxes that would touch

/// The turn, and whether mirrored, in which the box takes the least of the medium's length for its width.
struct BestTurn {
    double turn = 0;
    bool isMirrored = false;
    Box box;
};

BestTurn flattest(const Item& item, const Box& room) {
    BestTurn best;
    double least = 1e300;
    for (const bool isMirrored : {false, true}) {
        if (isMirrored && item.shapes.size() < 2)
            continue;
        for (const double turn : item.turns) {
            const Box box = turnedBox(item.shapes[isMirrored ? 1 : 0], turn);
            if (box.width() > room.width() || box.height() > room.height())
                continue;
            const double inRow = std::floor(room.height() / (box.height() + boxGap));
            const double each = box.width() / std::max(1.0, inRow);
            if (each < least) {
                least = each;
                best = {turn, isMirrored, box};
            }
        }
    }
    return best;
}

/// Puts boxes in rows, past what is blocked.
class Shelves {
public:
    Shelves(const Ground& ground, int sheet, double x) : ground_(ground) {
        for (const Obstacle& obstacle : ground.obstacles) {
            Box box;
            for (const Loop& loop : obstacle.loops)
                box.add(bounds(loop));
            blocked_.emplace_back(obstacle.sheet, box);
        }
        startSheet(sheet);
        x_ = std::max(x_, x);
    }

    /// False where there are too many sheets.
    bool add(const BestTurn& turn, Spot& spot) {
        while (true) {
            if (sheet_ >= Limits::mostSheets)
                return false;
            if (y_ + turn.box.height() > ground_.room.most.y + slack / 2) {
                nextRow();
                continue;
            }
            if (x_ + turn.box.width() > ground_.room.most.x + slack / 2) {
                startSheet(sheet_ + 1);
                continue;
            }
            const Box box{{x_, y_}, {x_ + turn.box.width(), y_ + turn.box.height()}};
            if (const Box* other = blockedBy(box)) {
                // Past the obstacle across, or, where no row fits beside it, past it along.
                y_ = other->most.y + boxGap;
                past_ = past_ == 0 ? other->most.x : std::min(past_, other->most.x);
                continue;
            }
            spot.sheet = sheet_;
            spot.pose = {x_ - turn.box.least.x, y_ - turn.box.least.y, turn.turn, turn.isMirrored};
            y_ += turn.box.height() + boxGap;
            depth_ = std::max(depth_, turn.box.width());
            isRowUsed_ = true;
            return true;
        }
    }

private:
    void startSheet(int sheet) {
        sheet_ = sheet;
        x_ = ground_.room.least.x;
        y_ = ground_.room.least.y;
        depth_ = past_ = 0;
        isRowUsed_ = false;
    }

    void nextRow() {
        if (isRowUsed_)
            x_ += depth_ + boxGap;
        else
            x_ = std::max(x_, past_) + boxGap; // nothing but obstacles
        y_ = ground_.room.least.y;
        depth_ = past_ = 0;
        isRowUsed_ = false;
    }

    const Box* blockedBy(const Box& box) const {
        for (const auto& [sheet, other] : blocked_)
            if (sheet == sheet_ && other.meets(box))
                return &other;
        return nullptr;
    }

    const Ground& ground_;
    std::vector<std::pair<int, Box>> blocked_;
    int sheet_ = 0;
    double x_ = 0, y_ = 0, depth_ = 0, past_ = 0;
    bool isRowUsed_ = false;
};

} // namespace

Start rows(const Ground& ground) {
    Start start;
    std::vector<std::pair<double, std::size_t>> order;
    std::vector<BestTurn> turns(ground.items.size());
    for (std::size_t i = 0; i < ground.items.size(); ++i) {
        const Item& item = ground.items[i];
        if (item.copies == 0)
            continue;
        if (item.turns.empty()) {
            start.notPlaced.push_back(
                {item.part, item.copies, translated("it is larger than the medium inside its margin")});
            continue;
        }
        turns[i] = flattest(item, ground.room);
        order.emplace_back(-turns[i].box.width(), i);
    }
    std::sort(order.begin(), order.end());
    Shelves shelves(ground, 0, ground.room.least.x);
    for (const auto& [width, i] : order)
        for (int copy = 0; copy < ground.items[i].copies; ++copy) {
            Spot spot;
            if (!shelves.add(turns[i], spot)) {
                start.notPlaced.push_back(
                    {ground.items[i].part, ground.items[i].copies - copy,
                     sentence("more than %1 sheets would be needed", std::to_string(Limits::mostSheets))});
                break;
            }
            start.copies.push_back(i);
            start.spots.at.push_back(spot);
        }
    closeOff(ground, start);
    return start;
}

bool addRows(const Ground& ground, Start& start, const std::vector<std::size_t>& copies, int sheet,
             double x) {
    Shelves shelves(ground, sheet, x);
    return std::all_of(copies.begin(), copies.end(), [&](std::size_t i) {
        return shelves.add(flattest(ground.items[start.copies[i]], ground.room), start.spots.at[i]);
    });
}

void appendRows(const Ground& ground, Start& start, const std::vector<std::size_t>& copies, double reached) {
    int last = 0;
    for (const Spot& spot : start.spots.at)
        last = std::max(last, spot.sheet);
    addRows(ground, start, copies, ground.isRoll() ? 0 : last, ground.room.least.x + reached);
    closeOff(ground, start);
}

} // namespace hasami::nesting
