// What many copies of one shape are measured against: the best single or double lattice, cut to the roll,
// turned and slid, and descended on the used length. Slow and plain, by brute force; nothing else is built on
// it.
//
//   nest-lattice IN.json SECONDS SEED        prints the used length
//
// Reads what hasami-cli nest does, of one part that turns freely, on a roll.

#include <nlohmann/json.hpp>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <fstream>
#include <random>
#include <vector>

namespace {

constexpr double pi = 3.14159265358979323846;

struct Point {
    double x = 0, y = 0;
};
Point operator+(Point a, Point b) {
    return {a.x + b.x, a.y + b.y};
}
Point operator-(Point a, Point b) {
    return {a.x - b.x, a.y - b.y};
}
Point operator*(Point a, double k) {
    return {a.x * k, a.y * k};
}
double cross(Point a, Point b) {
    return a.x * b.y - a.y * b.x;
}
double length(Point a) {
    return std::hypot(a.x, a.y);
}
Point turned(Point p, double angle) {
    const double c = std::cos(angle), s = std::sin(angle);
    return {c * p.x - s * p.y, s * p.x + c * p.y};
}
using Loop = std::vector<Point>;

double toSide(Point p, Point a, Point b) {
    const Point d = b - a;
    const double squared = d.x * d.x + d.y * d.y;
    const double t =
        squared > 0 ? std::clamp(((p.x - a.x) * d.x + (p.y - a.y) * d.y) / squared, 0.0, 1.0) : 0;
    return length(p - a - d * t);
}

bool contains(const Loop& loop, Point p) {
    bool isInside = false;
    for (std::size_t i = 0, j = loop.size() - 1; i < loop.size(); j = i++)
        if ((loop[i].y > p.y) != (loop[j].y > p.y) &&
            p.x < (loop[j].x - loop[i].x) * (p.y - loop[i].y) / (loop[j].y - loop[i].y) + loop[i].x)
            isInside = !isInside;
    return isInside;
}

/// Whether the second loop, moved by `by`, stays clear of the first by the gap.
bool isClear(const Loop& a, const Loop& b, Point by, double gap, double radius) {
    if (length(by) > 2 * radius + gap)
        return true;
    if (length(by) < 1e-9)
        return false;
    for (std::size_t i = 0; i < a.size(); ++i) {
        const Point p = a[i], q = a[(i + 1) % a.size()];
        for (std::size_t j = 0; j < b.size(); ++j) {
            const Point r = b[j] + by, s = b[(j + 1) % b.size()] + by;
            if (std::max(p.x, q.x) + gap < std::min(r.x, s.x) ||
                std::max(r.x, s.x) + gap < std::min(p.x, q.x) ||
                std::max(p.y, q.y) + gap < std::min(r.y, s.y) ||
                std::max(r.y, s.y) + gap < std::min(p.y, q.y))
                continue;
            if ((cross(q - p, r - p) > 0) != (cross(q - p, s - p) > 0) &&
                (cross(s - r, p - r) > 0) != (cross(s - r, q - r) > 0))
                return false;
            if (std::min({toSide(p, r, s), toSide(q, r, s), toSide(r, p, q), toSide(s, p, q)}) < gap)
                return false;
        }
    }
    return !contains(a, b.front() + by) && !contains(b, a.front() - by);
}

struct Lattice {
    Point u, v, t;
    bool isDouble = false;
    double area() const { return std::abs(cross(u, v)) / (isDouble ? 2 : 1); }
};

struct Cut {
    double turn = 0;
    Point slide;
};

class Search {
public:
    Search(const nlohmann::json& in, unsigned seed) : random_(seed) {
        for (const auto& p : in["parts"][0]["outline"])
            loop_.push_back({p[0], p[1]});
        Point low = loop_[0], high = loop_[0];
        for (const Point p : loop_) {
            low = {std::min(low.x, p.x), std::min(low.y, p.y)};
            high = {std::max(high.x, p.x), std::max(high.y, p.y)};
        }
        for (Point& p : loop_) {
            p = p - (low + high) * 0.5;
            radius_ = std::max(radius_, length(p));
        }
        for (const Point p : loop_)
            half_.push_back(p * -1);
        copies_ = in["parts"][0]["copies"];
        margin_ = in["margin"];
        gap_ = in["gap"];
        across_ = in["media"]["width"].get<double>() - 2 * margin_;
    }

    double run(double seconds) {
        const auto begin = std::chrono::steady_clock::now();
        const auto share = [&] {
            return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count() / seconds;
        };
        std::vector<Lattice> found;
        while (share() < 0.5)
            found.push_back(anneal(found.size() % 3 != 0));
        std::sort(found.begin(), found.end(),
                  [](const Lattice& a, const Lattice& b) { return a.area() < b.area(); });
        found.resize(std::min<std::size_t>(found.size(), 60));
        std::vector<std::pair<double, std::pair<Lattice, Cut>>> cuts;
        for (const Lattice& lattice : found) {
            Cut cut;
            const double used = bestCut(lattice, cut);
            cuts.push_back({used, {lattice, cut}});
        }
        std::sort(cuts.begin(), cuts.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
        cuts.resize(std::min<std::size_t>(cuts.size(), 10));
        double best = cuts.front().first;
        for (std::size_t i = 0; i < cuts.size() && share() < 1; ++i)
            best = std::min(best, descend(cuts[i].second.first, cuts[i].second.second, cuts[i].first, [&] {
                                return share() > 0.6 + 0.4 * double(i + 1) / double(cuts.size());
                            }));
        return best + 2 * margin_;
    }

private:
    double unit() { return std::uniform_real_distribution<double>(0, 1)(random_); }
    double bell() { return std::normal_distribution<double>(0, 1)(random_); }

    bool isFree(const Lattice& l) const {
        constexpr int reach = 3;
        for (int i = -reach; i <= reach; ++i)
            for (int j = -reach; j <= reach; ++j) {
                const Point at = l.u * i + l.v * j;
                if ((j > 0 || (j == 0 && i > 0)) && !isClear(loop_, loop_, at, gap_, radius_))
                    return false;
                if (l.isDouble && !isClear(loop_, half_, at + l.t, gap_, radius_))
                    return false;
            }
        return true;
    }

    /// Keeps vectors short, so that near neighbours are found among few.
    static void reduce(Lattice& l) {
        for (int i = 0; i < 20; ++i) {
            if (length(l.u) > length(l.v))
                std::swap(l.u, l.v);
            const double k = std::round((l.u.x * l.v.x + l.u.y * l.v.y) / (l.u.x * l.u.x + l.u.y * l.u.y));
            if (k == 0)
                break;
            l.v = l.v - l.u * k;
        }
        const double whole = cross(l.u, l.v);
        const double a = std::round(cross(l.t, l.v) / whole), b = std::round(cross(l.u, l.t) / whole);
        l.t = l.t - l.u * a - l.v * b;
    }

    Lattice anneal(bool isDouble) {
        const double wide = 2 * radius_ + gap_, angle = 2 * pi * unit();
        Lattice now{turned({wide * 1.01, 0}, angle), turned({0, wide * (isDouble ? 2.02 : 1.01)}, angle),
                    turned({wide * unit(), wide * 1.01}, angle), isDouble};
        Lattice best = now;
        double heat = 0.05, size = 0.3;
        for (int i = 0; i < 3000; ++i) {
            Lattice other = now;
            const double reach = radius_ * size;
            for (Point* p : {&other.u, &other.v, &other.t})
                if (unit() < 0.6)
                    *p = *p + Point{reach * bell(), reach * bell()};
            const double more = other.area() / now.area() - 1;
            if (more < heat * unit() && isFree(other)) {
                now = other;
                reduce(now);
                if (now.area() < best.area())
                    best = now;
            }
            heat *= 0.998;
            size = std::max(0.0005, size * 0.9985);
        }
        return best;
    }

    double used(const Lattice& l, const Cut& cut) const {
        const Point u = turned(l.u, cut.turn), v = turned(l.v, cut.turn), t = turned(l.t, cut.turn);
        double reach[4] = {1e300, -1e300, 1e300, -1e300};
        for (const Point p : loop_) {
            const Point q = turned(p, cut.turn);
            reach[0] = std::min(reach[0], q.x);
            reach[1] = std::max(reach[1], q.x);
            reach[2] = std::min(reach[2], q.y);
            reach[3] = std::max(reach[3], q.y);
        }
        const double whole = std::abs(cross(u, v)),
                     most = 2.2 * copies_ * whole / (l.isDouble ? 2 : 1) / across_ + 6 * radius_;
        std::vector<double> ends;
        const double far = most + across_ + 4 * radius_;
        const int limit = int(far / std::min(length(u), length(v)) * 1.5) + 2;
        for (int j = -limit; j <= limit; ++j)
            for (int i = -limit; i <= limit; ++i)
                for (int k = 0; k < (l.isDouble ? 2 : 1); ++k) {
                    const Point at = u * i + v * j + (k ? t : Point{}) + cut.slide;
                    const double left = at.x + (k ? -reach[1] : reach[0]),
                                 right = at.x + (k ? -reach[0] : reach[1]);
                    const double top = at.y + (k ? -reach[3] : reach[2]),
                                 bottom = at.y + (k ? -reach[2] : reach[3]);
                    if (left >= 0 && top >= 0 && bottom <= across_ && right < most)
                        ends.push_back(right);
                }
        if (int(ends.size()) < copies_)
            return 1e300;
        std::nth_element(ends.begin(), ends.begin() + copies_ - 1, ends.end());
        return ends[std::size_t(copies_) - 1];
    }

    double bestCut(const Lattice& l, Cut& best) {
        std::vector<double> turns;
        for (const Point p : {l.u, l.v, l.u + l.v, l.u - l.v})
            for (int quarter = 0; quarter < 4; ++quarter)
                turns.push_back(quarter * pi / 2 - std::atan2(p.y, p.x));
        for (int i = 0; i < 12; ++i)
            turns.push_back(2 * pi * unit());
        double least = 1e300;
        for (const double turn : turns)
            for (int i = 0; i < 6; ++i) {
                const Cut cut{turn, turned(l.u * unit() + l.v * unit(), turn)};
                if (const double length = used(l, cut); length < least) {
                    least = length;
                    best = cut;
                }
            }
        return least;
    }

    template <class Over>
    double descend(Lattice l, Cut cut, double now, Over isOver) {
        double size = 0.05;
        for (int i = 0; !isOver(); ++i) {
            Lattice other = l;
            Cut there = cut;
            const double reach = radius_ * size * unit();
            if (unit() < 0.7)
                there.slide = there.slide + Point{reach * bell(), reach * bell()};
            if (unit() < 0.4)
                there.turn += size * 0.2 * bell();
            if (unit() < 0.7)
                for (Point* p : {&other.u, &other.v, &other.t})
                    *p = *p + Point{0.3 * reach * bell(), 0.3 * reach * bell()};
            const double length = used(other, there);
            if (length <= now && isFree(other)) {
                l = other;
                cut = there;
                now = length;
            }
            if (i % 100 == 99)
                size = std::max(0.0003, size * 0.93);
        }
        return now;
    }

    std::mt19937 random_;
    Loop loop_, half_;
    double radius_ = 0, margin_ = 0, gap_ = 0, across_ = 0;
    int copies_ = 0;
};

} // namespace

int main(int argc, char** argv) {
    if (argc != 4)
        return 2;
    std::ifstream file(argv[1]);
    std::printf("%.4f\n",
                Search(nlohmann::json::parse(file), unsigned(std::atoi(argv[3]))).run(std::atof(argv[2])));
    return 0;
}
