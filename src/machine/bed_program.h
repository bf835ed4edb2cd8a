#pragma once

#include "machine/program.h"
#include "machine/registration.h"

#include <vector>

namespace hasami {

/// A program for a sheet that lies on the bed as the map says.
CutProgram onBed(CutProgram program, const SheetMap& map);

/// A program in parts that one tool cuts each, in order: between them somebody puts in another.
std::vector<CutProgram> byTool(const CutProgram& program, const Cutter& cutter);

std::size_t cutsOf(const CutProgram& program);

} // namespace hasami
