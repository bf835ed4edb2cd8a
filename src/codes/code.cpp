#include "codes/code.h"

#include "base/error.h"
#include "base/translation.h"

#include <memory>
#include <zint.h>

namespace hasami {

namespace {

struct Delete {
    void operator()(zint_symbol* symbol) const { ZBarcode_Delete(symbol); }
};

} // namespace

Grid<std::uint8_t> modulesOf(CodeKind kind, const std::string& text) {
    const std::unique_ptr<zint_symbol, Delete> symbol(ZBarcode_Create());
    if (!symbol)
        throw std::bad_alloc();
    symbol->symbology = kind == CodeKind::code128 ? BARCODE_CODE128 : BARCODE_DATAMATRIX;
    symbol->input_mode = UNICODE_MODE;
    symbol->option_3 = kind == CodeKind::dataMatrix ? DM_SQUARE : 0;
    const auto* bytes = reinterpret_cast<const unsigned char*>(text.data());
    if (ZBarcode_Encode(symbol.get(), bytes, int(text.size())) >= ZINT_ERROR)
        throw InputError(sentence("A code can't hold \"%1\"", text));
    Grid<std::uint8_t> modules(symbol->width, symbol->rows);
    for (int row = 0; row < symbol->rows; ++row)
        for (int column = 0; column < symbol->width; ++column)
            modules.at(column, row) = (symbol->encoded_data[row][column / 8] >> (column % 8)) & 1;
    return modules;
}

int quietModules(CodeKind kind) {
    return kind == CodeKind::code128 ? 10 : 1;
}

} // namespace hasami
