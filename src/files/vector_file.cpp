#include "files/vector_file.h"

#include "artwork/vector_page.h"
#include "base/error.h"
#include "files/file_name.h"
#include "files/ghostscript.h"
#include "files/pdf_layers.h"
#include "files/pdf_page.h"
#include "files/pdf_resources.h"
#include "files/psd_plates.h"
#include "files/qpdf.h"
#include "files/read_file.h"
#include "files/reader_process.h"

#include <QDir>

#include <algorithm>
#include <charconv>
#include <cstring>
#include <filesystem>
#include <string_view>

namespace hasami {

namespace {

constexpr std::size_t mostAnswer = std::size_t{1} << 30;

/// With its size where it is looked for: in the header, where that puts it off to the end (Document
/// Structuring Conventions, 4.6), and nothing before the header.
QByteArray withItsSize(const QByteArray& bytes) {
    QByteArray text = bytes.mid(qsizetype(beforePostScript({bytes.constData(), std::size_t(bytes.size())})));
    if (!text.startsWith("%!")) // a binary header says where each part begins
        return text;
    for (const char* comment : {"%%BoundingBox:", "%%HiResBoundingBox:"}) {
        const qsizetype first = text.indexOf(comment), last = text.lastIndexOf(comment);
        const auto lineAt = [&](qsizetype at) {
            const auto end =
                std::find_if(text.cbegin() + at, text.cend(), [](char c) { return c == '\n' || c == '\r'; });
            return text.mid(at, end - (text.cbegin() + at));
        };
        if (last > first && lineAt(first).contains("(atend)"))
            text.replace(first, lineAt(first).size(), lineAt(last));
    }
    return text;
}

} // namespace

QByteArray pdfOfPostScript(const Asset& asset, const QByteArray& bytes, const std::stop_token& stop) {
    QByteArray pdf =
        fromGhostscript(asset, withItsSize(bytes),
                        {"-dEPSCrop", "-sDEVICE=pdfwrite", "-dAutoRotatePages=/None",
                         "-dColorConversionStrategy=/LeaveColorUnchanged", "-dDownsampleColorImages=false",
                         "-dDownsampleGrayImages=false", "-dDownsampleMonoImages=false",
                         "-dAutoFilterColorImages=false", "-dColorImageFilter=/FlateEncode"},
                        stop);
    if (pdf.isEmpty())
        refuse(asset, "%1 is PostScript that draws nothing");
    return pdf;
}

namespace {

/// Goes through the reader's answer (src/reader/pdf_page.h).
class Answer {
public:
    Answer(const Asset& asset, const QByteArray& bytes)
        : asset_(asset), text_(bytes.constData(), std::size_t(bytes.size())) {
        if (text_.size() > mostAnswer || word() != "hasami-page" || number() != 1)
            wrong();
    }

    std::string_view word() {
        const auto end = text_.find_first_of(" \n");
        if (end == std::string_view::npos)
            wrong();
        const std::string_view word = text_.substr(0, end);
        text_.remove_prefix(end + 1);
        return word;
    }
    std::size_t number() {
        const std::string_view digits = word();
        std::size_t value = 0;
        if (std::from_chars(digits.data(), digits.data() + digits.size(), value).ptr !=
            digits.data() + digits.size())
            wrong();
        return value;
    }
    std::string_view bytes(std::size_t count) {
        if (count > text_.size())
            wrong();
        const std::string_view bytes = text_.substr(0, count);
        text_.remove_prefix(count);
        return bytes;
    }
    [[noreturn]] void wrong() const { refuse(asset_, "%1 is too damaged to be read"); }

private:
    const Asset& asset_;
    std::string_view text_;
};

std::string decoded(std::string_view hexadecimal) {
    return QByteArray::fromHex({hexadecimal.data(), qsizetype(hexadecimal.size())}).toStdString();
}

/// The print file is written by qpdf, which reads fewer damaged files than Poppler: better to hear of it now.
PageResources requireWritable(const Asset& asset, const std::string& pdf, int page) {
    try {
        QPDF document;
        document.setSuppressWarnings(true);
        document.processMemoryFile(asset.name.c_str(), pdf.data(), pdf.size());
        if (std::size_t(page) > document.getAllPages().size())
            refuse(asset, "%1 is a PDF file too damaged to be printed");
        const QPDFObjectHandle drawn = document.getAllPages().at(std::size_t(page) - 1);
        PageResources resources = resourcesOf(drawn);
        resources.layers = layersOf(drawn);
        return resources;
    } catch (const InputError&) {
        throw;
    } catch (const std::exception&) {
        refuse(asset, "%1 is a PDF file too damaged to be printed");
    }
}

Picture pictureOf(const Asset& asset, std::string pdf, int page, const QString& scale,
                  const std::stop_token& stop) {
    const QByteArray answered = askReader(asset, {"page", QString::number(page), scale},
                                          QByteArray::fromRawData(pdf.data(), qsizetype(pdf.size())), stop);
    PageResources resources = requireWritable(asset, pdf, page);
    Answer answer(asset, answered);
    auto about = std::make_shared<VectorPage>();
    about->number = page;
    about->missingFonts.assign(resources.missingFonts.begin(), resources.missingFonts.end());
    about->spots = std::move(resources.spots);
    about->spots.insert(resources.mixedSpots.begin(), resources.mixedSpots.end());
    about->layers = std::move(resources.layers);
    about->mixedSpots = std::move(resources.mixedSpots);
    about->isTransparent = resources.isTransparent;
    about->notX4 = resources.notX4 ? resources.notX4 : "";
    Picture picture;
    picture.hasCoverage = true;
    for (std::string_view what = answer.word(); what != "pixels"; what = answer.word()) {
        if (what == "pages")
            picture.pages = int(answer.number());
        else if (what == "font")
            about->fonts.push_back(decoded(answer.word()));
        else if (what == "paint")
            about->paint = parsePaintList(answer.bytes(answer.number()));
        else
            answer.wrong();
    }
    const std::size_t width = answer.number(), height = answer.number();
    if (width < 1 || height < 1 || width > 10'000 || height > 10'000 || !(about->paint.width > 0))
        answer.wrong();
    picture.pixels = Grid<Rgba>(int(width), int(height));
    const std::string_view pixels = answer.bytes(width * height * 4);
    std::memcpy(picture.pixels.cells().data(), pixels.data(), pixels.size());
    picture.pixelsPerMillimetre = double(width) / about->paint.width;
    if (about->paint.isTagged && resources.profiles.size() == 1)
        about->profile = *resources.profiles.begin();
    about->pdf = std::make_shared<const std::string>(std::move(pdf));
    picture.page = std::move(about);
    return picture;
}

/// What is wished of the page.
std::string wishedOf(const Asset& asset, std::string pdf, const PictureWish& wish) {
    try {
        if (!wish.onlyLayer.empty())
            pdf = pdfOfLayer(pdf, wish.onlyLayer);
        if (wish.leftOut.empty())
            return pdf;
        const PageResources resources = requireWritable(asset, pdf, wish.page);
        std::set<std::string> layers;
        for (const std::string& name : wish.leftOut)
            if (resources.layers.contains(name) && !resources.spots.contains(name) &&
                !resources.mixedSpots.contains(name))
                layers.insert(name);
        pdf = pdfWithoutSpots(pdf, wish.leftOut);
        return layers.empty() ? pdf : pdfWithoutLayers(pdf, layers);
    } catch (const InputError&) {
        throw;
    } catch (const std::exception&) {
        refuse(asset, "%1 is a PDF file too damaged to be printed");
    }
}

/// What can't be read so is reported by the reader.
QByteArray asPrinted(const QByteArray& pdf, int page) {
    try {
        if (const auto printed = pdfAsPrinted({pdf.constData(), std::size_t(pdf.size())}, page))
            return QByteArray::fromStdString(*printed);
    } catch (const std::exception&) {
    }
    return pdf;
}

/// Filters become pictures on the way to PDF.
bool hasFilters(const QByteArray& svg) {
    return svg.contains("<filter") && (svg.contains("filter=") || svg.contains("filter:"));
}

} // namespace

namespace {

/// Of the size of the picture, which what was drawn may miss by a pixel or two.
template <class Cells>
std::optional<Cells> fitting(const Cells& drawn, Cells fitted) {
    constexpr int rounding = 2; // pixels
    if (std::abs(drawn.width() - fitted.width()) > rounding ||
        std::abs(drawn.height() - fitted.height()) > rounding)
        return {};
    for (int y = 0; y < fitted.height(); ++y)
        for (int x = 0; x < fitted.width(); ++x)
            fitted.set(x, y, drawn.at(std::min(x, drawn.width() - 1), std::min(y, drawn.height() - 1)));
    return fitted;
}

/// The page in the pixels of its picture. Where all its colours have one profile, by their numbers.
QByteArray drawnPage(const Asset& asset, const Picture& picture, const char* device,
                     const std::stop_token& stop) {
    const VectorPage& page = *picture.page;
    const auto perInch = [](int pixels, double length) { return QString::number(pixels * 25.4 / length); };
    const QString number = QString::number(page.number);
    return fromGhostscript(asset, QByteArray::fromRawData(page.pdf->data(), qsizetype(page.pdf->size())),
                           {QString("-sDEVICE=") + device, "-dUseCropBox",
                            QString("-dUseFastColor=") + (page.profile.empty() ? "false" : "true"),
                            "-dFirstPage=" + number, "-dLastPage=" + number,
                            "-r" + perInch(picture.pixels.width(), page.paint.width) + "x" +
                                perInch(picture.pixels.height(), page.paint.height)},
                           stop);
}

} // namespace

std::optional<Plates> platesOf(const Asset& asset, const Picture& picture, const std::stop_token& stop) {
    const int width = picture.pixels.width(), height = picture.pixels.height();
    std::optional<Plates> drawn;
    try {
        drawn = platesOfPsd(drawnPage(asset, picture, "psdcmyk", stop));
    } catch (const InputError&) {
    }
    auto process = drawn ? fitting(drawn->process, FineColours(4, 8, width, height)) : std::nullopt;
    if (!process)
        return {};
    Plates plates{std::move(*process), {}};
    for (const SpotPlate& spot : drawn->spots)
        if (std::ranges::any_of(spot.amounts.cells(), [](std::uint8_t amount) { return amount > 0; }))
            plates.spots.push_back({spot.name, *fitting(spot.amounts, Grid<std::uint8_t>(width, height))});
    return plates;
}

namespace {

void addPlates(const Asset& asset, Picture& picture, const std::stop_token& stop) {
    std::optional<Plates> plates = platesOf(asset, picture, stop);
    if (!plates)
        return;
    picture.fine = std::move(plates->process);
    picture.spotPlates = std::move(plates->spots);
}

void addTaggedColours(const Asset& asset, Picture& picture, const std::stop_token& stop) {
    const int width = picture.pixels.width(), height = picture.pixels.height();
    const Picture drawn =
        askReaderForPicture(asset, "tiff", 1, drawnPage(asset, picture, "tiff24nc", stop), stop);
    const auto pixels = fitting(drawn.pixels, Grid<Rgba>(width, height));
    if (!pixels)
        return;
    FineColours fine(3, 8, width, height);
    for (std::size_t i = 0; i < pixels->cells().size(); ++i) {
        const Rgba& pixel = pixels->cells()[i];
        fine.set(i, {pixel.red, pixel.green, pixel.blue, 0});
    }
    picture.fine = std::move(fine);
}

} // namespace

void addOwnColours(const Asset& asset, Picture& picture, const std::stop_token& stop) {
    const PaintList& paint = picture.page->paint;
    const bool isTagged = paint.isTagged && !picture.page->profile.empty();
    if (!paint.hasInks && !isTagged)
        return;
    try {
        if (paint.hasInks)
            addPlates(asset, picture, stop);
        else
            addTaggedColours(asset, picture, stop);
    } catch (const InputError&) { // Ghostscript can't draw it
    }
}

Picture readVector(const Asset& asset, FileKind kind, const PictureWish& wish, const std::stop_token& stop) {
    const QByteArray bytes = QByteArray::fromRawData(reinterpret_cast<const char*>(asset.bytes.data()),
                                                     qsizetype(asset.bytes.size()));
    QByteArray pdf = bytes;
    QString scale = "1";
    if (kind == FileKind::svg) {
        pdf = askReader(asset, {"svg"}, bytes, stop);
        const qsizetype heading = qsizetype(std::strlen("scale ")), end = pdf.indexOf('\n');
        if (end < heading)
            refuse(asset, "%1 is too damaged to be read");
        scale = pdf.mid(heading, end - heading);
        pdf.remove(0, end + 1);
    } else if (kind == FileKind::postScript) {
        pdf = pdfOfPostScript(asset, bytes, stop);
    } else {
        pdf = asPrinted(bytes, wish.page);
    }
    Picture picture = pictureOf(asset, wishedOf(asset, pdf.toStdString(), wish), wish.page, scale, stop);
    if (picture.page->paint.items.empty() && wish.leftOut.empty() && wish.onlyLayer.empty())
        refuse(asset, picture.pages > 1 ? N_("%1 shows nothing on page %2") : N_("%1 shows nothing"),
               std::to_string(wish.page));
    if (wish.withInks)
        addOwnColours(asset, picture, stop);
    if (kind == FileKind::svg && hasFilters(bytes)) {
        auto about = std::make_shared<VectorPage>(*picture.page);
        about->remarks.push_back(
            sentence("Filter effects of %1 are printed as pictures: everything else stays as sharp as drawn",
                     asset.name));
        picture.page = std::move(about);
    }
    return picture;
}

} // namespace hasami
