#include "files/print_picture.h"

#include "base/error.h"
#include "base/number_text.h"
#include "base/translation.h"
#include "files/colour_profile.h"
#include "files/ghostscript.h"

namespace hasami {

namespace {

constexpr double mostPixels = 1000e6;
constexpr int mostSeconds = 600;

/// PNG has no CMYK.
int channelsOf(const Job& job, const PrintPicture& picture) {
    if (picture.format == PrintPicture::Format::png)
        return 3;
    if (job.outputs.colours.empty())
        return picture.isInInks ? 4 : 3;
    return colourProfileOf(*job.assets->at(job.outputs.colours)).channels;
}

} // namespace

std::string PrintPicture::drawn(const std::string& file, const Job& job, const Made& made,
                                const PictureSource& pictures, std::size_t sheet, std::optional<InkKind> ink,
                                const std::stop_token& stop) const {
    const double perMillimetre = dotsPerInch / 25.4;
    const double width = job.plan.medium.width * perMillimetre,
                 height = made.layout.sheets.at(sheet).length * perMillimetre;
    if (width * height > mostPixels)
        throw OutputError(
            sentence("%1 would have %2 million pixels, and at most %3 million can be written: take "
                     "fewer dots an inch",
                     file, numberText(width * height / 1e6, 0), numberText(mostPixels / 1e6, 0)));
    const bool isPng = format == Format::png;
    const int channels = ink ? 1 : channelsOf(job, *this);
    const bool isForItsPrinter = !ink && !job.outputs.colours.empty() && (channels == 4 || !isPng);
    const std::string pdf =
        printPdf(job, made, pictures, {false, sheet, true, {}, ink.has_value(), isForItsPrinter, ink}, stop);
    const char* device = ink             ? (isPng ? "pnggray" : "tiffgray")
                         : isPng         ? "png16m"
                         : channels == 4 ? "tiff32nc"
                                         : "tiff24nc";
    QStringList options{QString("-sDEVICE=") + device, "-r" + QString::number(dotsPerInch),
                        "-dGraphicsAlphaBits=4", "-dTextAlphaBits=4"};
    if (!isPng)
        options << "-sCompression=lzw";
    if (isForItsPrinter)
        options << "-dUsePDFX3Profile=0"; // the first output intent's
    try {
        const QByteArray drawn =
            fromGhostscript({{}, file, {}}, QByteArray::fromRawData(pdf.data(), qsizetype(pdf.size())),
                            options, stop, mostSeconds);
        return drawn.toStdString();
    } catch (const InputError&) {
        throw OutputError(sentence("%1 can't be written: Ghostscript is missing or does not draw it", file));
    }
}

std::vector<InkKind> inksOn(const Job& job, const Made& made, const Sheet& sheet) {
    std::vector<InkKind> inks;
    for (const InkKind ink : job.profile.printer.inkOrder.inks()) {
        const bool isUnderMarks =
            ink == InkKind::white && job.profile.marks.isOnWhite && !sheet.marks.empty();
        const bool isOfPieces = std::ranges::any_of(sheet.pieces, [&](const Piece& piece) {
            return std::ranges::any_of(made.find(piece.design)->inks, [&](const auto& printed) {
                return printed->ink == ink && !printed->area.empty();
            });
        });
        if (isUnderMarks || isOfPieces)
            inks.push_back(ink);
    }
    return inks;
}

} // namespace hasami
