#include "drawing/draw.h"

#include "artwork/arrange.h"
#include "artwork/vector_page.h"
#include "base/error.h"
#include "base/translation.h"
#include "drawing/code_outline.h"
#include "drawing/drawing_id.h"
#include "drawing/figure_outline.h"
#include "geometry/length_text.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr double flatteningOfFrames = 0.001;       // mm
constexpr double leastSide = 1, mostSide = 10'000; // mm, of an item
constexpr double evenly = 1e-6;                    // scales that differ by less are one

Box boxOf(const std::vector<Curve>& rims) {
    Box box;
    for (const Curve& rim : rims)
        box.add(bounds(flatten(rim, flatteningOfFrames)));
    return box;
}

void move(std::vector<Curve>& rims, Point by) {
    for (Curve& rim : rims)
        rim = map(rim, Affine::translation(by));
}

std::vector<Curve> joined(const std::vector<std::vector<Curve>>& parts) {
    std::vector<Curve> all;
    for (const auto& part : parts)
        all.insert(all.end(), part.begin(), part.end());
    return all;
}

/// As large as covers the frame, in its middle.
Placement covering(Placement place, double width, double height) {
    const double factor = std::max(width / place.width, height / place.height);
    place.width *= factor;
    place.height *= factor;
    place.at = {(width - place.width) / 2, (height - place.height) / 2};
    return place;
}

/// Letters by their outlines, and where they are anchored.
struct Letters {
    std::vector<std::vector<Curve>> outlines;
    std::optional<Point> anchor;
    std::string lacking;
    std::optional<FontChoice> lostFont = {};
};

/// Letters with what is printed around them, from behind to front.
void addLetters(Drawing& drawing, const OwnArtwork& own, Letters made) {
    auto& letters = made.outlines;
    const double line = own.lineWidth;
    Box box = boxOf(joined(letters));
    if (box.isEmpty()) { // nothing typed yet
        const double high = std::get<Lettering>(own.what).capHeight;
        box = {{0, -high}, {high / 2, 0}};
    }
    box = box.grownBy(line);
    drawing.width = box.width();
    drawing.height = box.height();
    drawing.anchor = made.anchor.value_or(box.centre()) - box.least;
    drawing.lacking = made.lacking;
    drawing.lostFont = made.lostFont;
    for (auto& letter : letters)
        move(letter, box.least * -1);
    std::erase_if(letters, [](const auto& letter) { return letter.empty(); });
    if (line <= 0) {
        if (!letters.empty())
            drawing.areas.push_back({joined(letters), own.fill});
        return;
    }
    for (const auto& letter : letters) {
        drawing.areas.push_back({grownOutline(letter, line), own.lineColour});
        drawing.areas.push_back({letter, own.fill});
    }
}

void addFigure(Drawing& drawing, const OwnArtwork& own, const Figure& figure) {
    std::vector<Curve> outline = figureOutline(figure);
    drawing.width = figure.width;
    drawing.height = figure.height;
    if (own.lineWidth <= 0) {
        drawing.areas.push_back({outline, own.fill});
        return;
    }
    const std::vector<Curve> inner = insetOutline(outline, own.lineWidth);
    if (!std::holds_alternative<std::monostate>(own.fill)) {
        drawing.areas.push_back({outline, own.lineColour});
        drawing.areas.push_back({inner, own.fill});
        return;
    }
    for (const Curve& curve : inner)
        outline.push_back(reversed(curve));
    drawing.areas.push_back({outline, own.lineColour});
}

void addCode(Drawing& drawing, const OwnArtwork& own, const CodeArtwork& code) {
    CodeOutline outline = codeOutline(code);
    drawing.width = outline.width;
    drawing.height = outline.height;
    if (code.hasGround)
        drawing.areas.push_back(
            {{polygonOf(Box{{0, 0}, {outline.width, outline.height}})}, PaintColour{{255, 255, 255, 255}}});
    drawing.areas.push_back({std::move(outline.ink), own.fill});
}

Point anchorOf(const Lettering& lettering, const LaidLettering& laid) {
    if (lettering.arcRadius != 0)
        return {};
    double widest = 0;
    for (const auto& line : laid.lines)
        widest = std::max(widest, line.width * laid.capHeight / lettering.capHeight);
    switch (lettering.alignment) {
    case TextAlignment::left:
        return {};
    case TextAlignment::middle:
        return {widest / 2, 0};
    case TextAlignment::right:
        return {widest, 0};
    }
    return {};
}

Letters lettersOf(const Lettering& lettering, const FontSource& fonts) {
    const bool isThere = lettering.fonts.empty() || fonts(lettering.fonts.front());
    if (!isThere && !lettering.outlines.empty())
        return {{lettering.outlines}, {}, {}, lettering.fonts.front()};
    const LaidLettering laid = layLettering(lettering, fonts);
    return {letterOutlines(lettering, laid), anchorOf(lettering, laid), laid.lacking, {}};
}

const Drawing& drawingIn(const Item& item) {
    return *item.own()->drawing->drawing;
}

void checkSide(const Item& item, double width, double height) {
    if (std::max(width, height) > mostSide || std::max(width, height) < leastSide)
        throw InputError(sentence("%1 would be %2 x %3: artwork can be from 1 mm to 10 m", item.name,
                                  lengthText(width), lengthText(height)));
}

/// Draws what the item is now, and gives it the size in pixels that follows.
void drawAgain(Item& item, const FontSource& fonts, const AssetSource& assets) {
    OwnArtwork& own = *item.own();
    auto drawing = std::make_shared<Drawing>(drawingOf(own, fonts, assets));
    auto asset = std::make_shared<Asset>();
    asset->name = item.name;
    asset->sha256 = drawingId(*drawing);
    const auto [across, down] = pagePixels(drawing->width, drawing->height);
    item.pixelWidth = across;
    item.pixelHeight = down;
    asset->drawing = std::move(drawing);
    own.drawing = std::move(asset);
}

void keepOutlines(OwnArtwork& own, const FontSource& fonts) {
    auto* lettering = std::get_if<Lettering>(&own.what);
    if (!lettering)
        return;
    const bool mayBeLost =
        std::ranges::any_of(lettering->fonts, [](const FontChoice& choice) { return choice.asset.empty(); });
    if (!mayBeLost) {
        lettering->outlines.clear();
        return;
    }
    if (fonts(lettering->fonts.front()))
        lettering->outlines = joined(lettersOf(*lettering, fonts).outlines);
}

} // namespace

Drawing drawingOf(const OwnArtwork& own, const FontSource& fonts, const AssetSource& assets) {
    Drawing drawing;
    if (const auto* lettering = std::get_if<Lettering>(&own.what))
        addLetters(drawing, own, lettersOf(*lettering, fonts));
    else if (const auto* figure = std::get_if<Figure>(&own.what))
        addFigure(drawing, own, *figure);
    else
        addCode(drawing, own, std::get<CodeArtwork>(own.what));
    for (DrawnArea& area : drawing.areas)
        if (auto* picture = std::get_if<PictureFill>(&area.fill)) {
            if (picture->isFitted)
                picture->place = covering(picture->place, drawing.width, drawing.height);
            auto asset = assets(picture->file.asset);
            if (!asset)
                throw InputError(sentence("the picture inside it is not in the file"));
            if (std::ranges::find(drawing.pictures, asset) == drawing.pictures.end())
                drawing.pictures.push_back(std::move(asset));
        }
    return drawing;
}

Point layoutOrigin(const Lettering& lettering, const LaidLettering& laid, const Drawing& drawing) {
    return drawing.anchor - anchorOf(lettering, laid);
}

std::vector<std::string> assetsOf(const Item& item) {
    if (const FileContent* file = item.file())
        return {file->asset};
    const OwnArtwork& own = *item.own();
    std::vector<std::string> needed;
    if (const auto* picture = std::get_if<PictureFill>(&own.fill))
        needed.push_back(picture->file.asset);
    if (const auto* lettering = std::get_if<Lettering>(&own.what))
        for (const FontChoice& font : lettering->fonts)
            if (!font.asset.empty())
                needed.push_back(font.asset);
    return needed;
}

Item newItem(OwnArtwork own, const std::string& name, const FontSource& fonts, const AssetSource& assets) {
    Item item;
    item.name = name;
    item.content = std::move(own);
    keepOutlines(*item.own(), fonts);
    drawAgain(item, fonts, assets);
    const Drawing& drawing = drawingIn(item);
    checkSide(item, drawing.width, drawing.height);
    item.place = {{}, drawing.width, drawing.height};
    return item;
}

std::string nameAfterText(const std::string& text) {
    std::string name = text;
    std::replace(name.begin(), name.end(), '\n', ' ');
    constexpr std::size_t most = 60;
    if (name.size() > most) {
        std::size_t end = most;
        while (end > 0 && (static_cast<unsigned char>(name[end]) & 0xC0) == 0x80)
            --end; // not within a letter
        name.resize(end);
    }
    return name;
}

Item withContent(const Item& item, OwnArtwork own, const FontSource& fonts, const AssetSource& assets) {
    const Drawing& before = drawingIn(item);
    const double across = item.place.width / before.width, down = item.place.height / before.height;
    const Affine stretch = Affine::scaling(across, down);
    const Point anchor = item.toDesign()(stretch(before.anchor));
    Item changed = item;
    changed.crop.reset();
    if (const auto* old = std::get_if<Lettering>(&item.own()->what), *now = std::get_if<Lettering>(&own.what);
        old && now && item.name == nameAfterText(old->text) && !nameAfterText(now->text).empty())
        changed.name = nameAfterText(now->text);
    changed.content = std::move(own);
    keepOutlines(*changed.own(), fonts);
    drawAgain(changed, fonts, assets);
    const Drawing& after = drawingIn(changed);
    changed.place.width = after.width * across;
    changed.place.height = after.height * down;
    checkSide(changed, changed.place.width, changed.place.height);
    return movedBy(changed, anchor - changed.toDesign()(stretch(after.anchor)));
}

namespace {

void scale(Lettering& lettering, double by) {
    for (double* length : {&lettering.capHeight, &lettering.letterSpace, &lettering.weight,
                           &lettering.fitWidth, &lettering.arcRadius})
        *length *= by;
    for (Curve& curve : lettering.outlines)
        curve = map(curve, Affine::scaling(by, by));
}

void scale(Fill& fill, double across, double down) {
    auto* picture = std::get_if<PictureFill>(&fill);
    if (!picture)
        return;
    const double by = std::max(across, down);
    const Point half{picture->place.width / 2, picture->place.height / 2};
    const Point middle = Affine::scaling(across, down)(picture->place.at + half);
    picture->place.width *= by;
    picture->place.height *= by;
    picture->place.at = middle - half * by;
}

} // namespace

Item settled(const Item& item, const FontSource& fonts, const AssetSource& assets) {
    const Drawing& before = drawingIn(item);
    const double across = item.place.width / before.width, down = item.place.height / before.height;
    const bool isEven = std::abs(across - down) <= evenly * across;
    if (std::abs(across - 1) <= evenly && isEven)
        return item;
    OwnArtwork own = *item.own();
    scale(own.fill, across, down);
    if (auto* figure = std::get_if<Figure>(&own.what)) {
        figure->width = item.place.width;
        figure->height = item.place.height;
    } else if (!isEven) {
        return item;
    } else if (auto* lettering = std::get_if<Lettering>(&own.what)) {
        scale(*lettering, across);
        own.lineWidth *= across;
    } else {
        auto& code = std::get<CodeArtwork>(own.what);
        code.width *= across;
        code.height *= across;
    }
    Item changed = item;
    changed.content = std::move(own);
    drawAgain(changed, fonts, assets);
    if (item.crop)
        changed.crop.reset();
    return changed; // as large as it was, to the last digits
}

void drawAsRead(Item& item, const FontSource& fonts, const AssetSource& assets) {
    drawAgain(item, fonts, assets);
}

} // namespace hasami
