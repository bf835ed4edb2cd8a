#pragma once

#include <functional>
#include <span>
#include <string>

namespace hasami {

/// Writes a row of a picture, three bytes a pixel. Called from several threads.
using FillRow = std::function<void(int row, std::span<unsigned char> pixels)>;

/// A PNG file of a picture that is too large to be in memory whole: its rows are made as they are written.
std::string pngInRows(int width, int height, double pixelsPerMillimetre, const FillRow& fill);

} // namespace hasami
