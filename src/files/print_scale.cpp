#include "files/print_scale.h"

#include "base/error.h"
#include "base/number_text.h"
#include "base/translation.h"
#include "files/pdf_document.h"
#include "files/qpdf.h"
#include "lettering/text_outline.h"

#include <cmath>

namespace hasami {

namespace {

constexpr double besideRulers = 40;            // mm that a page needs around them
constexpr double markInset = 15, markSize = 5; // mm

double rulerOn(double length) {
    return std::max(10.0, std::floor((length - besideRulers) / 10) * 10);
}

/// In mm of the page, y up.
class TestPage {
public:
    /// A ruler from a point, in a direction; its numbers stand upright, but not where another ruler crosses
    /// it in the middle.
    void addRuler(Point from, Point direction, double length) {
        const Point side{-direction.y, direction.x};
        content_.op("0.1 w 0 0 0 1 K");
        line(from, from + direction * length);
        for (int mm = 0; mm <= int(length); ++mm) {
            const double tick = mm % 10 == 0 ? 7 : mm % 5 == 0 ? 5 : 3;
            const Point at = from + direction * double(mm);
            line(at, at + side * tick);
        }
        content_.op("S");
        constexpr double beside = 12, crossing = 15; // mm
        for (int mm = 0; mm <= int(length); mm += 10)
            if (std::abs(mm - length / 2) > crossing)
                addText(std::to_string(mm), from + direction * double(mm) + side * beside);
    }

    void addText(const std::string& text, Point at) {
        constexpr double capHeight = 2.5;
        const TextOutline outline = outlineOfText(text, capHeight);
        content_.op("q 0 0 0 1 k").matrix({1, 0, 0, -1, at.x - outline.width / 2, at.y - capHeight / 2});
        for (const Curve& rim : outline.rims)
            content_.curve(rim);
        content_.op("f Q");
    }

    void addMark(Point at) {
        content_.op("q 0 0 0 1 K").number(markSize).op("w 1 J");
        line(at, at);
        content_.op("S Q");
    }

    const PdfContent& content() const { return content_; }

private:
    void line(Point from, Point to) {
        content_.number(from.x).number(from.y).op("m");
        content_.number(to.x).number(to.y).op("l");
    }
    PdfContent content_;
};

} // namespace

double ScaleTest::across() const {
    return rulerOn(width);
}

double ScaleTest::along() const {
    return rulerOn(height);
}

std::string ScaleTest::pdf() const {
    TestPage page;
    const Point middle{width / 2, height / 2};
    page.addRuler({middle.x - across() / 2, middle.y}, {1, 0}, across());
    page.addRuler({middle.x, middle.y - along() / 2}, {0, 1}, along());
    for (const double x : {markInset, width - markInset})
        for (const double y : {markInset, height - markInset})
            page.addMark({x, y});
    page.addText(sentence("Across %1 mm, along %2 mm, from the first line to the last",
                          numberText(across(), 0), numberText(along(), 0)),
                 {width / 2, height - markInset});
    PdfDocument document("Hasami scale test");
    const Box medium{{0, 0}, {width, height}};
    document.addPage(medium, medium, page.content(), {});
    return document.bytes();
}

std::string compensated(const std::string& pdf, const PrintScale& scale) {
    if (scale == PrintScale{})
        return pdf;
    try {
        QPDF file;
        file.processMemoryFile("print", pdf.data(), pdf.size());
        for (QPDFPageObjectHelper page : QPDFPageDocumentHelper(file).getAllPages()) {
            const auto box = page.getMediaBox().getArrayAsRectangle();
            const double x = (box.llx + box.urx) / 2, y = (box.lly + box.ury) / 2;
            const double across = 1 / scale.across, along = 1 / scale.along;
            PdfContent before;
            before.op("q").matrix({across, 0, 0, along, x - x * across, y - y * along});
            page.addPageContents(QPDFObjectHandle::newStream(&file, before.text()), true);
            page.addPageContents(QPDFObjectHandle::newStream(&file, "\nQ\n"), false);
        }
        QPDFWriter writer(file);
        writer.setOutputMemory();
        writer.setDeterministicID(true);
        writer.write();
        const auto buffer = writer.getBufferSharedPointer();
        return {reinterpret_cast<const char*>(buffer->getBuffer()), buffer->getSize()};
    } catch (const std::exception&) {
        throw InputError(translated("The print can't be compensated for the printer's scale"));
    }
}

} // namespace hasami
