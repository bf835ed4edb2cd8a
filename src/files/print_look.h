#pragma once

#include "files/outputs.h"
#include "files/plate_use.h"

#include <filesystem>
#include <set>
#include <stop_token>
#include <string>
#include <vector>

namespace hasami {

/// What a print file holds, found in the file itself after it was written.
struct PrintLook {
    struct Page {
        double width = 0, height = 0; ///< mm
    };
    std::vector<Page> pages;
    PlateUse plates; ///< of all pages
    bool hasRgb = false;
    bool isTransparent = false;
    std::set<std::string> missingFonts;

    void add(const PrintLook& other); ///< another file's
};

/// Reads a PDF or an EPS file: its structure by qpdf, its plates as Ghostscript separates them. Throws
/// InputError, Stopped.
PrintLook lookAtPrint(const std::filesystem::path& path, const std::stop_token& stop = {});

/// Where a print file differs from what the job asks for: sentences that name the file. `part`: of the
/// output's files, this one. `pictures` tell which spot colours the artwork has. Throws Stopped.
std::vector<std::string> differencesOf(const PrintLook& look, const std::string& file,
                                       const PlannedOutput& output, const OutputPart& part, const Job& job,
                                       const Made& made, const PictureSource& pictures,
                                       const std::stop_token& stop = {});

} // namespace hasami
