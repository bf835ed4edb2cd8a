#pragma once

#include "machine/machine_error.h"
#include "machine/print_map.h"
#include "machine/program.h"
#include "machine/registration.h"

#include <functional>
#include <vector>

namespace hasami {

/// How far off the print a line was cut, mm.
struct LineError {
    LineKind kind = LineKind::kiss;
    std::size_t piece = 0, line = 0; ///< as of the program's cuts
    double rms = 0, largest = 0;
    Point worst; ///< where it is largest, mm of the sheet
};

/// How far off the print a sheet was cut.
struct CutErrors {
    std::vector<LineError> lines; ///< in the order in which they are cut
    double rms = 0, largest = 0;  ///< over all of them, by length
};

/// Compares where the cutter's map takes each line, and the cutter's own error, with where the print is.
/// Places half a millimetre apart. O(points + cuts log cuts).
CutErrors cutErrors(const CutProgram& program, const SheetMap& cut, const PrintMap& print,
                    const RepeatError& repeat = {0, 1});

/// The same where the print moved while it was cut: `print` says where it lay for each cut.
CutErrors cutErrors(const CutProgram& program, const SheetMap& cut,
                    const std::function<Point(const Cut&, Point)>& print, const RepeatError& repeat = {0, 1});

} // namespace hasami
