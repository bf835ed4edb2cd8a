#include "files/plate_use.h"

#include <algorithm>
#include <array>

namespace hasami {

void PlateUse::add(const PlateUse& other) {
    mostInk = std::max(mostInk, other.mostInk);
    for (const Plate& plate : other.plates) {
        const auto found = std::ranges::find(plates, plate.name, &Plate::name);
        if (found == plates.end())
            plates.push_back(plate);
        else
            found->area += plate.area;
    }
}

const PlateUse::Plate* PlateUse::find(const std::string& name) const {
    const auto found = std::ranges::find(plates, name, &Plate::name);
    return found == plates.end() ? nullptr : &*found;
}

PlateUse plateUseOf(const Plates& plates, double cellArea) {
    constexpr std::array names{"Cyan", "Magenta", "Yellow", "Black"};
    constexpr double whole = 255;
    std::array<std::size_t, names.size()> inked{};
    std::vector<int> sums(plates.process.pixels());
    for (std::size_t cell = 0; cell < sums.size(); ++cell) {
        const FineCell inks = plates.process.at(cell);
        for (std::size_t ink = 0; ink < names.size(); ++ink) {
            inked[ink] += inks[ink] > 0 ? 1 : 0;
            sums[cell] += inks[ink];
        }
    }
    PlateUse use;
    for (std::size_t ink = 0; ink < names.size(); ++ink)
        if (inked[ink] > 0)
            use.plates.push_back({names[ink], double(inked[ink]) * cellArea});
    for (const SpotPlate& spot : plates.spots) {
        std::size_t count = 0;
        for (std::size_t cell = 0; cell < sums.size(); ++cell) {
            const int amount = spot.amounts.cells()[cell];
            count += amount > 0 ? 1 : 0;
            sums[cell] += amount;
        }
        use.plates.push_back({spot.name, double(count) * cellArea});
    }
    if (!sums.empty())
        use.mostInk = *std::ranges::max_element(sums) / whole;
    return use;
}

} // namespace hasami
