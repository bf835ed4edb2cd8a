#include "machine/cut_errors.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

namespace hasami {

namespace {

/// Sums over places.
struct Sum {
    double squares = 0, count = 0, largest = 0;
    Point worst;

    void add(Point place, double off) {
        squares += off * off;
        ++count;
        if (off >= largest) {
            largest = off;
            worst = place;
        }
    }
    double rms() const { return count > 0 ? std::sqrt(squares / count) : 0; }
};

} // namespace

CutErrors cutErrors(const CutProgram& program, const SheetMap& cut, const PrintMap& print,
                    const RepeatError& repeat) {
    return cutErrors(
        program, cut, [&](const Cut&, Point place) { return print(place); }, repeat);
}

CutErrors cutErrors(const CutProgram& program, const SheetMap& cut,
                    const std::function<Point(const Cut&, Point)>& print, const RepeatError& repeat) {
    constexpr double between = 0.5; // mm
    CutErrors errors;
    std::map<std::tuple<LineKind, std::size_t, std::size_t>, std::size_t> numbers; // of lines that were met
    std::vector<Sum> sums;
    Sum all;
    for (const CutStep& step : program) {
        const Cut* line = std::get_if<Cut>(&step);
        if (!line)
            continue;
        const auto [found, isNew] =
            numbers.try_emplace({line->kind, line->piece, line->line}, errors.lines.size());
        const std::size_t number = found->second;
        const Point off = repeat.of(*line);
        if (isNew) {
            LineError& error = errors.lines.emplace_back();
            error.kind = line->kind;
            error.piece = line->piece;
            error.line = line->line;
            sums.emplace_back();
        }
        for (std::size_t i = 1; i < line->path.size(); ++i) {
            const Point from = line->path[i - 1], to = line->path[i];
            const int steps = std::max(1, int(distance(from, to) / between));
            for (int k = 0; k < steps; ++k) {
                const Point place = hasami::between(from, to, double(k) / steps);
                const double error = distance(cut(place) + off, print(*line, place));
                sums[number].add(place, error);
                all.add(place, error);
            }
        }
    }
    for (std::size_t i = 0; i < sums.size(); ++i) {
        errors.lines[i].rms = sums[i].rms();
        errors.lines[i].largest = sums[i].largest;
        errors.lines[i].worst = sums[i].worst;
    }
    errors.rms = all.rms();
    errors.largest = all.largest;
    return errors;
}

} // namespace hasami
