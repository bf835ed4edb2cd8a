#include "nesting/nest.h"

#include "nesting/island.h"
#include "nesting/lattice.h"

#include <algorithm>
#include <atomic>
#include <chrono>
#include <cmath>
#include <mutex>
#include <numeric>
#include <thread>

namespace hasami::nesting {

namespace {

using Clock = std::chrono::steady_clock;

constexpr int islandsOfMoves = 4, roundsOfMoves = 8;
constexpr double usualStep = 0.02, smallStep = 0.002;

/// The result that all see: only ever sound, only ever better.
class Board {
public:
    Board(const Ground& ground, const Progress& progress) : ground_(ground), progress_(progress) {}

    void offer(const Start& start) {
        const std::scoped_lock lock(mutex_);
        if (best_ && !(reachOf(ground_, start.spots) < reachOf(ground_, best_->spots)))
            return;
        best_ = start;
        if (progress_)
            progress_(nestOf(*best_));
    }

    Start best() const {
        const std::scoped_lock lock(mutex_);
        return *best_;
    }

    double reach() const {
        const std::scoped_lock lock(mutex_);
        return reachOf(ground_, best_->spots);
    }

    Nest nestOf(const Start& start) const;

private:
    const Ground& ground_;
    const Progress& progress_;
    mutable std::mutex mutex_;
    std::optional<Start> best_;
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

std::uint64_t seedOf(std::uint64_t seed, int island) {
    return seed * 0x9e3779b97f4a7c15 + std::uint64_t(island) * 0xd1b54a32d192ed03 + 1;
}

/// By the clock: each thread searches by itself, and goes on from another's layout where that is better.
void searchByTime(const Ground& ground, const Effort& effort, const std::stop_token& stop, Board& board,
                  Clock::time_point begin, int threads) {
    const auto deadline = begin + std::chrono::duration<double>(effort.seconds);
    const Start start = board.best();
    std::vector<std::jthread> workers;
    for (int i = 0; i < threads; ++i)
        workers.emplace_back([&, i] {
            Island island(ground, start.copies, start.spots, seedOf(effort.seed, i),
                          start.isDense ? smallStep : usualStep);
            Spots other;
            const Island::Hooks hooks{[&] { return stop.stop_requested() || Clock::now() >= deadline; },
                                      [&](const Spots& spots) {
                                          board.offer({start.copies, spots, start.notPlaced});
                                      },
                                      [&](double reach) -> const Spots* {
                                          if (!(board.reach() < reach * (1 - 1e-9)))
                                              return nullptr;
                                          other = board.best().spots;
                                          return &other;
                                      }};
            island.run(hooks, [&] {
                return std::chrono::duration<double>(Clock::now() - begin).count() / effort.seconds;
            });
        });
}

/// By counted moves: a fixed number of islands, which hear of each other after each round.
void searchByMoves(const Ground& ground, const Effort& effort, const std::stop_token& stop, Board& board,
                   int threads) {
    const Start start = board.best();
    std::vector<Island> islands;
    islands.reserve(islandsOfMoves);
    for (int i = 0; i < islandsOfMoves; ++i)
        islands.emplace_back(ground, start.copies, start.spots, seedOf(effort.seed, i),
                             start.isDense ? smallStep : usualStep);
    const std::uint64_t each = *effort.moves / (islandsOfMoves * roundsOfMoves);
    for (int round = 0; round < roundsOfMoves && !stop.stop_requested(); ++round) {
        std::atomic<int> next = 0;
        const auto work = [&] {
            for (int i = next++; i < islandsOfMoves; i = next++) {
                Island& island = islands[std::size_t(i)];
                const std::uint64_t until = island.moves() + each;
                island.run({[&] { return stop.stop_requested() || island.moves() >= until; },
                            [](const Spots&) {}, [](double) -> const Spots* { return nullptr; }},
                           [&] { return double(round) / roundsOfMoves; });
            }
        };
        {
            std::vector<std::jthread> workers;
            for (int i = 0; i < std::min(threads, islandsOfMoves); ++i)
                workers.emplace_back(work);
        }
        const auto best =
            std::min_element(islands.begin(), islands.end(), [&](const Island& a, const Island& b) {
                return reachOf(ground, a.best()) < reachOf(ground, b.best());
            });
        board.offer({start.copies, best->best(), start.notPlaced});
        const Spots shared = best->best();
        for (Island& island : islands)
            if (reachOf(ground, shared) < reachOf(ground, island.best()))
                island.adopt(shared);
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
    const auto isOver = [&] {
        return stop.stop_requested() ||
               (!effort.moves &&
                std::chrono::duration<double>(Clock::now() - begin).count() >= effort.seconds);
    };
    if (!first.copies.empty()) {
        for (const auto& [cells, turns] : {std::pair{10, std::size_t{4}}, {24, std::size_t{8}}})
            if (!isOver())
                if (const auto start = bottomLeft(ground, first, cells, turns, isOver);
                    start && isSound(ground, start->copies, start->spots))
                    board.offer(*start);
        if (!isOver())
            if (const auto start = latticeStart(ground, first, effort.seed, isOver);
                start && isSound(ground, start->copies, start->spots))
                board.offer(*start);
        if (effort.moves)
            searchByMoves(ground, effort, stop, board, threads);
        else if (!isOver())
            searchByTime(ground, effort, stop, board, begin, threads);
    }
    return board.nestOf(board.best());
}

} // namespace hasami::nesting
