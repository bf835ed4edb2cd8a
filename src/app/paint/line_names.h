#pragma once

#include "app/paint/paint_design.h"
#include "app/words/words.h"

#include <QIcon>
#include <QString>

namespace hasami {

/// The name in the user's language.
inline QString nameOf(LineKind kind) {
    return tr(englishNameOf(kind));
}
inline QString nameOf(InkKind ink) {
    return tr(englishNameOf(ink));
}

/// A line of the kind as it looks on the bench; one that is not cut thin and dotted.
QIcon signOf(LineKind kind, bool isCut = true);

} // namespace hasami
