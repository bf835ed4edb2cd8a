#pragma once

#include "files/qpdf.h"

#include <set>
#include <string>

namespace hasami {

/// The names of the layers (optional content groups) that a page draws on, by itself or by its forms.
std::set<std::string> layersOf(const QPDFObjectHandle& page);

/// Takes out of what the pages of `file` draw what lies on layers of these names, or, with `only`, all else.
void takeOutLayers(QPDF& file, const std::set<std::string>& names, bool only);

} // namespace hasami
