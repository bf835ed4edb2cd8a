#pragma once

#include "files/print_file.h"

#include <string>

namespace hasami {

/// A sheet's print as Encapsulated PostScript, level 3, as the page of the print file: the artwork by
/// pdftops, then special inks and cut lines in their spot colours, set to overprint. What is transparent in
/// the artwork is flattened to 300 dots an inch. Throws OutputError, naming `file`, where pdftops is missing
/// or can't do it; InputError; Stopped.
std::string printEps(const std::string& file, const Job& job, const Made& made, const PictureSource& pictures,
                     std::size_t sheet, bool withCutLines, const std::stop_token& stop = {});

} // namespace hasami
