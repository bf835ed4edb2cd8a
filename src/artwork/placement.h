#pragma once

#include "geometry/affine.h"
#include "geometry/point.h"

#include <cstddef>
#include <memory>
#include <string>
#include <vector>

namespace hasami {

struct Drawing;

/// What an item's picture is made of: a file that a job was given, byte for byte; or what was drawn in the
/// program.
struct Asset {
    /// Of the bytes, 64 lower-case hexadecimal digits; of a drawing everything that it follows from.
    std::string sha256;
    std::string name; ///< the file's name, without its folder
    std::vector<std::byte> bytes;
    std::shared_ptr<const Drawing> drawing = {}; ///< in place of bytes
};

/// A picture's place in a design, in mm of the design (x right, y down): mirrored first, then turned about
/// its middle.
struct Placement {
    Point at; ///< top left corner before it is turned
    double width = 0;
    double height = 0;
    double turn = 0;         ///< degrees, clockwise
    bool isMirrored = false; ///< left and right swapped

    /// From mm of its own frame, whose top left is 0, 0.
    Affine toDesign() const;

    friend bool operator==(const Placement&, const Placement&) = default;
};

/// What an item takes from a file of the job.
struct FileContent {
    std::string asset; ///< its SHA-256
    int page = 1;      ///< of the file, counted from 1

    friend bool operator==(const FileContent&, const FileContent&) = default;
};

} // namespace hasami
