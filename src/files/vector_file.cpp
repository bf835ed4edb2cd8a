#include "files/vector_file.h"

#include "artwork/vector_page.h"
#include "base/error.h"
#include "files/file_name.h"
#include "files/ghostscript.h"
#include "files/pdf_page.h"
#include "files/qpdf.h"
#include "files/read_file.h"
#include "files/reader_process.h"

#include <QDir>

#include <charconv>
#include <cstring>
#include <filesystem>
#include <string_view>

namespace hasami {

namespace {

constexpr std::size_t mostAnswer = std::size_t{1} << 30;

/// What it draws decides the page's size where the file says none.
QByteArray postScriptToPdf(const Asset& asset, const QByteArray& bytes, const std::stop_token& stop) {
    QByteArray pdf =
        fromGhostscript(asset, bytes,
                        {"-dEPSCrop", "-sDEVICE=pdfwrite", "-dAutoRotatePages=/None",
                         "-dColorConversionStrategy=/LeaveColorUnchanged", "-dDownsampleColorImages=false",
                         "-dDownsampleGrayImages=false", "-dDownsampleMonoImages=false",
                         "-dAutoFilterColorImages=false", "-dColorImageFilter=/FlateEncode"},
                        stop);
    if (pdf.isEmpty())
        refuse(asset, "%1 is PostScript that draws nothing");
    return pdf;
}

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
/// The names of fonts that the page has not in the file.
std::vector<std::string> requireWritable(const Asset& asset, const std::string& pdf, int page) {
    try {
        QPDF document;
        document.setSuppressWarnings(true);
        document.processMemoryFile(asset.name.c_str(), pdf.data(), pdf.size());
        if (std::size_t(page) > document.getAllPages().size())
            refuse(asset, "%1 is a PDF file too damaged to be printed");
        return missingFontsOf(document.getAllPages().at(std::size_t(page) - 1));
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
    std::vector<std::string> missingFonts = requireWritable(asset, pdf, page);
    Answer answer(asset, answered);
    auto about = std::make_shared<VectorPage>();
    about->number = page;
    about->missingFonts = std::move(missingFonts);
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
    about->pdf = std::make_shared<const std::string>(std::move(pdf));
    picture.page = std::move(about);
    return picture;
}

std::string withoutSpots(const Asset& asset, std::string pdf, const std::set<std::string>& leftOut) {
    if (leftOut.empty())
        return pdf;
    try {
        return pdfWithoutSpots(pdf, leftOut);
    } catch (const std::exception&) {
        refuse(asset, "%1 is a PDF file too damaged to be printed");
    }
}

/// Filters become pictures on the way to PDF.
bool hasFilters(const QByteArray& svg) {
    return svg.contains("<filter") && (svg.contains("filter=") || svg.contains("filter:"));
}

} // namespace

std::optional<FineColours> inksOf(const Asset& asset, const Picture& picture, const std::stop_token& stop) {
    const VectorPage& page = *picture.page;
    const int width = picture.pixels.width(), height = picture.pixels.height();
    try {
        const auto perInch = [](int pixels, double length) {
            return QString::number(pixels * 25.4 / length);
        };
        const QString number = QString::number(page.number);
        const QByteArray tiff = fromGhostscript(
            asset, QByteArray::fromRawData(page.pdf->data(), qsizetype(page.pdf->size())),
            {"-sDEVICE=tiff32nc", "-dUseCropBox", "-dFirstPage=" + number, "-dLastPage=" + number,
             "-r" + perInch(width, page.paint.width) + "x" + perInch(height, page.paint.height)},
            stop);
        const Picture inks = askReaderForPicture(asset, "tiff", 1, tiff, stop);
        constexpr int rounding = 2; // pixels
        if (!inks.fine || inks.fine->channels != 4 || std::abs(inks.pixels.width() - width) > rounding ||
            std::abs(inks.pixels.height() - height) > rounding)
            return {};
        FineColours fine{4, inks.fine->bits, {width, height}};
        for (int y = 0; y < height; ++y)
            for (int x = 0; x < width; ++x)
                fine.cells.at(x, y) = inks.fine->cells.at(std::min(x, inks.pixels.width() - 1),
                                                          std::min(y, inks.pixels.height() - 1));
        return fine;
    } catch (const InputError&) {
        return {};
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
    } else if (kind == FileKind::postScript)
        pdf = postScriptToPdf(asset, bytes, stop);
    Picture picture =
        pictureOf(asset, withoutSpots(asset, pdf.toStdString(), wish.leftOut), wish.page, scale, stop);
    if (picture.page->paint.items.empty() && wish.leftOut.empty())
        refuse(asset, picture.pages > 1 ? N_("%1 shows nothing on page %2") : N_("%1 shows nothing"),
               std::to_string(wish.page));
    if (wish.withInks && picture.page->paint.isCmyk)
        picture.fine = inksOf(asset, picture, stop);
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
