#include "drawing/code_outline.h"

#include "geometry/region_operations.h"
#include "lettering/text_outline.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr double lettersOfText = 7.5; // modules: cap height of what stands below bars
constexpr double gapAboveText = 1.5;  // modules
constexpr double guardsReach = 4;     // modules that an article number's guard bars are longer

/// Dark cells that hang together as one area each.
std::vector<Curve> areasOf(const Grid<std::uint8_t>& cells, double module, Point at) {
    Region runs;
    for (int row = 0; row < cells.height(); ++row)
        for (int column = 0; column < cells.width();) {
            int end = column;
            while (end < cells.width() && cells.at(end, row))
                ++end;
            if (end > column)
                runs.loops.push_back(regionOf(Box{at + Point{column * module, row * module},
                                                  at + Point{end * module, (row + 1) * module}})
                                         .loops.front());
            column = std::max(end, column + 1);
        }
    std::vector<Curve> curves;
    for (const Loop& loop : enclosed(runs, FillRule::nonZero).loops)
        curves.push_back(polygonOf(loop));
    return curves;
}

/// The digits of an article number in the groups that stand below its bars, with the modules that each group
/// is centred in, from the first bar.
struct TextGroup {
    std::string text;
    double from = 0, to = 0;
};

std::vector<TextGroup> groupsOf(CodeKind kind, const std::string& text, double modules) {
    switch (kind) {
    case CodeKind::ean13:
        return {{text.substr(0, 1), -9, -2}, {text.substr(1, 6), 3, 45}, {text.substr(7), 50, 92}};
    case CodeKind::ean8:
        return {{text.substr(0, 4), 3, 31}, {text.substr(4), 36, 64}};
    case CodeKind::upcA:
        return {{text.substr(0, 1), -8, -2},
                {text.substr(1, 5), 10, 45},
                {text.substr(6, 5), 50, 85},
                {text.substr(11), 97, 103}};
    default:
        return {{text, 0, modules}};
    }
}

/// Whether a bar at a module is one of those that frame the digits.
bool isGuard(CodeKind kind, int module, int modules) {
    if (kind == CodeKind::code128)
        return false;
    const int ends = kind == CodeKind::upcA ? 10 : 3, middle = modules / 2;
    return module < ends || module >= modules - ends || std::abs(module - middle) <= 2;
}

void addText(CodeOutline& outline, const CodeArtwork& code, const CodeModules& made, double left,
             double top) {
    const double module = outline.module;
    for (const TextGroup& group : groupsOf(code.kind, made.text, made.cells.width())) {
        const double room = (group.to - group.from) * module;
        const double capitals = lettersOfText * module;
        TextOutline text = outlineOfText(group.text, capitals);
        if (text.width > room && text.width > 0)
            text = outlineOfText(group.text, capitals * room / text.width);
        const double x = left + (group.from + group.to) / 2 * module - text.width / 2;
        const double y = top + lettersOfText * module;
        for (const Curve& rim : text.rims)
            outline.ink.push_back(map(rim, Affine::translation({x, y})));
    }
}

CodeOutline barsOutline(const CodeArtwork& code, const CodeModules& made) {
    const int modules = made.cells.width(), quiet = quietModules(code.kind);
    CodeOutline outline;
    outline.width = code.width;
    outline.height = code.height;
    outline.module = code.width / (modules + quiet + quietModulesRight(code.kind));
    const double left = quiet * outline.module;
    const bool hasText = code.showsText && !made.text.empty();
    const double below = hasText ? (lettersOfText + gapAboveText) * outline.module : 0;
    const double high = std::max(code.height - below, code.height / 4);
    for (int from = 0; from < modules;) {
        int to = from;
        while (to < modules && made.cells.at(to, 0))
            ++to;
        if (to > from) {
            const bool isLong = hasText && isGuard(code.kind, from, modules);
            const double bottom = std::min(high + (isLong ? guardsReach * outline.module : 0), code.height);
            outline.ink.push_back(
                polygonOf(Box{{left + from * outline.module, 0}, {left + to * outline.module, bottom}}));
        }
        from = std::max(to, from + 1);
    }
    if (hasText)
        addText(outline, code, made, left, high + gapAboveText * outline.module);
    return outline;
}

} // namespace

CodeOutline codeOutline(const CodeArtwork& code) {
    const CodeModules made = codeOf(code.kind, code.text, code.correction);
    if (isOfBars(code.kind))
        return barsOutline(code, made);
    const int quiet = quietModules(code.kind);
    CodeOutline outline;
    outline.module = code.width / (made.cells.width() + 2 * quiet);
    outline.width = code.width;
    outline.height = outline.module * (made.cells.height() + 2 * quiet);
    outline.ink = areasOf(made.cells, outline.module, Point{1, 1} * (quiet * outline.module));
    return outline;
}

double dotsOfModule(const CodeArtwork& code, int resolution) {
    return codeOutline(code).module * resolution / 25.4;
}

std::optional<double> widthForDots(const CodeArtwork& code, int resolution) {
    const double dots = dotsOfModule(code, resolution);
    if (dots >= fewestDotsOfModule * (1 - 1e-9))
        return {};
    return std::ceil(code.width * fewestDotsOfModule / dots * 10) / 10;
}

} // namespace hasami
