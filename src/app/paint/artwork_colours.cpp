#include "app/paint/artwork_colours.h"

#include "app/paint/paint_design.h"
#include "app/words/words.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

namespace hasami {

namespace {

constexpr std::size_t mostColours = 5;
constexpr int leastApart = 48; // in the channel that differs most
constexpr int seen = 200;      // coverage from which a pixel counts

Rgba colourOf(QRgb pixel) {
    return {static_cast<std::uint8_t>(qRed(pixel)), static_cast<std::uint8_t>(qGreen(pixel)),
            static_cast<std::uint8_t>(qBlue(pixel)), 255};
}

bool areAlike(Rgba a, Rgba b) {
    return std::max({std::abs(a.red - b.red), std::abs(a.green - b.green), std::abs(a.blue - b.blue)}) <
           leastApart;
}

/// The usual colours of a small picture: of each cell of the colour cube its mean, the fullest cell first.
std::vector<Rgba> usualColours(const QImage& image) {
    struct Cell {
        std::size_t count = 0;
        std::array<std::size_t, 3> sums{};
    };
    std::map<int, Cell> cells;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x) {
            const QRgb pixel = image.pixel(x, y);
            if (qAlpha(pixel) < seen)
                continue;
            Cell& cell = cells[(qRed(pixel) >> 5) << 6 | (qGreen(pixel) >> 5) << 3 | qBlue(pixel) >> 5];
            ++cell.count;
            cell.sums[0] += std::size_t(qRed(pixel));
            cell.sums[1] += std::size_t(qGreen(pixel));
            cell.sums[2] += std::size_t(qBlue(pixel));
        }
    std::vector<Cell> order;
    for (const auto& [place, cell] : cells)
        order.push_back(cell);
    std::stable_sort(order.begin(), order.end(),
                     [](const Cell& a, const Cell& b) { return a.count > b.count; });
    std::vector<Rgba> colours;
    for (const Cell& cell : order) {
        const auto mean = [&](int i) {
            return static_cast<std::uint8_t>(cell.sums[std::size_t(i)] / cell.count);
        };
        const Rgba colour{mean(0), mean(1), mean(2), 255};
        const bool isNew =
            std::none_of(colours.begin(), colours.end(), [&](Rgba other) { return areAlike(colour, other); });
        if (isNew && colours.size() < mostColours)
            colours.push_back(colour);
    }
    return colours;
}

} // namespace

std::vector<Rgba> coloursThatSuit(Document& document, const Design& design) {
    constexpr int side = 64;
    std::vector<Rgba> colours;
    const Item& first = design.artwork.items.front();
    if (const auto pyramid = pictureOf(document, design, first))
        colours = usualColours(pyramid->atLeast(side));
    for (const Rgba plain : {Rgba{0, 0, 0, 255}, Rgba{255, 255, 255, 255}})
        if (std::find(colours.begin(), colours.end(), plain) == colours.end())
            colours.push_back(plain);
    return colours;
}

namespace {

/// Each once, in the order in which they are met.
class ColourList {
public:
    explicit ColourList(std::size_t most) : most_(most) {}

    void add(const PaintColour& colour) {
        if (all_.size() < most_ && std::ranges::find(all_, colour) == all_.end())
            all_.push_back(colour);
    }
    std::vector<PaintColour> take() { return std::move(all_); }

private:
    std::size_t most_;
    std::vector<PaintColour> all_;
};

void addChosen(ColourList& colours, const OwnArtwork& own) {
    if (const auto* plain = std::get_if<PaintColour>(&own.fill)) {
        colours.add(*plain);
    } else if (const auto* graded = std::get_if<Gradient>(&own.fill)) {
        colours.add(graded->from);
        colours.add(graded->to);
    }
    if (own.lineWidth > 0)
        colours.add(own.lineColour);
}

void addChosen(ColourList& colours, const Design& design) {
    for (const Item& item : design.artwork.items)
        if (const OwnArtwork* own = item.own())
            addChosen(colours, *own);
    if (design.recipe.border.width > 0)
        colours.add(design.recipe.border.colour);
    if (design.recipe.bleed.colour)
        colours.add(*design.recipe.bleed.colour);
}

} // namespace

std::vector<PaintColour> coloursToTake(Document& document, const Design& design) {
    constexpr std::size_t most = 7, mostChosen = 3; // as many as fit side by side
    ColourList chosen(mostChosen);
    for (const Design& one : document.job().designs)
        addChosen(chosen, one);
    ColourList all(most);
    for (const PaintColour& colour : {blackInk(), PaintColour{{255, 255, 255, 255}}})
        all.add(colour);
    for (const PaintColour& colour : chosen.take())
        all.add(colour);
    for (const Rgba colour : coloursThatSuit(document, design))
        if (colour != Rgba{0, 0, 0, 255})
            all.add({colour});
    return all.take();
}

std::optional<Rgba> colourAt(Document& document, const Design& design, Point place) {
    std::optional<Rgba> colour;
    for (const Item& item : design.artwork.items) { // the last one lies in front
        const auto pyramid = pictureOf(document, design, item);
        if (!pyramid)
            continue;
        const QImage& image = pyramid->atLeast(item.pixelWidth);
        const Point inside = inverse(item.toDesign())(place);
        const int x = int(std::floor(inside.x / item.place.width * image.width()));
        const int y = int(std::floor(inside.y / item.place.height * image.height()));
        if (item.shownBox().meets({inside, inside}) && image.valid(x, y) && qAlpha(image.pixel(x, y)) >= seen)
            colour = colourOf(image.pixel(x, y));
    }
    return colour;
}

void setBorderColour(Document& document, const PaintColour& colour) {
    const std::string id = document.selected();
    document.endRun();
    document.change(tr("Border colour: %1").arg(QString::fromStdString(paintColourText(colour))),
                    [&](Job& job) {
                        if (Design* design = job.find(id))
                            design->recipe.border.colour = colour;
                    });
}

} // namespace hasami
