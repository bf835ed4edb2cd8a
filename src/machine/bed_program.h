#pragma once

#include "machine/program.h"
#include "machine/sheet_map.h"

namespace hasami {

/// A program for a sheet that lies on the bed as the map says.
CutProgram onBed(CutProgram program, const SheetMap& map);

} // namespace hasami
