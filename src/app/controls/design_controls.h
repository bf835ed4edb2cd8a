#pragma once

#include "app/document/document.h"
#include "app/kit/quantity_row.h"
#include "app/words/words.h"

#include <QStringList>

#include <functional>

class QComboBox;
class QLabel;
class QVBoxLayout;

namespace hasami {

/// Controls of a step sheet's page: each changes the selected design as one undo step.

/// Texts of type const char* are English and marked by N_().

/// A number: a drag of its slider or a run of keys is one undo step, named by `label`.
QuantityRow* designRow(Document& document, const QuantityRow::Description& description, const char* label,
                       std::function<void(Design&, double)> set);

/// A choice of several under its name; `chosen` gets its place in the list.
QComboBox* jobChoice(Document& document, QVBoxLayout* layout, const char* name, const char* effect,
                     const QStringList& names, std::function<void(Job&, int)> chosen);
/// The same of the selected design.
QComboBox* designChoice(Document& document, QVBoxLayout* layout, const char* name, const char* effect,
                        const QStringList& names, std::function<void(Design&, int)> chosen);

/// A quiet text below the controls.
QLabel* quietText();

/// A page that scrolls where it is taller than its place.
QWidget* scrolledPage(QWidget* page);

/// For a page of rows.
QVBoxLayout* pageLayout(QWidget* page);

} // namespace hasami
