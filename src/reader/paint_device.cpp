#include "reader/paint_device.h"

#include "base/error.h"
#include "reader/mask_path.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <poppler/GfxFont.h>
#include <poppler/GfxState.h>
#include <poppler/OutputDev.h>
#include <poppler/PDFDoc.h>
#include <poppler/Page.h>
#include <poppler/SplashOutputDev.h>
#include <poppler/Stream.h>
#include <poppler/splash/SplashFont.h>
#include <poppler/splash/SplashPath.h>
#include <utility>

namespace hasami {

namespace {

// Glyphs come in sixty-fourths of a device's dot: at this density they are right to a fifth of a micrometre.
constexpr double millimetresPerDot = 0.01;
constexpr std::size_t mostItems = 1'000'000, mostPieces = 10'000'000;
constexpr double thinnestLine = 0.025; // mm: one of no width is drawn as thin as a device can, not as nothing

Affine mapOf(const double* m) {
    return {m[0], m[1], m[2], m[3], m[4], m[5]};
}

/// From user space, as it is now, to mm of the page.
Affine toPage(const GfxState& state) {
    return Affine::scaling(millimetresPerDot, millimetresPerDot) * mapOf(state.getCTM());
}

Rgba colourOf(const GfxRGB& rgb) {
    return {colToByte(rgb.r), colToByte(rgb.g), colToByte(rgb.b), 255};
}

std::string spotName(GfxColorSpace* space) {
    if (!space)
        return {};
    if (space->getMode() == csSeparation)
        return static_cast<GfxSeparationColorSpace*>(space)->getName()->toStr();
    if (space->getMode() == csDeviceN && space->getNComps() == 1)
        return static_cast<GfxDeviceNColorSpace*>(space)->getColorantName(0);
    return {};
}

/// What a colour is mixed of, for those who want to stay with it.
enum class Inks { none, cmyk, other };

Inks inksOf(GfxColorSpace* space) {
    if (!space)
        return Inks::none;
    switch (space->getMode()) {
    case csDeviceCMYK:
        return Inks::cmyk;
    case csDeviceGray:
    case csCalGray:
        return Inks::none;
    case csICCBased:
        return space->getNComps() == 4 ? Inks::cmyk : space->getNComps() == 1 ? Inks::none : Inks::other;
    case csIndexed:
        return inksOf(static_cast<GfxIndexedColorSpace*>(space)->getBase());
    case csSeparation:
        return inksOf(static_cast<GfxSeparationColorSpace*>(space)->getAlt());
    case csDeviceN:
        return inksOf(static_cast<GfxDeviceNColorSpace*>(space)->getAlt());
    case csPattern:
        return inksOf(static_cast<GfxPatternColorSpace*>(space)->getUnder());
    default:
        return Inks::other;
    }
}

/// Within what a paint list can hold; files may name places at the end of the world.
Point within(Point p) {
    constexpr double farthest = 99'000; // mm
    const auto kept = [=](double v) { return std::isfinite(v) ? std::clamp(v, -farthest, farthest) : 0.0; };
    return {kept(p.x), kept(p.y)};
}

Path pathOf(const GfxPath& gfx, const Affine& map) {
    Path path;
    for (int i = 0; i < gfx.getNumSubpaths(); ++i) {
        const GfxSubpath* from = gfx.getSubpath(i);
        const int count = from->getNumPoints();
        if (count == 0)
            continue;
        const auto at = [&](int j) { return within(map({from->getX(j), from->getY(j)})); };
        Subpath run{at(0), {}, from->isClosed()};
        for (int j = 1; j < count; ++j) {
            const Point here = run.segments.empty() ? run.start : run.segments.back().end;
            if (from->getCurve(j) && j + 2 < count) {
                run.segments.push_back({at(j), at(j + 1), at(j + 2), false});
                j += 2;
            } else {
                run.segments.push_back(straightSegment(here, at(j)));
            }
        }
        path.push_back(std::move(run));
    }
    return path;
}

Path pathOf(SplashPath& splash, Point origin, const Affine& map) {
    Path path;
    const auto at = [&](int i, unsigned char* flags) {
        double x = 0, y = 0;
        splash.getPoint(i, &x, &y, flags);
        return within(map(origin + Point{x, y}));
    };
    for (int i = 0; i < splash.getLength(); ++i) {
        unsigned char flags = 0, ignored = 0;
        const Point p = at(i, &flags);
        if (flags & splashPathFirst || path.empty()) {
            path.push_back({p, {}, true});
            continue;
        }
        Subpath& run = path.back();
        if (flags & splashPathCurve && i + 2 < splash.getLength()) {
            const Point control2 = at(i + 1, &ignored);
            run.segments.push_back({p, control2, at(i + 2, &ignored), false});
            i += 2;
        } else {
            run.segments.push_back(
                straightSegment(run.segments.empty() ? run.start : run.segments.back().end, p));
        }
    }
    return path;
}

/// A stroke with the line style as it is now. Its units are made about as large as a millimetre, evenly, so
/// that a pen that is wider than high stays so.
PaintShape strokeShape(const GfxState& state, const auto& pathIn) {
    const Affine map = toPage(state);
    const double scale = std::sqrt(std::abs(map.determinant()));
    PaintShape shape;
    if (!(scale > 1e-9 && scale < 1e9)) // squeezed to nothing, or no number
        return shape;
    PaintShape::Stroke stroke;
    stroke.toPage = map * Affine::scaling(1 / scale, 1 / scale);
    StrokeStyle& style = stroke.style;
    style.width = std::clamp(state.getLineWidth() * scale, thinnestLine, 99'000.0);
    style.cap = state.getLineCap() == 1   ? LineCap::round
                : state.getLineCap() == 2 ? LineCap::square
                                          : LineCap::butt;
    style.join = state.getLineJoin() == 1   ? LineJoin::round
                 : state.getLineJoin() == 2 ? LineJoin::bevel
                                            : LineJoin::miter;
    style.miterLimit = std::clamp(state.getMiterLimit(), 1.0, 1e9);
    double phase = 0;
    for (const double dash : const_cast<GfxState&>(state).getLineDash(&phase))
        style.dashes.push_back(std::clamp(dash * scale, 0.0, 1e9));
    if (style.dashes.size() > 1000)
        style.dashes.clear();
    style.dashPhase = std::clamp(phase * scale, -1e9, 1e9);
    shape.path = pathIn(Affine::scaling(scale, scale));
    shape.stroke = std::move(stroke);
    return shape;
}

Path polygon(std::initializer_list<Point> corners) {
    Subpath run{within(*corners.begin()), {}, true};
    for (const Point* p = corners.begin() + 1; p != corners.end(); ++p)
        run.segments.push_back(straightSegment(within(p[-1]), within(*p)));
    return {run};
}

/// Collects what a page paints. Poppler calls it in the order of painting.
class PaintDevice : public OutputDev {
public:
    PaintDevice(PDFDoc& document, XRef* xref)
        : paper_{255, 255, 255}, fonts_(splashModeRGB8, 4, false, paper_) {
        fonts_.startDoc(&document);
        fonts_.startPage(0, nullptr, xref); // a bitmap of one dot: it only loads fonts
        fonts_.setFontAntialias(true);
        fonts_.setFreeTypeHinting(false, false);
    }

    PaintList take() {
        list_.isCmyk = seesCmyk_ && !seesOther_;
        return std::move(list_);
    }

    bool upsideDown() override { return true; }
    bool useDrawChar() override { return true; }
    bool interpretType3Chars() override { return true; }
    bool useShadedFills(int type) override { return type <= 3; }

    void startPage(int, GfxState* state, XRef*) override {
        list_.width = state->getPageWidth() * millimetresPerDot;
        list_.height = state->getPageHeight() * millimetresPerDot;
    }

    void saveState(GfxState*) override { saved_.push_back(now_); }
    void restoreState(GfxState*) override {
        if (!saved_.empty()) {
            now_ = saved_.back();
            saved_.pop_back();
        }
        isFontStale_ = true;
    }
    void updateCTM(GfxState*, double, double, double, double, double, double) override {
        isFontStale_ = true;
    }
    void updateFont(GfxState*) override { isFontStale_ = true; }
    void updateTextMat(GfxState*) override { isFontStale_ = true; }

    void fill(GfxState* state) override { fillPath(state, FillRule::nonZero); }
    void eoFill(GfxState* state) override { fillPath(state, FillRule::evenOdd); }
    void stroke(GfxState* state) override {
        add(PaintItem::Kind::plain, state, Paint::stroke,
            strokeShape(*state, [&](const Affine& map) { return pathOf(*state->getPath(), map); }));
    }

    void clip(GfxState* state) override {
        pushClip({pathOf(*state->getPath(), toPage(*state)), FillRule::nonZero, {}});
    }
    void eoClip(GfxState* state) override {
        pushClip({pathOf(*state->getPath(), toPage(*state)), FillRule::evenOdd, {}});
    }
    void clipToStrokePath(GfxState* state) override {
        pushClip(strokeShape(*state, [&](const Affine& map) { return pathOf(*state->getPath(), map); }));
    }

    bool functionShadedFill(GfxState* state, GfxFunctionShading* shading) override {
        double x0 = 0, y0 = 0, x1 = 0, y1 = 0;
        shading->getDomain(&x0, &y0, &x1, &y1);
        const Affine map = toPage(*state) * mapOf(shading->getMatrix());
        addShading(state, *shading, polygon({map({x0, y0}), map({x1, y0}), map({x1, y1}), map({x0, y1})}));
        return true;
    }
    bool axialShadedSupportExtend(GfxState*, GfxAxialShading*) override { return true; }
    bool axialShadedFill(GfxState* state, GfxAxialShading* shading, double, double) override {
        double x0 = 0, y0 = 0, x1 = 0, y1 = 0;
        shading->getCoords(&x0, &y0, &x1, &y1);
        const Point from{x0, y0}, to{x1, y1}, along = to - from;
        const Box seen = clipBox(*state);
        if (length(along) == 0 || (shading->getExtend0() && shading->getExtend1())) {
            addShading(state, *shading, boxPath(seen, toPage(*state)));
            return true;
        }
        // A band across the gradient, as far as can be seen.
        const double far =
            length({seen.width(), seen.height()}) + distance(seen.centre(), from) + length(along);
        const Point direction = unit(along), across = Point{-direction.y, direction.x} * far;
        const Point begin = shading->getExtend0() ? from - direction * far : from;
        const Point end = shading->getExtend1() ? to + direction * far : to;
        const Affine map = toPage(*state);
        addShading(state, *shading,
                   polygon({map(begin + across), map(end + across), map(end - across), map(begin - across)}));
        return true;
    }
    bool radialShadedSupportExtend(GfxState*, GfxRadialShading*) override { return true; }
    bool radialShadedFill(GfxState* state, GfxRadialShading* shading, double, double) override {
        double x0 = 0, y0 = 0, r0 = 0, x1 = 0, y1 = 0, r1 = 0;
        shading->getCoords(&x0, &y0, &r0, &x1, &y1, &r1);
        const bool firstInSecond = distance({x0, y0}, {x1, y1}) + r0 <= r1;
        if (firstInSecond && !shading->getExtend1()) // a disc; else what the clip leaves
            addShading(state, *shading, discPath({x1, y1}, r1, toPage(*state)));
        else
            addShading(state, *shading, boxPath(clipBox(*state), toPage(*state)));
        return true;
    }

    void drawImageMask(GfxState* state, Object*, Stream* stream, int width, int height, bool invert, bool,
                       bool) override {
        addMasked(state, bits(*stream, width, height, invert), state->getFillColorSpace());
    }
    void setSoftMaskFromImageMask(GfxState* state, Object* ref, Stream* stream, int width, int height,
                                  bool invert, bool isInline, double* base) override {
        OutputDev::setSoftMaskFromImageMask(state, ref, stream, width, height, invert, isInline, base);
        ++imageMasks_;
    }
    void unsetSoftMaskFromImageMask(GfxState*, double*) override { --imageMasks_; }
    void drawImage(GfxState* state, Object* ref, Stream* stream, int width, int height, GfxImageColorMap* map,
                   bool interpolate, const int* maskColours, bool isInline) override {
        addPicture(state, map->getColorSpace());
        if (maskColours && !list_.items.empty()) // what shows is seen on the page alone
            list_.items.back().isMasked = true;
        OutputDev::drawImage(state, ref, stream, width, height, map, interpolate, maskColours, isInline);
    }
    void drawMaskedImage(GfxState* state, Object*, Stream*, int, int, GfxImageColorMap* colours, bool,
                         Stream* mask, int width, int height, bool invert, bool) override {
        addMasked(state, bits(*mask, width, height, invert), colours->getColorSpace());
    }
    void drawSoftMaskedImage(GfxState* state, Object*, Stream*, int, int, GfxImageColorMap* colours, bool,
                             Stream* mask, int width, int height, GfxImageColorMap* map, bool) override {
        Grid<std::uint8_t> coverage = gridOf(width, height);
        ImageStream lines(mask, width, map->getNumPixelComps(), map->getBits());
        lines.reset();
        for (int y = 0; y < height; ++y) {
            unsigned char* line = lines.getLine();
            if (!line)
                break;
            map->getGrayLine(line, coverage.row(y).data(), width);
        }
        lines.close();
        addMasked(state, coverage, colours->getColorSpace());
    }

    void beginTextObject(GfxState*) override { textClip_.clear(); }
    void endTextObject(GfxState*) override {
        if (!textClip_.empty())
            pushClip({std::exchange(textClip_, {}), FillRule::nonZero, {}});
    }
    void drawChar(GfxState* state, double x, double y, double dx, double dy, double originX, double originY,
                  CharCode code, int bytes, const Unicode* unicode, int unicodeLength) override {
        const int mode = state->getRender();
        if (mode == 3)
            return;
        if (isFontStale_) {
            fonts_.updateCTM(state, 0, 0, 0, 0, 0, 0);
            fonts_.updateFont(state);
            state->setRender(0); // with others it may not load the font
            fonts_.drawChar(state, x, y, dx, dy, originX, originY, code, bytes, unicode, unicodeLength);
            state->setRender(mode);
            isFontStale_ = false;
        }
        SplashFont* font = fonts_.getCurrentFont();
        if (!font)
            return;
        const std::unique_ptr<SplashPath> glyph(font->getGlyphPath(int(code)));
        if (!glyph)
            return;
        const Point origin{x - originX, y - originY};
        const int kind = mode & 3;
        if (kind == 0 || kind == 2)
            add(PaintItem::Kind::plain, state, Paint::fill,
                {pathOf(*glyph, origin, toPage(*state)), FillRule::nonZero, {}});
        if (kind == 1 || kind == 2)
            add(PaintItem::Kind::plain, state, Paint::stroke,
                strokeShape(*state, [&](const Affine& map) { return pathOf(*glyph, origin, map); }));
        if (mode >= 4)
            for (Subpath& run : pathOf(*glyph, origin, toPage(*state)))
                textClip_.push_back(std::move(run));
    }

    void beginTransparencyGroup(GfxState*, const double*, GfxColorSpace*, bool, bool,
                                bool forSoftMask) override {
        groups_.push_back({list_.items.size(), forSoftMask});
        softMaskDepth_ += forSoftMask;
    }
    void endTransparencyGroup(GfxState*) override {
        if (groups_.empty())
            return;
        ended_ = groups_.back();
        groups_.pop_back();
        softMaskDepth_ -= ended_.forSoftMask;
    }
    void paintTransparencyGroup(GfxState* state, const double*) override {
        for (std::size_t i = ended_.firstItem; i < list_.items.size(); ++i) {
            list_.items[i].opacity *= state->getFillOpacity();
            list_.items[i].isMasked = list_.items[i].isMasked || now_.isMasked;
        }
    }
    void setSoftMask(GfxState*, const double*, bool, Function*, GfxColor*) override { now_.isMasked = true; }
    void clearSoftMask(GfxState*) override { now_.isMasked = false; }

private:
    struct Graphics {
        int clip = -1;
        bool isMasked = false;
    };
    struct Group {
        std::size_t firstItem = 0;
        bool forSoftMask = false;
    };
    enum class Paint { fill, stroke };

    static Box clipBox(const GfxState& state) {
        Box box;
        state.getUserClipBBox(&box.least.x, &box.least.y, &box.most.x, &box.most.y);
        return box;
    }

    static Path boxPath(const Box& box, const Affine& map) {
        return polygon(
            {map(box.least), map({box.most.x, box.least.y}), map(box.most), map({box.least.x, box.most.y})});
    }

    static Path discPath(Point centre, double radius, const Affine& map) {
        const Point start = centre + Point{radius, 0};
        constexpr double quarter = 0.5522847498307936; // of the radius, for a cubic's controls
        Subpath run{within(map(start)), {}, true};
        Point from{radius, 0};
        for (int i = 0; i < 4; ++i) {
            const Point to{-from.y, from.x};
            run.segments.push_back({within(map(centre + from + to * quarter)),
                                    within(map(centre + to + from * quarter)), within(map(centre + to)),
                                    false});
            from = to;
        }
        return {run};
    }

    void fillPath(GfxState* state, FillRule rule) {
        add(PaintItem::Kind::plain, state, Paint::fill,
            {pathOf(*state->getPath(), toPage(*state)), rule, {}});
    }

    void addShading(GfxState* state, GfxShading& shading, Path path) {
        add(PaintItem::Kind::shading, state, Paint::fill, {std::move(path), FillRule::nonZero, {}},
            shading.getColorSpace());
    }

    void addPicture(GfxState* state, GfxColorSpace* space) {
        add(PaintItem::Kind::picture, state, Paint::fill,
            {boxPath({{0, 0}, {1, 1}}, toPage(*state)), FillRule::nonZero, {}}, space);
    }

    void addMasked(GfxState* state, const Grid<std::uint8_t>& coverage, GfxColorSpace* space) {
        if (softMaskDepth_ > 0 || isOutside(*state))
            return;
        Path path = map(maskPath(coverage), toPage(*state));
        for (Subpath& run : path) {
            run.start = within(run.start);
            for (CurveSegment& s : run.segments)
                s = {within(s.control1), within(s.control2), within(s.end), s.straight};
        }
        add(PaintItem::Kind::picture, state, Paint::fill, {std::move(path), FillRule::nonZero, {}}, space);
    }

    static Grid<std::uint8_t> gridOf(int width, int height) {
        constexpr double mostPixels = 400e6;
        if (width < 1 || height < 1 || double(width) * height > mostPixels)
            throw InputError("holds a picture of more than 400 million pixels");
        return {width, height};
    }

    /// A mask of one bit a pixel: what is painted. A bit of 0 paints, unless inverted.
    static Grid<std::uint8_t> bits(Stream& stream, int width, int height, bool invert) {
        Grid<std::uint8_t> coverage = gridOf(width, height);
        ImageStream lines(&stream, width, 1, 1);
        lines.reset();
        for (int y = 0; y < height; ++y) {
            const unsigned char* line = lines.getLine();
            if (!line)
                break;
            for (int x = 0; x < width; ++x)
                coverage.at(x, y) = (line[x] != 0) == invert ? 255 : 0;
        }
        lines.close();
        return coverage;
    }

    /// `space`: of its colours, where the state does not tell.
    void add(PaintItem::Kind kind, GfxState* state, Paint paint, PaintShape shape,
             GfxColorSpace* space = nullptr) {
        if (softMaskDepth_ > 0 || shape.path.empty() || isOutside(*state))
            return;
        count(shape);
        const Inks inks = inksOf(space                  ? space
                                 : paint == Paint::fill ? state->getFillColorSpace()
                                                        : state->getStrokeColorSpace());
        seesCmyk_ |= inks == Inks::cmyk;
        seesOther_ |= inks == Inks::other;
        PaintItem item;
        item.kind = kind;
        item.clip = now_.clip;
        item.isMasked = now_.isMasked || imageMasks_ > 0;
        GfxRGB rgb;
        if (paint == Paint::fill) {
            state->getFillRGB(&rgb);
            item.opacity = state->getFillOpacity();
            item.spot = kind == PaintItem::Kind::plain ? spotName(state->getFillColorSpace()) : "";
        } else {
            state->getStrokeRGB(&rgb);
            item.opacity = state->getStrokeOpacity();
            item.spot = spotName(state->getStrokeColorSpace());
        }
        item.opacity = std::clamp(item.opacity, 0.0, 1.0);
        if (kind == PaintItem::Kind::plain)
            item.colour = colourOf(rgb);
        item.shape = std::move(shape);
        list_.items.push_back(std::move(item));
    }

    void pushClip(PaintShape shape) {
        if (softMaskDepth_ > 0)
            return;
        count(shape);
        list_.clips.push_back({now_.clip, std::move(shape)});
        now_.clip = int(list_.clips.size()) - 1;
    }

    /// Whether the clip leaves nothing.
    static bool isOutside(const GfxState& state) {
        double x0 = 0, y0 = 0, x1 = 0, y1 = 0;
        state.getClipBBox(&x0, &y0, &x1, &y1);
        return x0 >= x1 || y0 >= y1;
    }

    void count(const PaintShape& shape) {
        for (const Subpath& run : shape.path)
            pieces_ += run.segments.size() + 1;
        if (list_.items.size() >= mostItems || list_.clips.size() >= mostItems || pieces_ >= mostPieces)
            throw InputError(
                "paints more than Hasami can take in: a million areas, ten million pieces of lines");
    }

    SplashColor paper_;
    SplashOutputDev fonts_;
    bool isFontStale_ = true;
    PaintList list_;
    Graphics now_;
    std::vector<Graphics> saved_;
    std::vector<Group> groups_;
    Group ended_;
    int softMaskDepth_ = 0, imageMasks_ = 0;
    Path textClip_;
    std::size_t pieces_ = 0;
    bool seesCmyk_ = false, seesOther_ = false;
};

} // namespace

PaintList paintOf(PDFDoc& document, int page, double scale) {
    const double dotsPerInch = 25.4 / millimetresPerDot / scale;
    PaintDevice device(document, document.getXRef());
    document.displayPage(
        &device, page, dotsPerInch, dotsPerInch, 0, false, true, true, nullptr, nullptr,
        [](Annot*, void*) { return false; }, nullptr);
    return device.take();
}

} // namespace hasami
