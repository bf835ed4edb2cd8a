#include "files/outline_file.h"

#include "files/cut_strokes.h"
#include "files/dxf.h"
#include "files/hpgl.h"
#include "files/path_data.h"
#include "files/svg_text.h"

#include <nlohmann/json.hpp>

#include <cmath>

namespace hasami {

namespace {

constexpr double polylineTolerance = 0.002; // mm, as docs/outline-json.md promises

double toTenthOfMicrometre(double millimetres) {
    return std::round(millimetres * 10'000) / 10'000;
}

nlohmann::json pointsJson(const Subpath& run) {
    nlohmann::json points = nlohmann::json::array();
    for (const Point p : flatten(run, polylineTolerance))
        points.push_back({toTenthOfMicrometre(p.x), toTenthOfMicrometre(p.y)});
    return points;
}

nlohmann::json lineJson(const CutLine& line) {
    const std::vector<Point> points = flatten(line.whole(), polylineTolerance);
    const double closing = line.isOpen ? distance(points.back(), points.front()) : 0;
    nlohmann::json about{{"kind", kindName(line.kind)},
                         {"role", roleName(line.role)},
                         {"path", pathData(line.whole())},
                         {"points", line.curve.points()},
                         {"length", toTenthOfMicrometre(perimeter(points) - closing)},
                         {"area", line.isOpen ? 0 : toTenthOfMicrometre(std::abs(signedArea(points)))},
                         {"polyline", pointsJson(line.whole())}};
    if (line.kind == LineKind::perforated) {
        about["segments"] = nlohmann::json::array();
        for (const Subpath& run : line.cut())
            about["segments"].push_back(pointsJson(run));
    }
    return about;
}

Box pageAround(const Sticker& sticker) {
    Box page = sticker.artwork;
    page.add(sticker.footprint.grownBy(0.1)); // half a line's width and some air
    return page;
}

} // namespace

std::string outlineJson(const Sticker& sticker) {
    nlohmann::json lines = nlohmann::json::array();
    for (const CutLine& line : sticker.lines)
        lines.push_back(lineJson(line));
    const nlohmann::json all{{"units", "mm"},
                             {"artwork",
                              {{"width", toTenthOfMicrometre(sticker.artwork.width())},
                               {"height", toTenthOfMicrometre(sticker.artwork.height())}}},
                             {"lines", std::move(lines)}};
    return all.dump() + "\n";
}

std::string outlineSvg(const Sticker& sticker, const Profile& profile) {
    std::string text = svgStart(pageAround(sticker));
    for (const LineKind kind : lineKinds) {
        if (kind != LineKind::kiss && !sticker.has(kind))
            continue;
        text += svgGroupStart(kindName(kind));
        for (const CutLine& line : sticker.lines)
            if (line.kind == kind)
                for (const Subpath& run : strokesOf(line, profile))
                    text += svgLine(run);
        text += svgGroupEnd();
    }
    return text + svgEnd();
}

std::string outlineDxf(const Sticker& sticker, const Profile& profile) {
    std::vector<std::string> layers;
    for (const LineKind kind : sticker.kinds())
        layers.emplace_back(kindName(kind));
    DxfDrawing drawing(pageAround(sticker), std::move(layers));
    for (const CutLine& line : sticker.lines)
        for (const Subpath& run : strokesOf(line, profile))
            drawing.add(kindName(line.kind), run);
    return drawing.text();
}

std::string outlineHpgl(const Sticker& sticker, const Profile& profile) {
    const Box page = pageAround(sticker);
    const Affine toPage = Affine::translation(Point{} - page.least);
    std::vector<RouteLine> lines;
    for (std::size_t i = 0; i < sticker.lines.size(); ++i)
        lines.push_back({sticker.lines[i].kind, 0, i, map(strokesOf(sticker.lines[i], profile), toPage)});
    return hpglOf(programOf(route(std::move(lines)), profile.cutter), profile.cutter, page.height());
}

std::string outlinePdf(const Sticker& sticker, const Profile& profile) {
    PdfDocument pdf("Hasami outline");
    const std::vector<CutStrokes> strokes = strokesFor(pdf, profile, sticker.kinds());
    const Box page = pageAround(sticker);
    // y runs up in PDF: the artwork's top left goes to (-left, height + ...) of the page.
    const Affine toPage{1, 0, 0, -1, -page.least.x, page.most.y};
    PdfContent content;
    content.op("q").matrix(toPage);
    std::vector<PdfDocument::Resource> resources;
    for (const CutStrokes& kind : strokes) {
        content.op("/OC " + kind.layerName() + " BDC " + kind.formName("") + " Do EMC");
        resources.push_back({"/Properties", kind.layerName(), kind.layer()});
        resources.push_back(
            {"/XObject", kind.formName(""), kind.form(pdf, sticker.lines, sticker.footprint)});
    }
    content.op("Q");
    const Point trimLeast = toPage({sticker.artwork.least.x, sticker.artwork.most.y});
    const Point trimMost = toPage({sticker.artwork.most.x, sticker.artwork.least.y});
    pdf.addPage({{0, 0}, {page.width(), page.height()}}, {trimLeast, trimMost}, content, resources);
    return pdf.bytes();
}

} // namespace hasami
