#include "edge/backdrop.h"

#include "base/error.h"
#include "edge/matting.h"

#include <Eigen/Dense>

#include <algorithm>
#include <array>
#include <cmath>
#include <deque>
#include <optional>
#include <vector>

namespace hasami {

namespace {

constexpr std::array<Pixel, 4> neighbours{{{1, 0}, {-1, 0}, {0, 1}, {0, -1}}};

/// Means of squares of `factor` pixels a side.
Grid<Colour> coarse(const Grid<Rgba>& pixels, int factor) {
    Grid<Colour> small((pixels.width() + factor - 1) / factor, (pixels.height() + factor - 1) / factor);
    for (int row = 0; row < small.height(); ++row)
        for (int column = 0; column < small.width(); ++column) {
            Colour sum;
            int count = 0;
            for (int y = row * factor; y < std::min((row + 1) * factor, pixels.height()); ++y)
                for (int x = column * factor; x < std::min((column + 1) * factor, pixels.width());
                     ++x, ++count)
                    sum = sum + Colour(pixels.at(x, y));
            small.at(column, row) = sum * (1 / float(count));
        }
    return small;
}

/// The mean of three by three.
Grid<Colour> softened(const Grid<Colour>& in) {
    Grid<Colour> across(in.width(), in.height()), out(in.width(), in.height());
    const auto meanOf = [](Colour a, Colour b, Colour c) { return (a + b + c) * (1 / 3.0F); };
    for (int y = 0; y < in.height(); ++y)
        for (int x = 0; x < in.width(); ++x)
            across.at(x, y) =
                meanOf(in.at(std::max(x - 1, 0), y), in.at(x, y), in.at(std::min(x + 1, in.width() - 1), y));
    for (int y = 0; y < in.height(); ++y)
        for (int x = 0; x < in.width(); ++x)
            out.at(x, y) = meanOf(across.at(x, std::max(y - 1, 0)), across.at(x, y),
                                  across.at(x, std::min(y + 1, in.height() - 1)));
    return out;
}

/// Noise of one pixel, in levels: from second differences along the rim, whose median leaves out edges
/// (D. Donoho and I. Johnstone, "Ideal spatial adaptation by wavelet shrinkage", 1994).
double noiseOf(const Grid<Rgba>& pixels) {
    std::vector<float> differences;
    const auto add = [&](Rgba a, Rgba b, Rgba c) {
        differences.push_back(std::abs(float(a.green) - 2 * float(b.green) + float(c.green)));
    };
    for (int y : {0, pixels.height() / 2, pixels.height() - 1})
        for (int x = 1; x + 1 < pixels.width(); ++x)
            add(pixels.at(x - 1, y), pixels.at(x, y), pixels.at(x + 1, y));
    for (int x : {0, pixels.width() / 2, pixels.width() - 1})
        for (int y = 1; y + 1 < pixels.height(); ++y)
            add(pixels.at(x, y - 1), pixels.at(x, y), pixels.at(x, y + 1));
    const auto middle = differences.begin() + std::ptrdiff_t(differences.size() / 2);
    std::nth_element(differences.begin(), middle, differences.end());
    return *middle / 0.6745 / std::sqrt(6.0);
}

/// Finds which pixels of the (coarse, softened) picture are backdrop.
class Flood {
public:
    /// `near`: how far from what is expected a colour may be, in levels.
    Flood(const Grid<Colour>& colours, double near, double shadow, const std::stop_token& stop)
        : colours_(colours), near_(float(near)), shadow_(float(shadow / 100)), stop_(stop),
          isBackdrop_(colours.width(), colours.height(), 0), expected_(colours.width(), colours.height()) {}

    Grid<std::uint8_t> run() {
        for (const Pixel p : seeds())
            take(p, colours_.at(p.x, p.y));
        spread();
        surface_ = fitted();
        takeShadows();
        takeSeams();
        if (surface_) {
            takeEnclosed();
            giveShadowBack();
        }
        return std::move(isBackdrop_);
    }

    /// For subjects of few levels' difference: all that comes close to a quadratic surface through the
    /// picture's outer tenth. All of the picture where that is not even enough to decide.
    Grid<std::uint8_t> runOnSurface() {
        constexpr double ofSides = 0.1, leastEven = 0.9, leastNear = 2.5, ofScatter = 5;
        const int w = colours_.width(), h = colours_.height(),
                  band = std::max(3, int(ofSides * std::min(w, h)));
        for (int y = 0; y < h; ++y)
            for (int x = 0; x < w; ++x)
                isBackdrop_.at(x, y) = std::min({x, y, w - 1 - x, h - 1 - y}) < band;
        surface_ = fitted();
        if (surface_ && evenShare_ >= leastEven) {
            near_ = float(std::max(leastNear, ofScatter * scatterAbout(*surface_)));
            throwIfStopped(stop_);
            for (int y = 0; y < h; ++y)
                for (int x = 0; x < w; ++x)
                    isBackdrop_.at(x, y) = apart(colours_.at(x, y), at(*surface_, x, y)) <= near_;
        } else {
            std::fill(isBackdrop_.cells().begin(), isBackdrop_.cells().end(), std::uint8_t{1});
        }
        return std::move(isBackdrop_);
    }

private:
    using Surface = std::array<Colour, 6>;

    struct Stretch {
        std::size_t begin = 0, length = 0;
        int corners = 0;
        Colour mean;
    };

    std::vector<Pixel> rim() const {
        const int w = colours_.width(), h = colours_.height();
        std::vector<Pixel> all;
        all.reserve(2 * (std::size_t(w) + std::size_t(h)));
        for (int x = 0; x < w - 1; ++x)
            all.push_back({x, 0});
        for (int y = 0; y < h - 1; ++y)
            all.push_back({w - 1, y});
        for (int x = w - 1; x > 0; --x)
            all.push_back({x, h - 1});
        for (int y = h - 1; y > 0; --y)
            all.push_back({0, y});
        return all;
    }

    bool isCorner(Pixel p) const {
        return (p.x == 0 || p.x == colours_.width() - 1) && (p.y == 0 || p.y == colours_.height() - 1);
    }

    /// The rim cut where its colour jumps.
    std::vector<Stretch> stretchesOf(const std::vector<Pixel>& rim) const {
        constexpr std::size_t stride = 3; // an edge is a few pixels wide
        const auto colour = [&](std::size_t i) {
            const Pixel p = rim[i % rim.size()];
            return colours_.at(p.x, p.y);
        };
        const auto jumps = [&](std::size_t i) { return apart(colour(i), colour(i + stride)) > near_ + 4; };
        std::size_t start = 0;
        while (start < rim.size() && !jumps(start))
            ++start;
        std::vector<Stretch> all;
        Stretch now{start, 0, 0, {}};
        for (std::size_t i = start; i < start + rim.size(); ++i) {
            if (jumps(i)) {
                if (now.length > 0)
                    all.push_back(now);
                now = {i + 1, 0, 0, {}};
                continue;
            }
            ++now.length;
            now.corners += isCorner(rim[i % rim.size()]);
            now.mean = now.mean + colour(i);
        }
        if (now.length > 0)
            all.push_back(now);
        for (Stretch& s : all)
            s.mean = s.mean * (1 / float(s.length));
        return all;
    }

    /// The rim's pixels that are backdrop: its longest stretch, those of like colour, and others that go
    /// round a corner. A stretch within one side is a subject that is cut off there.
    std::vector<Pixel> seeds() const {
        const auto all = rim();
        const auto stretches = stretchesOf(all);
        if (stretches.empty())
            return {};
        const Stretch& longest =
            *std::max_element(stretches.begin(), stretches.end(),
                              [](const Stretch& a, const Stretch& b) { return a.length < b.length; });
        std::vector<Pixel> seeds;
        for (const Stretch& s : stretches) {
            const bool goesRoundCorner = s.corners > 0 && s.length * 10 >= all.size();
            if (&s == &longest || goesRoundCorner || apart(s.mean, longest.mean) < 2 * near_)
                for (std::size_t i = s.begin; i < s.begin + s.length; ++i)
                    seeds.push_back(all[i % all.size()]);
        }
        return seeds;
    }

    void take(Pixel p, Colour expected) {
        isBackdrop_.at(p.x, p.y) = 1;
        expected_.at(p.x, p.y) = expected;
        front_.push_back(p);
    }

    /// From each backdrop pixel to its neighbours, as long as their colour is what one expects there: close
    /// to that of the way so far, which it follows slowly; or a shadow on it, which it follows at once.
    void spread() {
        constexpr float follow = 0.1F;
        std::size_t count = 0;
        while (!front_.empty()) {
            if (++count % 65536 == 0)
                throwIfStopped(stop_);
            const Pixel p = front_.front();
            front_.pop_front();
            const Colour expected = expected_.at(p.x, p.y);
            for (const Pixel step : neighbours) {
                const Pixel q{p.x + step.x, p.y + step.y};
                if (!holds(colours_, q) || isBackdrop_.at(q.x, q.y))
                    continue;
                const Colour there = colours_.at(q.x, q.y);
                if (apart(there, expected) <= near_)
                    take(q, expected * (1 - follow) + there * follow);
                else if (withShadows_ && isShadow(q, expected))
                    take(q, there);
            }
        }
    }

    /// Spreads on into soft shadows.
    void takeShadows() {
        for (int y = 0; y < colours_.height(); ++y)
            for (int x = 0; x < colours_.width(); ++x)
                if (isBackdrop_.at(x, y))
                    front_.push_back({x, y});
        withShadows_ = true;
        spread();
    }

    /// The backdrop's colour made darker, and gently so, whichever way one goes: along the subject's edge
    /// colours change slowly too.
    bool isShadow(Pixel p, Colour expected) const {
        constexpr float darkest = 0.25F;
        constexpr float steepest = 5; // levels a pixel
        if (surface_)
            expected = at(*surface_, p.x, p.y);
        const Colour there = colours_.at(p.x, p.y);
        const float square = dot(expected, expected);
        if (square < 1)
            return false;
        const float part = dot(there, expected) / square;
        return part > darkest && part < 1.05F && apart(there, expected * part) <= near_ &&
               steepness(p) <= steepest;
    }

    /// In levels a pixel.
    float steepness(Pixel p) const {
        const int left = std::max(p.x - 1, 0), right = std::min(p.x + 1, colours_.width() - 1);
        const int above = std::max(p.y - 1, 0), below = std::min(p.y + 1, colours_.height() - 1);
        return std::hypot(apart(colours_.at(left, p.y), colours_.at(right, p.y)),
                          apart(colours_.at(p.x, above), colours_.at(p.x, below))) /
               2;
    }

    /// Where two colours of the backdrop meet: what lies between them and is a mixture of both.
    void takeSeams() {
        std::vector<Pixel> seams;
        for (int y = 0; y < colours_.height(); ++y)
            for (int x = 0; x < colours_.width(); ++x)
                if (!isBackdrop_.at(x, y) && isSeam({x, y}))
                    seams.push_back({x, y});
        for (const Pixel p : seams)
            isBackdrop_.at(p.x, p.y) = 1;
    }

    bool isSeam(Pixel p) const {
        for (const Pixel step : {Pixel{1, 0}, Pixel{0, 1}, Pixel{1, 1}, Pixel{1, -1}}) {
            const auto one = backdropFrom(p, step), other = backdropFrom(p, {-step.x, -step.y});
            if (!one || !other || apart(*one, *other) <= 2 * near_)
                continue;
            const Colour way = *other - *one, here = colours_.at(p.x, p.y);
            const float part = dot(here - *one, way) / dot(way, way);
            if (part > -0.1F && part < 1.1F && apart(here, *one + way * part) <= 0.75F * near_)
                return true;
        }
        return false;
    }

    std::optional<Colour> backdropFrom(Pixel p, Pixel step) const {
        constexpr int widest = 12; // pixels to either side that the meeting of two colours may take
        for (int i = 1; i <= widest; ++i) {
            const Pixel q{p.x + i * step.x, p.y + i * step.y};
            if (!holds(colours_, q))
                return {};
            if (isBackdrop_.at(q.x, q.y))
                return expected_.at(q.x, q.y);
        }
        return {};
    }

    /// Backdrop seen through openings of the subject: of the colour that a quadratic surface through the
    /// backdrop around gives there.
    void takeEnclosed() {
        for (int y = 1; y + 1 < colours_.height(); ++y)
            for (int x = 1; x + 1 < colours_.width(); ++x) {
                bool all = !isBackdrop_.at(x, y);
                for (int dy = -1; dy <= 1 && all; ++dy)
                    for (int dx = -1; dx <= 1 && all; ++dx)
                        all = apart(colours_.at(x + dx, y + dy), at(*surface_, x, y)) <= 0.75F * near_;
                if (all)
                    take({x, y}, colours_.at(x, y));
            }
        spread();
    }

    /// To the subject, as far as shadows are to be taken in: first the darkest.
    void giveShadowBack() {
        constexpr float deepest = 0.6F, faintest = 0.04F; // of the backdrop's light
        if (shadow_ <= 0)
            return;
        const float lost = faintest + (deepest - faintest) * (1 - shadow_);
        for (int y = 0; y < colours_.height(); ++y)
            for (int x = 0; x < colours_.width(); ++x) {
                const Colour there = at(*surface_, x, y);
                if (dot(colours_.at(x, y), there) < (1 - lost) * dot(there, there))
                    isBackdrop_.at(x, y) = 0;
            }
    }

    std::array<double, 6> termsAt(int x, int y) const {
        const double u = 2.0 * x / colours_.width() - 1, v = 2.0 * y / colours_.height() - 1;
        return {1, u, v, u * u, u * v, v * v};
    }

    Colour at(const Surface& surface, int x, int y) const {
        const auto terms = termsAt(x, y);
        Colour sum;
        for (std::size_t i = 0; i < 6; ++i)
            sum = sum + surface[i] * float(terms[i]);
        return sum;
    }

    /// Least squares over the backdrop, over and over without what lies far off (shadows, other colours);
    /// nothing where half of it does not come close.
    std::optional<Surface> fitted() {
        constexpr int rounds = 5;
        std::optional<Surface> surface = fittedTo(nullptr);
        for (int round = 1; round < rounds && surface; ++round)
            surface = fittedTo(&*surface);
        return surface;
    }

    /// Root mean square of the backdrop's greatest differences, without what lies far off.
    double scatterAbout(const Surface& surface) const {
        double sum = 0;
        std::size_t count = 0;
        for (int y = 0; y < colours_.height(); ++y)
            for (int x = 0; x < colours_.width(); ++x)
                if (const double d = apart(colours_.at(x, y), at(surface, x, y));
                    isBackdrop_.at(x, y) && d <= near_) {
                    sum += d * d;
                    ++count;
                }
        return count > 0 ? std::sqrt(sum / double(count)) : 0;
    }

    std::optional<Surface> fittedTo(const Surface* before) {
        Eigen::Matrix<double, 6, 6> normal = Eigen::Matrix<double, 6, 6>::Identity() * 1e-6;
        Eigen::Matrix<double, 6, 3> right = Eigen::Matrix<double, 6, 3>::Zero();
        const int cells = colours_.width() * colours_.height(), stride = std::max(1, cells / 40'000);
        std::size_t count = 0, used = 0;
        for (int i = 0; i < cells; i += stride) {
            const int x = i % colours_.width(), y = i / colours_.width();
            if (!isBackdrop_.at(x, y))
                continue;
            ++count;
            const Colour c = colours_.at(x, y);
            if (before && apart(c, at(*before, x, y)) > near_)
                continue;
            ++used;
            const auto terms = termsAt(x, y);
            const Eigen::Map<const Eigen::Matrix<double, 6, 1>> row(terms.data());
            normal += row * row.transpose();
            right += row * Eigen::RowVector3d(c.red, c.green, c.blue);
        }
        evenShare_ = count > 0 ? double(used) / double(count) : 0;
        if (used < 50 || used * 2 < count)
            return {};
        const Eigen::Matrix<double, 6, 3> solved = normal.ldlt().solve(right);
        Surface surface;
        for (int i = 0; i < 6; ++i)
            surface[std::size_t(i)] = {float(solved(i, 0)), float(solved(i, 1)), float(solved(i, 2))};
        return surface;
    }

    const Grid<Colour>& colours_;
    float near_;   ///< how far from what is expected a colour may be, in levels
    float shadow_; ///< how much of one is taken in, 0 to 1
    std::stop_token stop_;
    Grid<std::uint8_t> isBackdrop_;
    Grid<Colour> expected_;
    std::deque<Pixel> front_;
    std::optional<Surface> surface_; ///< through the backdrop without shadows, where it is even enough
    bool withShadows_ = false;
    double evenShare_ = 0; ///< of the backdrop, how much the surface comes close to
};

/// How wide a frame of one plain colour around the picture is: up to three pixels, else 0. White ones are no
/// frames but margins.
int frameOf(const Grid<Rgba>& pixels) {
    constexpr int widest = 3;
    constexpr float same = 24, other = 40; // levels
    constexpr int white = 235;
    const int w = pixels.width(), h = pixels.height();
    if (std::min(w, h) < 16 * widest)
        return 0;
    const auto share = [&](int ring, auto&& isOne) { // of the pixels so far from the picture's rim
        std::size_t all = 0, those = 0;
        const auto look = [&](int x, int y) {
            ++all;
            those += isOne(Colour(pixels.at(x, y)));
        };
        for (int x = ring; x < w - ring; ++x) {
            look(x, ring);
            look(x, h - 1 - ring);
        }
        for (int y = ring + 1; y < h - 1 - ring; ++y) {
            look(ring, y);
            look(w - 1 - ring, y);
        }
        return double(those) / double(all);
    };
    const Colour frame(pixels.at(w / 2, 0));
    if (std::min({frame.red, frame.green, frame.blue}) >= white)
        return 0;
    const auto isFrame = [&](Colour c) { return apart(c, frame) <= same; };
    const auto isOther = [&](Colour c) { return apart(c, frame) > other; };
    int width = 0;
    while (width <= widest && share(width, isFrame) > 0.98)
        ++width;
    if (width == 0 || width > widest)
        return 0;
    if (share(width, isOther) > 0.9)
        return width;
    return share(width + 1, isOther) > 0.9 ? width + 1 : 0; // with a row of mixed colours
}

Grid<Rgba> inside(const Grid<Rgba>& pixels, int frame) {
    Grid<Rgba> within(pixels.width() - 2 * frame, pixels.height() - 2 * frame);
    for (int y = 0; y < within.height(); ++y)
        for (int x = 0; x < within.width(); ++x)
            within.at(x, y) = pixels.at(x + frame, y + frame);
    return within;
}

/// One way to separate the subject from the backdrop.
class Attempt {
public:
    Attempt(const Grid<Rgba>& pixels, double shadow, const std::stop_token& stop)
        : pixels_(pixels), shadow_(shadow), stop_(stop), noise_(noiseOf(pixels)) {
        constexpr double mostCoarse =
            2e6; // pixels that are flooded: shades between the sides' colours are kept apart
        const double count = double(pixels.width()) * pixels.height();
        factor_ = std::max(1, int(std::ceil(std::sqrt(count / mostCoarse))));
        small_ = softened(coarse(pixels, factor_));
    }

    BackdropCoverage usual() {
        return finely(Flood(small_, 8 + 2 * noise_, shadow_, stop_).run(), factor_ + 2);
    }

    /// For subjects that differ by some levels only: softened more, so that a smaller difference counts.
    /// Nothing where what is found is not plausible: scattered bits, of less contrast than the noise.
    BackdropCoverage faint() {
        constexpr double leastContrast = 5, ofNoise = 2.5, near = 6;
        small_ = softened(softened(small_));
        BackdropCoverage found =
            finely(Flood(small_, near + noise_, shadow_, stop_).runOnSurface(), factor_ + 4);
        if (contrast_ < std::max(leastContrast, ofNoise * noise_) || !isWhole(found.cells))
            found.cells = Grid<std::uint8_t>(pixels_.width(), pixels_.height());
        return found;
    }

private:
    /// Where the backdrop is, at full resolution. `first`: how many pixels short of the edge it may end.
    BackdropCoverage finely(const Grid<std::uint8_t>& isBackdrop, int first) {
        Grid<std::uint8_t> isSubject(pixels_.width(), pixels_.height());
        for (int y = 0; y < pixels_.height(); ++y)
            for (int x = 0; x < pixels_.width(); ++x)
                isSubject.at(x, y) = !isBackdrop.at(x / factor_, y / factor_);

        const auto matting = [&](const Band& band) {
            Matting made(pixels_, isSubject, band, stop_);
            isSubject = {}; // as large as the picture, and no longer needed
            return made;
        };
        // First roughly: the flood stops short of the edge by the softening and by what compression left
        // around it.
        isSubject = matting({first, first + 1, 2 * first + 3, factor_}).run();
        std::ranges::transform(isSubject.cells(), isSubject.cells().begin(),
                               [](std::uint8_t part) { return part > 127; });
        Matting fine = matting({2, 2, 5, 1});
        BackdropCoverage found;
        found.cells = fine.run();
        contrast_ = fine.meanContrast();
        constexpr double leastScatter = 0.08, mostScatter = 0.3,
                         ofNoise = 2; // measured: tests/cli/analytic.py
        if (contrast_ > 0)
            found.scatter =
                std::clamp(leastScatter + ofNoise * noise_ / contrast_, leastScatter, mostScatter);
        return found;
    }

    /// Whether the subject is some large parts, and leaves some backdrop.
    static bool isWhole(const Grid<std::uint8_t>& cells) {
        constexpr double least = 0.003, most = 0.9, ofLarge = 0.9; // of the picture; of the subject
        const auto all = double(cells.cells().size());
        Grid<std::uint8_t> isLeft(cells.width(), cells.height());
        std::transform(cells.cells().begin(), cells.cells().end(), isLeft.cells().begin(),
                       [](std::uint8_t part) { return part > 127; });
        double sum = 0, large = 0;
        std::vector<Pixel> part;
        for (int y = 0; y < cells.height(); ++y)
            for (int x = 0; x < cells.width(); ++x) {
                if (!isLeft.at(x, y))
                    continue;
                part = {{x, y}};
                isLeft.at(x, y) = 0;
                for (std::size_t i = 0; i < part.size(); ++i)
                    for (const Pixel step : neighbours)
                        if (const Pixel q{part[i].x + step.x, part[i].y + step.y};
                            holds(isLeft, q) && isLeft.at(q.x, q.y)) {
                            isLeft.at(q.x, q.y) = 0;
                            part.push_back(q);
                        }
                sum += double(part.size());
                if (double(part.size()) >= least * all)
                    large += double(part.size());
            }
        return sum <= most * all && large > 0 && large >= ofLarge * sum;
    }

    const Grid<Rgba>& pixels_;
    double shadow_;
    std::stop_token stop_;
    double noise_;
    int factor_ = 1;
    Grid<Colour> small_;
    double contrast_ = 0; ///< along the subject's edge, in levels
};

/// Of a picture without a frame.
BackdropCoverage apartInside(const Grid<Rgba>& pixels, double shadow, const std::stop_token& stop) {
    Attempt attempt(pixels, shadow, stop);
    BackdropCoverage found = attempt.usual();
    constexpr double least = 0.003; // of the picture; less may be bits of noise
    const auto subject = [](const BackdropCoverage& coverage) {
        const auto cells = coverage.cells.cells();
        return double(std::count_if(cells.begin(), cells.end(), [](std::uint8_t c) { return c > 127; }));
    };
    if (subject(found) >= least * double(pixels.cells().size()))
        return found;
    BackdropCoverage faint = attempt.faint();
    return subject(faint) > 0 ? faint : found;
}

} // namespace

BackdropCoverage apartFromBackdrop(const Grid<Rgba>& pixels, double shadow, const std::stop_token& stop) {
    const int frame = frameOf(pixels);
    if (frame == 0)
        return apartInside(pixels, shadow, stop);
    BackdropCoverage found = apartInside(inside(pixels, frame), shadow, stop);
    Grid<std::uint8_t> cells(pixels.width(), pixels.height());
    for (int y = 0; y < found.cells.height(); ++y)
        for (int x = 0; x < found.cells.width(); ++x)
            cells.at(x + frame, y + frame) = found.cells.at(x, y);
    found.cells = std::move(cells);
    return found;
}

} // namespace hasami
