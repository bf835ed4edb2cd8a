#pragma once

#include "app/kit/quantity_row.h"
#include "app/stickers/item_hand.h"

#include <QStringList>

#include <functional>

class QCheckBox;
class QComboBox;
class QVBoxLayout;

namespace hasami {

/// Controls of own artwork: each changes the item held as one undo step. Texts of type const char* are
/// English and marked by N_().

/// A number: a drag of its slider or a run of keys is one undo step.
QuantityRow* ownRow(ItemHand& hand, QVBoxLayout* layout, const QuantityRow::Description& description,
                    std::function<void(OwnArtwork&, double)> set);

QComboBox* ownChoice(ItemHand& hand, QVBoxLayout* layout, const char* name, const char* effect,
                     const QStringList& names, std::function<void(OwnArtwork&, int)> chosen);

QCheckBox* ownCheck(ItemHand& hand, QVBoxLayout* layout, const char* name, const char* effect,
                    std::function<void(OwnArtwork&, bool)> set);

/// Shows a number with the value that its reset goes to.
void showBoth(QuantityRow& row, double startValue, double value, LengthUnit unit);

} // namespace hasami
