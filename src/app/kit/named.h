#pragma once

#include "app/words/words.h"

class QLabel;
class QWidget;

namespace hasami {

/// Names a control and says what it does to the sticker, both English and marked by N_(). People see and hear
/// them in their language; the object's name, by which tests find it, is `name` and `kind` in every language:
/// "Offset field".
void nameControl(QWidget& control, const char* name, const char* effect, const char* kind);

/// The same with a label for the control, which wraps rather than widens its panel.
QLabel* labelOf(QWidget& control, const char* name, const char* effect, const char* kind);

} // namespace hasami
