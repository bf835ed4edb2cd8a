#include "codes/code.h"

#include "base/error.h"
#include "base/translation.h"

#include <algorithm>
#include <memory>
#include <zint.h>

namespace hasami {

namespace {

struct Delete {
    void operator()(zint_symbol* symbol) const { ZBarcode_Delete(symbol); }
};

/// Digits of an article number, with its check digit; 0: the code is none.
std::size_t digitsOf(CodeKind kind) {
    switch (kind) {
    case CodeKind::ean13:
        return 13;
    case CodeKind::ean8:
        return 8;
    case CodeKind::upcA:
        return 12;
    default:
        return 0;
    }
}

/// The digit that the sum of an article number asks for (GS1 General Specifications: weights 3 and 1 from the
/// right).
char checkDigit(std::string_view digits) {
    int sum = 0;
    for (std::size_t i = 0; i < digits.size(); ++i)
        sum += (digits[digits.size() - 1 - i] - '0') * (i % 2 == 0 ? 3 : 1);
    return char('0' + (10 - sum % 10) % 10);
}

/// An article number with its check digit.
std::string articleNumber(CodeKind kind, const std::string& text) {
    const std::size_t count = digitsOf(kind);
    std::string digits = text;
    std::erase_if(digits, [](char c) { return c == ' ' || c == '-'; });
    if (digits.empty() || digits.find_first_not_of("0123456789") != std::string::npos)
        throw InputError(sentence("\"%1\" must be digits alone: this code holds a number of %2 digits", text,
                                  std::to_string(count)));
    if (digits.size() != count && digits.size() + 1 != count)
        throw InputError(sentence("\"%1\" must have %2 digits, or %3 without the check digit", text,
                                  std::to_string(count), std::to_string(count - 1)));
    const char check = checkDigit(std::string_view(digits).substr(0, count - 1));
    if (digits.size() == count && digits.back() != check)
        throw InputError(sentence("The last digit of \"%1\" must be %2: it checks the others", text,
                                  std::string(1, check)));
    digits.resize(count - 1);
    return digits + check;
}

int symbologyOf(CodeKind kind) {
    switch (kind) {
    case CodeKind::code128:
        return BARCODE_CODE128;
    case CodeKind::qr:
        return BARCODE_QRCODE;
    case CodeKind::ean13:
    case CodeKind::ean8:
        return BARCODE_EANX;
    case CodeKind::upcA:
        return BARCODE_UPCA;
    default:
        return BARCODE_DATAMATRIX;
    }
}

} // namespace

bool isOfBars(CodeKind kind) {
    return kind == CodeKind::code128 || digitsOf(kind) > 0;
}

CodeModules codeOf(CodeKind kind, const std::string& text, int correction) {
    CodeModules code;
    code.text = digitsOf(kind) > 0 ? articleNumber(kind, text) : text;
    const std::unique_ptr<zint_symbol, Delete> symbol(ZBarcode_Create());
    if (!symbol)
        throw std::bad_alloc();
    symbol->symbology = symbologyOf(kind);
    symbol->input_mode = UNICODE_MODE;
    if (kind == CodeKind::dataMatrix)
        symbol->option_3 = DM_SQUARE;
    if (kind == CodeKind::qr)
        symbol->option_1 = std::clamp(correction, 0, 3) + 1;
    const auto* bytes = reinterpret_cast<const unsigned char*>(code.text.data());
    const std::size_t checked = digitsOf(kind) > 0 ? 1 : 0; // zint adds the check digit itself
    if (ZBarcode_Encode(symbol.get(), bytes, int(code.text.size() - checked)) >= ZINT_ERROR)
        throw InputError(text.empty() ? sentence("A code needs text or digits to hold")
                                      : sentence("A code can't hold \"%1\"", text));
    code.cells = Grid<std::uint8_t>(symbol->width, isOfBars(kind) ? 1 : symbol->rows);
    for (int row = 0; row < code.cells.height(); ++row)
        for (int column = 0; column < symbol->width; ++column)
            code.cells.at(column, row) = (symbol->encoded_data[row][column / 8] >> (column % 8)) & 1;
    return code;
}

Grid<std::uint8_t> modulesOf(CodeKind kind, const std::string& text) {
    return codeOf(kind, text).cells;
}

int quietModules(CodeKind kind) {
    switch (kind) {
    case CodeKind::code128:
        return 10;
    case CodeKind::qr:
        return 4;
    case CodeKind::ean13:
        return 11;
    case CodeKind::ean8:
        return 7;
    case CodeKind::upcA:
        return 9;
    default:
        return 1;
    }
}

int quietModulesRight(CodeKind kind) {
    return kind == CodeKind::ean13 ? 7 : quietModules(kind);
}

} // namespace hasami
