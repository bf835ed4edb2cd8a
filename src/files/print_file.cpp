#include "files/print_file.h"

#include "artwork/vector_page.h"
#include "base/error.h"
#include "files/cut_strokes.h"

#include <cassert>
#include <map>
#include <set>
#include <utility>

namespace hasami {

namespace {

/// PDF puts a picture into the unit square with its top at y = 1; here y runs down.
constexpr Affine topUp{1, 0, 0, -1, 0, 1};

/// Builds the pages from forms that each design is written into once.
class PrintFile {
public:
    PrintFile(const Job& job, const Made& made, const PictureSource& pictures, const PrintOptions& options,
              std::stop_token stop)
        : job_(job), made_(made), pictures_(pictures), options_(options), stop_(std::move(stop)),
          pdf_("Hasami print"), printLayer_(pdf_.addLayer("Print")) {
        if (options_.cutLines)
            strokes_ = strokesFor(pdf_, job_.profile, stickersOnSheets());
        marksLayer_ = pdf_.addLayer("Marks");
    }

    std::string bytes() {
        for (std::size_t i = 0; i < made_.layout.sheets.size(); ++i)
            if (!options_.sheet || *options_.sheet == i)
                addSheet(made_.layout.sheets[i]);
        throwIfStopped(stop_);
        return pdf_.bytes();
    }

private:
    struct DesignForms {
        std::string name;
        QPDFObjectHandle print;
        std::vector<std::optional<QPDFObjectHandle>>
            cuts; ///< as strokes_; none where the design has no such line
    };

    std::vector<const Sticker*> stickersOnSheets() const {
        std::set<const Sticker*> all;
        for (std::size_t i = 0; i < made_.layout.sheets.size(); ++i)
            if (!options_.sheet || *options_.sheet == i)
                for (const Piece& piece : made_.layout.sheets[i].pieces)
                    all.insert(made_.find(piece.design)->sticker.get());
        return {all.begin(), all.end()};
    }

    void addSheet(const Sheet& sheet) {
        PdfContent content;
        std::vector<PdfDocument::Resource> resources{{"/Properties", "/PrintLayer", printLayer_},
                                                     {"/Properties", "/MarksLayer", marksLayer_}};
        content.op("q").matrix(sheetToPage(sheet, job_.plan.medium));
        content.op("/OC /PrintLayer BDC");
        for (const Piece& piece : sheet.pieces) {
            const DesignForms& forms = formsFor(piece.design);
            resources.push_back({"/XObject", "/Print" + forms.name, forms.print});
            place(content, piece, "/Print" + forms.name);
        }
        content.op("EMC");
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
            content.op("EMC");
        }
        content.op("/OC /MarksLayer BDC").op("0 0 0 1 k"); // one ink: no fringe where plates don't meet
        for (const Mark& mark : sheet.marks)
            content.dot(mark.centre, mark.radius);
        content.op("EMC").op("Q");

        const double width = job_.plan.medium.width;
        pdf_.addPage({{0, 0}, {width, sheet.length}},
                     {{0, sheet.length - sheet.usedLength}, {width, sheet.length}}, content, resources);
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
        DesignForms forms{std::to_string(forms_.size() + 1), printForm(design, sticker), {}};
        for (const CutStrokes& kind : strokes_)
            forms.cuts.push_back(sticker.has(kind.kind())
                                     ? std::optional(kind.form(pdf_, sticker.lines, sticker.footprint))
                                     : std::nullopt);
        return forms_.emplace(id, std::move(forms)).first->second;
    }

    QPDFObjectHandle printForm(const Design& design, const Sticker& sticker) {
        PdfContent content;
        if (sticker.border)
            fill(content, sticker.border->under, sticker.border->colour);
        std::vector<PdfDocument::Resource> resources;
        for (const Item& item : design.artwork.items) {
            const auto& [name, object, toUnitSquare] = pictureFor(item, made_.find(design.id)->leftOut);
            resources.push_back({"/XObject", name, object});
            content.op("q");
            if (item.crop)
                clipTo(content, item);
            content.matrix(item.fromUnitSquare() * toUnitSquare).op(name + " Do").op("Q");
        }
        Box box = bounds(design.artwork);
        if (sticker.border) {
            fill(content, sticker.border->over, sticker.border->colour);
            box.add(sticker.footprint);
        }
        return pdf_.addForm(box, content, resources);
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

    static void fill(PdfContent& content, const std::vector<Curve>& area, Rgba colour) {
        content.op("q");
        for (const std::uint8_t part : {colour.red, colour.green, colour.blue})
            content.number(part / 255.0);
        content.op("rg");
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
        const Asset& asset = *job_.assets.at(item.asset);
        const PictureWish wish{item.page, item.isVector ? leftOut : std::set<std::string>()};
        const std::pair key(item.asset, wish);
        const auto found = pictureObjects_.find(key);
        if (found != pictureObjects_.end())
            return found->second;
        const auto picture = pictures_(asset, wish);
        const std::string name = "/Picture" + std::to_string(pictureObjects_.size() + 1);
        PictureObject made{name, {}, topUp};
        if (picture->page) {
            const auto page = pdf_.addPageOf(std::make_unique<PdfPage>(picture->page->pdf, item.page));
            made.object = page.form;
            made.toUnitSquare = page.toUnitSquare;
        } else if (picture->jpeg) {
            made.object = pdf_.addJpeg(*picture, asset.bytes);
            made.toUnitSquare = orientationMap(picture->jpeg->orientation) * topUp;
        } else {
            made.object = pdf_.addPicture(*picture);
        }
        return pictureObjects_.emplace(key, made).first->second;
    }

    const Job& job_;
    const Made& made_;
    const PictureSource& pictures_;
    PrintOptions options_;
    std::stop_token stop_;
    PdfDocument pdf_;
    QPDFObjectHandle printLayer_, marksLayer_;
    std::vector<CutStrokes> strokes_;
    std::map<std::string, DesignForms> forms_;                                    // by design
    std::map<std::pair<std::string, PictureWish>, PictureObject> pictureObjects_; // by asset
};

} // namespace

std::string printPdf(const Job& job, const Made& made, const PictureSource& pictures,
                     const PrintOptions& options, std::stop_token stop) {
    assert(!made.layout.sheets.empty());
    return PrintFile(job, made, pictures, options, std::move(stop)).bytes();
}

Affine sheetToPage(const Sheet& sheet, const Medium& medium) {
    return {0, -1, -1, 0, medium.width, sheet.length};
}

} // namespace hasami
