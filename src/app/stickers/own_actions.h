#pragma once

#include "app/stickers/lettering_hand.h"

class QMenu;

namespace hasami {

/// Whether own artwork is laid on the selected design or becomes a design.
enum class OwnPlace { onDesign, newDesign };

/// Adds lettering, shapes and codes to a menu.
void addOwnActions(QMenu& menu, ItemHand& hand, LetteringHand& lettering, OwnPlace place);

/// New lettering, ready to be typed over.
void addLettering(ItemHand& hand, LetteringHand& lettering, OwnPlace place);

} // namespace hasami
