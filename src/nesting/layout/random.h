#pragma once

#include <cmath>
#include <cstddef>
#include <cstdint>

namespace hasami::nesting {

/// Small and the same on every machine (xoshiro256++, seeded by splitmix64), unlike the standard's
/// distributions.
class Random {
public:
    explicit Random(std::uint64_t seed) {
        for (std::uint64_t& word : state_) {
            seed += 0x9e3779b97f4a7c15;
            std::uint64_t z = seed;
            z = (z ^ (z >> 30)) * 0xbf58476d1ce4e5b9;
            z = (z ^ (z >> 27)) * 0x94d049bb133111eb;
            word = z ^ (z >> 31);
        }
    }

    std::uint64_t next() {
        const auto turned = [](std::uint64_t x, int by) { return (x << by) | (x >> (64 - by)); };
        const std::uint64_t result = turned(state_[0] + state_[3], 23) + state_[0];
        const std::uint64_t t = state_[1] << 17;
        state_[2] ^= state_[0];
        state_[3] ^= state_[1];
        state_[1] ^= state_[2];
        state_[0] ^= state_[3];
        state_[2] ^= t;
        state_[3] = turned(state_[3], 45);
        return result;
    }

    /// 0 to 1, never 1.
    double unit() { return double(next() >> 11) * 0x1p-53; }
    double between(double least, double most) { return least + (most - least) * unit(); }
    /// REQUIRES: count above 0.
    std::size_t below(std::size_t count) { return std::size_t(next() % count); }
    /// About a bell around 0 with a deviation of 1.
    double bell() { return (unit() + unit() + unit() + unit() - 2) * 1.732; }

private:
    std::uint64_t state_[4]{};
};

} // namespace hasami::nesting
