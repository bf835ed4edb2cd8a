#pragma once

#include "files/psd_plates.h"

#include <string>
#include <vector>

namespace hasami {

/// How much the plates of a page print.
struct PlateUse {
    struct Plate {
        std::string name;
        double area = 0; ///< mm² on which it prints anything
    };
    std::vector<Plate> plates; ///< process inks that print; spot colours, also those that print nothing
    double mostInk = 0;        ///< on one place, of all plates together; 1: all of one ink

    void add(const PlateUse& other); ///< another page's

    /// nullptr where there is none of that name.
    const Plate* find(const std::string& name) const;
};

/// `cellArea`: of a pixel, mm².
PlateUse plateUseOf(const Plates& plates, double cellArea);

} // namespace hasami
