#pragma once

// The fields of prices, as the job file keeps them (docs/job-format.md).

#include "base/fields.h"
#include "job/prices.h"

namespace hasami {

template <>
struct Fields<Prices> {
    static constexpr Within price{0, 1e6};
    static constexpr auto list =
        std::make_tuple(field("ink", &Prices::ink, price, Kept::unlessStart),
                        field("machine", &Prices::machine, price, Kept::unlessStart),
                        field("wage", &Prices::wage, price, Kept::unlessStart),
                        field("margin", &Prices::margin, Within{0, 10'000}, Kept::unlessStart),
                        field("weedPiece", &Prices::weedPiece, Within{0, 3600}, Kept::unlessStart),
                        field("weedMetre", &Prices::weedMetre, Within{0, 3600}, Kept::unlessStart));
};

} // namespace hasami
