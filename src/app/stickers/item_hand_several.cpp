#include "app/stickers/item_hand.h"
#include "app/words/words.h"
#include "base/error.h"

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
                    item = drawn;
                }
            },
            run);
    } catch (const InputError& error) {
        Q_EMIT told(QString::fromStdString(error.what()));
    }
}

void ItemHand::addOwn(const QString& label, const OwnChange& fill, const QString& name, bool isNewDesign) {
    document_.endRun();
    Job next = document_.job();
    const std::string id = document_.selected();
    try {
        OwnArtwork own;
        fill(own, next);
        const Item drawn = newItem(std::move(own), name.toStdString(), document_.fonts().sourceFor(next),
                                   assetSourceOf(*next.assets));
        std::string added = id;
        if (!isNewDesign && next.find(id))
            addOwnItem(next, id, drawn);
        else
            added = addDesign(next, drawn).id;
        document_.change(label, [&](Job& job) { job = next; });
        document_.select(added);
        hold(std::optional(count() - 1));
    } catch (const InputError& error) {
        Q_EMIT told(QString::fromStdString(error.what()));
    }
}

void ItemHand::addBehind(const QString& label, const OwnChange& fill, const QString& name, Point at) {
    document_.endRun();
    Job next = document_.job();
    const std::string id = document_.selected();
    try {
        OwnArtwork own;
        fill(own, next);
        Item drawn = newItem(std::move(own), name.toStdString(), document_.fonts().sourceFor(next),
                             assetSourceOf(*next.assets));
        drawn.isBackground = true;
        addOwnItem(next, id, movedBy(drawn, at));
        Design& design = *next.find(id);
        restackItem(design, design.artwork.items.size() - 1, 0);
        document_.change(label, [&](Job& job) { job = next; });
        hold(std::optional<std::size_t>(0));
    } catch (const InputError& error) {
        Q_EMIT told(QString::fromStdString(error.what()));
    }
}

} // namespace hasami
