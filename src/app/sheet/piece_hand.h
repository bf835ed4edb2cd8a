#pragma once

#include "app/document/nest_run.h"
#include "sheet/arrange_pieces.h"

#include <functional>
#include <optional>
#include <set>

namespace hasami {

/// Which stickers of the sheet are held, and what is done to them by hand. Stickers are known by their
/// number, sheet after sheet; those held stay so when the sheet is laid out again. Each change is one undo
/// step.
class PieceHand : public QObject {
    Q_OBJECT
public:
    using Numbers = PieceArrangement::Numbers;

    PieceHand(Document& document, NestRun& nest, QObject* parent = nullptr);

    /// All as they lie; empty while that is being computed.
    const std::vector<LaidPiece>& laid() const { return laid_; }
    const Numbers& held() const { return held_; } ///< in order, all on one sheet
    bool isHeld(std::size_t number) const;
    bool arePinned() const; ///< all that are held

    void hold(Numbers numbers);
    void toggle(std::size_t number);
    void holdAll();    ///< on the sheet of those held, or the first
    void walk(int by); ///< holds the next one

    std::optional<std::size_t> pieceAt(int sheet, Point place) const;
    Numbers piecesIn(int sheet, const Box& box) const; ///< those that lie in it as a whole
    Box boxOfHeld() const;                             ///< as a drag shows them
    Body bodyOf(std::size_t number) const { return hasami::bodyOf(laid_.at(number), copies_); }

    /// What a drag does, in parts: the held ones are shown elsewhere until they are let go.
    void drag(Point by, int sheet);
    void dragTurn(double degrees);
    void drop(); ///< what lies on others is pushed to the nearest free place
    void giveUp();
    bool isDragging() const { return dragged_.has_value(); }

    /// The held ones as a drag shows them, or as they were let go until all is made.
    struct Shown {
        std::size_t number;
        LaidPiece piece;
        bool collides = false;
    };
    const std::vector<Shown>& moving() const { return moving_; }
    Numbers hindering() const;                                     ///< the others that they come too close to
    const std::vector<ShortestWay>& ways() const { return ways_; } ///< to what is nearest, while dragging
    QString readout() const;                                       ///< of the drag

    void nudge(Point by);
    void turnBy(double degrees);
    void setTurn(double degrees); ///< of a lone one
    void setCentre(Point centre);
    void pin(bool isPinned);
    void align(Alignment alignment);
    void remove();
    void duplicate();
    void pushApart();   ///< all that lie where they can't
    void layOutAgain(); ///< all but the pinned ones that lie well, in rows

    Document& document() const { return document_; }

Q_SIGNALS:
    void changed(); ///< what is held, or how it lies
    void told(const QString& sentence);

private:
    struct Drag {
        Point by;
        int sheet = 0;
        double turn = 0;
    };
    using Change = std::function<void(PieceArrangement&)>;

    void follow();
    void rememberHeld();
    void edit(const QString& label, const Change& change);
    void enter(const QString& label, std::vector<LaidPiece> laid, const std::function<void(Job&)>& also = {});
    void showDrag(const Drag& drag);
    PieceArrangement arrangement() const;
    QString heldText() const;

    Document& document_;
    NestRun& nest_;
    std::vector<Copies> copies_;
    std::vector<LaidPiece> laid_;
    Numbers held_;
    std::set<PieceId> heldIds_; ///< kept while the sheet is laid out again
    std::optional<Drag> dragged_;
    std::optional<Surroundings> around_;
    int aroundSheet_ = 0;
    std::vector<Shown> moving_;
    Numbers hindering_;
    std::vector<ShortestWay> ways_;
    bool isOwnChange_ = false;
};

} // namespace hasami
