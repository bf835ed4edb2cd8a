#include "reader/paint_device.h"

#include "base/error.h"
#include "reader/mask_path.h"
#include "reader/refusal.h"
#include "reader/state_colours.h"
#include "reader/state_shapes.h"

#include <algorithm>
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

constexpr std::size_t mostItems = 1'000'000, mostPieces = 10'000'000;

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
        list_.isGrey = seen_.grey && !seen_.inks && !seen_.other;
        list_.hasInks = seen_.inks;
        list_.isTagged = !seen_.device && seen_.inks != seen_.other;
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
        addShading(state, *shading);
        return true;
    }
    bool axialShadedSupportExtend(GfxState*, GfxAxialShading*) override { return true; }
    bool axialShadedFill(GfxState* state, GfxAxialShading* shading, double, double) override {
        addShading(state, *shading);
        return true;
    }
    bool radialShadedSupportExtend(GfxState*, GfxRadialShading*) override { return true; }
    bool radialShadedFill(GfxState* state, GfxRadialShading* shading, double, double) override {
        addShading(state, *shading);
        return true;
    }

    void drawImageMask(GfxState* state, Object*, Stream* stream, int width, int height, bool invert, bool,
                       bool) override {
        addMasked(state, bits(*stream, width, height, invert));
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

    void fillPath(GfxState* state, FillRule rule) {
        add(PaintItem::Kind::plain, state, Paint::fill,
            {pathOf(*state->getPath(), toPage(*state)), rule, {}});
    }

    template <class Shading>
    void addShading(GfxState* state, Shading& shading) {
        add(PaintItem::Kind::shading, state, Paint::fill,
            {shadedArea(*state, shading), FillRule::nonZero, {}}, shading.getColorSpace());
    }

    void addPicture(GfxState* state, GfxColorSpace* space) {
        add(PaintItem::Kind::picture, state, Paint::fill, {pictureArea(*state), FillRule::nonZero, {}},
            space);
    }

    void addMasked(GfxState* state, const Grid<std::uint8_t>& coverage, GfxColorSpace* space = nullptr) {
        if (softMaskDepth_ > 0 || isOutside(*state))
            return;
        add(PaintItem::Kind::picture, state, Paint::fill,
            {pathWithin(map(maskPath(coverage), toPage(*state))), FillRule::nonZero, {}}, space);
    }

    static Grid<std::uint8_t> gridOf(int width, int height) {
        constexpr double mostPixels = 400e6;
        if (width < 1 || height < 1 || double(width) * height > mostPixels)
            refuse("%1 holds a picture of more than 400 million pixels");
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

    /// `space`: of its colours, where the state does not say.
    void add(PaintItem::Kind kind, GfxState* state, Paint paint, PaintShape shape,
             GfxColorSpace* space = nullptr) {
        if (softMaskDepth_ > 0 || shape.path.empty() || isOutside(*state))
            return;
        count(shape);
        seen_.add(space                  ? space
                  : paint == Paint::fill ? state->getFillColorSpace()
                                         : state->getStrokeColorSpace());
        PaintItem item;
        item.kind = kind;
        item.clip = now_.clip;
        item.isMasked = now_.isMasked || imageMasks_ > 0;
        GfxRGB rgb{};
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

    void count(const PaintShape& shape) {
        for (const Subpath& run : shape.path)
            pieces_ += run.segments.size() + 1;
        if (list_.items.size() >= mostItems || list_.clips.size() >= mostItems || pieces_ >= mostPieces)
            refuse("%1 paints more than Hasami can take in: a million areas, ten million pieces of lines");
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
    SeenSpaces seen_;
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
