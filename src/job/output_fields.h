#pragma once

// The fields of what leaves the program, as the job file keeps them (docs/job-format.md).

#include "base/fields.h"
#include "job/job.h"
#include "profile/cut_language_names.h"

namespace hasami {

inline constexpr Named<PlannedOutput::What> outputKinds[] = {{"print", PlannedOutput::What::print},
                                                             {"cut", PlannedOutput::What::cut}};
inline constexpr Named<PrintFormat> printFormats[] = {{"pdf", PrintFormat::pdf},
                                                      {"eps", PrintFormat::eps},
                                                      {"png", PrintFormat::png},
                                                      {"tiff", PrintFormat::tiff}};
inline constexpr Named<LineKind> cutKinds[] = {{"kiss", LineKind::kiss},
                                               {"die", LineKind::die},
                                               {"perforated", LineKind::perforated},
                                               {"crease", LineKind::crease}};

template <>
struct Fields<PlannedOutput> {
    static constexpr auto list = std::make_tuple(
        field("what", &PlannedOutput::what, OneOf(outputKinds)),
        field("print", &PlannedOutput::print, OneOf(printFormats), Kept::unlessStart),
        field("cutLines", &PlannedOutput::cutLines, Anything{}, Kept::unlessStart),
        field("onePerSheet", &PlannedOutput::isOnePerSheet, Anything{}, Kept::unlessStart),
        field("dotsPerInch", &PlannedOutput::dotsPerInch, Within{Limits::leastDots, Limits::mostDots},
              Kept::unlessStart),
        field("cmyk", &PlannedOutput::isInInks, Anything{}, Kept::unlessStart),
        field("cut", &PlannedOutput::cut, OneOf(cutLanguages), Kept::unlessStart),
        field("kinds", &PlannedOutput::kinds, Each{lineKinds.size(), OneOf(cutKinds)}, Kept::unlessStart),
        field("onePerTool", &PlannedOutput::isOnePerTool, Anything{}, Kept::unlessStart));
};

template <>
struct Fields<OutputPlan> {
    static constexpr auto list =
        std::make_tuple(field("folder", &OutputPlan::folder, AtMost{4096}, Kept::unlessStart),
                        field("names", &OutputPlan::names, AtMost{200}, Kept::unlessStart),
                        field("colours", &OutputPlan::colours, AtMost{64}, Kept::unlessStart),
                        field("outputs", &OutputPlan::outputs, Each{Limits::mostOutputs, Anything{}}));
};

} // namespace hasami
