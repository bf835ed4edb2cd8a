#include "reader/pdf_page.h"

#include "artwork/vector_page.h"
#include "base/error.h"
#include "base/hexadecimal.h"
#include "reader/page_picture.h"
#include "reader/paint_device.h"
#include "reader/refusal.h"

#include <algorithm>
#include <cmath>
#include <poppler/Error.h>
#include <poppler/ErrorCodes.h>
#include <poppler/FontInfo.h>
#include <poppler/GlobalParams.h>
#include <poppler/PDFDoc.h>
#include <poppler/Page.h>
#include <poppler/Stream.h>
#include <set>

namespace hasami {

namespace {

constexpr double leastSide = 0.1, mostSide = 30'000; // mm

void checkOpened(PDFDoc& document, int page) {
    if (!document.isOk())
        refuse(document.getErrorCode() == errEncrypted
                   ? N_("%1 is locked with a password: save it without one")
                   : N_("%1 is a damaged PDF file"));
    const int count = document.getNumPages();
    if (count < 1)
        refuse("%1 is a PDF file without a page");
    if (page < 1 || page > count)
        refuse("%1 has no page %2: it has %3", std::to_string(page), std::to_string(count));
    const Page* opened = document.getPage(page);
    if (!opened || !opened->isOk())
        refuse("%1 has a damaged page: %2", std::to_string(page));
}

/// How many seventy-seconds of an inch a page's unit is (ISO 32000-1, 14.11.2, UserUnit).
double userUnitOf(PDFDoc& document, int page) {
    const Object dictionary = document.getXRef()->fetch(document.getPage(page)->getRef());
    const Object unit = dictionary.isDict() ? dictionary.dictLookup("UserUnit") : Object(objNull);
    return unit.isNum() && unit.getNum() > 0 ? unit.getNum() : 1;
}

void checkSize(const Page& opened, double scale) {
    for (const double points : {opened.getCropWidth(), opened.getCropHeight()}) {
        const double side = points * 25.4 / 72 / scale;
        if (!(side >= leastSide && side <= mostSide))
            refuse("%1 has a page of %2 mm: Hasami opens those from 0.1 mm to 30 m",
                   std::to_string(std::lround(std::min(side, 1e12))));
    }
}

std::set<std::string> fontsOf(PDFDoc& document, int page) {
    std::set<std::string> names;
    FontInfoScanner scanner(&document, page - 1);
    for (FontInfo* font : scanner.scan(1)) {
        names.insert(font->getName().value_or("unnamed"));
        delete font;
    }
    return names;
}

} // namespace

std::string pageAnswer(const std::string& pdf, int page, double scale) {
    globalParams = std::make_unique<GlobalParams>();
    setErrorCallback([](ErrorCategory, Goffset, const char*) {}); // what matters becomes one sentence
    PDFDoc document(new MemStream(pdf.data(), 0, Goffset(pdf.size()), Object(objNull)));
    checkOpened(document, page);
    scale /= userUnitOf(document, page);
    checkSize(*document.getPage(page), scale);
    const PaintList paint = paintOf(document, page, scale);

    std::string answer = "hasami-page 1\npages " + std::to_string(document.getNumPages()) + "\n";
    for (const std::string& font : fontsOf(document, page))
        answer += "font " + hexadecimal(font) + "\n";
    const std::string text = paintListText(paint);
    answer += "paint " + std::to_string(text.size()) + "\n" + text;
    const auto [width, height] = pagePixels(paint.width, paint.height);
    const PagePicture picture = drawPage(pdf, page, width, height);
    answer += "pixels " + std::to_string(width) + " " + std::to_string(height) + "\n";
    answer.append(reinterpret_cast<const char*>(picture.pixels.data()), picture.pixels.size());
    return answer;
}

} // namespace hasami
