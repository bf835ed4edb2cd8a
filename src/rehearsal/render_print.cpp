#include "rehearsal/render_print.h"

#include "base/error.h"
#include "base/number_text.h"
#include "base/translation.h"
#include "files/print_picture.h"

#include <QImage>

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

double dotsPerInchFor(const Sheet& sheet, const Medium& medium) {
    constexpr double usual = 300, least = 200, most = 150e6, mostOfAll = 250e6; // pixels
    const double squareInches = sheet.length * medium.width / (25.4 * 25.4);
    if (squareInches * least * least > mostOfAll)
        throw OutputError(sentence("The sheet of %1 by %2 is too large to be rehearsed: split the work into "
                                   "shorter sheets",
                                   lengthText(sheet.length), lengthText(medium.width)));
    return std::clamp(std::floor(std::sqrt(most / squareInches)), least, usual);
}

} // namespace

SheetPicture renderPrint(const Job& job, const Made& made, const PictureSource& pictures, std::size_t sheet,
                         const std::stop_token& stop) {
    const double dots = dotsPerInchFor(made.layout.sheets.at(sheet), job.plan.medium);
    const std::string name = "print.png";
    const std::string png =
        PrintPicture{PrintPicture::Format::png, dots}.drawn(name, job, made, pictures, sheet, {}, stop);
    QImage page;
    if (!page.loadFromData(QByteArray::fromRawData(png.data(), qsizetype(png.size())), "PNG"))
        throw OutputError(sentence("%1 is too large to be looked at: rehearse a shorter sheet", name));
    if (page.format() != QImage::Format_RGB32) // what a print's PNG is read as
        page = page.convertToFormat(QImage::Format_RGB32);
    // On the page the sheet is turned a quarter clockwise: its leading edge is on top.
    SheetPicture picture;
    picture.pixelsPerMillimetre = dots / 25.4;
    picture.pixels = Grid<Rgb>(page.height(), page.width());
    // What is drawn stands on the page's bottom left corner.
    picture.origin = {made.layout.sheets[sheet].length - page.height() / picture.pixelsPerMillimetre,
                      job.plan.medium.width - page.width() / picture.pixelsPerMillimetre};
    for (int row = 0; row < page.height(); ++row) {
        const auto* line = reinterpret_cast<const QRgb*>(page.constScanLine(row));
        for (int column = 0; column < page.width(); ++column)
            picture.pixels.at(row, page.width() - 1 - column) = {std::uint8_t(qRed(line[column])),
                                                                 std::uint8_t(qGreen(line[column])),
                                                                 std::uint8_t(qBlue(line[column]))};
    }
    return picture;
}

} // namespace hasami
