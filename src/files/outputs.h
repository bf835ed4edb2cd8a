#pragma once

#include "files/print_file.h"

#include <filesystem>
#include <vector>

namespace hasami {

/// A file's bytes before they are written. All of a command's outputs are made first, then written: an input
/// that can't be used leaves nothing half-done.
struct Output {
    std::filesystem::path path;
    std::string bytes;
};

/// The print of the job's sheets, or of one: .pdf holds them all, a page each; .eps one. Pictures (.png,
/// .tif, .tiff) hold one each, and no cut lines; of several, the second and further are NAME-2.png,
/// NAME-3.png, …; each special ink is a grey picture of its own, NAME-white.png. Throws OutputError where the
/// ending is another.
std::vector<Output> printOutputs(const std::filesystem::path& path, const Job& job, const Made& made,
                                 const PictureSource& pictures, const PrintOptions& options,
                                 double dotsPerInch = 300, const std::stop_token& stop = {});

/// Where the file of a sheet, counted from 0, lies that is written under a path: NAME.svg, NAME-2.svg, ….
std::filesystem::path sheetPath(const std::filesystem::path& path, std::size_t sheet);

struct CutOptions {
    std::optional<std::size_t> sheet = {}; ///< one by its index; else all
    LineKinds kinds = {};                  ///< empty: all
    bool isOnePerTool = false;             ///< a file for each holder that is used
};

/// The cut file of one sheet; or of all, the second and further sheets as NAME-2.svg, NAME-3.svg, …. One for
/// each tool has its holder in its name: NAME-tool1.svg. The path's ending says the format: .svg, .dxf, .pdf
/// or .plt (HPGL). Throws OutputError if it is another.
std::vector<Output> cutOutputs(const std::filesystem::path& path, const Job& job, const Made& made,
                               const CutOptions& options);

/// Writes all of them safely. Throws OutputError.
void writeAll(const std::vector<Output>& outputs);

} // namespace hasami
