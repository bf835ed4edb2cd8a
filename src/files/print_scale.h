#pragma once

#include "profile/profile.h"

#include <string>

namespace hasami {

/// A page that shows how true a printer's lengths are: a ruler across and one along, and four marks.
struct ScaleTest {
    double width = 0, height = 0; ///< of the page, mm

    /// How long the rulers are, mm: as much as fits, in tens.
    double across() const;
    double along() const;

    std::string pdf() const;
};

/// The same pages with what the printer will do to their lengths undone, about their middle. Where it does
/// nothing, the very bytes. Throws InputError.
std::string compensated(const std::string& pdf, const PrintScale& scale);

} // namespace hasami
