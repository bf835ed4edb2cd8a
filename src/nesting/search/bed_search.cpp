#include "nesting/search/bed.h"
#include "nesting/shape/placed.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numbers>

namespace hasami::nesting {

namespace {

using std::numbers::pi;
constexpr int near = 8, turnsTried = 60, placesOfTurn = 60; // samples
constexpr std::size_t mostGuesses = 6;
constexpr int guessSteps = 12;
constexpr std::size_t kept = 3; // candidates that are made better

} // namespace

std::size_t Bed::probeNumber(std::size_t copy, bool isMirrored) const {
    return probeOf_[itemOf_[copy]] + (isMirrored ? 1 : 0);
}

/// Where the middle of a copy's shape may lie on the spot's sheet, in its turn; empty where there is no room
/// for it.
Box Bed::placesOf(std::size_t copy, const Spot& spot) const {
    const Box room = roomOn(spot.sheet);
    const Box box = turnedBox(itemOf(copy).shapes[spot.pose.isMirrored ? 1 : 0], spot.pose.rotation);
    const auto orLeast = [](double least, double most) {
        return most < least && most > least - slack ? least : most; // an exact fit
    };
    const Point least = room.least - box.least, most = room.most - box.most;
    return {least, {orLeast(least.x, most.x), orLeast(least.y, most.y)}};
}

/// On any sheet, in one of the good turns or, where it turns freely, sometimes in any.
Spot Bed::randomTurn(std::size_t copy, Random& random) const {
    const Item& item = itemOf(copy);
    Spot spot;
    spot.sheet = sheets_ > 1 ? int(random.below(std::size_t(sheets_))) : 0;
    spot.pose.isMirrored = item.shapes.size() > 1 && random.unit() < 0.5;
    spot.pose.rotation = item.turnsFreely && random.unit() < 0.4
                             ? random.between(-pi, pi)
                             : item.turns[random.below(item.turns.size())];
    return spot;
}

void Bed::scatter(std::size_t copy, Random& random) {
    Spot spot = randomTurn(copy, random);
    const Box places = placesOf(copy, spot);
    spot.pose.x = random.between(places.least.x, std::max(places.least.x, places.most.x));
    spot.pose.y = random.between(places.least.y, std::max(places.least.y, places.most.y));
    move(copy, spot);
}

Spot Bed::nearSpot(std::size_t copy, Random& random) {
    const Item& item = itemOf(copy);
    Spot spot = copies_[copy].spot;
    const double reach = item.shapes.front().radius * 0.4;
    spot.pose.x += reach * random.bell();
    spot.pose.y += reach * random.bell();
    if (item.turnsFreely)
        spot.pose.rotation +=
            random.unit() < 0.3 ? item.turns[random.below(item.turns.size())] : 0.15 * random.bell();
    else if (random.unit() < 0.3)
        spot.pose.rotation = item.turns[random.below(item.turns.size())];
    return spot;
}

/// Those of many places in many turns, all over the sheets, that hit the least, best first.
const std::vector<Bed::Guess>& Bed::guesses(std::size_t number, Random& random) {
    const Copy& copy = copies_[number];
    cover_.take(copy.placed, copy.spot.sheet);
    guesses_.clear();
    for (int i = 0; i < turnsTried; ++i)
        guessInTurn(number, randomTurn(number, random), random);
    for (Guess& guess : guesses_)
        descend(number, guess, random);
    std::sort(guesses_.begin(), guesses_.end(), hitsLess);
    cover_.add(copy.placed, copy.spot.sheet);
    return guesses_;
}

void Bed::guessInTurn(std::size_t copy, Spot spot, Random& random) {
    const Box places = placesOf(copy, spot);
    if (places.isEmpty())
        return;
    const double least = std::clamp(beltLeast_, places.least.x, places.most.x);
    const double most = std::clamp(beltMost_, places.least.x, places.most.x);
    cover_.aim(probings_[probeNumber(copy, spot.pose.isMirrored)], spot.pose.rotation);
    for (int i = 0; i < placesOfTurn; ++i) {
        const bool isFull = guesses_.size() == mostGuesses; // the worst comes first
        const int mostHits = isFull ? guesses_.front().hits : std::numeric_limits<int>::max();
        const Point place{random.between(least, most), random.between(places.least.y, places.most.y)};
        if (isFull && cover_.isCovered(spot.sheet, place))
            continue;
        const int hits = cover_.at(spot.sheet, place, mostHits);
        if (hits >= mostHits)
            continue;
        if (isFull) {
            std::pop_heap(guesses_.begin(), guesses_.end(), hitsLess);
            guesses_.pop_back();
        }
        spot.pose.x = place.x;
        spot.pose.y = place.y;
        guesses_.push_back({spot, hits});
        std::push_heap(guesses_.begin(), guesses_.end(), hitsLess);
    }
}

/// Steps at random that hit no more.
void Bed::descend(std::size_t copy, Guess& guess, Random& random) {
    constexpr double turn = 0.15;
    const double step = 0.15 * itemOf(copy).shapes.front().radius;
    const bool turnsFreely = itemOf(copy).turnsFreely;
    const Probing& probing = probings_[probeNumber(copy, guess.spot.pose.isMirrored)];
    cover_.aim(probing, guess.spot.pose.rotation);
    for (int i = 0; i < guessSteps && guess.hits > 0; ++i) {
        Spot spot = guess.spot;
        if (turnsFreely) {
            spot.pose.rotation += turn * random.bell();
            cover_.aim(probing, spot.pose.rotation);
        }
        const Box places = placesOf(copy, spot);
        if (places.isEmpty())
            continue;
        spot.pose.x = std::clamp(spot.pose.x + step * random.bell(), places.least.x, places.most.x);
        spot.pose.y = std::clamp(spot.pose.y + step * random.bell(), places.least.y, places.most.y);
        const int hits = cover_.at(spot.sheet, {spot.pose.x, spot.pose.y}, guess.hits + 1);
        if (hits <= guess.hits)
            guess = {spot, hits};
    }
}

/// Along x, y, both and the turn by turns, with steps that grow where they help and shrink where not.
Bed::Candidate Bed::descend(std::size_t copy, Candidate from, double step, double turn, double least,
                            Random& random) {
    const bool turnsFreely = itemOf(copy).turnsFreely;
    const double radius = itemOf(copy).shapes.front().radius;
    double stepX = step, stepY = step;
    Placed& here = probe(copy, from.spot.pose.isMirrored);
    here.place(from.spot.pose);
    double turned = from.spot.pose.rotation;
    const auto attempt = [&](const Spot& spot) {
        if (spot.pose.rotation != turned) {
            here.turn(spot.pose.rotation);
            turned = spot.pose.rotation;
        }
        here.moveTo({spot.pose.x, spot.pose.y});
        return costHere(copy, here, spot, from.cost);
    };
    while (from.cost > 0 && (stepX > least || stepY > least || (turnsFreely && turn > least / radius))) {
        const double choice = random.unit();
        const bool turns = turnsFreely && choice < 0.3;
        const bool x = !turns && (choice < 0.55 || choice > 0.8), y = !turns && choice >= 0.55;
        Spot best = from.spot;
        double cost = from.cost;
        for (const double sign : {-1.0, 1.0}) {
            Spot spot = from.spot;
            const double signY = x && y ? (random.next() & 1 ? 1 : -1) * sign : sign;
            spot.pose.x += x ? sign * stepX : 0;
            spot.pose.y += y ? signY * stepY : 0;
            spot.pose.rotation += turns ? sign * turn : 0;
            if (const double there = attempt(spot); there < cost) {
                cost = there;
                best = spot;
            }
        }
        const double factor = cost < from.cost ? 1.1 : 0.5;
        if (turns)
            turn *= factor;
        if (x)
            stepX *= factor;
        if (y)
            stepY *= factor;
        from = {best, cost};
    }
    return from;
}

bool Bed::improve(std::size_t number, Random& random) {
    Copy& copy = copies_[number];
    const double now = costOf(number);
    const double radius = itemOf(number).shapes.front().radius;
    std::array<Candidate, kept> best;
    best[0] = {copy.spot, now};
    const auto offer = [&](const Spot& spot) {
        const double cost = costAt(number, spot, best.back().cost);
        if (!(cost < best.back().cost))
            return;
        std::size_t place = kept - 1;
        for (; place > 0 && cost < best[place - 1].cost; --place)
            best[place] = best[place - 1];
        best[place] = {spot, cost};
    };
    for (int i = 0; i < near && best.front().cost > 0; ++i)
        offer(nearSpot(number, random));
    if (best.front().cost > 0)
        for (const Guess& guess : guesses(number, random))
            offer(guess.spot);
    Candidate winner;
    for (const Candidate& candidate : best) {
        if (std::isinf(candidate.cost) || winner.cost == 0)
            continue;
        const Candidate better = descend(number, candidate, radius * 0.1, 0.08, radius * 0.01, random);
        if (better.cost < winner.cost)
            winner = better;
    }
    if (winner.cost > 0)
        winner = descend(number, winner, radius * 0.008, 0.004, radius * 0.0003, random);
    if (!(winner.cost < now))
        return false;
    move(number, winner.spot);
    return true;
}

} // namespace hasami::nesting
