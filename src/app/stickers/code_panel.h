#pragma once

#include "app/kit/quantity_row.h"
#include "app/stickers/item_hand.h"
#include "codes/code.h"

#include <QWidget>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;

namespace hasami {

/// What a code holds, its kind and its size. What it can't hold is told while one types.
class CodePanel : public QWidget {
    Q_OBJECT
public:
    explicit CodePanel(ItemHand& hand, QWidget* parent = nullptr);

    void show(const OwnArtwork& own);
    QuantityRow& mainNumber() { return *width_; }

private:
    void take(const QString& text);
    void setKind(int place);
    void showModules(const CodeArtwork& code);

    ItemHand& hand_;
    QLineEdit* text_;
    QLabel* note_;
    QComboBox *kind_, *correction_;
    QuantityRow *width_, *height_;
    QCheckBox *letters_, *ground_;
};

/// The kinds in the order of choices, and what they are called (English, marked by N_()).
const std::vector<std::pair<CodeKind, const char*>>& codeNames();

} // namespace hasami
