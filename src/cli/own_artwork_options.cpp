#include "cli/own_artwork_options.h"

#include "base/error.h"
#include "base/translation.h"
#include "codes/code.h"
#include "drawing/clip.h"
#include "job/own_artwork_fields.h"
#include "workshop/make_all.h"

#include <algorithm>

namespace hasami {

namespace {

/// "X,Y", two lengths.
Point placeArgument(const std::string& text, const std::string& option) {
    const auto comma = text.find(',');
    if (comma == std::string::npos)
        throw UsageError(
            sentence("%1 takes two lengths with a comma between them, not \"%2\"", option, text));
    const auto part = [&](const std::string& length) {
        return lengthArgument(length, option, -Limits::mostSize, Limits::mostSize);
    };
    return {part(text.substr(0, comma)), part(text.substr(comma + 1))};
}

/// With "\n" for line breaks.
std::string withLineBreaks(std::string text) {
    for (std::size_t at = text.find("\\n"); at != std::string::npos; at = text.find("\\n", at + 1))
        text.replace(at, 2, "\n");
    return text;
}

bool endsAsFont(std::string text) {
    std::transform(text.begin(), text.end(), text.begin(),
                   [](unsigned char c) { return char(std::tolower(c)); });
    return text.ends_with(".ttf") || text.ends_with(".otf") || text.ends_with(".ttc") ||
           text.ends_with(".otc");
}

void putAt(Item& item, const std::string& place, const std::string& option, const Design& design) {
    const Point middle = bounds(item).centre();
    const Point to = !place.empty()                 ? placeArgument(place, option)
                     : design.artwork.items.empty() ? middle
                                                    : bounds(design.artwork).centre();
    item = movedBy(item, to - middle);
}

} // namespace

void OwnArtworkArguments::addTo(CLI::App& command) {
    const auto repeatable = [](CLI::Option* option) {
        option->expected(1)->multi_option_policy(CLI::MultiOptionPolicy::TakeAll);
    };
    repeatable(command.add_option(
        "--lettering", letterings,
        translated("Lettering as artwork, laid over artwork where there is any; \\n breaks lines")));
    command.add_option(
        "--font", font,
        translated("Of the lettering: a family on this machine, or a .ttf or .otf file (start value: "
                   "League Spartan)"));
    command.add_option("--cap-height", capHeight, translated("Height of a capital H (start value: 10mm)"));
    command.add_option("--letter-space", letterSpace, translated("Added between letters; may be negative"));
    command.add_flag("--tighten", isTightened,
                     translated("Neighbouring letters are moved together until their outlines touch"));
    command.add_flag("--weld", isWelded, translated("Overlapping and touching letters become one outline"));
    command.add_option("--counters", counters, translated("keep or remove the openings of letters"))
        ->check(CLI::IsMember({"keep", "remove"}));
    command.add_option(
        "--arc-radius", arcRadius,
        translated("The baseline lies on a circle of this radius: outside at its top, inside at its "
                   "bottom where negative"));
    command.add_option("--slant", slant,
                       translated("Letters lean to the right, in degrees (start value: 0)"));
    command.add_option("--weight", weight,
                       translated("Letters are thicker by this on all sides; thinner where "
                                  "negative"));
    command.add_option(
        "--lettering-at", letteringAt,
        translated("X,Y of the lettering's middle, from the artwork's top left (start value: the "
                   "artwork's middle)"));
    command.add_option(
        "--fill", fill,
        translated("Of the lettering: a colour, as --border-colour has it, or a picture that is shown inside "
                   "it (start value: black)"));
    repeatable(command.add_option(
        "--code", codes,
        translated("KIND:TEXT, a code as artwork: qr, datamatrix, code128, ean13, ean8 or upca")));
    command.add_option("--code-size", codeSize,
                       translated("Width of the code with its quiet zone (start value: 20mm)"));
    command.add_option("--code-at", codeAt,
                       translated("X,Y of the code's middle, from the artwork's top left"));
    command.add_option(
        "--clip", clip,
        translated("Shows the artwork inside a shape only: box, rounded, ellipse, circle, polygon:N, or "
                   "the outline of another artwork"));
}

Fill OwnArtworkArguments::fillFrom(Job& job, PictureStore& pictures) const {
    if (const auto colour = parsePaintColour(fill))
        return *colour;
    if (fill.starts_with("#"))
        throw UsageError(sentence("--fill takes a colour such as #204060 or a picture, not \"%1\"", fill));
    const NewPicture picture = openArtwork(fill, pictures);
    job.assets.edit()[picture.asset->sha256] = picture.asset;
    PictureFill inside;
    inside.file = {picture.asset->sha256, picture.page};
    inside.isVector = picture.vector.has_value();
    const Point size = picture.naturalSize();
    inside.place.width = size.x;
    inside.place.height = size.y;
    return inside;
}

Item OwnArtworkArguments::letteringItem(Job& job, const std::string& text, PictureStore& pictures,
                                        FontLibrary& fonts) const {
    Lettering lettering;
    lettering.text = withLineBreaks(text);
    if (lettersIn(lettering.text).empty())
        throw InputError(sentence("The lettering \"%1\" has no letters that can be seen", text));
    if (lettering.text.size() > mostLettersBytes)
        throw InputError(
            sentence("The lettering is longer than %1 letters", std::to_string(mostLettersBytes)));
    if (endsAsFont(font)) {
        lettering.fonts.push_back(fonts.choose(job, std::filesystem::path(font)));
    } else {
        const KnownFont* known = font.empty() ? &fonts.fonts().front() : fonts.find(font);
        if (!known)
            throw InputError(sentence("There is no font \"%1\" on this machine", font));
        lettering.fonts.push_back(fonts.choose(job, *known));
    }
    lettering.capHeight =
        lengthArgument(capHeight, "--cap-height", Limits::leastCapHeight, Limits::mostCapHeight);
    if (!letterSpace.empty())
        lettering.letterSpace =
            lengthArgument(letterSpace, "--letter-space", -Limits::mostSpace, Limits::mostSpace);
    if (!arcRadius.empty())
        lettering.arcRadius = lengthArgument(arcRadius, "--arc-radius", -Limits::mostSize, Limits::mostSize);
    if (!slant.empty())
        lettering.slant = numberArgument(slant, "--slant", -60, 60);
    if (!weight.empty())
        lettering.weight = lengthArgument(weight, "--weight", -Limits::mostWeight, Limits::mostWeight);
    lettering.closeness = isTightened ? 1 : 0;
    lettering.isWelded = isWelded;
    lettering.keepsCounters = counters == "keep";
    fonts.addFallbacks(job, lettering);
    OwnArtwork own;
    own.what = lettering;
    own.fill = fillFrom(job, pictures);
    return newItem(std::move(own), nameAfterText(lettering.text), fonts.sourceFor(job),
                   assetSourceOf(*job.assets));
}

Item OwnArtworkArguments::codeItem(const Job& job, const std::string& given) const {
    const auto colon = given.find(':');
    const std::string kind = given.substr(0, colon);
    const auto known =
        std::ranges::find_if(codesInFiles, [&](const auto& code) { return kind == code.name; });
    if (colon == std::string::npos || known == std::end(codesInFiles))
        throw UsageError(sentence(
            "--code takes KIND:TEXT, KIND one of qr, datamatrix, code128, ean13, ean8 and upca, not \"%1\"",
            given));
    CodeArtwork code;
    code.kind = known->value;
    code.text = withLineBreaks(given.substr(colon + 1));
    code.width = lengthArgument(codeSize, "--code-size", Limits::leastSize, Limits::mostSize);
    code.height = code.width * 0.6;
    OwnArtwork own;
    own.what = code;
    return newItem(std::move(own), nameAfterText(code.text), {}, assetSourceOf(*job.assets));
}

/// The edge of other artwork, in mm of it.
std::vector<Curve> edgeOfArtwork(const std::string& file, PictureStore& pictures) {
    Job other;
    addDesign(other, openArtwork(file, pictures));
    Cache cache;
    const PictureSource source = [&](const Asset& asset, const PictureWish& wish,
                                     const std::stop_token& stop) { return pictures.get(asset, wish, stop); };
    const Made made = makeAll(other, 1, source, cache);
    if (made.designs.front().sticker->edge.empty())
        throw InputError(made.designs.front().trouble);
    return made.designs.front().sticker->edge;
}

void OwnArtworkArguments::clipArtwork(Job& job, Design& design, const StickerArguments& sticker,
                                      PictureStore& pictures) const {
    const Item item = design.artwork.items.front();
    const Box box = bounds(item);
    std::pair<Figure, Point> figure;
    if (clip == "box" || clip == "rounded") {
        figure = figureIn(box, FigureKind::rectangle, false);
        if (clip == "rounded")
            figure.first.radius =
                sticker.radius.empty() ? 3 : lengthArgument(sticker.radius, "--radius", 0, Limits::mostSize);
    } else if (clip == "ellipse" || clip == "circle") {
        figure = figureIn(box, FigureKind::ellipse, clip == "circle");
    } else if (clip.starts_with("polygon:")) {
        const int sides = int(numberArgument(clip.substr(8), "--clip polygon", 3, Limits::mostSides));
        figure = figureIn(box, FigureKind::polygon, true, sides);
    } else {
        figure = figureOf(edgeOfArtwork(clip, pictures));
        figure.second = box.centre() - Point{figure.first.width / 2, figure.first.height / 2};
    }
    design.artwork.items.front() = clippedTo(item, figure.first, figure.second, assetSourceOf(*job.assets));
}

void OwnArtworkArguments::applyTo(Job& job, Design& design, const StickerArguments& sticker,
                                  PictureStore& pictures, FontLibrary& fonts) const {
    const std::string id = design.id;
    if (!clip.empty())
        clipArtwork(job, design, sticker, pictures);
    for (const std::string& text : letterings) {
        Item item = letteringItem(job, text, pictures, fonts);
        putAt(item, letteringAt, "--lettering-at", design);
        design.artwork.items.push_back(std::move(item));
    }
    for (const std::string& code : codes) {
        Item item = codeItem(job, code);
        putAt(item, codeAt, "--code-at", design);
        design.artwork.items.push_back(std::move(item));
    }
}

Design& OwnArtworkArguments::addDesignTo(Job& job, const StickerArguments& sticker, PictureStore& pictures,
                                         FontLibrary& fonts) const {
    OwnArtworkArguments rest = *this;
    Item first;
    if (!letterings.empty()) {
        first = letteringItem(job, letterings.front(), pictures, fonts);
        rest.letterings.erase(rest.letterings.begin());
    } else {
        first = codeItem(job, codes.front());
        rest.codes.erase(rest.codes.begin());
    }
    Design& design = addDesign(job, first);
    sticker.sizeAndSet(design);
    for (Item& item : design.artwork.items)
        item = settled(item, fonts.sourceFor(job), assetSourceOf(*job.assets));
    rest.applyTo(job, design, sticker, pictures, fonts);
    return design;
}

} // namespace hasami
