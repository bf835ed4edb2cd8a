#include "cli/options.h"

#include "base/number_text.h"
#include "base/translation.h"
#include "geometry/length_text.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>

namespace hasami {

double numberArgument(const std::string& text, const std::string& option, double least, double most) {
    double value = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (error != std::errc{} || end != text.data() + text.size() || !(value >= least && value <= most))
        throw UsageError(sentence("%1 takes a number from %2 to %3, not \"%4\"", option, numberText(least, 3),
                                  numberText(most, 3), text));
    return value;
}

double lengthArgument(const std::string& text, const std::string& option, double least, double most) {
    const auto value = parseLength(text);
    if (!value)
        throw UsageError(sentence("%1 takes a length such as 2mm, 0.1in or 6pt, not \"%2\"", option, text));
    if (*value < least || *value > most)
        throw UsageError(sentence("%1 takes a length from %2 to %3, not \"%4\"", option, lengthText(least),
                                  lengthText(most), text));
    return *value;
}

PaintColour colourArgument(const std::string& text, const std::string& option) {
    const auto colour = parsePaintColour(text);
    if (!colour)
        throw UsageError(
            sentence("%1 takes a colour such as #204060, \"0 60 100 0\" (inks in percent), \"Comb "
                     "Gold = 0 30 90 10\" (a spot colour) or black, not \"%2\"",
                     option, text));
    return *colour;
}

Medium mediumArgument(const std::string& text) {
    const auto side = [&](const std::string& part) {
        return lengthArgument(part, "--medium", Limits::leastMedium, Limits::mostMedium);
    };
    if (text.starts_with("roll:")) {
        Medium roll;
        const auto times = text.find('x');
        roll.width = side(text.substr(5, times == std::string::npos ? times : times - 5));
        if (times != std::string::npos)
            roll.rollLength = side(text.substr(times + 1));
        return roll;
    }
    if (const auto times = text.find('x'); text.starts_with("sheet:") && times != std::string::npos)
        return sheetOf(side(text.substr(6, times - 6)), side(text.substr(times + 1)));
    std::string names;
    for (const NamedSheet& sheet : namedSheets) {
        std::string name = sheet.name;
        std::transform(name.begin(), name.end(), name.begin(),
                       [](unsigned char c) { return c == ' ' ? '-' : char(std::tolower(c)); });
        if (text == name)
            return sheetOf(sheet.width, sheet.length);
        names += (names.empty() ? "" : ", ") + name;
    }
    throw UsageError(
        sentence("--medium takes roll:WIDTH, roll:WIDTHxLENGTH, sheet:WIDTHxLENGTH, or one of %1, not \"%2\"",
                 names, text));
}

void StickerArguments::addTo(CLI::App& command) {
    auto* widthOption = command.add_option("--width", width, translated("Width of the artwork"));
    auto* heightOption =
        command.add_option("--height", height, translated("Height of the artwork"))->excludes(widthOption);
    command
        .add_option("--dpi", dpi,
                    translated("Dots per inch, for the size (start value: the file's own, else 300)"))
        ->excludes(widthOption)
        ->excludes(heightOption);
    command
        .add_option(
            "--find", find,
            translated("How the edge is found: auto, transparency, backdrop, brightness, colours, paint (all "
                       "that vector art paints) or lines (cut lines that the file brings)"))
        ->check(
            CLI::IsMember({"auto", "transparency", "backdrop", "brightness", "colours", "paint", "lines"}));
    command.add_flag("--with-backdrop", withBackdrop,
                     translated("With --find paint: a plain page-filling paint counts too"));
    command.add_option("--page", page, translated("Of a file with several, counted from 1 (start value: 1)"))
        ->check(CLI::Range(1, 100'000));
    command.add_option("--colours", colours,
                       translated("With --find colours: how many (start value: as many as differ plainly)"));
    command.add_option(
        "--level", level,
        translated("Coverage at which the edge runs, 0 to 100 (start value: where it is crispest)"));
    command.add_option("--shadow", shadow,
                       translated("How much of a soft shadow is taken in, 0 to 100 (start value: 0)"));
    command.add_option("--smooth", smoothing, translated("Bumps up to this size are evened out"));
    command.add_option("--min-speck", leastSpeck,
                       translated("Smallest area in mm2 that gets a line (start value: 1)"));
    command.add_option("--min-opening", leastOpening,
                       translated("Smallest opening in mm2 that is cut (start value: 1)"));
    command.add_option("--openings", openings, translated("cut or close"))
        ->check(CLI::IsMember({"cut", "close"}));
    auto* shapeOption =
        command
            .add_option("--shape", shape,
                        translated("A plain shape instead: box, rounded, ellipse, circle or polygon"))
            ->check(CLI::IsMember({"box", "rounded", "ellipse", "circle", "polygon"}));
    command.add_option("--margin", margin, translated("From the artwork to the shape"))->needs(shapeOption);
    command.add_option("--radius", radius, translated("Of a rounded box's corners (start value: 3mm)"));
    command
        .add_option("--shape-size", shapeSize, translated("WIDTHxHEIGHT of the shape, in place of a margin"))
        ->needs(shapeOption)
        ->excludes("--margin");
    command.add_option("--tolerance", tolerance, translated("How far the line may lie from the edge found"));
    command.add_option(
        "--offset", offset,
        translated("Kiss line from the edge, outward; inward where negative (start value: 2mm)"));
    command.add_option("--corners", corners, translated("round, sharp or flat (start value: round)"))
        ->check(CLI::IsMember({"round", "sharp", "flat"}));
    command.add_option("--corner-limit", cornerLimit,
                       translated("How far sharp corners may reach, in offsets (start value: 4)"));
    auto* dieOffsetOption = command.add_option("--die-offset", dieOffset,
                                               translated("A die line as well, this far from the edge"));
    command
        .add_option("--die-box", dieBox,
                    translated("A die line as well: a box around the edge, this far outside of it"))
        ->excludes(dieOffsetOption);
    auto* tabsOption = command.add_option(
        "--tabs", tabs,
        translated("The die line is perforated, with this many tabs for each sticker, 3 or more"));
    command
        .add_option("--pattern", pattern,
                    translated("The same by a pattern, CUT:TAB: lengths cut and left, repeated"))
        ->excludes(tabsOption);
    command
        .add_option(
            "--use", use,
            translated(
                "What the work is for, which sets start values: stickers, labels, pop-out, light-cloth, "
                "dark-cloth, window, magnet or wall"))
        ->check(CLI::IsMember(
            {"stickers", "labels", "pop-out", "light-cloth", "dark-cloth", "window", "magnet", "wall"}));
    command.add_option("--white", white,
                       translated("White ink under all that is printed; the length is its choke"));
    command.add_option(
        "--bleed", bleed,
        translated("Ink past the cut line (start value: 1mm; 2mm and 5mm for work above 300mm and 1m)"));
    command
        .add_option(
            "--bleed-from", bleedFrom,
            translated(
                "Where its colours come from: the artwork's edge, or the cut line, outside of which all "
                "is printed over (start value: edge)"))
        ->check(CLI::IsMember({"edge", "line"}));
    command.add_option("--bleed-colour", bleedColour,
                       translated("One colour for it, as --border-colour has it (start value: the artwork's "
                                  "own colours)"));
    command.add_option("--border", border, translated("A printed band of this width (start value: none)"));
    command.add_option(
        "--border-colour", borderColour,
        translated("Of the band: #RRGGBB, inks in percent such as \"0 60 100 0\", a spot colour such "
                   "as \"Comb Gold = 0 30 90 10\" with what shows it, or black (start value: "
                   "black, in black ink alone)"));
    command
        .add_option("--border-on", borderOn,
                    translated("all, or outside: none around openings (start value: all)"))
        ->check(CLI::IsMember({"all", "outside"}));
    command.add_option("--bridge", bridge,
                       translated("Parts closer than this become one sticker (start value: 0)"));
}

void StickerArguments::addDieLine(Recipe& recipe) const {
    if (dieOffset.empty() && dieBox.empty()) {
        if (!tabs.empty() || !pattern.empty())
            throw UsageError(sentence("%1 needs a die line: --die-offset or --die-box",
                                      tabs.empty() ? "--pattern" : "--tabs"));
        return;
    }
    LineRecipe line;
    line.kind = tabs.empty() && pattern.empty() ? LineKind::die : LineKind::perforated;
    line.corners = recipe.lines.front().corners;
    if (!dieOffset.empty()) {
        line.offset = lengthArgument(dieOffset, "--die-offset", Limits::mostInset, Limits::mostOffset);
    } else {
        line.course = LineCourse::shape;
        line.shape = {PlainShapeKind::box,
                      lengthArgument(dieBox, "--die-box", Limits::mostInset, Limits::mostOffset)};
    }
    if (!tabs.empty())
        line.tabs.count = int(std::lround(numberArgument(tabs, "--tabs", leastTabs, Limits::mostTabs)));
    if (!pattern.empty()) {
        const auto colon = pattern.find(':');
        if (colon == std::string::npos)
            throw UsageError(
                sentence("--pattern takes CUT:TAB, two lengths such as 8mm:0.8mm, not \"%1\"", pattern));
        line.tabs.way = TabRule::Way::pattern;
        line.tabs.cut =
            lengthArgument(pattern.substr(0, colon), "--pattern", Limits::leastTab, Limits::mostSize);
        line.tabs.length =
            lengthArgument(pattern.substr(colon + 1), "--pattern", Limits::leastTab, Limits::longestTab);
    }
    recipe.lines.push_back(line);
}

void StickerArguments::setShape(EdgeOptions& edge) const {
    edge.way = EdgeWay::shape;
    edge.shape.kind = shape == "box"       ? PlainShapeKind::box
                      : shape == "rounded" ? PlainShapeKind::rounded
                      : shape == "ellipse" ? PlainShapeKind::ellipse
                      : shape == "circle"  ? PlainShapeKind::circle
                                           : PlainShapeKind::polygon;
    if (!margin.empty())
        edge.shape.margin = lengthArgument(margin, "--margin", Limits::mostInset, Limits::mostOffset);
    if (!shapeSize.empty()) {
        const auto times = shapeSize.find('x');
        const auto side = [&](const std::string& part) {
            return lengthArgument(part, "--shape-size", Limits::leastSize, Limits::mostSize);
        };
        edge.shape.bySize = true;
        edge.shape.width = side(shapeSize.substr(0, times));
        edge.shape.height = times == std::string::npos ? edge.shape.width : side(shapeSize.substr(times + 1));
    }
    if (!radius.empty())
        edge.shape.radius = lengthArgument(radius, "--radius", 0, Limits::mostSize);
}

void StickerArguments::setBorder(Border& recipe) const {
    if (!border.empty())
        recipe.width = lengthArgument(border, "--border", 0, Limits::mostBorder);
    if (!borderColour.empty())
        recipe.colour = colourArgument(borderColour, "--border-colour");
    recipe.onOpenings = borderOn != "outside";
}

Design& StickerArguments::addDesignTo(Job& job, const NewPicture& given) const {
    NewPicture picture = given;
    if (!dpi.empty())
        picture.pixelsPerMillimetre = numberArgument(dpi, "--dpi", 1, 20'000) / 25.4;
    std::optional<double> wide;
    if (!width.empty())
        wide = lengthArgument(width, "--width", Limits::leastSize, Limits::mostSize);
    if (!height.empty())
        wide = lengthArgument(height, "--height", Limits::leastSize, Limits::mostSize) *
               picture.naturalSize().x / picture.naturalSize().y;

    Design& design = addDesign(job, picture, wide);
    setRecipe(design);
    return design;
}

void StickerArguments::sizeAndSet(Design& design) const {
    const Box box = bounds(design.artwork);
    if (!width.empty())
        design.artwork = scaledToWidth(design.artwork,
                                       lengthArgument(width, "--width", Limits::leastSize, Limits::mostSize));
    if (!height.empty())
        design.artwork = scaledToWidth(
            design.artwork, lengthArgument(height, "--height", Limits::leastSize, Limits::mostSize) *
                                box.width() / box.height());
    setRecipe(design);
}

void StickerArguments::setRecipe(Design& design) const {
    if (!use.empty()) {
        constexpr std::array names{"stickers",   "labels", "pop-out", "light-cloth",
                                   "dark-cloth", "window", "magnet",  "wall"};
        const auto place = std::find(names.begin(), names.end(), use) - names.begin();
        const Box box = bounds(design.artwork);
        design.recipe =
            startingFor(stickerUses[std::size_t(place)], design.recipe, std::max(box.width(), box.height()));
    }
    EdgeOptions& edge = design.recipe.edge;
    if (!level.empty())
        edge.level = numberArgument(level, "--level", 0, 100);
    if (!leastSpeck.empty())
        edge.leastSpeck = numberArgument(leastSpeck, "--min-speck", 0, 1e6);
    if (!leastOpening.empty())
        edge.leastOpening = numberArgument(leastOpening, "--min-opening", 0, 1e6);
    if (!tolerance.empty())
        edge.tolerance = lengthArgument(tolerance, "--tolerance", 0.001, 1);
    if (!smoothing.empty())
        edge.smoothing = lengthArgument(smoothing, "--smooth", 0, Limits::mostSmoothing);
    if (!shadow.empty())
        edge.shadow = numberArgument(shadow, "--shadow", 0, 100);
    const bool bringsLines = edge.way == EdgeWay::lines;
    edge.way = find == "transparency" ? EdgeWay::transparency
               : find == "backdrop"   ? EdgeWay::backdrop
               : find == "brightness" ? EdgeWay::brightness
               : find == "colours"    ? EdgeWay::colours
               : find == "paint"      ? EdgeWay::paint
               : find == "lines"      ? EdgeWay::lines
               : bringsLines          ? EdgeWay::lines
                                      : EdgeWay::automatic;
    edge.loops = openings == "cut" || edge.way == EdgeWay::lines ? LoopChoice::all : LoopChoice::outer;
    if (edge.way ==
        EdgeWay::colours) // every detail, on the borders themselves, unless an option says otherwise
        cutEveryDetail(design.recipe);
    if (openings == "close")
        edge.loops = LoopChoice::outer;
    edge.takesBackdrop = withBackdrop;
    if (!colours.empty())
        edge.colours = int(numberArgument(colours, "--colours", 0, mostColours));
    if (!shape.empty())
        setShape(edge);
    if (!offset.empty())
        design.recipe.lines[0].offset =
            lengthArgument(offset, "--offset", Limits::mostInset, Limits::mostOffset);
    if (!corners.empty())
        design.recipe.lines[0].corners.form = corners == "sharp"  ? CornerForm::sharp
                                              : corners == "flat" ? CornerForm::flat
                                                                  : CornerForm::round;
    if (!cornerLimit.empty())
        design.recipe.lines[0].corners.limit =
            numberArgument(cornerLimit, "--corner-limit", Limits::leastCornerLimit, Limits::mostCornerLimit);
    addDieLine(design.recipe);
    if (!white.empty())
        design.recipe.inks = {
            {InkKind::white, InkArea::silhouette, lengthArgument(white, "--white", 0, Limits::mostChoke)}};
    if (!bleed.empty())
        design.recipe.bleed.amount = lengthArgument(bleed, "--bleed", 0, Limits::mostBleed);
    if (!bleedColour.empty())
        design.recipe.bleed.colour = colourArgument(bleedColour, "--bleed-colour");
    if (!bleedFrom.empty())
        design.recipe.bleed.source = bleedFrom == "line" ? BleedSource::cutLine : BleedSource::edge;
    setBorder(design.recipe.border);
    if (!bridge.empty())
        design.recipe.bridge = lengthArgument(bridge, "--bridge", 0, Limits::mostBridge);
}

} // namespace hasami
