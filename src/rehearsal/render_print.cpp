#include "rehearsal/render_print.h"

#include "base/error.h"
#include "base/translation.h"
#include "files/pdf_document.h"
#include "files/reader_process.h"

#include <QByteArray>
#include <QFile>
#include <QStandardPaths>
#include <QTemporaryDir>

#include <algorithm>
#include <cmath>
#include <optional>

namespace hasami {

namespace {

double dotsPerInchFor(const Sheet& sheet, const Medium& medium) {
    constexpr double usual = 300, mostPixels = 650e6; // which take less than 1 GB (PrintPixels)
    const double squareInches = sheet.length * medium.width / (25.4 * 25.4);
    return std::min(usual, std::floor(std::sqrt(mostPixels / squareInches)));
}

/// A binary PPM picture of 8 bits a colour: "P6", width, height and 255, and the pixels row after row.
struct PpmPicture {
    QByteArray bytes;
    int width = 0, height = 0;
    const std::uint8_t* pixels = nullptr;
};

/// Nothing where it is none.
std::optional<PpmPicture> ppmOf(QByteArray bytes) {
    PpmPicture picture{std::move(bytes)};
    int most = 0, header = 0;
    // NOLINTNEXTLINE(cert-err34-c): what is no number is not counted
    if (std::sscanf(picture.bytes.constData(), "P6 %d %d %d%n", &picture.width, &picture.height, &most,
                    &header) != 3 ||
        most != 255 || picture.bytes.size() < header + 1 + qsizetype(picture.width) * picture.height * 3)
        return {};
    picture.pixels = reinterpret_cast<const std::uint8_t*>(picture.bytes.constData()) + header + 1;
    return picture;
}

/// Draws rows of a page.
class PageDrawer {
public:
    PageDrawer(const std::string& pdf, double dotsPerInch)
        : dots_(dotsPerInch), file_(folder_.filePath("in.pdf")) {
        if (!file_.open(QIODevice::WriteOnly) ||
            file_.write(pdf.data(), qint64(pdf.size())) != qint64(pdf.size()))
            throw OutputError(sentence("the print can't be drawn: %1", file_.errorString().toStdString()));
        file_.close();
    }

    /// Throws OutputError, Stopped.
    PpmPicture rows(int first, int count, int width, const std::stop_token& stop) const {
        constexpr int mostSeconds = 600;
        const QString program = QStandardPaths::findExecutable("pdftoppm");
        if (program.isEmpty())
            throw OutputError(translated("the print can't be drawn: pdftoppm is not installed"));
        const auto number = [](auto value) { return QString::number(value); };
        try {
            auto picture =
                ppmOf(askReader({{}, "print.pdf", {}},
                                {"confined", program, "-q", "-r", number(dots_), "-x", "0", "-y",
                                 number(first), "-W", number(width), "-H", number(count), file_.fileName()},
                                {}, stop, mostSeconds));
            if (picture && picture->width == width && picture->height == count)
                return std::move(*picture);
        } catch (const InputError&) {
            // said below
        }
        throw OutputError(translated("the print can't be drawn: pdftoppm refuses it, or takes too long"));
    }

private:
    QTemporaryDir folder_;
    double dots_;
    QFile file_;
};

} // namespace

SheetPicture renderPrint(const Job& job, const Made& made, const PictureSource& pictures, std::size_t number,
                         const std::stop_token& stop, const std::function<void(double)>& progress) {
    const Sheet& sheet = made.layout.sheets.at(number);
    const double across = job.plan.medium.width, dots = dotsPerInchFor(sheet, job.plan.medium);
    SheetPicture picture;
    picture.pixelsPerMillimetre = dots / 25.4;
    // On the page the sheet is turned a quarter clockwise, its leading edge on top. What is drawn stands on
    // the page's top left corner, and is no whole pixels.
    const int columns = int(std::ceil(sheet.length * picture.pixelsPerMillimetre - 1e-6));
    const int rows = int(std::ceil(across * picture.pixelsPerMillimetre - 1e-6));
    picture.pixels = PrintPixels(columns, rows);
    picture.origin = {0, across - rows / picture.pixelsPerMillimetre};
    const std::string pdf = printPdf(job, made, pictures, {false, number, true, {}, false, false, {}}, stop);
    const PageDrawer drawer(pdf, dots * userUnitFor(std::max(sheet.length, across)));
    constexpr int tile = PrintPixels::tileSide;
    constexpr double mostOfBand = 24e6; // pixels
    const int band = std::max(1, int(mostOfBand / rows / tile)) * tile;
    for (int first = 0; first < columns; first += band) {
        const int count = std::min(band, columns - first);
        const PpmPicture drawn = drawer.rows(first, count, rows, stop);
        picture.pixels.setColumns(first, count, [&](int column, int row) {
            const std::uint8_t* pixel = drawn.pixels + 3 * (std::size_t(column - first) * std::size_t(rows) +
                                                            std::size_t(rows - 1 - row));
            return Rgb{pixel[0], pixel[1], pixel[2]};
        });
        throwIfStopped(stop);
        if (progress)
            progress(double(first + count) / columns);
    }
    return picture;
}

} // namespace hasami
