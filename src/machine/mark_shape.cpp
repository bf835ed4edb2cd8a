#include "machine/mark_shape.h"

#include "geometry/region_operations.h"

#include <Eigen/Dense>

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr double betweenSamples = 0.25; // mm, along the outline
constexpr double cornerMargin = 0.4;    // mm: blur rounds what is closer to a corner
constexpr double cornerTurn = 0.3;      // radians
constexpr double outside = 0.8;         // mm: edges are looked for that far out
constexpr double mostGain = 0.3;        // mm that ink spreads or shrinks at most
constexpr double mostTurn = 0.09;       // radians off what is expected
constexpr double leastSupport = 0.75, mostResidual = 0.07;
constexpr double leastContrast = 0.2;

Point turned(Point p, double radians) {
    const double c = std::cos(radians), s = std::sin(radians);
    return {c * p.x - s * p.y, s * p.x + c * p.y};
}

/// Vertices where the loop turns sharply.
std::vector<Point> cornersOf(const Loop& loop) {
    std::vector<Point> corners;
    for (std::size_t i = 0; i < loop.size(); ++i) {
        const Point before = unit(loop[i] - loop[(i + loop.size() - 1) % loop.size()]);
        const Point behind = unit(loop[(i + 1) % loop.size()] - loop[i]);
        if (std::abs(std::atan2(cross(before, behind), dot(before, behind))) > cornerTurn)
            corners.push_back(loop[i]);
    }
    return corners;
}

double median(std::vector<double> values) {
    const auto middle = values.begin() + std::ptrdiff_t(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    return *middle;
}

/// A dark area of a view.
struct DarkArea {
    int left = 0, top = 0, right = 0, bottom = 0; ///< pixels, inclusive
    std::size_t pixels = 0;
};

/// Areas of pixels darker than a level that touch by sides or corners.
std::vector<DarkArea> darkAreas(const Grid<float>& light, float level) {
    Grid<char> isSeen(light.width(), light.height());
    std::vector<DarkArea> areas;
    std::vector<std::pair<int, int>> open;
    for (int row = 0; row < light.height(); ++row)
        for (int column = 0; column < light.width(); ++column) {
            if (isSeen.at(column, row) || light.at(column, row) >= level)
                continue;
            DarkArea area{column, row, column, row};
            open.assign(1, {column, row});
            isSeen.at(column, row) = 1;
            while (!open.empty()) {
                const auto [x, y] = open.back();
                open.pop_back();
                ++area.pixels;
                area.left = std::min(area.left, x);
                area.right = std::max(area.right, x);
                area.top = std::min(area.top, y);
                area.bottom = std::max(area.bottom, y);
                for (int j = std::max(0, y - 1); j <= std::min(light.height() - 1, y + 1); ++j)
                    for (int i = std::max(0, x - 1); i <= std::min(light.width() - 1, x + 1); ++i)
                        if (!isSeen.at(i, j) && light.at(i, j) < level) {
                            isSeen.at(i, j) = 1;
                            open.push_back({i, j});
                        }
            }
            areas.push_back(area);
        }
    return areas;
}

/// The mean of 3 x 3 pixels: noise leaves no specks in what is dark.
Grid<float> smoothed(const Grid<float>& light) {
    Grid<float> smooth = light;
    for (int row = 1; row + 1 < light.height(); ++row)
        for (int column = 1; column + 1 < light.width(); ++column) {
            float sum = 0;
            for (int j = -1; j <= 1; ++j)
                for (int i = -1; i <= 1; ++i)
                    sum += light.at(column + i, row + j);
            smooth.at(column, row) = sum / 9;
        }
    return smooth;
}

} // namespace

MarkShapeModel::MarkShapeModel(const std::vector<Curve>& ink, Point reference) {
    const Region region = flatten(ink, flatteningTolerance);
    area_ = area(region);
    std::size_t corners = 0;
    double around = 0;
    for (const Loop& loop : region.loops) {
        const std::vector<Point> sharp = cornersOf(loop);
        corners += sharp.size();
        double next = betweenSamples / 2; // along the side, to the next sample
        for (std::size_t i = 0; i < loop.size(); ++i) {
            const Point from = loop[i], to = loop[(i + 1) % loop.size()];
            const Point along = unit(to - from);
            const double side = distance(from, to);
            around += side;
            box_.add(from - reference);
            while (next < side) {
                const Point at = from + along * next;
                next += betweenSamples;
                if (std::ranges::all_of(sharp, [&](Point c) { return distance(c, at) > cornerMargin; }))
                    samples_.push_back({at - reference, {along.y, -along.x}});
            }
            next -= side;
        }
    }
    isRound_ = corners == 0;
    // Of lines half their width, which is their area by their perimeter.
    depth_ = around > 0 ? std::min(0.8, 0.9 * area_ / around) : 0;
}

Point MarkShapeModel::middle(double turn) const {
    return turned(box_.centre(), turn);
}

/// How bright its ink is, and the medium around it.
std::optional<MarkShapeModel::Levels> MarkShapeModel::levelsAt(const SensorView& view, Point place,
                                                               double turn) const {
    std::vector<double> ink, paper;
    for (const EdgeSample& sample : samples_) {
        ink.push_back(view.at(place + turned(sample.at - sample.out * depth_, turn)));
        paper.push_back(view.at(place + turned(sample.at + sample.out * outside, turn)));
    }
    if (ink.empty())
        return {};
    const Levels levels{median(ink), median(paper)};
    return levels.paper - levels.ink >= leastContrast ? std::optional(levels) : std::nullopt;
}

/// How far out from a place, mm, the nearest rise of the light through the level lies.
std::optional<double> MarkShapeModel::edgeAlong(const SensorView& view, Point at, Point out,
                                                double level) const {
    constexpr double step = 0.04;
    const double inside = depth_ * 1.1;
    const int count = int((inside + outside) / step);
    std::optional<double> nearest;
    double before = view.at(at - out * inside);
    for (int i = 1; i <= count; ++i) {
        const double along = i * step - inside, here = view.at(at + out * along);
        if (before < level && here >= level) {
            const double edge = along - step * (here - level) / (here - before);
            if (!nearest || std::abs(edge) < std::abs(*nearest))
                nearest = edge;
        }
        before = here;
    }
    return nearest;
}

/// Gauss-Newton on the distances of edges from the outline along its normals, over shift, turn and the ink's
/// gain, with Tukey's weights (J. Tukey and A. Beaton, 1974) against edges that are not its own.
std::optional<Sighting> MarkShapeModel::fitAt(const SensorView& view, Point place, double turn) const {
    const double expectedTurn = turn;
    const std::optional<Levels> levels = levelsAt(view, place, turn);
    if (!levels || samples_.empty())
        return {};
    const double level = (levels->ink + levels->paper) / 2;
    double gain = 0;
    for (int round = 0; round < 6; ++round) {
        // The first rounds look at edges that are still off, the last ones at those that fit.
        const double cut = round < 3 ? 0.6 : 0.2;
        Eigen::Matrix4d normal = Eigen::Matrix4d::Zero();
        Eigen::Vector4d right = Eigen::Vector4d::Zero();
        normal(2, 2) = isRound_ ? 1e12 : 1e-6;
        normal(3, 3) = 1; // ink spreads little
        double squares = 0;
        std::size_t fitting = 0;
        for (const EdgeSample& sample : samples_) {
            const Point r = turned(sample.at, turn), out = turned(sample.out, turn);
            const auto edge = edgeAlong(view, place + r, out, level);
            if (!edge)
                continue;
            const double off = *edge - gain, share = off / cut;
            if (std::abs(share) >= 1)
                continue;
            if (std::abs(off) < 0.15) {
                squares += off * off;
                ++fitting;
            }
            const double weight = (1 - share * share) * (1 - share * share);
            const Eigen::Vector4d row{out.x, out.y, dot(out, Point{-r.y, r.x}), 1};
            normal += weight * row * row.transpose();
            right += weight * off * row;
        }
        right(3) -= gain; // towards none
        if (round == 5) {
            const double residual = std::sqrt(squares / std::max<double>(1, double(fitting)));
            const double support = double(fitting) / double(samples_.size());
            const bool isIt = support >= leastSupport && residual <= mostResidual &&
                              std::abs(gain) <= mostGain && std::abs(turn - expectedTurn) <= mostTurn;
            return isIt ? std::optional(Sighting{place, turn, residual, support}) : std::nullopt;
        }
        const Eigen::Vector4d by = normal.ldlt().solve(right);
        if (!by.allFinite())
            return {};
        place = place + Point{by(0), by(1)};
        turn += by(2);
        gain += by(3);
    }
    return {};
}

std::vector<Sighting> MarkShapeModel::findIn(const SensorView& view, double turn) const {
    const Grid<float> light = smoothed(view.light);
    std::vector<float> cells(light.cells().begin(), light.cells().end());
    if (cells.empty())
        return {};
    const auto brighterThan = [&](double share) {
        const auto at = cells.begin() + std::ptrdiff_t(double(cells.size() - 1) * share);
        std::nth_element(cells.begin(), at, cells.end());
        return *at;
    };
    // Paper is bright, and what a mark covers of a window is dark.
    const float paper = brighterThan(0.9), ink = brighterThan(0.02);
    if (paper - ink < float(leastContrast))
        return {};
    std::vector<Sighting> found;
    const double perPixel = 1 / view.pixelsPerMillimetre;
    for (const DarkArea& dark : darkAreas(light, (paper + ink) / 2)) {
        if (dark.left == 0 || dark.top == 0 || dark.right + 1 == light.width() ||
            dark.bottom + 1 == light.height())
            continue; // it may go on
        const double width = (dark.right - dark.left + 1) * perPixel,
                     height = (dark.bottom - dark.top + 1) * perPixel;
        const double slack = 2 * mostGain + 0.05 * size();
        if (std::abs(width - box_.width()) > slack || std::abs(height - box_.height()) > slack ||
            std::abs(double(dark.pixels) * perPixel * perPixel - area_) > 0.4 * area_)
            continue;
        const Point at = view.placeOf((dark.left + dark.right) / 2.0, (dark.top + dark.bottom) / 2.0);
        if (const auto sighting = fitAt(view, at - middle(turn), turn))
            found.push_back(*sighting);
    }
    return found;
}

} // namespace hasami
