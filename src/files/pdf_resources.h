#pragma once

#include "files/qpdf.h"

#include <map>
#include <set>
#include <string>

namespace hasami {

/// What a page draws with, in all its forms, patterns, soft masks and glyphs.
struct PageResources {
    std::set<std::string> missingFonts; ///< that are not in the file
    std::set<std::string> spots;        ///< spot colours by themselves
    std::set<std::string> layers;       ///< names of those that it draws on
    std::set<std::string> mixedSpots; ///< in pictures, shadings, colour tables, and together with other inks
    std::map<std::string, QPDFObjectHandle> separations; ///< a space of each spot colour, by its name
    std::set<std::string> profiles;                      ///< ICC profiles that colours have
    bool isTransparent = false;                          ///< opacity, soft masks or blend modes
    bool hasRgb = false; ///< red, green and blue, with a profile or without; of the contents only where asked
    const char* notX4 = nullptr; ///< what a PDF/X-4 may not have, in English and marked for translation
};

/// `readsContents`: what is drawn too, operator by operator, for the colours that are named in no resource.
PageResources resourcesOf(const QPDFObjectHandle& page, bool readsContents = false);
PageResources resourcesOfForm(QPDFObjectHandle form);

} // namespace hasami
