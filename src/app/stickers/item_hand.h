#pragma once

#include "app/document/document.h"
#include "artwork/arrange.h"

#include <QObject>

#include <functional>
#include <optional>
#include <set>
#include <vector>

namespace hasami {

/// Which of the selected design's artworks is held, and what is done to it. Each change is one entry in the
/// history; changes of one drag are one step.
class ItemHand : public QObject {
    Q_OBJECT
public:
    explicit ItemHand(Document& document, QObject* parent = nullptr);

    /// The item held; nothing: all of the artwork, as one. A lone item is all and held at once.
    std::optional<std::size_t> item() const;
    void hold(std::optional<std::size_t> item);
    /// Holds several; none: all of the artwork.
    void hold(std::set<std::size_t> items);
    /// Takes one, or its group, to what is held, or lets it go.
    void toggle(std::size_t item);
    /// Those that are held one by one; empty: all of the artwork as one.
    const std::set<std::size_t>& several() const { return held_; }
    void walk(int by); ///< holds the next one

    /// The one item held; nullptr where all of several are.
    const Item* lone() const;
    std::size_t count() const; ///< of the design's items
    bool isHeld(std::size_t item) const;
    /// Whether it can be moved against something else.
    bool canMove() const { return count() > 1 && !held_.empty(); }

    /// The topmost item whose shown part holds the place; locked ones let clicks through.
    std::optional<std::size_t> itemAt(Point place) const;

    /// What is held: its box, and the map from there to the design. A lone item's own frame, else the
    /// design's.
    struct Frame {
        Box box;
        Affine toDesign;
    };
    Frame frame() const;

    const std::vector<Guide>& guides() const;
    void addGuide(const Guide& guide);
    void moveGuide(std::size_t guide, double to); ///< as part of a drag
    void removeGuide(std::size_t guide);          ///< as part of a drag
    void layGuidesThroughMiddle();                ///< of what is held
    void removeGuides();

    /// Boxes of what is not held.
    std::vector<Box> others() const;

    /// While open, width and height are set apart from each other.
    bool isRatioLocked() const { return isRatioLocked_; }
    void lockRatio(bool isLocked);

    /// While cropping, the sides of what is shown can be dragged in and out.
    bool isCropping() const { return isCropping_ && lone(); }
    void setCropping(bool isCropping);

    /// While picking, a click on the artwork fills own artwork with the colour there.
    bool isPickingColour() const { return isPickingColour_ && own(); }
    void setPickingColour(bool isPicking);
    void takeColour(Rgba colour);

    /// Where the picture inside own artwork is seen, in its drawing's frame; nothing where there is none.
    std::optional<Placement> pictureInside() const;
    /// From the drawing's frame of the own artwork held to the design.
    Affine fromDrawing() const;
    /// While placing, drags on the bench move and size the picture inside.
    bool isPlacingPicture() const { return isPlacingPicture_ && pictureInside(); }
    void setPlacingPicture(bool isPlacing);
    void placePicture(const Placement& place, const QString& run);

    using Change = std::function<std::optional<Item>(const Item&)>;
    /// Changes what is held. Nothing is done, and `told` says why, where an item can't be so.
    void edit(const QString& label, const Change& change, const QString& run = {});
    /// The same from items as they were when a drag began.
    void drag(const QString& label, const std::vector<Item>& from, const Change& change);
    void endDrag() { document_.endRun(); }
    void cancelDrag() { document_.cancelRun(); }

    /// The lone item, where it was made in the program; nullptr else.
    const OwnArtwork* own() const { return lone() ? lone()->own() : nullptr; }
    /// Changes what own artwork is; `change` may give the job fonts and pictures. Nothing is done, and `told`
    /// says why, where it can't be so.
    using OwnChange = std::function<void(OwnArtwork&, Job&)>;
    void editOwn(const QString& label, const OwnChange& change, const QString& run = {});
    /// Lays own artwork on the selected design, or makes a design of it, and holds it.
    void addOwn(const QString& label, const OwnChange& fill, const QString& name, bool isNewDesign);

    /// Makes a shape of a file's artwork: its outline as found, with the artwork inside, in its place.
    void makeShapeOfOutline();
    /// Keeps what is held for `paste`, which lays it on the selected design, of this job or another.
    void copy();
    bool paste(); ///< false where nothing was copied

    /// Puts own artwork behind all others as a background, its top left at a place, and holds it.
    void addBehind(const QString& label, const OwnChange& fill, const QString& name, Point at);

    void setWidth(double width, const QString& run);
    void setHeight(double height, const QString& run);
    void setPercent(double percent, const QString& run); ///< of the natural size
    void setTurn(double degrees, const QString& run);
    void turnBy(double degrees);
    void mirror(bool isDown);
    void nudge(Point by);
    /// One with all the others, several with each other.
    void align(Alignment alignment);
    /// Moves what is held until its gaps are equal; the outermost stay. REQUIRES: three or more are held.
    void distribute(bool isAcross);
    /// Puts the top left of what is held at a place of the design.
    void setLeft(double left, const QString& run);
    void setTop(double top, const QString& run);
    bool isGrouped() const; ///< whether what is held is a group
    void group(bool isGrouped);
    bool isBackground() const; ///< of every artwork that is held
    void setBackground(bool isBackground);
    bool isLocked() const; ///< of every artwork that is held
    void lock(bool isLocked);
    void rename(std::size_t item, const QString& name);
    void restack(int by); ///< to the front, or to the back where negative
    void remove();
    void crop(const PixelBox& part, const QString& run = {});
    void cropMargins();
    void showAll();

    /// The share of its natural size that a lone item has, in percent; nothing while that is not known.
    std::optional<double> percent() const;

    Document& document() const { return document_; }

Q_SIGNALS:
    void changed();
    void told(const QString& sentence);

private:
    const Artwork& artwork() const;
    void changeGuides(const QString& label, const std::function<void(std::vector<Guide>&)>& change,
                      const QString& run = {});
    void follow();
    /// `put` lays a new item into the job, says in which design, and gives its place there.
    void addNew(const QString& label, const OwnChange& fill, const QString& name,
                const std::function<std::size_t(Job&, std::string&, const Item&)>& put);
    Box heldBox() const;
    std::set<std::size_t> withGroup(std::size_t item) const;
    void changeItems(const QString& label, const std::function<void(Item&)>& change); ///< that are held

    Document& document_;
    std::set<std::size_t> held_;
    std::vector<Item> copied_;
    Assets copiedAssets_; ///< that they need
    bool isRatioLocked_ = true, isCropping_ = false, isPickingColour_ = false, isPlacingPicture_ = false;
};

} // namespace hasami
