#pragma once

#include "app/paint/paint_design.h"

#include <QIcon>
#include <QString>

namespace hasami {

/// "Kiss cut".
inline QString nameOf(LineKind kind) {
    constexpr std::array names{"Kiss cut", "Crease", "Perforated die cut", "Die cut"};
    return names[std::size_t(kind)];
}

/// "White ink".
inline QString nameOf(InkKind ink) {
    constexpr std::array names{"White ink", "Gloss", "Primer"};
    return names[std::size_t(ink)];
}

/// A line of the kind as it looks on the bench; one that is not cut thin and dotted.
QIcon signOf(LineKind kind, bool isCut = true);

} // namespace hasami
