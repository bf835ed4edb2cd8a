#pragma once

#include "nesting/layout/layout.h"
#include "nesting/layout/random.h"
#include "nesting/search/cover.h"
#include "nesting/shape/placed.h"

#include <array>
#include <cstdint>
#include <functional>
#include <limits>
#include <unordered_map>
#include <vector>

namespace hasami::nesting {

/// The sheets with all copies on them, in parts upon each other, and what that costs.
///
/// A pair that touches costs by how deep its poles lie in each other, in units of area, times a weight of its
/// own, which grows while it stays so (guided local search). What sticks out of the room costs likewise.
class Bed {
public:
    Bed(const std::vector<Item>& items, std::vector<std::size_t> copies,
        const std::vector<Obstacle>& obstacles, const Box& room, bool isRoll);

    std::size_t copies() const { return copies_.size(); }
    const Item& itemOf(std::size_t copy) const { return items_[itemOf_[copy]]; }
    std::size_t itemNumber(std::size_t copy) const { return itemOf_[copy]; }
    const Spot& spot(std::size_t copy) const { return copies_[copy].spot; }
    const Box& boxOf(std::size_t copy) const { return copies_[copy].placed.box(); }
    int sheets() const { return sheets_; }
    double length() const { return length_; }

    void put(const Spots& spots);
    Spots spots() const;

    /// The same with no more sheets, and no longer the last one, than copies lie on.
    Spots usedSpots() const;

    /// Lets the copy lie elsewhere.
    void move(std::size_t copy, const Spot& spot);

    /// Of all pairs and all that sticks out, without weights.
    double loss() const;
    bool isFree(std::size_t copy) const {
        return copies_[copy].touching.empty() && copies_[copy].outside == 0;
    }
    bool isFree() const;
    std::vector<std::size_t> troubled() const;

    /// What the copy would cost there, with weights; more than `most` where it would be more than that.
    double costAt(std::size_t copy, const Spot& spot, double most);
    double costOf(std::size_t copy) const;

    /// A place among a sample of places and turns, made better step by step, that costs less than where the
    /// copy lies; it goes there. False if there is none.
    bool improve(std::size_t copy, Random& random);

    /// Where `improve` looks for places away from the copy: between two x of the room.
    void keepTo(double least, double most) {
        beltLeast_ = least;
        beltMost_ = most;
    }

    /// Lays the copy anywhere.
    void scatter(std::size_t copy, Random& random);

    /// Weights grow where pairs touch, and fall slowly elsewhere.
    void weigh();
    void forgetWeights();

    std::uint64_t evaluations() const { return evaluations_; }

private:
    struct Touch {
        std::uint32_t other; ///< a copy, or behind them an obstacle
        double loss;
    };
    struct Copy {
        Placed placed;
        Spot spot;
        std::vector<Touch> touching;
        double outside = 0; ///< what it costs that it sticks out
        double outsideWeight = 1;
    };
    struct Weight {
        float value = 1;
        std::uint32_t sweep = 0;
    };
    struct Cells {
        int columns = 0;
        std::vector<std::vector<std::uint32_t>> all;
    };
    struct Candidate {
        Spot spot;
        double cost = std::numeric_limits<double>::infinity();
    };

    /// By cells alone.
    struct Guess {
        Spot spot;
        int hits = 0;
    };
    static bool hitsLess(const Guess& a, const Guess& b) { return a.hits < b.hits; }

    std::size_t bodies() const { return copies_.size() + fixed_.size(); }
    const Placed& placed(std::uint32_t body) const {
        return body < copies_.size() ? copies_[body].placed : fixed_[body - copies_.size()].placed;
    }
    double spreadOf(std::uint32_t body) const;
    double pairLoss(std::uint32_t a, const Placed& placedA, std::uint32_t b) const;
    double outsideLoss(const Placed& placed, int sheet, double spread) const;
    Box roomOn(int sheet) const;
    double weightOf(std::uint32_t a, std::uint32_t b) const;
    template <class Act>
    void eachCell(const Box& box, int sheet, Act act);
    template <class Visit>
    void visitNear(const Box& box, int sheet, Visit visit);
    void enter(std::uint32_t body, int sheet);
    void leave(std::uint32_t body, int sheet);
    void layCells();
    std::vector<std::ptrdiff_t> groupsTo(const Spots& spots) const;
    template <class Wanted>
    void findTouching(std::uint32_t self, Wanted wanted);
    void touchAnew(std::size_t copy);
    double costHere(std::size_t copy, const Placed& placed, const Spot& spot, double most);
    Placed& probe(std::size_t copy, bool isMirrored);

    // bed_search.cpp
    std::size_t probeNumber(std::size_t copy, bool isMirrored) const;
    Box placesOf(std::size_t copy, const Spot& spot) const;
    Spot randomTurn(std::size_t copy, Random& random) const;
    Spot nearSpot(std::size_t copy, Random& random);
    const std::vector<Guess>& guesses(std::size_t copy, Random& random);
    void guessInTurn(std::size_t copy, Spot spot, Random& random);
    void descend(std::size_t copy, Guess& guess, Random& random);
    Candidate descend(std::size_t copy, Candidate from, double step, double turn, double least,
                      Random& random);

    const std::vector<Item>& items_;
    std::vector<std::size_t> itemOf_;
    std::vector<Copy> copies_;
    struct Fixed {
        Placed placed;
        double spread = 0;
        int sheet = 0;
    };
    std::vector<Fixed> fixed_;
    Box room_;
    bool isRoll_;
    int sheets_ = 1;
    double length_ = 0;
    double beltLeast_ = -std::numeric_limits<double>::infinity();
    double beltMost_ = std::numeric_limits<double>::infinity();
    bool isLaid_ = false;
    double smallestCell_ = 1, cell_ = 1, cellsLength_ = 0;
    std::vector<Cells> cells_; // of each sheet
    std::unordered_map<std::uint64_t, Weight> weights_;
    std::uint32_t sweep_ = 0, visit_ = 0;
    std::vector<std::uint32_t> visited_; // by body
    std::vector<Placed::Hint> hints_;    // likewise: where the copy that was asked about last met it
    std::vector<Placed> probes_;         // by shape: items' one after the other
    std::vector<Probing> probings_;      // likewise
    std::vector<std::size_t> probeOf_;
    Cover cover_;
    double largestRadius_ = 0;
    std::vector<std::uint32_t> shallow_; // scratch
    std::vector<Guess> guesses_;         // scratch: the best on top of a heap turned over
    std::uint64_t evaluations_ = 0;
};

} // namespace hasami::nesting
