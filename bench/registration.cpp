// How exactly simulated cutters find simulated prints: random prints, decoys and lost marks, with fixed
// seeds. Prints a table (docs/benchmarks.md) and ends with 1 where a figure is beyond its bound.

#include "support/printed_marks.h"

#include <cmath>
#include <cstdio>
#include <numbers>
#include <random>

namespace {

using namespace hasami;
using namespace hasami::test;

constexpr double mostRms = 0.1, mostLargest = 0.2; // mm

struct Figures {
    double squares = 0, count = 0, largest = 0;
    int refused = 0, beyond = 0; ///< sheets; cut although they were off

    void add(const PrintedMarks& print, const Registration& registration) {
        if (registration.fault != RunFault::none) {
            ++refused;
            return;
        }
        double most = 0;
        for (const double error : print.errorsOf(registration)) {
            squares += error * error;
            ++count;
            most = std::max(most, error);
        }
        largest = std::max(largest, most);
        beyond += most > mostLargest;
    }
    double rms() const { return count > 0 ? std::sqrt(squares / count) : 0; }
    /// Whether all is within bounds.
    bool show(const char* what, int sheets) const {
        std::printf("| %s | %d | %.3f | %.3f | %d | %d |\n", what, sheets, rms(), largest, refused, beyond);
        std::fflush(stdout);
        return beyond == 0 && rms() <= mostRms;
    }
};

class Chance {
public:
    explicit Chance(unsigned seed) : random_(seed) {}
    double share() { return share_(random_); } ///< -1 to 1
    std::size_t below(std::size_t count) { return random_() % count; }
    PrintError error(double mostTurn) {
        return {{3 * share(), 3 * share()}, mostTurn * share(), 0.006 * share(), 0.006 * share()};
    }

private:
    std::mt19937 random_;
    std::uniform_real_distribution<double> share_{-1, 1};
};

bool plainPrints(const char* name, MarkShape shape, int rounds) {
    PrintedMarks print(schemeOf(shape));
    Chance chance(101);
    Figures figures;
    for (int round = 0; round < rounds; ++round)
        figures.add(print, print.registered(chance.error(1), {}, 2 + 1.5 * chance.share(), unsigned(round)));
    return figures.show(name, rounds) && figures.refused == 0;
}

bool longRolls(int rounds) {
    MarkScheme scheme = schemeOf(MarkShape::square);
    scheme.interval = 500;
    PrintedMarks print(scheme, 3000, 110);
    Chance chance(102);
    Figures figures;
    for (int round = 0; round < rounds; ++round) {
        PrintError error = chance.error(0.1);
        error.bow = chance.share() > 0 ? 1 : -1;
        figures.add(print, print.registered(error, {}, 2, unsigned(round)));
    }
    return figures.show("squares in pairs, a roll of 3 m with a bend of 1 mm", rounds) &&
           figures.refused == 0;
}

/// Up to two marks are lost, and up to four shapes like marks or nearly so stand close to them.
bool decoys(int rounds) {
    Chance chance(103);
    Figures figures;
    for (const MarkShape shape : {MarkShape::dot, MarkShape::bracket, MarkShape::cross, MarkShape::square}) {
        PrintedMarks print(schemeOf(shape));
        const SheetPicture clean = *print.picture;
        for (int round = 0; round < rounds / 4; ++round) {
            const PrintError error = chance.error(1);
            const PrintMap map(error, print.medium);
            *print.picture = clean;
            std::vector<Blemish> blemishes;
            for (std::size_t lost = chance.below(3); lost > 0; --lost)
                blemishes.push_back({map(print.sheet.marks[chance.below(4)].centre), 7 + 2 * chance.share(),
                                     chance.below(2) == 0 ? Blemish::Kind::torn : Blemish::Kind::smudge});
            for (std::size_t decoy = chance.below(5); decoy > 0; --decoy) {
                const Mark& mark = print.sheet.marks[chance.below(4)];
                const double angle = std::numbers::pi * chance.share(), off = 10.5 + 4 * chance.share();
                // Like the mark, or of a size that is nearly its own.
                const double size = chance.below(2) == 0 ? 1 : 1 + 0.25 * chance.share();
                const Affine place =
                    Affine::translation(mark.centre + Point{std::cos(angle), std::sin(angle)} * off) *
                    Affine::scaling(size, size) * Affine::translation(mark.centre * -1);
                std::vector<Curve> ink;
                for (const Curve& curve : mark.ink)
                    ink.push_back(hasami::map(curve, place));
                paint(*print.picture, ink);
            }
            figures.add(print, print.registered(error, blemishes, 2, unsigned(round)));
        }
    }
    return figures.show("all shapes, with decoys and up to two marks lost", rounds);
}

} // namespace

int main() {
    std::printf("| marks | sheets | rms, mm | largest, mm | refused | cut beyond 0.2 mm "
                "|\n|---|---|---|---|---|---|\n");
    bool isWithin = plainPrints("four dots", MarkShape::dot, 200);
    isWithin &= plainPrints("four brackets", MarkShape::bracket, 200);
    isWithin &= plainPrints("four crosses", MarkShape::cross, 200);
    isWithin &= plainPrints("four squares", MarkShape::square, 200);
    isWithin &= longRolls(50);
    isWithin &= decoys(1000);
    return isWithin ? 0 : 1;
}
