#pragma once

#include "job/job.h"
#include "machine/sheet_map.h"
#include "machine/test_cut.h"
#include "workshop/route_sheet.h"

#include <optional>
#include <string>
#include <string_view>

namespace hasami {

/// One sheet's cut lines of some kinds as HPGL: 40 units a mm, absolute, along the
/// cutter's axes (CutAxes). Kiss lines are pen 1, at the profile's speed (VS, cm/s) and force (FS, g)
/// where it gives them; "FS;", the machine's own force, where only other kinds have one. Curves are drawn
/// within 0.01 mm before they are rounded to units; each line ends where it starts. HPGL has no layers, so
/// the marks are not in it. REQUIRES: `sheet` is an index of made.layout.sheets.
std::string cutHpgl(const Job& job, const Made& made, std::size_t sheet, const LineKinds& kinds = {});

/// Ends whatever was begun, and lifts the knife.
inline constexpr std::string_view hpglLift = ";PU;SP0;\n";

/// The same of a program on a medium of that width. `origin`: of the cutter's axes, mm of the sheet, where it
/// is not the corner.
std::string hpglOf(const CutProgram& program, const Cutter& cutter, double width,
                   std::optional<Point> origin = {});

/// A test cut on a sheet that lies as the map says: each drop with its force, by the kiss cut's tool; its own
/// force, or the machine's, is set again at the end.
std::string testCutHpgl(const TestCut& test, const SheetMap& map, const Cutter& cutter, double width,
                        std::optional<Point> origin = {});

/// The whole cuts in the first part of what hpglOf gives.
std::size_t cutsIn(std::string_view hpgl);

/// Where the head is by a machine's answer to "OA;" ("X,Y,P" in its units), mm of the sheet, along the same
/// axes. Throws InputError.
Point placeOfHead(std::string_view answer, const Cutter& cutter, double width,
                  std::optional<Point> origin = {});

} // namespace hasami
