#include "rehearsal/rehearsal_files.h"

#include "rehearsal/png_file.h"
#include "sticker/printed_area.h"
#include "workshop/route_sheet.h"

#include <QBuffer>
#include <QPainter>
#include <QPainterPath>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <cctype>
#include <cmath>
#include <thread>

namespace hasami {

namespace {

std::string pngOf(QImage image, double pixelsPerMillimetre) {
    const int perMetre = int(std::lround(pixelsPerMillimetre * 1000));
    image.setDotsPerMeterX(perMetre);
    image.setDotsPerMeterY(perMetre);
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    image.save(&buffer, "PNG", 85);
    return bytes.toStdString();
}

/// Between pixels as a bilinear surface.
QRgb seenAt(const PrintedSheet& sheet, Point bed) {
    const Point at = sheet.pixelOf(bed);
    const double x = std::clamp(at.x, 0.0, double(sheet.width() - 1)),
                 y = std::clamp(at.y, 0.0, double(sheet.height() - 1));
    const int left = int(x), top = int(y);
    const int right = std::min(left + 1, sheet.width() - 1), bottom = std::min(top + 1, sheet.height() - 1);
    const double u = x - left, v = y - top;
    const Rgb a = sheet.at(left, top), b = sheet.at(right, top), c = sheet.at(left, bottom),
              d = sheet.at(right, bottom);
    const auto channel = [&](std::size_t i) {
        return int(std::lround((a[i] * (1 - u) + b[i] * u) * (1 - v) + (c[i] * (1 - u) + d[i] * u) * v));
    };
    return qRgb(channel(0), channel(1), channel(2));
}

QPainterPath pathOf(const Region& region, Point origin, double scale) {
    QPainterPath path;
    for (const Loop& loop : region.loops) {
        QPolygonF polygon;
        for (const Point p : loop)
            polygon << QPointF((p.x - origin.x) * scale, (p.y - origin.y) * scale);
        path.addPolygon(polygon);
        path.closeSubpath();
    }
    return path;
}

QColor colourOf(LineKind kind) {
    constexpr std::array<QRgb, lineKinds.size()> colours{0x2E8B57, 0x7A4B8C, 0xC8501E, 0xC8501E};
    return QColor::fromRgb(colours[std::size_t(kind)]);
}

/// The print (`image`, in pixels a millimetre) with the lines that were cut into it.
QImage withCut(QImage image, double scale, const Rehearsal& rehearsal, const CutProgram& program) {
    const Point origin = rehearsal.printed->placeOf(-0.5, -0.5);
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    for (const CutStep& step : program) {
        const Cut* cut = std::get_if<Cut>(&step);
        if (!cut)
            continue;
        QPolygonF line;
        for (const Point p : cut->path) {
            const Point bed = (rehearsal.registration.map(p) - origin) * scale;
            line << QPointF(bed.x, bed.y);
        }
        painter.setPen(QPen(Qt::white, std::max(3.0, 0.5 * scale)));
        painter.drawPolyline(line);
        painter.setPen(QPen(colourOf(cut->kind), std::max(1.5, 0.25 * scale)));
        painter.drawPolyline(line);
    }
    return image;
}

/// A name that stays in its folder.
std::string withoutSlashes(std::string name) {
    std::ranges::replace_if(
        name, [](char c) { return c == '/' || std::iscntrl(static_cast<unsigned char>(c)); }, '-');
    return name;
}

/// Names of designs as parts of file names, each once.
std::vector<std::string> fileNamesOf(const std::vector<std::string>& names) {
    std::vector<std::string> unique;
    for (const std::string& name : names) {
        const std::string plain = withoutSlashes(name);
        std::string one = plain;
        for (int number = 2; std::ranges::find(unique, one) != unique.end(); ++number)
            one = plain + "-" + std::to_string(number);
        unique.push_back(one);
    }
    return unique;
}

std::string resultJson(const Rehearsal& rehearsal, const Job& job, const Sheet& sheet) {
    const Registration& registration = rehearsal.registration;
    const auto rounded = [](double value) { return std::round(value * 1e5) / 1e5; };
    nlohmann::ordered_json json;
    json["compensation"] = {
        {"model", modelName(registration.model)},
        {"marks_found", registration.found()},
        {"residual_mm", rounded(registration.residual)},
        {"shift_mm", {rounded(registration.shift.x), rounded(registration.shift.y)}},
        {"turn_degrees", rounded(registration.turn)},
        {"stretch_percent",
         {rounded((registration.scaleAlong - 1) * 100), rounded((registration.scaleAcross - 1) * 100)}},
        {"marks_dropped", registration.dropped()}};
    nlohmann::ordered_json& marks = json["compensation"]["marks"] = nlohmann::ordered_json::array();
    for (const MarkReading& mark : registration.marks) {
        nlohmann::ordered_json& one = marks.emplace_back();
        one["id"] = mark.id;
        one["expected"] = {rounded(mark.expected.x), rounded(mark.expected.y)};
        one["found"] = mark.found ? nlohmann::ordered_json{rounded(mark.found->x), rounded(mark.found->y)}
                                  : nlohmann::ordered_json();
    }
    if (!rehearsal.refused.empty())
        json["refused"] = rehearsal.refused;
    json["error_mm"] = nullptr;
    json["lines"] = nlohmann::ordered_json::array();
    if (rehearsal.errors.lines.empty())
        return json.dump(1);
    json["error_mm"] = {{"rms", rounded(rehearsal.errors.rms)},
                        {"largest", rounded(rehearsal.errors.largest)}};
    for (const LineError& line : rehearsal.errors.lines) {
        const bool isShared = line.piece >= sheet.pieces.size();
        const Design* design = isShared ? nullptr : job.find(sheet.pieces[line.piece].design);
        json["lines"].push_back({{"design", design ? design->name : ""},
                                 {"piece", line.piece},
                                 {"kind", kindName(line.kind)},
                                 {"rms", rounded(line.rms)},
                                 {"largest", rounded(line.largest)}});
    }
    return json.dump(1);
}

/// A sheet seen in fewer pixels: each is the mean of what falls into it.
class SmallerSheet {
public:
    SmallerSheet(const PrintedSheet& sheet, double pixelsPerMillimetre)
        : sheet_(sheet), step_(std::max(1.0, sheet.pixelsPerMillimetre() / pixelsPerMillimetre)) {}

    int width() const { return int(sheet_.width() / step_); }
    int height() const { return int(sheet_.height() / step_); }

    void fillRow(int row, std::span<unsigned char> pixels) const {
        for (int column = 0; column < width(); ++column) {
            std::array<int, 3> sum{};
            int count = 0;
            for (int j = int(row * step_); j < until(row); ++j)
                for (int i = int(column * step_); i < until(column); ++i, ++count) {
                    const Rgb rgb = sheet_.at(i, j);
                    for (std::size_t c = 0; c < 3; ++c)
                        sum[c] += rgb[c];
                }
            for (std::size_t c = 0; c < 3; ++c)
                pixels[std::size_t(3 * column) + c] = uchar(sum[c] / std::max(1, count));
        }
    }

private:
    int until(int pixel) const { return std::max(int(pixel * step_) + 1, int((pixel + 1) * step_)); }

    const PrintedSheet& sheet_;
    double step_;
};

/// Pixels a millimetre of a picture of the sheet that has at most `mostPixels` pixels.
double scaleFor(const PrintedSheet& sheet, double mostPixels) {
    const double all = double(sheet.width()) * double(sheet.height());
    return sheet.pixelsPerMillimetre() * std::min(1.0, std::sqrt(mostPixels / all));
}

} // namespace

QImage pictureOf(const PrintedSheet& sheet, double pixelsPerMillimetre) {
    const SmallerSheet smaller(sheet, pixelsPerMillimetre);
    QImage image(smaller.width(), smaller.height(), QImage::Format_RGB888);
    uchar* pixels = image.bits(); // before threads share it
    const unsigned threads = std::max(1U, std::thread::hardware_concurrency());
    std::vector<std::jthread> workers;
    for (unsigned worker = 0; worker < threads; ++worker)
        workers.emplace_back([&, worker] {
            for (int row = int(worker); row < image.height(); row += int(threads))
                smaller.fillRow(row,
                                {pixels + row * image.bytesPerLine(), std::size_t(image.bytesPerLine())});
        });
    workers.clear();
    return image;
}

QImage stickerOf(const Rehearsal& rehearsal, const MadeDesign& made, const Piece& piece) {
    const Region peeled = peeledArea(*made.sticker);
    if (peeled.isEmpty())
        return {};
    const double scale = rehearsal.printed->pixelsPerMillimetre();
    const Box box = bounds(peeled).grownBy(2 / scale);
    QImage image(int(std::ceil(box.width() * scale)), int(std::ceil(box.height() * scale)),
                 QImage::Format_ARGB32_Premultiplied);
    for (int row = 0; row < image.height(); ++row) {
        auto* line = reinterpret_cast<QRgb*>(image.scanLine(row));
        for (int column = 0; column < image.width(); ++column) {
            const Point design = box.least + Point{column + 0.5, row + 0.5} * (1 / scale);
            line[column] = seenAt(*rehearsal.printed, rehearsal.registration.map(piece.place(design)));
        }
    }
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setCompositionMode(QPainter::CompositionMode_DestinationOut);
    QPainterPath outside;
    outside.addRect(image.rect());
    painter.fillPath(outside.subtracted(pathOf(peeled, box.least, scale)), Qt::black);
    painter.end();
    return image;
}

std::vector<Output> rehearsalFiles(const Rehearsal& rehearsal, const Job& job, const Made& made,
                                   std::size_t number, const std::filesystem::path& folder) {
    const Sheet& sheet = made.layout.sheets.at(number);
    const double whole = rehearsal.printed->pixelsPerMillimetre();
    const double scale = scaleFor(*rehearsal.printed, 150e6); // of a long roll fewer than it has
    const SmallerSheet print(*rehearsal.printed, scale);
    std::vector<Output> files{{folder / "print.png", pngInRows(print.width(), print.height(), scale,
                                                               [&](int row, std::span<unsigned char> pixels) {
                                                                   print.fillRow(row, pixels);
                                                               })},
                              {folder / "result.json", resultJson(rehearsal, job, sheet) + "\n"}};
    if (!rehearsal.refused.empty())
        return files;
    const double scaleOfCut = scaleFor(*rehearsal.printed, 16e6);
    files.push_back({folder / "cut.png", pngOf(withCut(pictureOf(*rehearsal.printed, scaleOfCut), scaleOfCut,
                                                       rehearsal, programOf(job, made, sheet)),
                                               scaleOfCut)});
    std::vector<std::string> names;
    std::vector<const Piece*> pieces;
    for (const Piece& piece : sheet.pieces)
        if (std::ranges::none_of(pieces, [&](const Piece* one) { return one->design == piece.design; })) {
            pieces.push_back(&piece);
            names.push_back(job.find(piece.design)->name);
        }
    names = fileNamesOf(names);
    for (std::size_t i = 0; i < pieces.size(); ++i)
        if (const QImage sticker = stickerOf(rehearsal, *made.find(pieces[i]->design), *pieces[i]);
            !sticker.isNull())
            files.push_back({folder / ("sticker-" + names[i] + ".png"), pngOf(sticker, whole)});
    return files;
}

} // namespace hasami
