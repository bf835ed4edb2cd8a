#pragma once

#include <QColor>
#include <QIcon>
#include <QString>

class QApplication;

namespace hasami {

/// Hasami's colours (docs/architecture.md, "Looks").
namespace colour {
inline const QColor ground{0xF4, 0xF1, 0xEA};  ///< paper behind everything
inline const QColor panel{0xFC, 0xFB, 0xF8};   ///< panels and cards
inline const QColor ink{0x26, 0x30, 0x2E};     ///< text
inline const QColor quiet{0x5C, 0x66, 0x63};   ///< text of second rank: 5.6:1 on panels
inline const QColor rule{0xD9, 0xD4, 0xC8};    ///< borders
inline const QColor indigo{0x26, 0x4E, 0x86};  ///< what can be acted on
inline const QColor kiss{0x2E, 0x8B, 0x57};    ///< kiss lines, never text
inline const QColor warning{0x9A, 0x3B, 0x12}; ///< text of troubles: 6.5:1 on panels
} // namespace colour

/// Fonts, palette and style of the whole program.
void applyTheme(QApplication& application);

/// One of our own icons by its name in data/icons, in ink; greyed where disabled.
QIcon icon(const QString& name);

} // namespace hasami
