#include "files/print_eps.h"

#include "artwork/vector_page.h"
#include "base/error.h"
#include "base/number_text.h"
#include "base/translation.h"
#include "files/pdf_document.h"
#include "files/print_picture.h"
#include "files/reader_process.h"

#include <QFile>
#include <QStandardPaths>
#include <QTemporaryDir>

#include <algorithm>
#include <cmath>
#include <set>
#include <string_view>

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

/// A page as a PostScript document.
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
                {"confined", program, "-q", "-eps", "-level3", "-r", "300", in.fileName(), out.fileName()},
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

    /// A part of a design, once, to be drawn for each of its pieces: a stream that is executed again and
    /// again.
    void addDesign(const std::string& design, const QByteArray& artwork, const Box& box) {
        const std::string name = "Art" + std::to_string(++parts_);
        prolog_ += "currentfile 0 (%%EndOf" + name +
                   ") /SubFileDecode filter << >> /ReusableStreamDecode filter\n%%BeginDocument: " + name +
                   "\n" + withoutProlog(artwork.toStdString()) + "\n%%EndDocument\n%%EndOf" + name + "\n/" +
                   name + " exch def\n";
        const double unit = userUnitFor(std::max(box.width(), box.height())) / pointsInMillimetre;
        for (const Piece& piece : sheet_.pieces) {
            if (piece.design != design)
                continue;
            // The page of the part has its origin at the bottom left of the box, y up.
            const Affine place = toPage_ * piece.place * Affine{unit, 0, 0, -unit, box.least.x, box.most.y};
            artwork_ += "[";
            for (const double number : {place.a, place.b, place.c, place.d, place.e, place.f})
                artwork_ += numberText(number, 6) + " ";
            artwork_ += "] " + name + " draw\n";
        }
    }

    /// All that pdftops writes begin with the same procedures, which are defined once.
    std::string withoutProlog(const std::string& document) {
        constexpr std::string_view begin = "%%BeginProlog\n", end = "%%EndProlog\n";
        const std::size_t from = document.find(begin), to = document.find(end);
        if (from == std::string::npos || to == std::string::npos || to < from)
            return document;
        if (procedures_.empty())
            procedures_ = document.substr(from + begin.size(), to - from - begin.size());
        const bool isTheSame = document.compare(from + begin.size(), procedures_.size(), procedures_) == 0;
        return isTheSame ? document.substr(to + end.size()) : document;
    }

    void addMarks() {
        choose(job_.profile.marks.colour);
        for (const Mark& mark : sheet_.marks)
            for (const Curve& rim : mark.ink)
                outline({rim.start, rim.segments, true}, toPage_);
        for (const LeadMark& mark : sheet_.lead)
            for (const Curve& rim : mark.ink)
                outline({rim.start, rim.segments, true}, toPage_);
        body_ += "fill\n";
    }

    void addInk(InkKind ink) {
        choose(job_.profile.names.of(ink));
        if (ink == InkKind::white && job_.profile.marks.isOnWhite)
            for (const std::vector<Curve>& area : areasUnderMarks(sheet_))
                fill(area, toPage_);
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

    std::string text() const {
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
               "/S {stroke} bind def /F {eofill} bind def\n"
               "/draw {save 3 1 roll exch concat /showpage {} def dup 0 setfileposition cvx exec restore} "
               "bind def\n" +
               procedures_ + prolog_ + "%%EndProlog\n%%Page: 1 1\n" + artwork_ +
               "gsave true setoverprint 1 setlinejoin " + numberText(lineWidth, 3) + " setlinewidth\n" +
               body_ + "grestore\nshowpage\n%%EOF\n";
    }

private:
    void choose(const PaintColour& colour) {
        if (!colour.spot.empty())
            return choose(SpotColour{colour.spot, inksOf(colour)});
        if (colour.inks) {
            for (const double ink : *colour.inks)
                body_ += numberText(ink, 4) + " ";
            body_ += "setcmykcolor\n";
        } else {
            for (const std::uint8_t part : {colour.shown.red, colour.shown.green, colour.shown.blue})
                body_ += numberText(part / 255.0, 4) + " ";
            body_ += "setrgbcolor\n";
        }
    }

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
        for (const CurveSegment& s : drawnSegments(run)) {
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
    int parts_ = 0;
    std::string procedures_, prolog_, artwork_, body_;
};

/// What is transparent becomes a picture in process colours: a spot colour beside it would lose its plate.
void requireSpotsKept(const std::string& file, const Job& job, const Made& made,
                      const PictureSource& pictures, const std::string& design, const std::stop_token& stop) {
    const std::set<std::string>& leftOut = made.find(design)->leftOut;
    for (const Item& item : job.find(design)->artwork.items) {
        if (!item.isVector())
            continue;
        const auto picture = pictures(*assetOf(job, item), {item.page(), leftOut}, stop);
        const VectorPage& page = *picture->page;
        for (const std::string& spot : page.spots)
            if (page.isTransparent && !leftOut.contains(spot))
                throw OutputError(
                    sentence("%1 can't be written: %2 has transparent parts, which an EPS has only as a "
                             "picture, and the plate of its spot colour %3 would be lost. Print it as PDF",
                             file, item.name, spot));
    }
}

} // namespace

std::string printEps(const std::string& file, const Job& job, const Made& made, const PictureSource& pictures,
                     std::size_t sheetIndex, bool withCutLines, const std::stop_token& stop) {
    const Sheet& sheet = made.layout.sheets.at(sheetIndex);
    EpsFile eps(job, made, sheet);
    std::set<std::string> designs;
    for (const Piece& piece : sheet.pieces)
        designs.insert(piece.design);
    for (const std::string& design : designs)
        requireSpotsKept(file, job, made, pictures, design, stop);
    for (const DesignPart part : designParts)
        for (const std::string& design : designs)
            if (const auto page = designPage(job, made, pictures, design, part, stop))
                eps.addDesign(design, postScriptOf(file, page->pdf, stop), page->box);
    eps.addMarks();
    for (const InkKind ink : inksOn(job, made, sheet))
        eps.addInk(ink);
    if (withCutLines) {
        const std::vector<RouteLine> route = routeOf(job, made, sheet, {}, stop);
        for (const LineKind kind : kindsOn(made, sheet))
            eps.addLines(kind, route);
    }
    return eps.text();
}

} // namespace hasami
