#pragma once

#include <string>

namespace hasami {

/// How a page is taken apart for a medium that is too small for it. Lengths in mm.
struct TileRules {
    double width = 0, height = 0; ///< of the medium
    double margin = 6;            ///< around it that is not printed on, but with crop marks and a number
    double overlap = 10;          ///< that neighbouring tiles both show
};

/// How many columns and rows of tiles a page takes.
struct TileCount {
    int columns = 1, rows = 1;
};
TileCount tilesFor(double width, double height, const TileRules& rules);

/// The first page of a PDF as tiles, a page each, row by row from the top left: the same scale, with crop
/// marks at the corners of what each shows, and below it where it belongs. `width`, `height`: of the page,
/// mm. REQUIRES: the medium is larger than its margins and the overlap. Throws InputError.
std::string tiled(const std::string& pdf, double width, double height, const TileRules& rules);

} // namespace hasami
