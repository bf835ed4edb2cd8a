#pragma once

#include "job/job.h"
#include "machine/program.h"
#include "workshop/make_all.h"

#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace hasami {

/// Of a roll by length, of sheets by their number; nothing where the price is not known. Length in mm.
std::optional<double> priceOf(const Medium& medium, double length);

/// What one sheet takes and gives. Lengths in mm, areas in mm².
struct SheetCosts {
    double usedLength = 0; ///< from the leading edge to the end of the strip behind the last mark
    double area = 0;       ///< used length by the medium's width
    double density = 0;    ///< area inside the stickers' cut lines over the used area, 0 to 1
    std::map<std::string, std::size_t> stickers; ///< by design id
    std::map<LineKind, double> cutLength;        ///< by kind of line, with passes and overcuts
    double travel = 0;           ///< with the knife up, along the route of the files, and back to the origin
    std::size_t knifeLifts = 0;  ///< one for each cut
    double minutes = 0;          ///< to cut, by the profile's speeds, with the lifts
    std::optional<double> money; ///< of the medium, where its price is known: a sheet counts whole
};

/// What all sheets take together, beside plain rows of the same pieces.
struct LayoutCosts {
    double usedLength = 0; ///< all sheets but the last in whole, mm
    double area = 0;       ///< of the used length, mm²
    double density = 0;    ///< area inside the stickers' cut lines over the used area, 0 to 1
    std::optional<double> money;

    double plainLength = 0;           ///< that plain rows take, mm
    double savedLength = 0;           ///< below 0 where plain rows take less
    double savedShare = 0;            ///< of the plain rows' length
    std::optional<double> savedMoney; ///< of sheets: of whole ones

    double leftOver = 0; ///< of the last sheet's length, free for other work; 0 where a roll has no end
};

/// Of the layout that is made, or of another one of the same pieces. O(pieces). REQUIRES: `made` was made
/// from this job.
LayoutCosts layoutCosts(const Job& job, const Made& made, const Layout& layout);

/// What one more piece of a design would take of the medium, laid in a row behind all others where the pieces
/// are laid by a nest or by hand.
struct OneMore {
    double length = 0; ///< more of the medium, mm
    std::optional<double> money;
};

/// Nothing where it would find no place, or where the design fills what there is. O(pieces). Throws Stopped.
std::optional<OneMore> oneMore(const Job& job, const Made& made, std::string_view design,
                               const std::stop_token& stop = {});

/// `program`: the sheet's, see programOf. O(pieces + steps). REQUIRES: `sheet` is an index of
/// made.layout.sheets.
SheetCosts costsOf(const Job& job, const Made& made, std::size_t sheet, const CutProgram& program);

} // namespace hasami
