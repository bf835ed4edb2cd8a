#pragma once

#include "machine/program.h"
#include "machine/registration.h"

#include <vector>

namespace hasami {

/// A program for a sheet that lies on the bed as the map says.
CutProgram onBed(CutProgram program, const SheetMap& map);

/// A program in parts that one tool cuts each, in order: between them somebody puts in another.
std::vector<CutProgram> byTool(const CutProgram& program, const Cutter& cutter);

/// The program from one of its cuts on, counted from 0: the way to it comes from where the program starts.
CutProgram fromCut(const CutProgram& program, std::size_t first);

std::size_t cutsOf(const CutProgram& program);

} // namespace hasami
