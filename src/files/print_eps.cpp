#include "files/print_eps.h"

#include "base/error.h"
#include "base/number_text.h"
#include "base/translation.h"
#include "files/print_picture.h"
#include "files/reader_process.h"

#include <QFile>
#include <QStandardPaths>
#include <QTemporaryDir>

#include <cmath>

namespace hasami {

namespace {

constexpr double pointsInMillimetre = 72 / 25.4;
constexpr double lineWidth = 0.25; // points
constexpr char firstLine[] = "%!PS-Ad"
                             "obe-3.0 EPSF-3.0\n"; // as the document structuring conventions have it
constexpr int mostSecondsOfPdftops = 300;

/// A text as a PostScript string: what is no plain letter as octal bytes.
std::string stringOf(const std::string& text) {
    std::string quoted = "(";
    for (const char c : text) {
        const auto byte = static_cast<unsigned char>(c);
        if (c == '(' || c == ')' || c == '\\' || byte < 0x20 || byte > 0x7E) {
            quoted += '\\';
            for (const int shift : {6, 3, 0})
                quoted += char('0' + ((byte >> shift) & 7));
        } else {
            quoted += c;
        }
    }
    return quoted + ")";
}

/// "0.7 0 0.5 0.3 "
std::string tintOf(const SpotColour& spot) {
    std::string text;
    for (const double part : spot.tint)
        text += numberText(part, 4) + ' ';
    return text;
}

/// The artwork and the marks as one PostScript document.
QByteArray postScriptOf(const std::string& file, const std::string& pdf, const std::stop_token& stop) {
    const QString program = QStandardPaths::findExecutable("pdftops");
    const QTemporaryDir folder;
    QFile in(folder.filePath("in.pdf")), out(folder.filePath("out.eps"));
    const bool isThere = !program.isEmpty() && in.open(QIODevice::WriteOnly) &&
                         in.write(pdf.data(), qint64(pdf.size())) == qint64(pdf.size()) && in.flush();
    in.close();
    if (isThere)
        try {
            askReader(
                {{}, file, {}},
                {"confined", program, "-q", "-eps", "-level3sep", "-r", "300", in.fileName(), out.fileName()},
                {}, stop, mostSecondsOfPdftops);
        } catch (const InputError&) {
        }
    if (!out.open(QIODevice::ReadOnly))
        throw OutputError(sentence("%1 can't be written: pdftops is missing or does not draw it", file));
    return out.readAll();
}

class EpsFile {
public:
    EpsFile(const Job& job, const Made& made, const Sheet& sheet)
        : job_(job), made_(made), sheet_(sheet),
          toPage_(Affine::scaling(pointsInMillimetre, pointsInMillimetre) *
                  sheetToPage(sheet, job.plan.medium)) {}

    void addInk(InkKind ink) {
        choose(job_.profile.names.of(ink));
        if (ink == InkKind::white && job_.profile.marks.isOnWhite)
            for (const Mark& mark : sheet_.marks)
                fill(mark.quiet, toPage_);
        for (const Piece& piece : sheet_.pieces)
            for (const auto& printed : made_.find(piece.design)->inks)
                if (printed->ink == ink && !printed->area.empty())
                    add(*printed, toPage_ * piece.place);
    }

    void addLines(LineKind kind, const std::vector<RouteLine>& route) {
        choose(job_.profile.names.of(kind));
        for (const RouteLine& line : route)
            if (line.kind == kind)
                for (const Subpath& run : line.runs) {
                    outline(run, toPage_);
                    body_ += "S\n";
                }
    }

    std::string text(const QByteArray& artwork) const {
        const double width = job_.plan.medium.width * pointsInMillimetre,
                     height = sheet_.length * pointsInMillimetre;
        std::string names, tints;
        for (const SpotColour& spot : spots_) {
            names += names.empty() ? "%%DocumentCustomColors: " : "%%+ ";
            names += stringOf(spot.name) + '\n';
            tints += tints.empty() ? "%%CMYKCustomColor: " : "%%+ ";
            tints += tintOf(spot) + stringOf(spot.name) + '\n';
        }
        return std::string(firstLine) + "%%Creator: Hasami\n%%BoundingBox: 0 0 " +
               numberText(std::ceil(width), 0) + " " + numberText(std::ceil(height), 0) +
               "\n%%HiResBoundingBox: 0 0 " + numberText(width, 4) + " " + numberText(height, 4) +
               "\n%%LanguageLevel: 3\n" + names + tints +
               "%%EndComments\n"
               "%%BeginProlog\n/M {moveto} bind def /L {lineto} bind def /C {curveto} bind def /Z "
               "{closepath} bind def\n"
               "/S {stroke} bind def /F {eofill} bind def\n%%EndProlog\n%%Page: 1 1\n"
               "save /showpage {} def\n%%BeginDocument: artwork\n" +
               artwork.toStdString() + "\n%%EndDocument\nrestore\ngsave true setoverprint 1 setlinejoin " +
               numberText(lineWidth, 3) + " setlinewidth\n" + body_ + "grestore\nshowpage\n%%EOF\n";
    }

private:
    /// Sets a spot colour, all of it.
    void choose(const SpotColour& spot) {
        spots_.push_back(spot);
        std::string tint = "{";
        for (const double part : spot.tint)
            tint += "dup " + numberText(part, 4) + " mul exch ";
        body_ += "[/Separation " + stringOf(spot.name) + " /DeviceCMYK " + tint +
                 "pop}] setcolorspace 1 setcolor\n";
    }

    void point(Point p) { body_ += numberText(p.x, 4) + " " + numberText(p.y, 4) + " "; }

    void outline(const Subpath& run, const Affine& map) {
        point(map(run.start));
        body_ += "M\n";
        for (const CurveSegment& s : run.segments) {
            if (s.straight) {
                point(map(s.end));
                body_ += "L\n";
            } else {
                for (const Point p : {s.control1, s.control2, s.end})
                    point(map(p));
                body_ += "C\n";
            }
        }
        if (run.isClosed)
            body_ += "Z ";
    }

    void fill(const std::vector<Curve>& area, const Affine& map) {
        for (const Curve& rim : area)
            outline({rim.start, rim.segments, true}, map);
        body_ += "F\n";
    }

    /// Full ink all over its area, or graded as an image clipped to it.
    void add(const PrintedInk& printed, const Affine& map) {
        if (!printed.graded)
            return fill(printed.area, map);
        const Grid<std::uint8_t>& amounts = printed.graded->amounts;
        body_ += "gsave newpath\n";
        for (const Curve& rim : printed.area)
            outline({rim.start, rim.segments, true}, map);
        const Affine place = map * printed.graded->fromPixels;
        body_ += "eoclip newpath [";
        for (const double part : {place.a, place.b, place.c, place.d, place.e, place.f})
            body_ += numberText(part, 6) + " ";
        body_ += "] concat << /ImageType 1 /Width " + std::to_string(amounts.width()) + " /Height " +
                 std::to_string(amounts.height()) +
                 " /BitsPerComponent 8 /Decode [0 1] /ImageMatrix [1 0 0 1 0 0] /DataSource currentfile "
                 "/ASCIIHexDecode filter >> image\n";
        constexpr char digits[] = "0123456789abcdef";
        int column = 0;
        for (const std::uint8_t amount : amounts.cells()) {
            body_ += digits[amount >> 4];
            body_ += digits[amount & 15];
            if (++column % 64 == 0)
                body_ += '\n';
        }
        body_ += ">\ngrestore\n";
    }

    const Job& job_;
    const Made& made_;
    const Sheet& sheet_;
    Affine toPage_; ///< mm of the sheet to points
    std::vector<SpotColour> spots_;
    std::string body_;
};

} // namespace

std::string printEps(const std::string& file, const Job& job, const Made& made, const PictureSource& pictures,
                     std::size_t sheetIndex, bool withCutLines, const std::stop_token& stop) {
    const Sheet& sheet = made.layout.sheets.at(sheetIndex);
    PrintOptions options;
    options.cutLines = options.inks = false;
    options.sheet = sheetIndex;
    const std::string pdf = printPdf(job, made, pictures, options, stop);
    EpsFile eps(job, made, sheet);
    for (const InkKind ink : inksOn(job, made, sheet))
        eps.addInk(ink);
    if (withCutLines) {
        const std::vector<RouteLine> route = routeOf(job, made, sheet, {}, stop);
        for (const LineKind kind : kindsOn(made, sheet))
            eps.addLines(kind, route);
    }
    return eps.text(postScriptOf(file, pdf, stop));
}

} // namespace hasami
