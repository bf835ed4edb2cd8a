#include "nesting/nest.h"

#include "nesting/first/bottom_left.h"
#include "nesting/first/rows.h"
#include "nesting/first/snug.h"
#include "nesting/lattice/lattice.h"
#include "nesting/layout/sound.h"
#include "nesting/search/island.h"

#include <algorithm>
#include <atomic>
#include <chrono>
#include <cmath>
#include <mutex>
#include <numbers>
#include <numeric>
#include <thread>
#include <utility>

namespace hasami::nesting {

namespace {

using Clock = std::chrono::steady_clock;

constexpr int islandsOfMoves = 4;
constexpr int roundsOfMoves = 16;
constexpr double shareOfStarts = 0.6; // of the time, at most
constexpr std::size_t mostSnugWidth = 2000;
constexpr double movesPerSecond = 10'000;                             // about, of two threads
constexpr double leastMovesToBeClose = 100, leastMovesToBeFine = 280; // for each copy

/// The result that all see: only ever sound, only ever better.
class Board {
public:
    Board(const Ground& ground, const Progress& progress) : ground_(ground), progress_(progress) {}

    void offer(const Start& start) {
        const std::scoped_lock lock(mutex_);
        if (!best_ || reachOf(ground_, start.spots) < reachOf(ground_, best_->spots))
            publish(start);
    }

    /// Tells the best till then where this was made of another one.
    std::optional<Spots> offer(const Spots& now, const Spots& before) {
        const std::scoped_lock lock(mutex_);
        const Spots best = best_->spots;
        if (reachOf(ground_, now) < reachOf(ground_, best))
            publish({best_->copies, now, best_->notPlaced, best_->isDense});
        return best.at == before.at ? std::nullopt : std::optional(best);
    }

    Start best() const {
        const std::scoped_lock lock(mutex_);
        return *best_;
    }

    double reach() const {
        const std::scoped_lock lock(mutex_);
        return reachOf(ground_, best_->spots);
    }

    /// Whether the medium is covered from edge to edge: there is nothing to gain.
    bool isPerfect() const { return isPerfect_; }

    Nest nestOf(const Start& start) const;

private:
    void publish(const Start& start) {
        best_ = start;
        double area = 0;
        for (const std::size_t item : start.copies)
            area += ground_.items[item].netArea;
        isPerfect_ = area > 0.9999 * reachOf(ground_, start.spots) * ground_.room.height();
        if (progress_)
            progress_(nestOf(*best_));
    }

    const Ground& ground_;
    const Progress& progress_;
    mutable std::mutex mutex_;
    std::optional<Start> best_;
    std::atomic<bool> isPerfect_ = false;
};

double largestX(const Part& part, const Pose& pose) {
    const double c = std::cos(pose.rotation), s = std::sin(pose.rotation);
    double most = -1e300;
    for (const Point p : part.outline)
        most = std::max(most, pose.x + c * (pose.isMirrored ? -p.x : p.x) - s * p.y);
    return most;
}

Nest Board::nestOf(const Start& start) const {
    const Problem& problem = ground_.problem;
    Nest nest;
    nest.notPlaced = start.notPlaced;
    std::vector<int> copies(problem.parts.size(), 0);
    const auto add = [&](std::size_t part, int sheet, const Pose& pose) {
        nest.placements.push_back({part, copies[part]++, sheet, pose});
        nest.sheets = std::max(nest.sheets, sheet + 1);
    };
    for (const Pinned& pinned : problem.pinned)
        add(pinned.part, pinned.sheet, pinned.pose);
    std::vector<std::size_t> order(start.copies.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
        return ground_.items[start.copies[a]].part < ground_.items[start.copies[b]].part;
    });
    for (const std::size_t i : order) {
        const Item& item = ground_.items[start.copies[i]];
        add(item.part, start.spots.at[i].sheet, poseOfPart(item, start.spots.at[i].pose));
    }
    double area = 0, last = 0;
    for (const Placement& placement : nest.placements) {
        area += ground_.items[placement.part].netArea;
        if (placement.sheet + 1 == nest.sheets)
            last = std::max(last, largestX(problem.parts[placement.part], placement.pose));
    }
    nest.usedLength = nest.placements.empty() ? 0 : last + problem.margin;
    const double used = nest.usedLength + (nest.sheets > 1 ? (nest.sheets - 1) * *problem.media.length : 0);
    nest.density = used > 0 ? area / (used * problem.media.width) : 0;
    return nest;
}

/// The layout that the problem gives as begun; nothing where it lacks a copy, or can't be so.
std::optional<Start> begunStart(const Ground& ground, const Start& rows) {
    const Problem& problem = ground.problem;
    if (problem.begun.empty())
        return {};
    std::vector<std::vector<const Pinned*>> left(problem.parts.size());
    for (const Pinned& place : problem.begun)
        left.at(place.part).push_back(&place);
    Start start = rows;
    for (std::size_t i = 0; i < start.copies.size(); ++i) {
        const Item& item = ground.items[start.copies[i]];
        if (left[item.part].empty())
            return {};
        const Pinned& place = *left[item.part].front();
        left[item.part].erase(left[item.part].begin());
        if (!mayTurn(item, place.pose.rotation))
            return {};
        start.spots.at[i] = {place.sheet, poseOfShape(item, place.pose)};
    }
    closeOff(ground, start);
    return isSound(ground, start.copies, start.spots) ? std::optional(start) : std::nullopt;
}

/// Layouts to begin with, from the quick ones to the careful: each where it is better than all before.
void offerStarts(const Ground& ground, const Start& rows, const Effort& effort, int threads, Board& board,
                 const std::function<bool()>& isOver) {
    const auto offer = [&](const Start& start) {
        if (isSound(ground, start.copies, start.spots))
            board.offer(start);
    };
    const auto raster = [&](const Care& care) {
        return [&, care] {
            if (const auto start = bottomLeft(ground, rows, care, isOver))
                offer(*start);
        };
    };
    raster({10, 4})(); // there within a few tenths of a second
    // Where moves are counted, it may take about a quarter as many.
    const std::size_t width = effort.moves ? *effort.moves / (4 * rows.copies.size()) : mostSnugWidth;
    const auto snug = [&](std::uint64_t seed) {
        return
            [&, seed] { findSnugStarts(ground, rows, seed, std::min(width, mostSnugWidth), isOver, offer); };
    };
    // Close places take as long as some 8 moves for each copy on the coarsest raster, 40 on the finest.
    const double movesOfCopy =
        (effort.moves ? double(*effort.moves) : effort.seconds * movesPerSecond) / double(rows.copies.size());
    const Care closest = movesOfCopy >= leastMovesToBeFine    ? Care{72, 16, true}
                         : movesOfCopy >= leastMovesToBeClose ? Care{48, 16, true}
                                                              : Care{48, 16, false};
    const std::function<void()> careful[] = {snug(effort.seed), raster({24, 8, true}),
                                             [&] { findLattices(ground, rows, effort.seed, isOver, offer); },
                                             raster(closest), snug(effort.seed + 1)};
    std::atomic<std::size_t> next = 0;
    const auto work = [&] {
        for (std::size_t i = next++; i < std::size(careful); i = next++)
            if (!isOver())
                careful[i]();
    };
    std::vector<std::jthread> workers;
    workers.reserve(std::size_t(threads));
    for (int i = 1; i < std::min(threads, int(std::size(careful))); ++i)
        workers.emplace_back(work);
    work();
}

std::uint64_t seedOf(std::uint64_t seed, int island) {
    return seed * 0x9e3779b97f4a7c15 + std::uint64_t(island) * 0xd1b54a32d192ed03 + 1;
}

/// How many belts there is room for, up to those wanted: in one much shorter there are too few places.
int beltsFor(const Ground& ground, const Start& start, int wanted) {
    constexpr double leastSizes = 6;
    const double least = leastSizes * middlingSize(ground, start.copies);
    return int(std::clamp(start.spots.length / std::max(least, 1e-9), 1.0, double(wanted)));
}

/// By the clock: each thread searches by itself, and goes on from another's layout where that is better.
void searchByTime(const Ground& ground, const Effort& effort, const std::stop_token& stop, Board& board,
                  Clock::time_point begin, int threads) {
    const auto deadline = begin + std::chrono::duration<double>(effort.seconds);
    const Start start = board.best();
    const int belts = beltsFor(ground, start, threads);
    constexpr double mostSecondsOfTurn = 3;
    const double secondsOfTurn = std::min(mostSecondsOfTurn, effort.seconds / 10);
    const auto passed = [begin] { return std::chrono::duration<double>(Clock::now() - begin).count(); };
    std::vector<std::jthread> workers;
    workers.reserve(std::size_t(threads));
    for (int i = 0; i < threads; ++i)
        workers.emplace_back([&, i] {
            Island island(ground, start.copies, start.spots, seedOf(effort.seed, i), start.isDense);
            Spots other;
            const Island::Hooks hooks{
                [&] { return stop.stop_requested() || board.isPerfect() || Clock::now() >= deadline; },
                [] { return false; },
                [&](const Spots& now, const Spots& before) { return board.offer(now, before); },
                [&](double reach) -> const Spots* {
                    if (!(board.reach() < reach * (1 - 1e-9)))
                        return nullptr;
                    other = board.best().spots;
                    return &other;
                },
                [&] { return beltOf(i, belts, int(passed() / secondsOfTurn)); }};
            island.run(hooks, [&] { return passed() / effort.seconds; });
        });
}

/// By counted moves: a fixed number of islands, which hear of each other after each round.
void searchByMoves(const Ground& ground, const Effort& effort, const std::stop_token& stop, Board& board,
                   int threads) {
    Start shared = board.best();
    std::vector<Island> islands;
    islands.reserve(islandsOfMoves);
    for (int i = 0; i < islandsOfMoves; ++i)
        islands.emplace_back(ground, shared.copies, shared.spots, seedOf(effort.seed, i), shared.isDense);
    const int belts = beltsFor(ground, shared, islandsOfMoves);
    const std::uint64_t each = *effort.moves / islandsOfMoves;
    for (int round = 0; round < roundsOfMoves && !stop.stop_requested(); ++round) {
        std::atomic<int> next = 0;
        const auto work = [&] {
            for (int i = next++; i < islandsOfMoves; i = next++) {
                Island& island = islands[std::size_t(i)];
                const std::uint64_t until = each * std::uint64_t(round + 1) / roundsOfMoves;
                island.run({[&] { return stop.stop_requested() || island.moves() >= each; },
                            [&] { return island.moves() >= until; },
                            [](const Spots&, const Spots&) { return std::optional<Spots>(); },
                            [](double) -> const Spots* { return nullptr; },
                            [&] { return beltOf(i, belts, round); }},
                           [&] { return double(round) / roundsOfMoves; });
            }
        };
        {
            std::vector<std::jthread> workers;
            workers.reserve(islandsOfMoves);
            for (int i = 0; i < std::min(threads, islandsOfMoves); ++i)
                workers.emplace_back(work);
        }
        const auto best =
            std::min_element(islands.begin(), islands.end(), [&](const Island& a, const Island& b) {
                return reachOf(ground, a.best()) < reachOf(ground, b.best());
            });
        const Spots before = std::exchange(shared.spots, best->best());
        board.offer(shared);
        for (Island& island : islands)
            island.adopt(shared.spots, before);
    }
}

} // namespace

Nest nest(const Problem& problem, const Effort& effort, const std::stop_token& stop,
          const Progress& progress) {
    const auto begin = Clock::now();
    const std::vector<Item> items = prepared(problem);
    const std::vector<Obstacle> blocked = obstacles(problem, items);
    const Ground ground{problem, items, blocked, room(problem)};
    const int threads =
        effort.threads > 0 ? effort.threads : int(std::max(1U, std::thread::hardware_concurrency()));
    Board board(ground, progress);
    const Start first = rows(ground);
    board.offer(first);
    const auto share = [&] {
        return std::chrono::duration<double>(Clock::now() - begin).count() / std::max(effort.seconds, 1e-9);
    };
    const auto isOver = [&] {
        return stop.stop_requested() || board.isPerfect() || (!effort.moves && share() >= 1);
    };
    if (!first.copies.empty()) {
        if (const auto begun = begunStart(ground, first))
            board.offer(*begun);
        const auto isTimeToSearch = [&] { return isOver() || (!effort.moves && share() > shareOfStarts); };
        offerStarts(ground, first, effort, effort.moves ? 1 : threads, board, isTimeToSearch);
        if (isOver())
            return board.nestOf(board.best());
        if (effort.moves)
            searchByMoves(ground, effort, stop, board, threads);
        else
            searchByTime(ground, effort, stop, board, begin, threads);
    }
    return board.nestOf(board.best());
}

} // namespace hasami::nesting
