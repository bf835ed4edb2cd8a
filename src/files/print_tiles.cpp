#include "files/print_tiles.h"

#include "base/translation.h"
#include "files/pdf_document.h"
#include "files/pdf_page.h"
#include "lettering/text_outline.h"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <memory>

namespace hasami {

namespace {

/// Of one tile, in mm of its page, y up.
class TilePage {
public:
    TilePage(const TileRules& rules, const Box& shown) : rules_(rules), shown_(shown) {}

    /// The part of the page whose bottom left corner is `from`.
    void addPart(const Affine& pageToMillimetres, Point from) {
        const Point size{shown_.width(), shown_.height()};
        content_.op("q")
            .number(shown_.least.x)
            .number(shown_.least.y)
            .number(size.x)
            .number(size.y)
            .op("re W n");
        content_.matrix(Affine::translation(shown_.least - from) * pageToMillimetres).op("/Page Do").op("Q");
    }

    void addCropMarks() {
        constexpr double away = 1, length = 4, width = 0.1;
        content_.op("q 0 0 0 1 K").number(width).op("w");
        for (const double x : {shown_.least.x, shown_.most.x})
            for (const double y : {shown_.least.y, shown_.most.y}) {
                const double outX = x == shown_.least.x ? -1 : 1, outY = y == shown_.least.y ? -1 : 1;
                line({x + outX * away, y}, {x + outX * (away + length), y});
                line({x, y + outY * away}, {x, y + outY * (away + length)});
            }
        content_.op("S Q");
    }

    void addNumber(const std::string& text) {
        constexpr double capHeight = 2, gap = 2;
        const TextOutline outline = outlineOfText(text, capHeight);
        content_.op("q 0 0 0 1 k")
            .matrix({1, 0, 0, -1, shown_.least.x + 2 * gap, shown_.least.y - gap - capHeight});
        for (const Curve& rim : outline.rims)
            content_.curve(rim);
        content_.op("f Q");
    }

    void addTo(PdfDocument& document, const QPDFObjectHandle& page) const {
        const Box medium{{0, 0}, {rules_.width, rules_.height}};
        document.addPage(medium, medium, content_, {{"/XObject", "/Page", page}});
    }

private:
    void line(Point from, Point to) {
        content_.number(from.x).number(from.y).op("m");
        content_.number(to.x).number(to.y).op("l");
    }

    const TileRules& rules_;
    Box shown_;
    PdfContent content_;
};

} // namespace

TileCount tilesFor(double width, double height, const TileRules& rules) {
    const auto count = [&](double length, double medium) {
        const double step = medium - 2 * rules.margin - rules.overlap;
        assert(step > 0);
        return std::max(1, int(std::ceil((length - rules.overlap) / step - 1e-9)));
    };
    return {count(width, rules.width), count(height, rules.height)};
}

std::string tiled(const std::string& pdf, double width, double height, const TileRules& rules) {
    PdfDocument document("Hasami tiles");
    const auto page =
        document.addPageOf(std::make_unique<PdfPage>(std::make_shared<const std::string>(pdf), 1));
    const Affine pageToMillimetres =
        Affine{1, 0, 0, -1, 0, height} * Affine::scaling(width, height) * page.toUnitSquare;
    const Box shown{{rules.margin, rules.margin}, {rules.width - rules.margin, rules.height - rules.margin}};
    const TileCount count = tilesFor(width, height, rules);
    for (int row = 0; row < count.rows; ++row)
        for (int column = 0; column < count.columns; ++column) {
            TilePage tile(rules, shown);
            tile.addPart(pageToMillimetres,
                         {column * (shown.width() - rules.overlap),
                          height - shown.height() - row * (shown.height() - rules.overlap)});
            tile.addCropMarks();
            tile.addNumber(sentence("Row %1 of %2, column %3 of %4", std::to_string(row + 1),
                                    std::to_string(count.rows), std::to_string(column + 1),
                                    std::to_string(count.columns)));
            tile.addTo(document, page.form);
        }
    return document.bytes();
}

} // namespace hasami
