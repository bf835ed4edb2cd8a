#include "raster/cell_runs.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace hasami {

bool CellRuns::isEmpty() const {
    return std::all_of(rows.begin(), rows.end(), [](const auto& row) { return row.empty(); });
}

const std::vector<CellRuns::Run>& CellRuns::row(int number) const {
    static const std::vector<Run> none;
    return number < top || number - top >= int(rows.size()) ? none : rows[std::size_t(number - top)];
}

CellRuns::Extent CellRuns::extent() const {
    Extent extent{std::numeric_limits<int>::max(), 0, std::numeric_limits<int>::min(), 0};
    bool isFirst = true;
    for (std::size_t i = 0; i < rows.size(); ++i) {
        if (rows[i].empty())
            continue;
        const int number = top + int(i);
        if (isFirst)
            extent.top = number;
        isFirst = false;
        extent.bottom = number + 1;
        extent.left = std::min(extent.left, rows[i].front().from);
        extent.right = std::max(extent.right, rows[i].back().to);
    }
    return isFirst ? Extent{} : extent;
}

CellRuns cellsIn(const Region& region) {
    CellRuns runs;
    const Box box = bounds(region);
    if (box.isEmpty())
        return runs;
    runs.top = int(std::floor(box.least.y));
    const int bottom = int(std::ceil(box.most.y));
    std::vector<std::vector<double>> crossings(std::size_t(std::max(bottom - runs.top, 0)));
    for (const Loop& loop : region.loops)
        for (std::size_t i = 0; i < loop.size(); ++i) {
            Point a = loop[i], b = loop[(i + 1) % loop.size()];
            if (a.y > b.y)
                std::swap(a, b);
            // Rows whose centre y = row + 0.5 lies in [a.y, b.y).
            const int first = int(std::ceil(a.y - 0.5)), last = int(std::ceil(b.y - 0.5));
            for (int row = first; row < last; ++row) {
                const double t = (row + 0.5 - a.y) / (b.y - a.y);
                crossings[std::size_t(row - runs.top)].push_back(a.x + (b.x - a.x) * t);
            }
        }
    for (std::vector<double>& along : crossings) {
        std::sort(along.begin(), along.end());
        std::vector<CellRuns::Run>& row = runs.rows.emplace_back();
        for (std::size_t i = 0; i + 1 < along.size(); i += 2) {
            const int from = int(std::ceil(along[i] - 0.5)), to = int(std::ceil(along[i + 1] - 0.5));
            if (from >= to)
                continue;
            if (!row.empty() && row.back().to >= from)
                row.back().to = std::max(row.back().to, to);
            else
                row.push_back({from, to});
        }
    }
    return runs;
}

} // namespace hasami
