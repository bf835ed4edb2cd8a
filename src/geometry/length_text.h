#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>

namespace hasami {

enum class LengthUnit { millimetre, centimetre, inch, point };

inline constexpr std::array lengthUnits{LengthUnit::millimetre, LengthUnit::centimetre, LengthUnit::inch,
                                        LengthUnit::point};

/// Millimetres in one unit.
double millimetresIn(LengthUnit unit);

/// "mm", "cm", "in" or "pt".
std::string_view unitName(LengthUnit unit);

/// Reads a length as people type it, in millimetres: "2in", "0.05 in", "1 3/8 in", "5mm", "12,5", "2cm + 3
/// mm", "1/2\"". Parts are added or subtracted; a part without a unit takes the next unit to its right, or
/// `bare` if there is none. Nothing if the text is not a length, or is farther than 100 m from zero.
std::optional<double> parseLength(std::string_view text, LengthUnit bare = LengthUnit::millimetre);

/// A length as text with its unit: 0.01 mm, 0.001 cm, 0.001 in or 0.1 pt are the finest steps shown.
std::string lengthText(double millimetres, LengthUnit unit = LengthUnit::millimetre);

} // namespace hasami
