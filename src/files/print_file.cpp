#include "files/print_file.h"

#include "artwork/vector_page.h"
#include "base/error.h"
#include "base/number_text.h"
#include "checks/findings.h"
#include "files/colour_profile.h"
#include "files/cut_strokes.h"
#include "files/pdf_colours.h"
#include "files/pdf_resources.h"

#include <algorithm>
#include <array>
#include <cassert>
#include <map>
#include <set>
#include <utility>

namespace hasami {

namespace {

/// PDF puts a picture into the unit square with its top at y = 1; here y runs down.
constexpr Affine topUp{1, 0, 0, -1, 0, 1};

std::string titleOf(InkKind ink) {
    constexpr std::array titles{"White", "Gloss", "Primer"};
    return titles[std::size_t(ink)];
}

/// Builds the pages from forms that each design is written into once.
std::string titleOf(const Job& job, const PrintOptions& options) {
    const std::string what = options.artwork ? "Hasami print" : "Hasami cut lines";
    return job.name.empty() ? what : job.name;
}

/// How many stickers there are, on which medium.
std::string aboutOf(const Job& job, const Made& made, const PrintOptions& options) {
    std::size_t stickers = 0;
    double length = 0;
    for (std::size_t i = 0; i < made.layout.sheets.size(); ++i)
        if (!options.sheet || *options.sheet == i) {
            stickers += made.layout.sheets[i].pieces.size();
            length = made.layout.sheets[i].length;
        }
    const std::string sheets = options.sheet ? "sheet " + std::to_string(*options.sheet + 1) + " of " : "";
    return sheets + std::to_string(made.layout.sheets.size()) + " x " + numberText(job.plan.medium.width, 2) +
           " x " + numberText(length, 2) + " mm, " + std::to_string(stickers) + " stickers";
}

class PrintFile {
public:
    PrintFile(const Job& job, const Made& made, const PictureSource& pictures, const PrintOptions& options,
              std::stop_token stop)
        : job_(job), made_(made), pictures_(pictures), options_(options), stop_(std::move(stop)),
          pdf_(titleOf(job, options), aboutOf(job, made, options)), designs_(designsOnSheets()) {
        if (options_.artwork)
            addPrintLayers();
        if (options_.artwork && !options_.plate && !job_.outputs.colours.empty())
            addOutputColours();
        if (options_.cutLines)
            strokes_ = strokesFor(pdf_, job_.profile, kindsUsed());
        marksLayer_ = pdf_.addLayer("Marks");
    }

    std::string bytes() {
        for (std::size_t i = 0; i < made_.layout.sheets.size(); ++i)
            if (!options_.sheet || *options_.sheet == i)
                addSheet(made_.layout.sheets[i]);
        throwIfStopped(stop_);
        return pdf_.bytes();
    }

    std::optional<DesignPage> pageOf(const std::string& id, DesignPart part) {
        const Sticker& sticker = *made_.find(id)->sticker;
        areSpotsOverprinted_ = true;
        const DesignForms& forms = formsFor(id);
        const bool isBleed = part != DesignPart::print;
        if (isBleed && (!forms.bleed || forms.bleedIsOver != (part == DesignPart::bleedOver)))
            return {};
        Box box = sticker.footprint;
        box.add(bounds(job_.find(id)->artwork));
        PdfContent content;
        content.op("q").matrix({1, 0, 0, -1, -box.least.x, box.most.y}).op("/Part Do Q");
        const Box page{{0, 0}, {box.width(), box.height()}};
        pdf_.addPage(page, page, content, {{"/XObject", "/Part", isBleed ? *forms.bleed : forms.print}});
        return DesignPage{pdf_.bytes(), box};
    }

private:
    /// Layers stand as the passes of the print lie, the topmost first.
    void addPrintLayers() {
        for (const InkOrder::Pass& pass : job_.profile.printer.inkOrder.seen(true)) {
            if (!pass)
                addColourLayers();
            else if (options_.inks && (!options_.plate || options_.plate == *pass) && hasInk(*pass))
                inks_.push_back({*pass, pdf_.addLayer(titleOf(*pass)),
                                 options_.plate ? pdf_.addSpotInGrey(job_.profile.names.of(*pass).name)
                                                : pdf_.addSpotColour(job_.profile.names.of(*pass))});
        }
        std::ranges::reverse(inks_);
    }

    /// Once, also for two passes.
    void addColourLayers() {
        if (printLayer_.isInitialized())
            return;
        printLayer_ = pdf_.addLayer("Print");
        if (!options_.plate && std::any_of(designs_.begin(), designs_.end(), [](const MadeDesign* made) {
                return made->sticker->bleed.has_value();
            }))
            bleedLayer_ = pdf_.addLayer("Bleed");
    }

    void addOutputColours() {
        const Asset& asset = *job_.assets->at(job_.outputs.colours);
        const ColourProfile about = colourProfileOf(asset);
        const bool isX4 = !job_.day.empty() && !options_.isForItsPrinter && !whyNotX4(job_, made_);
        pdf_.setOutputColours({about.name,
                               {reinterpret_cast<const char*>(asset.bytes.data()), asset.bytes.size()},
                               about.channels,
                               isX4 ? job_.day : std::string(),
                               options_.isForItsPrinter});
    }

    bool hasInk(InkKind ink) const {
        const MarkScheme& marks = job_.profile.marks;
        return (ink == InkKind::white && marks.isOnWhite && marks.corners > 0) ||
               std::any_of(designs_.begin(), designs_.end(),
                           [&](const MadeDesign* made) { return inkOf(*made, ink) != nullptr; });
    }

    struct Ink {
        InkKind kind;
        QPDFObjectHandle layer, spot;
    };
    struct DesignForms {
        std::string name;
        QPDFObjectHandle print;
        std::optional<QPDFObjectHandle> bleed;
        bool bleedIsOver = false;
        std::map<InkKind, QPDFObjectHandle> inks;
        std::vector<std::optional<QPDFObjectHandle>>
            cuts; ///< as strokes_; none where the design has no such line
    };

    std::vector<const MadeDesign*> designsOnSheets() const {
        std::set<const MadeDesign*> all;
        for (std::size_t i = 0; i < made_.layout.sheets.size(); ++i)
            if (!options_.sheet || *options_.sheet == i)
                for (const Piece& piece : made_.layout.sheets[i].pieces)
                    all.insert(made_.find(piece.design));
        return {all.begin(), all.end()};
    }

    std::vector<LineKind> kindsUsed() const {
        std::set<LineKind> kinds;
        for (std::size_t i = 0; i < made_.layout.sheets.size(); ++i)
            if (!options_.sheet || *options_.sheet == i)
                for (const LineKind kind : kindsOn(made_, made_.layout.sheets[i]))
                    if (holds(options_.kinds, kind))
                        kinds.insert(kind);
        return {kinds.begin(), kinds.end()};
    }

    static const PrintedInk* inkOf(const MadeDesign& made, InkKind ink) {
        for (const auto& printed : made.inks)
            if (printed->ink == ink && !printed->area.empty())
                return printed.get();
        return nullptr;
    }

    void addSheet(const Sheet& sheet) {
        PdfContent content;
        std::vector<PdfDocument::Resource> resources{{"/Properties", "/MarksLayer", marksLayer_}};
        content.op("q").matrix(sheetToPage(sheet, job_.plan.medium));
        if (options_.plate)
            addInks(sheet, content, resources);
        else if (options_.artwork)
            addPrint(sheet, content, resources);
        for (std::size_t kind = 0; kind < strokes_.size(); ++kind) {
            resources.push_back({"/Properties", strokes_[kind].layerName(), strokes_[kind].layer()});
            content.op("/OC " + strokes_[kind].layerName() + " BDC");
            for (const Piece& piece : sheet.pieces) {
                const DesignForms& forms = formsFor(piece.design);
                if (!forms.cuts[kind])
                    continue;
                const std::string name = strokes_[kind].formName(forms.name);
                resources.push_back({"/XObject", name, *forms.cuts[kind]});
                place(content, piece, name);
            }
            addSharedLines(sheet, strokes_[kind], content, resources);
            content.op("EMC");
        }
        if (!options_.plate)
            addMarks(sheet, content, resources);
        content.op("Q");

        const double width = job_.plan.medium.width;
        pdf_.addPage({{0, 0}, {width, sheet.length}},
                     {{0, sheet.length - sheet.usedLength}, {width, sheet.length}}, content, resources);
    }

    void addMarks(const Sheet& sheet, PdfContent& content, std::vector<PdfDocument::Resource>& resources) {
        content.op("/OC /MarksLayer BDC");
        if (job_.profile.marks.isOnWhite && !inks_.empty()) // else they would leave gaps in the white plate
            content.op("/MarksOver gs");
        colours_.fillIn(job_.profile.marks.colour, content, resources);
        // One path for all: many programs that draw pages move a rectangle that is filled alone to whole
        // pixels.
        for (const Mark& mark : sheet.marks)
            addRims(mark.ink, content);
        for (const LeadMark& mark : sheet.lead)
            addRims(mark.ink, content);
        content.op(sheet.marks.empty() && sheet.lead.empty() ? "n EMC" : "f EMC");
    }

    void addPrint(const Sheet& sheet, PdfContent& content, std::vector<PdfDocument::Resource>& resources) {
        addBleed(sheet, false, content, resources);
        resources.push_back({"/Properties", "/PrintLayer", printLayer_});
        content.op("/OC /PrintLayer BDC");
        for (const Piece& piece : sheet.pieces) {
            const DesignForms& forms = formsFor(piece.design);
            resources.push_back({"/XObject", "/Print" + forms.name, forms.print});
            place(content, piece, "/Print" + forms.name);
        }
        content.op("EMC");
        addBleed(sheet, true, content, resources);
        addInks(sheet, content, resources);
    }

    void addInks(const Sheet& sheet, PdfContent& content, std::vector<PdfDocument::Resource>& resources) {
        for (const Ink& ink : inks_)
            addInk(sheet, ink, content, resources);
    }

    static void addRims(const std::vector<Curve>& ink, PdfContent& content) {
        for (const Curve& rim : ink)
            content.curve(rim);
    }

    void addSharedLines(const Sheet& sheet, const CutStrokes& strokes, PdfContent& content,
                        std::vector<PdfDocument::Resource>& resources) {
        const auto isOfKind = [&](const CutLine& line) { return line.kind == strokes.kind(); };
        if (std::none_of(sheet.lines.begin(), sheet.lines.end(), isOfKind))
            return;
        const std::string name = strokes.formName("Shared");
        resources.push_back({"/XObject", name, strokes.form(pdf_, sheet.lines, sheet.work)});
        content.op(name + " Do");
    }

    /// On a layer of its own: under the artwork, or over what it shows beyond its edge.
    void addBleed(const Sheet& sheet, bool over, PdfContent& content,
                  std::vector<PdfDocument::Resource>& resources) {
        std::vector<std::pair<const Piece*, std::string>> placed;
        for (const Piece& piece : sheet.pieces) {
            const DesignForms& forms = formsFor(piece.design);
            if (!forms.bleed || forms.bleedIsOver != over)
                continue;
            placed.emplace_back(&piece, "/Bleed" + forms.name);
            resources.push_back({"/XObject", placed.back().second, *forms.bleed});
        }
        if (placed.empty())
            return;
        resources.push_back({"/Properties", "/BleedLayer", bleedLayer_});
        content.op("/OC /BleedLayer BDC");
        for (const auto& [piece, form] : placed)
            place(content, *piece, form);
        content.op("EMC");
    }

    /// A special ink on its layer. It comes behind the colours in the file, also where it is printed under
    /// them (which the order of the layers says): colours that came later would leave a gap in its plate.
    void addInk(const Sheet& sheet, const Ink& ink, PdfContent& content,
                std::vector<PdfDocument::Resource>& resources) {
        const std::string title = titleOf(ink.kind);
        resources.push_back({"/Properties", "/" + title + "Layer", ink.layer});
        content.op("/OC /" + title + "Layer BDC");
        for (const Piece& piece : sheet.pieces) {
            const DesignForms& forms = formsFor(piece.design);
            const auto form = forms.inks.find(ink.kind);
            if (form == forms.inks.end())
                continue;
            const std::string name = "/" + title + forms.name;
            resources.push_back({"/XObject", name, form->second});
            place(content, piece, name);
        }
        if (ink.kind == InkKind::white && job_.profile.marks.isOnWhite)
            addWhiteUnderMarks(sheet, ink, content, resources);
        content.op("EMC");
    }

    void addWhiteUnderMarks(const Sheet& sheet, const Ink& ink, PdfContent& content,
                            std::vector<PdfDocument::Resource>& resources) {
        resources.push_back({"/ExtGState", "/MarksOver", multiplyState()});
        resources.push_back({"/ColorSpace", "/MarksWhite", ink.spot});
        content.op("q /MarksOver gs /MarksWhite cs 1 scn");
        for (const std::vector<Curve>& area : areasUnderMarks(sheet)) {
            addRims(area, content);
            content.op("f"); // they may overlap
        }
        content.op("Q");
    }

    QPDFObjectHandle inkForm(const Sticker& sticker, const Ink& ink, const PrintedInk& printed) {
        PdfContent content;
        std::vector<PdfDocument::Resource> resources{{"/ExtGState", "/Over", multiplyState()},
                                                     {"/ColorSpace", "/Spot", ink.spot}};
        content.op("/Over gs /Spot cs 1 scn");
        if (printed.graded) {
            const Grid<std::uint8_t>& amounts = printed.graded->amounts;
            resources.push_back({"/XObject", "/Amounts", pdf_.addSpotImage(amounts, ink.spot)});
            content.op("q");
            clipTo(content, printed.area);
            content
                .matrix(printed.graded->fromPixels * Affine::scaling(amounts.width(), amounts.height()) *
                        topUp)
                .op("/Amounts Do")
                .op("Q");
        } else {
            for (const Curve& curve : printed.area)
                content.curve(curve);
            content.op("f*");
        }
        return pdf_.addForm(sticker.footprint, content, resources);
    }

    static void place(PdfContent& content, const Piece& piece, const std::string& form) {
        content.op("q").matrix(piece.place).op(form + " Do").op("Q");
    }

    const DesignForms& formsFor(const std::string& id) {
        const auto found = forms_.find(id);
        if (found != forms_.end())
            return found->second;
        throwIfStopped(stop_);
        const Design& design = *job_.find(id);
        const Sticker& sticker = *made_.find(id)->sticker;
        DesignForms forms{std::to_string(forms_.size() + 1), {}, {}, false, {}, {}};
        if (options_.artwork)
            addPrintForms(forms, design, sticker);
        for (const CutStrokes& kind : strokes_)
            forms.cuts.push_back(sticker.has(kind.kind())
                                     ? std::optional(kind.form(pdf_, sticker.lines, sticker.footprint))
                                     : std::nullopt);
        return forms_.emplace(id, std::move(forms)).first->second;
    }

    void addPrintForms(DesignForms& forms, const Design& design, const Sticker& sticker) {
        if (!options_.plate)
            forms.print = printForm(design, sticker);
        if (sticker.bleed && !options_.plate) {
            forms.bleed = bleedForm(design, sticker);
            forms.bleedIsOver = sticker.bleed->isOver;
        }
        for (const Ink& ink : inks_)
            if (const PrintedInk* printed = inkOf(*made_.find(design.id), ink.kind))
                forms.inks.emplace(ink.kind, inkForm(sticker, ink, *printed));
    }

    QPDFObjectHandle bleedForm(const Design& design, const Sticker& sticker) {
        PdfContent content;
        std::vector<PdfDocument::Resource> resources;
        if (design.recipe.bleed.colour) {
            fill(content, resources, sticker.bleed->area, *design.recipe.bleed.colour);
        } else {
            const BleedPicture& bleed = *made_.find(design.id)->bleed;
            const Grid<Rgba>& pixels = bleed.picture.pixels;
            content.op("q");
            clipTo(content, sticker.bleed->area);
            content.matrix(bleed.fromPixels * Affine::scaling(pixels.width(), pixels.height()) * topUp);
            if (bleed.parts.empty()) {
                resources.push_back({"/XObject", "/Colours", pdf_.addPicture(bleed.picture)});
                content.op("/Colours Do");
            } else {
                addBleedParts(design, bleed, content, resources);
            }
            content.op("Q");
        }
        return pdf_.addForm(sticker.footprint, content, resources);
    }

    /// Each part in its own colours, spot colours over them.
    void addBleedParts(const Design& design, const BleedPicture& bleed, PdfContent& content,
                       std::vector<PdfDocument::Resource>& resources) {
        for (const BleedPart& part : bleed.parts) {
            const std::string name = "/Colours" + std::to_string(resources.size() + 1);
            resources.push_back(
                {"/XObject", name,
                 pdf_.addPicture(part.colours, bleed.parts.size() > 1 ? &part.mask : nullptr)});
            content.op(name + " Do");
            for (const SpotPlate& spot : part.spots) {
                const std::string plate = "/Spot" + std::to_string(resources.size() + 1);
                resources.push_back({"/ExtGState", "/Over", spotState()});
                resources.push_back(
                    {"/XObject", plate, pdf_.addSpotImage(spot.amounts, spotSpaceOf(design, spot.name))});
                content.op("q /Over gs").op(plate + " Do").op("Q");
            }
        }
    }

    /// A spot colour's space as the artwork has it.
    QPDFObjectHandle spotSpaceOf(const Design& design, const std::string& spot) {
        for (const Item& item : design.artwork.items)
            if (item.isVector()) {
                const PictureObject& page = pictureFor(item, made_.find(design.id)->leftOut);
                const PageResources drawn = resourcesOfForm(page.object);
                if (const auto found = drawn.separations.find(spot); found != drawn.separations.end())
                    return found->second;
            }
        return pdf_.addSpotColour({spot, {0, 0, 0, 0.5}}); // part of a mix, whose own look is not known
    }

    QPDFObjectHandle spotState() { return areSpotsOverprinted_ ? pdf_.addOverprint() : multiplyState(); }

    const QPDFObjectHandle& multiplyState() {
        if (!multiply_.isInitialized())
            multiply_ = pdf_.addMultiply();
        return multiply_;
    }

    QPDFObjectHandle printForm(const Design& design, const Sticker& sticker) {
        PdfContent content;
        std::vector<PdfDocument::Resource> resources;
        if (sticker.border)
            fill(content, resources, sticker.border->under, sticker.border->colour);
        content.op("q");
        if (!sticker.within.empty())
            clipTo(content, sticker.within);
        for (const Item& item : design.artwork.items) {
            const auto& [name, object, toUnitSquare] = pictureFor(item, made_.find(design.id)->leftOut);
            resources.push_back({"/XObject", name, object});
            content.op("q");
            if (item.crop)
                clipTo(content, item);
            content.matrix(item.fromUnitSquare() * toUnitSquare).op(name + " Do").op("Q");
        }
        content.op("Q");
        Box box = bounds(design.artwork);
        if (sticker.border) {
            fill(content, resources, sticker.border->over, sticker.border->colour);
            box.add(sticker.footprint);
        }
        return pdf_.addForm(box, content, resources);
    }

    static void clipTo(PdfContent& content, const std::vector<Curve>& area) {
        for (const Curve& curve : area)
            content.curve(curve);
        content.op("W* n");
    }

    static void clipTo(PdfContent& content, const Item& item) {
        const Affine map = item.toDesign();
        const Box shown = item.shownBox();
        const Point corners[] = {
            shown.least, {shown.most.x, shown.least.y}, shown.most, {shown.least.x, shown.most.y}};
        const char* op = "m";
        for (const Point corner : corners) {
            content.number(map(corner).x).number(map(corner).y).op(op);
            op = "l";
        }
        content.op("h W n");
    }

    void fill(PdfContent& content, std::vector<PdfDocument::Resource>& resources,
              const std::vector<Curve>& area, const PaintColour& colour) {
        content.op("q");
        colours_.fillIn(colour, content, resources);
        for (const Curve& curve : area)
            content.curve(curve);
        content.op("f*").op("Q");
    }

    struct PictureObject {
        std::string name;
        QPDFObjectHandle object;
        Affine toUnitSquare; ///< from the object's space to the unit square of what is seen, y down
    };

    /// Each picture once; a page of vector art once for each set of cut lines taken out of its print.
    const PictureObject& pictureFor(const Item& item, const std::set<std::string>& leftOut) {
        const Asset& asset = *assetOf(job_, item);
        const PictureWish wish{item.page(), item.isVector() ? leftOut : std::set<std::string>()};
        const std::pair key(item.source(), wish);
        const auto found = pictureObjects_.find(key);
        if (found != pictureObjects_.end())
            return found->second;
        const auto picture = pictures_(asset, wish, stop_);
        const std::string name = "/Picture" + std::to_string(pictureObjects_.size() + 1);
        PictureObject made{name, {}, topUp};
        if (picture->page) {
            const auto page = pdf_.addPageOf(std::make_unique<PdfPage>(picture->page->pdf, item.page()));
            made.object = page.form;
            made.toUnitSquare = page.toUnitSquare;
        } else if (picture->jpeg) {
            made.object = pdf_.addJpeg(*picture, asset.bytes);
            made.toUnitSquare = orientationMap(picture->jpeg->orientation) * topUp;
        } else {
            made.object = pdf_.addPicture(picture);
        }
        return pictureObjects_.emplace(key, made).first->second;
    }

    const Job& job_;
    const Made& made_;
    const PictureSource& pictures_;
    PrintOptions options_;
    std::stop_token stop_;
    PdfDocument pdf_;
    PdfColours colours_{pdf_};
    std::vector<const MadeDesign*> designs_; // on the sheets
    QPDFObjectHandle printLayer_, bleedLayer_, marksLayer_;
    std::vector<CutStrokes> strokes_;
    std::vector<Ink> inks_; // those that are used, from the medium up
    QPDFObjectHandle multiply_;
    bool areSpotsOverprinted_ = false;         ///< of the bleed, where nothing may be transparent
    std::map<std::string, DesignForms> forms_; // by design
    std::map<std::pair<std::string, PictureWish>, PictureObject> pictureObjects_; // by asset
};

} // namespace

std::vector<std::vector<Curve>> areasUnderMarks(const Sheet& sheet) {
    std::vector<std::vector<Curve>> areas;
    for (const Mark& mark : sheet.marks)
        areas.push_back(mark.quiet);
    for (const LeadMark& mark : sheet.lead)
        areas.push_back({polygonOf(mark.box)});
    return areas;
}

std::string printPdf(const Job& job, const Made& made, const PictureSource& pictures,
                     const PrintOptions& options, std::stop_token stop) {
    assert(!made.layout.sheets.empty());
    return PrintFile(job, made, pictures, options, std::move(stop)).bytes();
}

std::optional<DesignPage> designPage(const Job& job, const Made& made, const PictureSource& pictures,
                                     const std::string& design, DesignPart part, std::stop_token stop) {
    PrintOptions options;
    options.cutLines = options.inks = false;
    return PrintFile(job, made, pictures, options, std::move(stop)).pageOf(design, part);
}

Affine sheetToPage(const Sheet& sheet, const Medium& medium) {
    return {0, -1, -1, 0, medium.width, sheet.length};
}

} // namespace hasami
