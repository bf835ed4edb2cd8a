#pragma once

#include "app/proof/proof_view.h"

#include <QString>

#include <optional>

namespace hasami {

/// Writes what the view shows as a PNG of 300 dots an inch, fewer where that would be more than 40 million
/// dots; with a ruler below it, and a disc of 24 mm, as large as a coin. Gives a sentence where it can't be
/// written.
std::optional<QString> saveProofPicture(ProofView& view, const QString& path, bool withScale,
                                        LengthUnit unit);

} // namespace hasami
