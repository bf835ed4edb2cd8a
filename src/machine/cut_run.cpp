#include "machine/cut_run.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr double negligible = 1e-6; // mm

Point placeAlong(const std::vector<Point>& path, double along) {
    for (std::size_t i = 1; i < path.size(); ++i) {
        const double side = distance(path[i - 1], path[i]);
        if (along <= side && side > 0)
            return between(path[i - 1], path[i], along / side);
        along -= side;
    }
    return path.back();
}

/// The path from a length on.
std::vector<Point> restOf(const std::vector<Point>& path, double along) {
    std::vector<Point> rest{placeAlong(path, along)};
    for (std::size_t i = 1; i < path.size(); ++i) {
        const double side = distance(path[i - 1], path[i]);
        if (along < side)
            rest.push_back(path[i]);
        along = std::max(0.0, along - side);
    }
    return rest;
}

} // namespace

double pathLength(const Cut& cut) {
    double sum = 0;
    const std::vector<Point>& path = cut.path;
    for (std::size_t i = 1; i < path.size(); ++i)
        sum += distance(path[i - 1], path[i]);
    return sum;
}

std::vector<KeyedCut> keyedCuts(const CutProgram& program) {
    std::vector<KeyedCut> cuts;
    std::map<CutKey, std::size_t> runs; // of a line and pass, how many were met
    for (const CutStep& step : program)
        if (const Cut* cut = std::get_if<Cut>(&step)) {
            CutKey key{cut->kind, cut->piece, cut->line, cut->pass, 0};
            key.run = runs[key]++;
            cuts.push_back({key, cut});
        }
    return cuts;
}

std::vector<KeyedStep> remaining(const CutProgram& program, const CutRecord& done) {
    std::vector<KeyedStep> steps;
    const std::vector<KeyedCut> cuts = keyedCuts(program);
    std::size_t met = 0;
    Point at; // where the head is
    LineKind kind = LineKind::kiss;
    std::optional<LineKind> selected;
    for (const CutStep& step : program) {
        if (const auto* select = std::get_if<SelectTool>(&step)) {
            kind = select->kind;
            continue;
        }
        const Cut* cut = std::get_if<Cut>(&step);
        if (!cut)
            continue; // ways are recomputed
        const CutKey key = cuts[met++].key;
        const auto found = done.find(key);
        const double before = found == done.end() ? 0 : found->second;
        if (before >= pathLength(*cut) - negligible)
            continue;
        if (selected != kind) {
            selected = kind;
            steps.push_back({SelectTool{kind}, {}});
        }
        Cut rest = *cut;
        if (before > 0) {
            rest.path = restOf(cut->path, before);
            rest.length = std::max(0.0, cut->length - before);
        }
        if (distance(at, rest.path.front()) > negligible)
            steps.push_back({Travel{kind, at, rest.path.front()}, {}});
        at = rest.path.back();
        steps.push_back({std::move(rest), key, before});
    }
    if (!steps.empty() && length(at) > negligible)
        steps.push_back({Travel{kind, at, {}}, {}});
    return steps;
}

CutHead::CutHead(const CutProgram& program, const Cutter& cutter, const CutRecord& done)
    : steps_(remaining(program, done)) {
    for (const KeyedStep& step : steps_)
        all_ += seconds_.emplace_back(secondsOf(step.step, cutter));
    skipSelected();
}

/// Tools that are in take no time.
void CutHead::skipSelected() {
    for (; step_ < steps_.size(); ++step_) {
        const auto* select = std::get_if<SelectTool>(&steps_[step_].step);
        if (!select)
            return;
        kind_ = select->kind;
    }
}

void CutHead::advance(double seconds) {
    while (seconds > 0 && !isDone()) {
        const double step = seconds_[step_];
        const double now = std::min(seconds, step - inStep_);
        inStep_ += now;
        seconds -= now;
        const bool isOver = inStep_ >= step - 1e-12;
        const KeyedStep& done = steps_[step_];
        if (const Cut* cut = std::get_if<Cut>(&done.step)) {
            const double path = pathLength(*cut);
            const double along = done.before + (isOver || step <= 0 ? path : path * inStep_ / step);
            if (news_.empty() || news_.back().first != *done.key)
                news_.emplace_back(*done.key, along);
            news_.back().second = along;
        }
        if (isOver) {
            gone_ += step;
            inStep_ = 0;
            ++step_;
            skipSelected();
        }
    }
}

Point CutHead::place() const {
    if (step_ >= steps_.size())
        return {};
    const double step = seconds_[step_], share = step > 0 ? inStep_ / step : 0;
    if (const auto* travel = std::get_if<Travel>(&steps_[step_].step))
        return between(travel->from, travel->to, share);
    if (const auto* cut = std::get_if<Cut>(&steps_[step_].step))
        return placeAlong(cut->path, share * pathLength(*cut));
    return {};
}

bool CutHead::isDown() const {
    return step_ < steps_.size() && std::holds_alternative<Cut>(steps_[step_].step);
}

} // namespace hasami
