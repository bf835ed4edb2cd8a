#include "files/print_look.h"

#include "artwork/vector_page.h"
#include "base/error.h"
#include "base/number_text.h"
#include "files/file_kind.h"
#include "files/ghostscript.h"
#include "files/pdf_resources.h"
#include "files/print_picture.h"
#include "files/read_file.h"
#include "files/vector_file.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr double millimetresInInch = 25.4, pointsInInch = 72;

PrintLook::Page sizeOf(const QPDFObjectHandle& page) {
    QPDFPageObjectHelper helper(page);
    const QPDFObjectHandle::Rectangle box = helper.getAttribute("/MediaBox", false).getArrayAsRectangle();
    QPDFObjectHandle unit = helper.getAttribute("/UserUnit", false);
    const double scale = (unit.isNumber() ? unit.getNumericValue() : 1) * millimetresInInch / pointsInInch;
    return {std::abs(box.urx - box.llx) * scale, std::abs(box.ury - box.lly) * scale};
}

/// As fine as takes little memory: hairlines are a pixel wide in any case.
double dotsPerInchFor(const PrintLook::Page& page) {
    constexpr double most = 100, mostPixels = 6e6, longestSide = 15'000;
    const double area = page.width * page.height / (millimetresInInch * millimetresInInch);
    const double length = std::max(page.width, page.height) / millimetresInInch;
    return std::min({most, std::sqrt(mostPixels / std::max(area, 1e-3)), longestSide / length});
}

PlateUse platesOfPage(const Asset& asset, const QByteArray& pdf, std::size_t number,
                      const PrintLook::Page& page, const std::stop_token& stop) {
    constexpr int mostSeconds = 120;
    const double fineness = dotsPerInchFor(page);
    const QString place = QString::number(number);
    const auto plates = platesOfPsd(fromGhostscript(
        asset, pdf,
        {"-sDEVICE=psdcmyk", "-dFirstPage=" + place, "-dLastPage=" + place, "-r" + QString::number(fineness)},
        stop, mostSeconds));
    if (!plates)
        refuse(asset, "The plates of %1 can't be read");
    const double side = millimetresInInch / fineness;
    return plateUseOf(*plates, side * side);
}

void addPages(PrintLook& look, const Asset& asset, const QByteArray& pdf, const std::stop_token& stop) {
    QPDF document;
    document.setSuppressWarnings(true);
    document.processMemoryFile(asset.name.c_str(), pdf.constData(), std::size_t(pdf.size()));
    for (const QPDFObjectHandle& page : document.getAllPages()) {
        throwIfStopped(stop);
        const PageResources resources = resourcesOf(page, true);
        look.hasRgb |= resources.hasRgb;
        look.isTransparent |= resources.isTransparent;
        look.missingFonts.insert(resources.missingFonts.begin(), resources.missingFonts.end());
        look.pages.push_back(sizeOf(page));
        look.plates.add(platesOfPage(asset, pdf, look.pages.size(), look.pages.back(), stop));
    }
}

/// Which plates the sheets of a print need, and which others there may be.
class AskedPlates {
public:
    AskedPlates(const PlannedOutput& output, const Job& job, const Made& made, const PictureSource& pictures,
                std::stop_token stop)
        : output_(output), job_(job), made_(made), pictures_(pictures), stop_(std::move(stop)) {}

    std::set<std::string> needed, allowed{"Cyan", "Magenta", "Yellow", "Black"};

    void add(const Sheet& sheet) {
        const SpotNames& names = job_.profile.names;
        if (output_.cutLines)
            for (const LineKind kind : kindsOn(made_, sheet))
                needed.insert(names.of(kind).name);
        for (const InkKind ink : inksOn(job_, made_, sheet))
            needed.insert(names.of(ink).name);
        if (const std::string& spot = job_.profile.marks.colour.spot; !spot.empty()) {
            allowed.insert(spot);
            if (!sheet.marks.empty())
                needed.insert(spot);
        }
        for (const Piece& piece : sheet.pieces)
            add(*job_.find(piece.design), *made_.find(piece.design));
    }

private:
    void add(const Design& design, const MadeDesign& made) {
        if (!seen_.insert(design.id).second)
            return;
        throwIfStopped(stop_);
        if (made.sticker->border)
            allowed.insert(design.recipe.border.colour.spot);
        if (made.sticker->bleed && design.recipe.bleed.colour)
            allowed.insert(design.recipe.bleed.colour->spot);
        for (const Item& item : design.artwork.items)
            if (item.isVector() || item.own()) {
                const auto picture = pictures_(*assetOf(job_, item), {item.page(), {}}, stop_);
                if (picture->page)
                    addSpotsOf(*picture->page);
            }
    }

    void addSpotsOf(const VectorPage& page) {
        allowed.insert(page.spots.begin(), page.spots.end());
        for (const PaintItem& paint : page.paint.items)
            allowed.insert(paint.spot);
    }

    const PlannedOutput& output_;
    const Job& job_;
    const Made& made_;
    const PictureSource& pictures_;
    std::stop_token stop_;
    std::set<std::string> seen_; // designs
};

std::string sizeText(double width, double height) {
    return numberText(width, 2) + " x " + numberText(height, 2) + " mm";
}

} // namespace

void PrintLook::add(const PrintLook& other) {
    pages.insert(pages.end(), other.pages.begin(), other.pages.end());
    plates.add(other.plates);
    hasRgb |= other.hasRgb;
    isTransparent |= other.isTransparent;
    missingFonts.insert(other.missingFonts.begin(), other.missingFonts.end());
}

PrintLook lookAtPrint(const std::filesystem::path& path, const std::stop_token& stop) {
    const auto asset = readAsset(path);
    QByteArray bytes = QByteArray::fromRawData(reinterpret_cast<const char*>(asset->bytes.data()),
                                               qsizetype(asset->bytes.size()));
    if (kindOf(asset->bytes) == FileKind::postScript)
        bytes = pdfOfPostScript(*asset, bytes, stop);
    PrintLook look;
    try {
        addPages(look, *asset, bytes, stop);
    } catch (const InputError&) {
        throw;
    } catch (const Stopped&) {
        throw;
    } catch (const std::exception&) { // of qpdf
        refuse(*asset, "%1 is too damaged to be read");
    }
    return look;
}

std::vector<std::string> differencesOf(const PrintLook& look, const std::string& file,
                                       const PlannedOutput& output, const OutputPart& part, const Job& job,
                                       const Made& made, const PictureSource& pictures,
                                       const std::stop_token& stop) {
    constexpr double sizeTolerance = 0.1; // mm
    std::vector<const Sheet*> sheets;
    for (std::size_t i = 0; i < made.layout.sheets.size(); ++i)
        if (!part.sheet || *part.sheet == i)
            sheets.push_back(&made.layout.sheets[i]);
    std::vector<std::string> differences;
    AskedPlates asked(output, job, made, pictures, stop);
    if (look.pages.size() != sheets.size())
        differences.push_back(sentence("%1 has %2 pages, not one for each of %3 sheets", file,
                                       std::to_string(look.pages.size()), std::to_string(sheets.size())));
    for (std::size_t i = 0; i < sheets.size(); ++i) {
        asked.add(*sheets[i]);
        const double width = job.plan.medium.width, length = sheets[i]->length;
        if (i < look.pages.size() && (std::abs(look.pages[i].width - width) > sizeTolerance ||
                                      std::abs(look.pages[i].height - length) > sizeTolerance))
            differences.push_back(
                sentence("Page %2 of %1 measures %3, and its sheet %4", file, std::to_string(i + 1),
                         sizeText(look.pages[i].width, look.pages[i].height), sizeText(width, length)));
    }
    for (const std::string& name : asked.needed) {
        const PlateUse::Plate* plate = look.plates.find(name);
        if (!plate)
            differences.push_back(sentence("%1 has no plate \"%2\", which the job asks for", file, name));
        else if (plate->area == 0)
            differences.push_back(sentence("The plate \"%2\" of %1 is empty", file, name));
    }
    for (const PlateUse::Plate& plate : look.plates.plates)
        if (!asked.needed.contains(plate.name) && !asked.allowed.contains(plate.name))
            differences.push_back(
                sentence("%1 has a plate \"%2\", which the job does not ask for", file, plate.name));
    if (!look.missingFonts.empty())
        differences.push_back(sentence("%1 does not hold the font %2", file, *look.missingFonts.begin()));
    return differences;
}

} // namespace hasami
