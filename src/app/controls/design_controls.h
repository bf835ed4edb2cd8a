#pragma once

#include "app/document/document.h"
#include "app/kit/quantity_row.h"

#include <QStringList>

#include <functional>

class QComboBox;
class QLabel;
class QVBoxLayout;

namespace hasami {

/// Controls of a step sheet's page: each changes the selected design as one undo step.

/// A number: a drag of its slider or a run of keys is one entry.
QuantityRow* designRow(Document& document, const QuantityRow::Description& description, const QString& label,
                       std::function<void(Design&, double)> set);

/// A choice of several under its name; `chosen` gets its place in the list. The names go into the entry's
/// label behind `label`.
QComboBox* designChoice(Document& document, QVBoxLayout* layout, const QString& name, const QString& effect,
                        const QStringList& names, std::function<void(Design&, int)> chosen);

/// A text of second rank that tells rather than asks.
QLabel* quietText();

/// A page that scrolls where it is taller than its place.
QWidget* scrolledPage(QWidget* page);

/// For a page of rows.
QVBoxLayout* pageLayout(QWidget* page);

} // namespace hasami
