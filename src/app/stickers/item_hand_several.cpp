#include "app/stickers/item_hand.h"
#include "app/words/words.h"
#include "artwork/colour_text.h"
#include "base/error.h"
#include "drawing/clip.h"
#include "edge/find_edge.h"

#include <algorithm>
#include <map>

// How artworks of a design lie to each other, and those that are made in the program.

namespace hasami {

void ItemHand::align(Alignment alignment) {
    Box within;
    for (const Box& other : others())
        within.add(other);
    if (held_.size() > 1 && !isGrouped())
        within = heldBox();
    if (held_.empty() || within.isEmpty())
        return;
    const Box whole = heldBox();
    edit(tr("Align artwork"), [&](const Item& item) {
        const bool isWhole = held_.size() == 1 || isGrouped();
        return movedBy(item, alignmentMove(isWhole ? whole : bounds(item), within, alignment));
    });
}

void ItemHand::distribute(bool isAcross) {
    if (held_.size() < 3)
        return;
    const auto from = [&](const Box& box) { return isAcross ? box.least.x : box.least.y; };
    const auto size = [&](const Box& box) { return isAcross ? box.width() : box.height(); };
    std::vector<std::pair<Box, std::size_t>> order;
    double taken = 0;
    for (const std::size_t i : held_) {
        order.emplace_back(bounds(artwork().items[i]), i);
        taken += size(order.back().first);
    }
    std::ranges::sort(order, {}, [&](const auto& one) { return from(one.first); });
    const double gap = (size(heldBox()) - taken) / double(order.size() - 1);
    std::map<std::size_t, double> moves;
    double at = from(heldBox());
    for (const auto& [box, i] : order) {
        moves[i] = at - from(box);
        at += size(box) + gap;
    }
    auto next = moves.begin(); // items are changed in their order
    edit(isAcross ? tr("Equal gaps across") : tr("Equal gaps down"), [&](const Item& item) {
        const double by = (next++)->second;
        return movedBy(item, isAcross ? Point{by, 0} : Point{0, by});
    });
}

bool ItemHand::isGrouped() const {
    return held_.size() > 1 && artwork().items[*held_.begin()].group > 0 &&
           withGroup(*held_.begin()) == held_;
}

bool ItemHand::isLocked() const {
    return !held_.empty() &&
           std::ranges::all_of(held_, [&](std::size_t i) { return artwork().items[i].isLocked; });
}

void ItemHand::changeItems(const QString& label, const std::function<void(Item&)>& change) {
    const std::string id = document_.selected();
    document_.endRun();
    document_.change(label, [&](Job& job) {
        if (Design* design = job.find(id))
            for (const std::size_t i : held_)
                change(design->artwork.items.at(i));
    });
}

void ItemHand::group(bool isGrouped) {
    if (held_.size() < 2)
        return;
    int next = 0;
    if (isGrouped)
        for (const Item& item : artwork().items)
            next = std::max(next, item.group);
    changeItems(isGrouped ? tr("Group artwork") : tr("Ungroup artwork"),
                [&](Item& item) { item.group = isGrouped ? next + 1 : 0; });
}

bool ItemHand::isBackground() const {
    return !held_.empty() &&
           std::ranges::all_of(held_, [&](std::size_t i) { return artwork().items[i].isBackground; });
}

void ItemHand::setBackground(bool isBackground) {
    if (canMove())
        changeItems(isBackground ? tr("Background only") : tr("No background"),
                    [&](Item& item) { item.isBackground = isBackground; });
}

void ItemHand::lock(bool isLocked) {
    if (canMove())
        changeItems(isLocked ? tr("Lock artwork") : tr("Unlock artwork"),
                    [&](Item& item) { item.isLocked = isLocked; });
}

void ItemHand::rename(std::size_t item, const QString& name) {
    const std::string id = document_.selected(), text = name.trimmed().toStdString();
    if (item >= count() || text.empty() || artwork().items[item].name == text)
        return;
    document_.endRun();
    document_.change(tr("Rename to %1").arg(name.trimmed()), [&](Job& job) {
        if (Design* design = job.find(id))
            design->artwork.items.at(item).name = text;
    });
}

void ItemHand::restack(int by) {
    const auto held = item();
    const int to = held ? int(*held) + by : -1;
    if (to < 0 || to >= int(count()))
        return;
    const std::string id = document_.selected();
    document_.endRun();
    held_ = {std::size_t(to)};
    document_.change(by > 0 ? tr("Artwork to the front") : tr("Artwork to the back"), [&](Job& job) {
        if (Design* design = job.find(id))
            restackItem(*design, *held, std::size_t(to));
    });
}

void ItemHand::remove() {
    if (!canMove() || held_.size() >= count())
        return;
    const std::set<std::size_t> taken = held_;
    const std::string id = document_.selected();
    const QString name =
        lone() ? QString::fromStdString(lone()->name) : counted(taken.size(), "%1 artwork", "%1 artworks");
    document_.endRun();
    held_.clear();
    document_.change(tr("Take out %1").arg(name), [&](Job& job) {
        if (Design* design = job.find(id))
            for (auto i = taken.rbegin(); i != taken.rend(); ++i)
                removeItem(*design, *i);
    });
}

namespace {

/// A hole that was not there: it is to be cut.
bool opensHole(const OwnArtwork& before, const OwnArtwork& after) {
    const auto *was = std::get_if<Figure>(&before.what), *now = std::get_if<Figure>(&after.what);
    return was && now && was->hole == 0 && now->hole > 0;
}

} // namespace

void ItemHand::editOwn(const QString& label, const OwnChange& change, const QString& run) {
    if (!own())
        return;
    if (run.isEmpty())
        document_.endRun();
    Job next = document_.job();
    const std::size_t held = *item();
    const std::string id = document_.selected();
    try {
        OwnArtwork changed = *own();
        change(changed, next);
        if (changed == *own())
            return;
        Item drawn = withContent(*lone(), std::move(changed), document_.fonts().sourceFor(next),
                                 assetSourceOf(*next.assets));
        document_.change(
            label,
            [&](Job& job) {
                job.assets = next.assets;
                if (Design* design = job.find(id)) {
                    Item& item = design->artwork.items[held];
                    if (design->artwork.items.size() == 1 && design->name == item.name)
                        design->name = drawn.name;
                    if (opensHole(*item.own(), *drawn.own()) &&
                        design->recipe.edge.loops == LoopChoice::outer)
                        design->recipe.edge.loops = LoopChoice::openings;
                    item = drawn;
                }
            },
            run);
    } catch (const InputError& error) {
        Q_EMIT told(QString::fromStdString(error.what()));
    }
}

void ItemHand::addNew(const QString& label, const OwnChange& fill, const QString& name,
                      const std::function<std::size_t(Job&, std::string&, const Item&)>& put) {
    document_.endRun();
    Job next = document_.job();
    std::string design = document_.selected();
    try {
        OwnArtwork own;
        fill(own, next);
        const Item drawn = newItem(std::move(own), name.toStdString(), document_.fonts().sourceFor(next),
                                   assetSourceOf(*next.assets));
        const std::size_t place = put(next, design, drawn);
        document_.change(label, [&](Job& job) { job = next; });
        document_.select(design);
        hold(std::optional(place));
    } catch (const InputError& error) {
        Q_EMIT told(QString::fromStdString(error.what()));
    }
}

void ItemHand::addOwn(const QString& label, const OwnChange& fill, const QString& name, bool isNewDesign) {
    addNew(label, fill, name, [&](Job& job, std::string& design, const Item& drawn) {
        if (!isNewDesign && job.find(design))
            addOwnItem(job, design, drawn);
        else
            design = addDesign(job, drawn).id;
        return job.find(design)->artwork.items.size() - 1;
    });
}

void ItemHand::addBehind(const QString& label, const OwnChange& fill, const QString& name, Point at) {
    addNew(label, fill, name, [&](Job& job, const std::string& design, const Item& drawn) {
        Item ground = movedBy(drawn, at);
        ground.isBackground = true;
        addOwnItem(job, design, std::move(ground));
        Design& changed = *job.find(design);
        restackItem(changed, changed.artwork.items.size() - 1, 0);
        return std::size_t{0};
    });
}

void ItemHand::setPickingColour(bool isPicking) {
    isPickingColour_ = isPicking;
    Q_EMIT changed();
}

void ItemHand::takeColour(Rgba colour) {
    isPickingColour_ = false;
    editOwn(tr("Fill %1").arg(QString::fromStdString(colourText(colour))), [&](OwnArtwork& own, Job&) {
        if (auto* graded = std::get_if<Gradient>(&own.fill))
            graded->from = PaintColour{colour};
        else
            own.fill = PaintColour{colour};
    });
    Q_EMIT changed();
}

std::optional<Placement> ItemHand::pictureInside() const {
    if (own())
        for (const DrawnArea& area : own()->drawing->drawing->areas)
            if (const auto* seen = std::get_if<PictureFill>(&area.fill))
                return seen->place;
    return {};
}

Affine ItemHand::fromDrawing() const {
    const Drawing& drawing = *own()->drawing->drawing;
    return lone()->toDesign() *
           Affine::scaling(lone()->place.width / drawing.width, lone()->place.height / drawing.height);
}

void ItemHand::setPlacingPicture(bool isPlacing) {
    document_.endRun();
    isPlacingPicture_ = isPlacing;
    Q_EMIT changed();
}

void ItemHand::placePicture(const Placement& place, const QString& run) {
    editOwn(
        tr("Place the picture inside"),
        [&](OwnArtwork& changed, Job&) {
            if (auto* fill = std::get_if<PictureFill>(&changed.fill)) {
                fill->place = place;
                fill->isFitted = false;
            }
        },
        run);
}

void ItemHand::makeShapeOfOutline() {
    const MadeDesign* made = document_.newest(document_.selected());
    const auto held = item();
    if (!lone() || !lone()->file() || !made || !(made->artwork == artwork()) || *held >= made->loops.size())
        return;
    const Item was = *lone();
    std::vector<Curve> outline;
    const Design& design = *document_.selectedDesign();
    const EdgeOptions options = forItem(design.recipe.edge, *held);
    for (const Curve& curve : edgeOf(*made->loops[*held], options, was.wholeBox()))
        outline.push_back(mapRim(curve, was.toDesign()));
    if (outline.empty()) {
        Q_EMIT told(tr("No outline was found of %1").arg(QString::fromStdString(was.name)));
        return;
    }
    document_.endRun();
    try {
        const auto [figure, at] = figureOf(outline);
        const Item shape = clippedTo(was, figure, at, assetSourceOf(*document_.job().assets));
        const std::string id = document_.selected();
        document_.change(tr("Make a shape of %1").arg(QString::fromStdString(was.name)), [&](Job& job) {
            if (Design* changed = job.find(id)) {
                changed->artwork.items[*held] = shape;
                // What was done by hand was done to lines that are the shape now.
                const auto isOfShape = [&](const auto& one) { return one.item == int(*held); };
                std::erase_if(changed->recipe.edge.switches, isOfShape);
                std::erase_if(changed->recipe.edge.touchUps, isOfShape);
            }
        });
    } catch (const InputError& error) {
        Q_EMIT told(QString::fromStdString(error.what()));
    }
}

void ItemHand::copy() {
    copied_.clear();
    copiedAssets_.clear();
    const Assets& assets = *document_.job().assets;
    for (std::size_t i = 0; i < count(); ++i) {
        if (!isHeld(i))
            continue;
        copied_.push_back(artwork().items[i]);
        for (const std::string& asset : assetsOf(artwork().items[i]))
            if (const auto found = assets.find(asset); found != assets.end())
                copiedAssets_.insert(*found);
    }
}

bool ItemHand::paste() {
    const std::string id = document_.selected();
    if (copied_.empty() || !document_.job().find(id))
        return false;
    if (count() + copied_.size() > Limits::mostItems) {
        Q_EMIT told(tr("A design can have at most %1 artworks").arg(Limits::mostItems));
        return true;
    }
    constexpr double aside = 3; // mm, so that it is seen beside what it was copied from
    document_.endRun();
    const std::size_t first = count();
    document_.change(counted(copied_.size(), "Paste %1 artwork", "Paste %1 artworks"), [&](Job& job) {
        Design& design = *job.find(id);
        int groups = 0;
        for (const Item& item : design.artwork.items)
            groups = std::max(groups, item.group);
        for (const Item& item : copied_) {
            Item pasted = movedBy(item, {aside, aside});
            if (pasted.group > 0)
                pasted.group += groups; // a group of its own
            design.artwork.items.push_back(std::move(pasted));
        }
        for (const auto& asset : copiedAssets_)
            job.assets.edit().insert(asset);
    });
    std::set<std::size_t> pasted;
    for (std::size_t i = first; i < count(); ++i)
        pasted.insert(i);
    hold(std::move(pasted));
    return true;
}

} // namespace hasami
