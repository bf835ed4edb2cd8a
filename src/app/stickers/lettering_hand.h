#pragma once

#include "app/stickers/item_hand.h"
#include "lettering/carets.h"

#include <QLineF>
#include <QObject>
#include <QPolygonF>

#include <vector>

namespace hasami {

/// Lettering that is typed on the bench: the caret and what is selected of the lettering held. Each run of
/// typing is one undo step.
class LetteringHand : public QObject {
    Q_OBJECT
public:
    explicit LetteringHand(ItemHand& items, QObject* parent = nullptr);

    /// The lettering held; nullptr where something else is.
    const Lettering* lettering() const;

    bool isEditing() const { return isEditing_ && lettering(); }
    /// Edits the lettering held, with the caret at a place of the design or all of it selected. False where
    /// none is held.
    bool begin(std::optional<Point> at);
    void end();

    /// While picking, clicks keep or remove single openings of letters.
    bool isPicking() const { return isPicking_ && lettering(); }
    void setPicking(bool isPicking);
    void switchCounterAt(Point place);

    QString text() const;
    QString selectedText() const;
    void type(const QString& text); ///< in place of what is selected
    void erase(bool forward);       ///< what is selected, else a letter
    void selectAll();
    void copy() const;
    void cut();
    void paste();

    enum class Move { letter, word, line, endOfLine, endOfText };
    void move(Move move, bool forward, bool selects);
    void moveTo(Point place, bool selects); ///< of the design

    /// In mm of the design.
    QLineF caret() const;
    std::vector<QPolygonF> selection() const;

    ItemHand& items() const { return items_; }

Q_SIGNALS:
    void changed();

private:
    struct Places {
        std::string of; ///< the drawing's id
        std::vector<CaretPlace> all;
        Affine toDesign;
    };
    const Places& places() const;
    const CaretPlace& placeOf(qsizetype caret) const;
    void put(qsizetype caret, bool selects);
    qsizetype nextTo(qsizetype caret, Move move, bool forward) const;
    void setText(const QString& text, qsizetype from, qsizetype taken, qsizetype added);
    void follow();

    ItemHand& items_;
    bool isEditing_ = false, isPicking_ = false;
    qsizetype caret_ = 0, anchor_ = 0; ///< in the text, UTF-16
    mutable Places places_;
};

} // namespace hasami
