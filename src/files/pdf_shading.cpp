#include "files/pdf_shading.h"

#include "base/number_text.h"

#include <algorithm>
#include <sstream>
#include <string>
#include <vector>

namespace hasami {

namespace {

constexpr std::array processInks{"/Cyan", "/Magenta", "/Yellow", "/Black"};

QPDFObjectHandle numbers(const std::vector<double>& values) {
    auto array = QPDFObjectHandle::newArray();
    for (const double value : values)
        array.appendItem(QPDFObjectHandle::newReal(numberText(value, 6)));
    return array;
}

/// Both ends of a gradient as parts of one colour space.
struct Ends {
    QPDFObjectHandle space;
    std::vector<double> from, to;
};

std::vector<double> sharesOf(const Inks& inks) {
    return {inks.begin(), inks.end()};
}

/// What shows process inks and spot colours together: of each process ink as much as there is and as the spot
/// colours' tints add, at most all of it. A PostScript calculator function (7.10.5).
std::string shownInProcess(const std::vector<PaintColour>& spots) {
    const std::size_t count = processInks.size() + spots.size();
    std::ostringstream code;
    code << "{";
    for (std::size_t ink = 0; ink < processInks.size(); ++ink) {
        // One output lies on the stack for each ink before: this ink's share is always as deep.
        code << ' ' << count - 1 << " index";
        for (std::size_t i = 0; i < spots.size(); ++i)
            code << ' ' << count + ink - processInks.size() - i << " index "
                 << numberText(inksOf(spots[i])[ink], 6) << " mul add";
        code << " dup 1 gt {pop 1} if";
    }
    code << ' ' << count + processInks.size() << ' ' << processInks.size() << " roll";
    for (std::size_t i = 0; i < count; ++i)
        code << " pop";
    code << " }";
    return code.str();
}

QPDFObjectHandle spaceWith(QPDF& pdf, const std::vector<PaintColour>& spots) {
    auto names = QPDFObjectHandle::newArray();
    for (const char* ink : processInks)
        names.appendItem(QPDFObjectHandle::newName(ink));
    for (const PaintColour& spot : spots)
        names.appendItem(QPDFObjectHandle::newName(std::string("/").append(spot.spot)));
    auto shown = QPDFObjectHandle::newStream(&pdf, shownInProcess(spots));
    const auto ranges = [](std::size_t count) {
        std::vector<double> values;
        values.reserve(2 * count);
        for (std::size_t i = 0; i < count; ++i)
            values.insert(values.end(), {0, 1});
        return numbers(values);
    };
    shown.getDict().replaceKey("/FunctionType", QPDFObjectHandle::newInteger(4));
    shown.getDict().replaceKey("/Domain", ranges(processInks.size() + spots.size()));
    shown.getDict().replaceKey("/Range", ranges(processInks.size()));
    auto space = QPDFObjectHandle::newArray();
    space.appendItem(QPDFObjectHandle::newName("/DeviceN"));
    space.appendItem(names);
    space.appendItem(QPDFObjectHandle::newName("/DeviceCMYK"));
    space.appendItem(shown);
    return pdf.makeIndirectObject(space);
}

Ends withSpots(QPDF& pdf, const Gradient& gradient) {
    std::vector<PaintColour> spots;
    for (const PaintColour* end : {&gradient.from, &gradient.to})
        if (!end->spot.empty() &&
            std::ranges::none_of(spots, [&](const PaintColour& spot) { return spot.spot == end->spot; }))
            spots.push_back(*end);
    const auto parts = [&](const PaintColour& colour) {
        std::vector<double> shares = sharesOf(colour.spot.empty() ? inksOf(colour) : Inks{});
        for (const PaintColour& spot : spots)
            shares.push_back(spot.spot == colour.spot ? 1 : 0);
        return shares;
    };
    return {spaceWith(pdf, spots), parts(gradient.from), parts(gradient.to)};
}

Ends endsOf(QPDF& pdf, const Gradient& gradient) {
    if (!gradient.from.spot.empty() || !gradient.to.spot.empty())
        return withSpots(pdf, gradient);
    if (gradient.from.inks || gradient.to.inks)
        return {QPDFObjectHandle::newName("/DeviceCMYK"), sharesOf(inksOf(gradient.from)),
                sharesOf(inksOf(gradient.to))};
    const auto parts = [](const PaintColour& colour) {
        return std::vector{colour.shown.red / 255.0, colour.shown.green / 255.0, colour.shown.blue / 255.0};
    };
    return {QPDFObjectHandle::newName("/DeviceRGB"), parts(gradient.from), parts(gradient.to)};
}

} // namespace

QPDFObjectHandle newShading(QPDF& pdf, const Gradient& gradient, Point from, Point to, double radius) {
    const Ends ends = endsOf(pdf, gradient);
    auto function = QPDFObjectHandle::newDictionary();
    function.replaceKey("/FunctionType", QPDFObjectHandle::newInteger(2));
    function.replaceKey("/Domain", numbers({0, 1}));
    function.replaceKey("/C0", numbers(ends.from));
    function.replaceKey("/C1", numbers(ends.to));
    function.replaceKey("/N", QPDFObjectHandle::newInteger(1));
    auto shading = QPDFObjectHandle::newDictionary();
    shading.replaceKey("/ShadingType", QPDFObjectHandle::newInteger(gradient.isRadial ? 3 : 2));
    shading.replaceKey("/ColorSpace", ends.space);
    shading.replaceKey("/Coords", gradient.isRadial ? numbers({from.x, from.y, 0, from.x, from.y, radius})
                                                    : numbers({from.x, from.y, to.x, to.y}));
    shading.replaceKey("/Function", function);
    auto extend = QPDFObjectHandle::newArray();
    extend.appendItem(QPDFObjectHandle::newBool(true));
    extend.appendItem(QPDFObjectHandle::newBool(true));
    shading.replaceKey("/Extend", extend);
    return pdf.makeIndirectObject(shading);
}

} // namespace hasami
