#pragma once

#include <QColor>
#include <QIcon>
#include <QString>

class QApplication;
class QPalette;
class QVariant;
class QWidget;

namespace hasami {

/// The window's colours: paper and ink, or the same hues by night (docs/architecture.md, "Looks").
struct Colours {
    QColor ground;   ///< behind everything
    QColor panel;    ///< panels and cards
    QColor field;    ///< what one types in
    QColor ink;      ///< text
    QColor quiet;    ///< text of second rank, at least 4.5:1 on panels
    QColor rule;     ///< borders
    QColor indigo;   ///< what can be acted on
    QColor onIndigo; ///< text on it
    QColor tint;     ///< ground of what is chosen
    QColor disabled; ///< text of what can't be acted on now
    QColor warning;  ///< text of troubles
};

/// The colours that belong to a widget's palette.
const Colours& coloursOf(const QPalette& palette);

/// Colours of what lies on the medium or the artwork: these are the same by day and by night.
namespace colour {
inline const QColor paper{0xF4, 0xF1, 0xEA}; ///< behind artwork, which may be dark
inline const QColor ink{0x26, 0x30, 0x2E};
inline const QColor quiet{0x5C, 0x66, 0x63};
inline const QColor rule{0xD9, 0xD4, 0xC8};
inline const QColor indigo{0x26, 0x4E, 0x86};
inline const QColor kiss{0x2E, 0x8B, 0x57};   ///< kiss lines, never text
inline const QColor die{0xC8, 0x50, 0x1E};    ///< die lines, never text
inline const QColor crease{0x7A, 0x4B, 0x8C}; ///< crease lines
} // namespace colour

enum class Appearance { light, dark };

/// Fonts and palette of the whole program; may be called again with the other appearance.
void applyTheme(QApplication& application, Appearance appearance = Appearance::light);

/// Gives a window the style sheet that belongs to the present palette. Its widgets, and dialogs that belong
/// to it, have it too. To be called when they are all there: a widget made in a window that is styled already
/// is styled again each time it gets another parent.
void styleWindow(QWidget& window);

/// Sets a property that the style sheet asks for (role, wrong), and styles the widget again where it changes.
void setStyled(QWidget& widget, const char* property, const QVariant& value);

/// One of our own icons by its name in data/icons, in the present colours.
QIcon icon(const QString& name);

} // namespace hasami
