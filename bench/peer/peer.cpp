// The plain peer that nesting is measured against, and nothing else is built on it: bottom-left on a raster
// of one millimetre, 24 angles where parts turn freely, large parts first, then in random orders until the
// time is over.
//
//   nest-peer IN.json OUT.json SECONDS SEED
//
// It reads and writes what hasami-cli nest does, but knows neither blocked areas nor pinned parts.

#include <nlohmann/json.hpp>

#include <algorithm>
#include <bit>
#include <chrono>
#include <cmath>
#include <fstream>
#include <numeric>
#include <optional>
#include <random>

namespace {

using nlohmann::json;
using Clock = std::chrono::steady_clock;

constexpr double cell = 1; // mm
constexpr double pi = 3.14159265358979323846;

struct Point {
    double x, y;
};
using Loop = std::vector<Point>;

struct Run {
    int column, from, count;
};

/// A part at one angle: cells that it, half the gap wider, touches.
struct Stamp {
    std::vector<Run> runs;
    int columns = 0, rows = 0;
    double degrees = 0, left = 0, top = 0;
};

struct Part {
    std::string id;
    int copies = 0;
    double area = 0;
    std::vector<Stamp> stamps;
};

struct Place {
    std::size_t part;
    int sheet;
    double x, y, degrees;
};

struct Layout {
    std::vector<Place> places;
    int sheets = 0;
    double used = 1e300; // of the last sheet
    bool isBetterThan(const Layout& other) const {
        return sheets < other.sheets || (sheets == other.sheets && used < other.used) || other.places.empty();
    }
};

Loop loopOf(const json& points) {
    Loop loop;
    for (const json& p : points)
        loop.push_back({p[0].get<double>(), p[1].get<double>()});
    return loop;
}

double areaOf(const Loop& loop) {
    double twice = 0;
    for (std::size_t i = 0; i < loop.size(); ++i) {
        const Point a = loop[i], b = loop[(i + 1) % loop.size()];
        twice += a.x * b.y - a.y * b.x;
    }
    return std::abs(twice) / 2;
}

double toSide(Point p, Point a, Point b) {
    const double dx = b.x - a.x, dy = b.y - a.y, squared = dx * dx + dy * dy;
    const double t = squared > 0 ? std::clamp(((p.x - a.x) * dx + (p.y - a.y) * dy) / squared, 0.0, 1.0) : 0;
    return std::hypot(p.x - a.x - t * dx, p.y - a.y - t * dy);
}

/// A cell is taken where its middle lies in the part or closer to it than half the gap and half the cell's
/// diagonal: then no two parts come closer than the gap.
Stamp stampOf(const Loop& outline, double degrees, double halfGap) {
    Stamp stamp;
    stamp.degrees = degrees;
    const double c = std::cos(degrees * pi / 180), s = std::sin(degrees * pi / 180);
    Loop loop;
    double left = 1e300, top = 1e300, right = -1e300, bottom = -1e300;
    for (const Point p : outline) {
        loop.push_back({c * p.x - s * p.y, s * p.x + c * p.y});
        left = std::min(left, loop.back().x);
        top = std::min(top, loop.back().y);
        right = std::max(right, loop.back().x);
        bottom = std::max(bottom, loop.back().y);
    }
    stamp.left = left - halfGap;
    stamp.top = top - halfGap;
    stamp.columns = int(std::ceil((right - left + 2 * halfGap) / cell));
    stamp.rows = int(std::ceil((bottom - top + 2 * halfGap) / cell));
    const double reach = halfGap + cell * std::sqrt(0.5);
    for (int column = 0; column < stamp.columns; ++column) {
        int from = -1;
        for (int row = 0; row <= stamp.rows; ++row) {
            const Point middle{stamp.left + (column + 0.5) * cell, stamp.top + (row + 0.5) * cell};
            bool isTaken = false, isInside = false;
            for (std::size_t i = 0, j = loop.size() - 1; row < stamp.rows && i < loop.size() && !isTaken;
                 j = i++) {
                const Point a = loop[j], b = loop[i];
                isTaken = toSide(middle, a, b) <= reach;
                if ((a.y > middle.y) != (b.y > middle.y) &&
                    middle.x < (b.x - a.x) * (middle.y - a.y) / (b.y - a.y) + a.x)
                    isInside = !isInside;
            }
            isTaken = isTaken || isInside;
            if (isTaken && from < 0)
                from = row;
            if (!isTaken && from >= 0) {
                stamp.runs.push_back({column, from, row - from});
                from = -1;
            }
        }
    }
    return stamp;
}

class Sheet {
public:
    explicit Sheet(int rows) : rows_(rows), words_(std::size_t(rows + 63) / 64) {}

    int rowFor(const Stamp& stamp, int column) {
        const int places = rows_ - stamp.rows + 1;
        if (places <= 0)
            return -1;
        taken_.assign(words_, 0);
        for (const Run& run : stamp.runs)
            if (const auto at = std::size_t(column + run.column);
                at < columns_.size() && !columns_[at].empty())
                add(columns_[at], run);
        for (int word = 0; word * 64 < places; ++word)
            if (const std::uint64_t free = ~taken_[std::size_t(word)]) {
                const int row = word * 64 + std::countr_zero(free);
                return row < places ? row : -1;
            }
        return -1;
    }

    void take(const Stamp& stamp, int column, int row) {
        for (const Run& run : stamp.runs) {
            const auto at = std::size_t(column + run.column);
            if (at >= columns_.size())
                columns_.resize(at + 1);
            columns_[at].resize(words_, 0);
            for (int i = row + run.from; i < row + run.from + run.count; ++i)
                columns_[at][std::size_t(i) / 64] |= std::uint64_t(1) << (i % 64);
        }
    }

private:
    void shiftInto(std::vector<std::uint64_t>& to, const std::vector<std::uint64_t>& from, int by) const {
        const auto words = std::size_t(by) / 64;
        const int rest = by % 64;
        for (std::size_t i = 0; i + words < words_; ++i) {
            std::uint64_t word = from[i + words] >> rest;
            if (rest > 0 && i + words + 1 < words_)
                word |= from[i + words + 1] << (64 - rest);
            to[i] |= word;
        }
    }

    void add(const std::vector<std::uint64_t>& column, const Run& run) {
        spread_ = column;
        int length = 1;
        for (; length * 2 <= run.count; length *= 2)
            shiftInto(spread_, spread_, length);
        if (length < run.count)
            shiftInto(spread_, spread_, run.count - length);
        shiftInto(taken_, spread_, run.from);
    }

    int rows_;
    std::size_t words_;
    std::vector<std::vector<std::uint64_t>> columns_;
    std::vector<std::uint64_t> taken_, spread_;
};

struct Task {
    double width = 0, margin = 0, halfGap = 0;
    std::optional<double> length;
    std::vector<Part> parts;

    int rows() const { return int(std::floor((width - 2 * margin + 2 * halfGap) / cell)); }
    int columns() const {
        return length ? int(std::floor((*length - 2 * margin + 2 * halfGap) / cell)) : 1'000'000'000;
    }
};

Task taskOf(const json& in) {
    Task task;
    task.width = in["media"]["width"];
    if (!in["media"]["length"].is_null())
        task.length = in["media"]["length"].get<double>();
    task.margin = in.value("margin", 0.0);
    task.halfGap = in.value("gap", 0.0) / 2;
    for (const json& about : in["parts"]) {
        Part part{about["id"], about["copies"], 0, {}};
        const Loop outline = loopOf(about["outline"]);
        part.area = areaOf(outline);
        std::vector<double> angles;
        if (about.contains("rotations") && about["rotations"].is_array())
            angles = about["rotations"].get<std::vector<double>>();
        else
            for (int i = 0; i < 24; ++i)
                angles.push_back(i * 15);
        for (const double angle : angles)
            part.stamps.push_back(stampOf(outline, angle, task.halfGap));
        task.parts.push_back(std::move(part));
    }
    return task;
}

/// None if the time is over first.
std::optional<Layout> lay(const Task& task, const std::vector<std::size_t>& order, Clock::time_point end,
                          bool mayGiveUp) {
    Layout layout;
    std::vector<Sheet> sheets;
    // Where each part's stamps began to fit: nothing fits before it, nor will again.
    std::vector<std::vector<std::vector<int>>> begins(task.parts.size());
    std::vector<int> reached;
    for (const std::size_t number : order) {
        if (mayGiveUp && Clock::now() > end)
            return {};
        const Part& part = task.parts[number];
        begins[number].resize(part.stamps.size());
        for (std::size_t s = 0;; ++s) {
            if (s == sheets.size()) {
                sheets.emplace_back(task.rows());
                reached.push_back(0);
            }
            int best = std::numeric_limits<int>::max(), bestRow = 0, bestColumn = 0;
            const Stamp* chosen = nullptr;
            for (std::size_t i = 0; i < part.stamps.size(); ++i) {
                auto& from = begins[number][i];
                from.resize(std::max(from.size(), s + 1), 0);
                const Stamp& stamp = part.stamps[i];
                const int last = std::min(task.columns() - stamp.columns, best - stamp.columns);
                int row = -1;
                for (; from[s] <= last && row < 0; ++from[s])
                    row = sheets[s].rowFor(stamp, from[s]);
                if (row < 0)
                    continue;
                --from[s];
                if (from[s] + stamp.columns < best || row < bestRow) {
                    best = from[s] + stamp.columns;
                    bestRow = row;
                    bestColumn = from[s];
                    chosen = &stamp;
                }
            }
            if (!chosen) {
                if (reached[s] == 0)
                    break; // fits no empty sheet
                continue;
            }
            sheets[s].take(*chosen, bestColumn, bestRow);
            reached[s] = std::max(reached[s], best);
            const double edge = task.margin - task.halfGap;
            layout.places.push_back({number, int(s), edge + bestColumn * cell - chosen->left,
                                     edge + bestRow * cell - chosen->top, chosen->degrees});
            break;
        }
    }
    while (!reached.empty() && reached.back() == 0)
        reached.pop_back();
    layout.sheets = int(reached.size());
    layout.used = reached.empty() ? 0 : reached.back();
    return layout;
}

json answerOf(const Task& task, const Layout& layout, const json& in, double seconds) {
    json placements = json::array();
    std::vector<int> copies(task.parts.size(), 0);
    double last = 0, area = 0;
    for (const Place& place : layout.places) {
        placements.push_back({{"id", task.parts[place.part].id},
                              {"copy", copies[place.part]++},
                              {"sheet", place.sheet},
                              {"x", place.x},
                              {"y", place.y},
                              {"rotation", place.degrees},
                              {"mirror", false}});
        area += task.parts[place.part].area;
        if (place.sheet + 1 == layout.sheets) {
            const double c = std::cos(place.degrees * pi / 180), s = std::sin(place.degrees * pi / 180);
            for (const Point p : loopOf(in["parts"][place.part]["outline"]))
                last = std::max(last, place.x + c * p.x - s * p.y);
        }
    }
    const double used = last + task.margin, all = used + (layout.sheets - 1) * task.length.value_or(0);
    json unplaced = json::array();
    for (std::size_t i = 0; i < copies.size(); ++i)
        if (copies[i] < task.parts[i].copies)
            unplaced.push_back({{"id", task.parts[i].id},
                                {"copies", task.parts[i].copies - copies[i]},
                                {"reason", "no room"}});
    return {{"used_length", used}, {"sheets", layout.sheets},  {"density", area / (all * task.width)},
            {"seconds", seconds},  {"placements", placements}, {"unplaced", unplaced}};
}

} // namespace

int main(int argc, char** argv) {
    if (argc != 5)
        return 2;
    const auto begin = Clock::now();
    const double seconds = std::atof(argv[3]);
    const auto end =
        begin + std::chrono::duration_cast<Clock::duration>(std::chrono::duration<double>(seconds));
    std::ifstream file(argv[1]);
    const json in = json::parse(file);
    const Task task = taskOf(in);
    std::vector<std::size_t> order;
    for (std::size_t i = 0; i < task.parts.size(); ++i)
        order.insert(order.end(), std::size_t(task.parts[i].copies), i);
    std::stable_sort(order.begin(), order.end(),
                     [&](std::size_t a, std::size_t b) { return task.parts[a].area > task.parts[b].area; });
    Layout best = *lay(task, order, end, false);
    std::mt19937 random(unsigned(std::atoi(argv[4])));
    while (Clock::now() < end) {
        std::shuffle(order.begin(), order.end(), random);
        if (const auto other = lay(task, order, end, true); other && other->isBetterThan(best))
            best = *other;
    }
    std::ofstream(argv[2])
        << answerOf(task, best, in, std::chrono::duration<double>(Clock::now() - begin).count()).dump();
    return 0;
}
