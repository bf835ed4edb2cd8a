#pragma once

#include "nesting/shape/prepare.h"
#include "nesting/shape/wide.h"

#include <cstdint>
#include <vector>

namespace hasami::nesting {

/// A shape where it lies: made once for a shape, then placed as often as one likes without new memory.
class Placed {
public:
    Placed() = default;
    Placed(const std::vector<Loop>& loops, const std::vector<Circle>& poles);
    explicit Placed(const Shape& shape) : Placed(shape.loops, shape.poles) {}

    void place(const Pose& pose) {
        turn(pose.rotation);
        moveTo({pose.x, pose.y});
    }

    /// The same in two steps: where only the place changes, the second is enough, and costs nothing.
    void turn(double rotation);
    void moveTo(Point place) {
        at_ = place;
        box_ = turnedBox_.movedBy(place);
    }

    /// Its box where the frame's middle lies in the origin, turned as it is.
    const Box& turnedBox() const { return turnedBox_; }
    const Box& box() const { return box_; }

    /// Whether they come close enough to touch, going by boxes and circles around them.
    bool isNear(const Placed& other) const {
        const Point apart = at_ - other.at_;
        const double reach = reach_ + other.reach_;
        return box_.meets(other.box_) && dot(apart, apart) <= reach * reach;
    }

    /// Two sides, by their ends, that crossed when last asked, of any two shapes.
    struct Hint {
        std::uint32_t own = 0, other = 0;
    };

    /// Whether the areas have a point in common, be it on their rims. Leaves the two sides where there are
    /// such.
    bool touches(const Placed& other, Hint& hint) const;
    bool touches(const Placed& other) const {
        Hint hint;
        return touches(other, hint);
    }

    /// Whether those two sides still cross: much faster to find out.
    bool touchesAt(const Placed& other, const Hint& hint) const;

    /// Whether a pole lies in one of the other's.
    bool polesMeet(const Placed& other) const;

    /// How deep the poles lie in each other: depths times the smaller radius, summed up. Those that are not
    /// as deep as `shallow` count ever less, and never nothing.
    double depth(const Placed& other, double shallow) const;

    bool contains(Point p) const;

    /// From corner to corner, where it lies.
    template <class Act>
    void eachSide(Act act) const {
        for (std::size_t loop = 0; loop + 1 < starts_.size(); ++loop)
            for (std::size_t i = starts_[loop] + 1; i < starts_[loop + 1]; ++i)
                act(points_[i - 1] + at_, points_[i] + at_);
    }

    static constexpr std::size_t mostPoles = 16;

private:
    struct alignas(32) Poles {
        Lanes x[mostPoles / lanes]{}, y[mostPoles / lanes]{}, radius[mostPoles / lanes]{};
    };
    static void set(Lanes* of, std::size_t i, float value) { of[i / lanes][i % lanes] = value; }
    static float get(const Lanes* of, std::size_t i) { return of[i / lanes][i % lanes]; }

    /// Some sides of a loop after each other, so that most need not be looked at one by one.
    struct Stretch {
        std::size_t from = 0, to = 0; ///< points
        Box box;                      ///< turned
    };
    static constexpr std::size_t mostSidesOfStretch = 8;
    class Sides;

    bool sidesMeet(const Placed& other, Hint& hint) const;
    bool isSide(std::size_t end) const;
    void gatherSides(const Box& within, Sides& sides) const;

    Poles ownPoles_, poles_;                 // and turned
    std::vector<Point> own_, points_;        // and turned: each loop with its first point again at its end
    std::vector<std::size_t> starts_;        // of loops, and the end
    std::vector<Stretch> stretches_;         // of all loops
    std::size_t poleCount_ = 0, groups_ = 0; // of lanes
    double reach_ = 0;                       // of the farthest point from the frame's middle
    Point at_;
    Box turnedBox_, box_;
};

} // namespace hasami::nesting
