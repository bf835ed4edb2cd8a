#include "app/stickers/item_hand.h"

#include "app/kit/quantity_field.h"
#include "app/words/words.h"
#include "artwork/filled_part.h"
#include "base/error.h"

#include <algorithm>

namespace hasami {

namespace {

bool isWithinLimits(const Item& item) {
    constexpr double slack = 1e-6;
    const auto fits = [](double side) {
        return side >= Limits::leastSize * (1 - slack) && side <= Limits::mostSize * (1 + slack);
    };
    return fits(item.place.width) && fits(item.place.height) &&
           std::max(std::abs(item.place.at.x), std::abs(item.place.at.y)) <= Limits::mostSize;
}

QString lengthIn(const Document& document, double length) {
    return quantityText(length, QuantityKind::length, document.job().unit);
}

} // namespace

ItemHand::ItemHand(Document& document, QObject* parent) : QObject(parent), document_(document) {
    connect(&document, &Document::jobChanged, this, &ItemHand::follow);
    connect(&document, &Document::selectionChanged, this, [this] {
        held_.clear();
        isRatioLocked_ = true;
        isCropping_ = isPickingColour_ = isPlacingPicture_ = false;
        Q_EMIT changed();
    });
}

const Artwork& ItemHand::artwork() const {
    static const Artwork none;
    const Design* design = document_.selectedDesign();
    return design ? design->artwork : none;
}

void ItemHand::follow() {
    if (!held_.empty() && *held_.rbegin() >= count())
        held_.clear();
    Q_EMIT changed();
}

std::size_t ItemHand::count() const {
    return artwork().items.size();
}

std::optional<std::size_t> ItemHand::item() const {
    if (count() == 1)
        return 0;
    return held_.size() == 1 ? std::optional(*held_.begin()) : std::nullopt;
}

std::set<std::size_t> ItemHand::withGroup(std::size_t item) const {
    std::set<std::size_t> all{item};
    if (const int group = artwork().items.at(item).group; group > 0)
        for (std::size_t i = 0; i < count(); ++i)
            if (artwork().items[i].group == group)
                all.insert(i);
    return all;
}

void ItemHand::hold(std::optional<std::size_t> item) {
    hold(item && *item < count() ? withGroup(*item) : std::set<std::size_t>());
}

void ItemHand::hold(std::set<std::size_t> items) {
    if (items == held_)
        return;
    document_.endRun();
    held_ = std::move(items);
    isRatioLocked_ = true;
    isCropping_ = isPickingColour_ = isPlacingPicture_ = false;
    Q_EMIT changed();
}

void ItemHand::toggle(std::size_t item) {
    std::set<std::size_t> items = held_;
    for (const std::size_t one : withGroup(item))
        if (held_.contains(item))
            items.erase(one);
        else
            items.insert(one);
    hold(std::move(items));
}

Box ItemHand::heldBox() const {
    Box box;
    for (std::size_t i = 0; i < count(); ++i)
        if (isHeld(i))
            box.add(bounds(artwork().items[i]));
    return box;
}

void ItemHand::walk(int by) {
    const int n = int(count());
    if (n > 1)
        hold(std::optional(
            std::size_t(((held_.empty() ? by > 0 ? -1 : 0 : int(*held_.begin())) + by + n) % n)));
}

const Item* ItemHand::lone() const {
    const auto held = item();
    return held && *held < count() ? &artwork().items[*held] : nullptr;
}

bool ItemHand::isHeld(std::size_t item) const {
    return held_.empty() || held_.contains(item);
}

std::optional<std::size_t> ItemHand::itemAt(Point place) const {
    for (std::size_t i = count(); i-- > 0;) {
        const Item& item = artwork().items[i];
        const Point own = inverse(item.toDesign())(place);
        if (!item.isLocked && item.shownBox().meets({own, own}))
            return i;
    }
    return {};
}

ItemHand::Frame ItemHand::frame() const {
    if (const Item* one = lone())
        return {one->shownBox(), one->toDesign()};
    return {heldBox(), {}};
}

const std::vector<Guide>& ItemHand::guides() const {
    static const std::vector<Guide> none;
    const Design* design = document_.selectedDesign();
    return design ? design->guides : none;
}

void ItemHand::changeGuides(const QString& label, const std::function<void(std::vector<Guide>&)>& change,
                            const QString& run) {
    const std::string id = document_.selected();
    document_.change(
        label,
        [&](Job& job) {
            if (Design* design = job.find(id))
                change(design->guides);
        },
        run);
}

void ItemHand::addGuide(const Guide& guide) {
    if (guides().size() >= Limits::mostGuides)
        Q_EMIT told(tr("A sticker can have at most %1 guides").arg(Limits::mostGuides));
    else
        changeGuides(tr("Guide at %1").arg(lengthIn(document_, guide.at)),
                     [&](auto& guides) { guides.push_back(guide); });
}

void ItemHand::moveGuide(std::size_t guide, double to) {
    changeGuides(
        tr("Guide to %1").arg(lengthIn(document_, to)), [&](auto& guides) { guides.at(guide).at = to; },
        "drag guide");
}

void ItemHand::removeGuide(std::size_t guide) {
    changeGuides(
        tr("Remove a guide"), [&](auto& guides) { guides.erase(guides.begin() + std::ptrdiff_t(guide)); },
        "drag guide");
}

void ItemHand::layGuidesThroughMiddle() {
    if (count() == 0)
        return;
    const Frame held = frame();
    const Point middle = boundsOfMapped(held.box, held.toDesign).centre();
    document_.endRun();
    changeGuides(tr("Guides through the middle"), [&](auto& guides) {
        for (const Guide& guide : {Guide{true, middle.x}, Guide{false, middle.y}})
            if (guides.size() < Limits::mostGuides &&
                std::find(guides.begin(), guides.end(), guide) == guides.end())
                guides.push_back(guide);
    });
}

void ItemHand::removeGuides() {
    document_.endRun();
    changeGuides(tr("Remove the guides"), [](auto& guides) { guides.clear(); });
}

std::vector<Box> ItemHand::others() const {
    std::vector<Box> boxes;
    for (std::size_t i = 0; i < count(); ++i)
        if (!isHeld(i))
            boxes.push_back(bounds(artwork().items[i]));
    return boxes;
}

void ItemHand::lockRatio(bool isLocked) {
    isRatioLocked_ = isLocked;
    Q_EMIT changed();
}

void ItemHand::setCropping(bool isCropping) {
    isCropping_ = isCropping;
    Q_EMIT changed();
}

void ItemHand::edit(const QString& label, const Change& change, const QString& run) {
    if (run.isEmpty())
        document_.endRun();
    std::vector<Item> items = artwork().items;
    const FontSource fonts = document_.fonts().sourceFor(document_.job());
    const AssetSource assets = assetSourceOf(*document_.job().assets);
    for (std::size_t i = 0; i < items.size(); ++i) {
        if (!isHeld(i))
            continue;
        if (items[i].isLocked && !held_.empty()) {
            Q_EMIT told(
                tr("%1 is locked: unlock it to change it").arg(QString::fromStdString(items[i].name)));
            return;
        }
        auto changed = change(items[i]);
        if (changed && changed->own() && isWithinLimits(*changed))
            changed = settled(*changed, fonts, assets);
        if (!changed || !isWithinLimits(*changed)) {
            Q_EMIT told(tr("Artwork can be from 1 mm to 10 m wide and high, and no farther than 10 m away"));
            return;
        }
        items[i] = *changed;
    }
    const std::string id = document_.selected();
    document_.change(
        label,
        [&](Job& job) {
            if (Design* design = job.find(id))
                design->artwork.items = items;
        },
        run);
}

void ItemHand::drag(const QString& label, const std::vector<Item>& from, const Change& change) {
    if (from.size() != count())
        return;
    std::size_t next = 0;
    std::vector<const Item*> held;
    for (std::size_t i = 0; i < from.size(); ++i)
        if (isHeld(i))
            held.push_back(&from[i]);
    edit(
        label, [&](const Item&) { return change(*held[next++]); }, "drag artwork");
}

void ItemHand::setWidth(double width, const QString& run) {
    const QString label = tr("%1 %2").arg(tr("Width"), lengthIn(document_, width));
    if (!isRatioLocked_ && lone())
        return edit(
            label, [&](const Item& item) { return stretchedToWidth(item, width); }, run);
    const Box held = heldBox();
    const Point about = count() == 1 ? held.least : held.centre();
    edit(
        label, [&](const Item& item) { return scaledBy(item, width / held.width(), about); }, run);
}

void ItemHand::setHeight(double height, const QString& run) {
    const QString label = tr("%1 %2").arg(tr("Height"), lengthIn(document_, height));
    if (!isRatioLocked_ && lone())
        return edit(
            label, [&](const Item& item) { return stretchedToHeight(item, height); }, run);
    const Box held = heldBox();
    const Point about = count() == 1 ? held.least : held.centre();
    edit(
        label, [&](const Item& item) { return scaledBy(item, height / held.height(), about); }, run);
}

void ItemHand::setLeft(double left, const QString& run) {
    const double by = left - heldBox().least.x;
    edit(
        tr("%1 %2").arg(tr("From the left"), lengthIn(document_, left)),
        [&](const Item& item) {
            return movedBy(item, {by, 0});
        },
        run);
}

void ItemHand::setTop(double top, const QString& run) {
    const double by = top - heldBox().least.y;
    edit(
        tr("%1 %2").arg(tr("From the top"), lengthIn(document_, top)),
        [&](const Item& item) {
            return movedBy(item, {0, by});
        },
        run);
}

std::optional<double> ItemHand::percent() const {
    const MadeDesign* made = document_.newest(document_.selected());
    const auto held = item();
    if (!lone() || !made || *held >= made->sources.size() || !(made->artwork.items.size() == count()) ||
        made->artwork.items[*held].source() != lone()->source() ||
        made->artwork.items[*held].page() != lone()->page())
        return {};
    return 100 * lone()->place.width / made->sources[*held].naturalSize.x;
}

void ItemHand::setPercent(double percent, const QString& run) {
    const auto now = this->percent();
    if (!now)
        return;
    const Point about = count() == 1 ? bounds(*lone()).least : bounds(*lone()).centre();
    edit(
        tr("%1 %2").arg(tr("Size"), quantityText(percent, QuantityKind::percent)),
        [&](const Item& item) { return scaledBy(item, percent / *now, about); }, run);
}

void ItemHand::setTurn(double degrees, const QString& run) {
    if (!lone())
        return;
    const Point about = bounds(*lone()).centre();
    edit(
        tr("Turn to %1").arg(quantityText(degrees, QuantityKind::angle)),
        [&](const Item& item) { return turnedBy(item, degrees - item.place.turn, about); }, run);
}

void ItemHand::turnBy(double degrees) {
    const Frame held = frame();
    const Point about = held.toDesign(held.box.centre());
    edit(degrees > 0 ? tr("Quarter turn right") : tr("Quarter turn left"),
         [&](const Item& item) { return turnedBy(item, degrees, about); });
}

void ItemHand::mirror(bool isDown) {
    const Frame held = frame();
    const Point about = held.toDesign(held.box.centre());
    edit(isDown ? tr("Mirror down") : tr("Mirror across"), [&](const Item& item) {
        Item mirrored = mirroredAt(item, about.x);
        return isDown ? turnedBy(mirrored, 180, about) : mirrored;
    });
}

void ItemHand::nudge(Point by) {
    edit(
        tr("Nudge artwork"), [&](const Item& item) { return movedBy(item, by); }, "nudge artwork");
}

void ItemHand::crop(const PixelBox& part, const QString& run) {
    if (lone())
        edit(
            tr("Crop artwork"), [&](const Item& item) { return cropped(item, part); }, run);
}

void ItemHand::showAll() {
    if (const Item* item = lone())
        edit(tr("Show all of the artwork"), [&](const Item& i) {
            return cropped(i, {0, 0, item->pixelWidth, item->pixelHeight});
        });
}

void ItemHand::cropMargins() {
    const Item* item = lone();
    if (!item)
        return;
    const auto find = [source = document_.pictures().source(), asset = assetOf(document_.job(), *item),
                       page = item->page()](const std::stop_token& stop) {
        return filledPart(*source(*asset, {page}, stop));
    };
    const auto take = [this, was = *item,
                       id = document_.selected()](const Outcome<std::optional<PixelBox>>& found) {
        if (document_.selected() != id || !lone() || !(*lone() == was))
            return; // something else by now
        const PixelBox whole{0, 0, was.pixelWidth, was.pixelHeight};
        if (!found.failure.empty())
            Q_EMIT told(QString::fromStdString(found.failure));
        if (!found.value)
            return;
        const std::optional<PixelBox>& part = *found.value;
        if (!part)
            Q_EMIT told(tr("There is no plain margin around the artwork: its corners differ in colour"));
        else if (*part == was.shown())
            Q_EMIT told(*part == whole ? tr("The artwork has no empty margins")
                                       : tr("The empty margins are cropped already"));
        else
            crop(*part);
    };
    runInBackground(document_.background().pictures, this, tr("The empty margins can't be found"), find,
                    take);
}

} // namespace hasami
