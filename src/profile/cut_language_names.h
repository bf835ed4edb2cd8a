#pragma once

#include "base/fields.h"
#include "profile/profile.h"

namespace hasami {

/// What files call the languages of cut files.
inline constexpr Named<CutLanguage> cutLanguages[] = {{"svg", CutLanguage::svg},
                                                      {"dxf", CutLanguage::dxf},
                                                      {"hpgl", CutLanguage::hpgl},
                                                      {"pdf", CutLanguage::pdf}};

} // namespace hasami
