#pragma once

#include "files/output_names.h"
#include "workshop/make_all.h"

#include <filesystem>
#include <optional>
#include <set>
#include <stop_token>
#include <string>
#include <vector>

namespace hasami {

/// A file's bytes before they are written. All of a command's outputs are made first, then written: an input
/// that can't be used leaves nothing half-done.
struct Output {
    std::filesystem::path path;
    std::string bytes;
};

/// The print that a path's ending asks for: .pdf, .eps, .png, .tif or .tiff. Throws OutputError for others.
PlannedOutput printNamed(const std::filesystem::path& path);

/// The cut file: .svg, .dxf, .plt (HPGL) or .pdf. Throws OutputError for others.
PlannedOutput cutNamed(const std::filesystem::path& path);

/// The files that an output becomes: of a PDF one with all sheets, a page each, of other formats one for each
/// sheet. Pictures hold no cut lines; each special ink is a grey picture of its own. `sheet`: of that one
/// alone.
std::vector<OutputPart> partsOf(const PlannedOutput& output, const Job& job, const Made& made,
                                std::optional<std::size_t> sheet = {});

/// These files. Throws OutputError, InputError, Stopped.
std::vector<Output> outputsOf(const PlannedOutput& output, const NameOutput& nameOf, const Job& job,
                              const Made& made, const PictureSource& pictures,
                              std::optional<std::size_t> sheet = {}, const std::stop_token& stop = {});

/// The paths of the job's outputs, in a folder: for each output those of its files. Throws OutputError where
/// two files would have the same name, or the pattern for names can't be used.
std::vector<std::vector<std::filesystem::path>> plannedPaths(const std::filesystem::path& folder,
                                                             const Job& job, const Made& made);

/// What the files of an output hold together.
struct OutputContents {
    std::size_t sheets = 0, pieces = 0, marks = 0;
    std::vector<LineKind> kinds;
    std::vector<InkKind> inks;
};
OutputContents contentsOf(const PlannedOutput& output, const Job& job, const Made& made);

/// Writes all of them safely. Throws OutputError.
void writeAll(const std::vector<Output>& outputs);

} // namespace hasami
