#include "files/dxf.h"

#include "base/number_text.h"

namespace hasami {

namespace {

constexpr double tolerance = 0.01; // mm
constexpr unsigned modelSpace = 0x1F, paperSpace = 0x1E, firstFree = 0x100;

std::string group(int code, std::string_view value) {
    return std::to_string(code) + "\n" + std::string(value) + "\n";
}

std::string number(int code, double value) {
    return group(code, numberText(value, 6));
}

std::string handleText(unsigned handle) {
    constexpr std::string_view digits = "0123456789ABCDEF";
    std::string text;
    do
        text.insert(text.begin(), digits[handle % 16]);
    while (handle /= 16);
    return text;
}

/// A table and its records, each with the groups behind its name.
struct Record {
    const char* subclass;
    std::string name, groups;
    unsigned handle;
};
std::string table(const char* type, unsigned handle, const std::vector<Record>& records) {
    std::string text = group(0, "TABLE") + group(2, type) + group(5, handleText(handle)) + group(330, "0") +
                       group(100, "AcDbSymbolTable") + group(70, std::to_string(records.size()));
    const bool isOfStyles = std::string_view(type) == "DIMSTYLE"; // whose handles have another code
    if (isOfStyles)
        text += group(100, "AcDbDimStyleTable");
    for (const Record& record : records)
        text += group(0, type) + group(isOfStyles ? 105 : 5, handleText(record.handle)) +
                group(330, handleText(handle)) + group(100, "AcDbSymbolTableRecord") +
                group(100, record.subclass) + group(2, record.name) + record.groups;
    return text + group(0, "ENDTAB");
}

std::string section(const char* name, const std::string& content) {
    return group(0, "SECTION") + group(2, name) + content + group(0, "ENDSEC");
}

std::string block(const char* name, unsigned space, unsigned handle) {
    const std::string owner = group(330, handleText(space));
    return group(0, "BLOCK") + group(5, handleText(handle)) + owner + group(100, "AcDbEntity") +
           group(8, "0") + group(100, "AcDbBlockBegin") + group(2, name) + group(70, "0") + number(10, 0) +
           number(20, 0) + number(30, 0) + group(3, name) + group(1, "") + group(0, "ENDBLK") +
           group(5, handleText(handle + 1)) + owner + group(100, "AcDbEntity") + group(8, "0") +
           group(100, "AcDbBlockEnd");
}

} // namespace

DxfDrawing::DxfDrawing(const Box& page, std::vector<std::string> layers)
    : page_(page), layers_(std::move(layers)), handle_(firstFree + unsigned(layers_.size())) {}

void DxfDrawing::begin(std::string_view layer, const char* entity, const char* subclass) {
    entities_ += group(0, entity) + group(5, handleText(handle_++)) + group(330, handleText(modelSpace)) +
                 group(100, "AcDbEntity") + group(8, layer) + group(100, subclass);
}

void DxfDrawing::add(std::string_view layer, const Subpath& run) {
    std::string vertices;
    std::size_t count = 0;
    const auto addVertex = [&](Point p, double bulge) {
        vertices += number(10, p.x) + number(20, up(p.y));
        if (bulge != 0)
            vertices += number(42, -bulge); // counterclockwise where y runs up
        ++count;
    };
    Point from = run.start;
    for (const CurveSegment& s : run.segments) {
        if (s.straight || s.isArc()) {
            addVertex(from, s.bulge);
        } else {
            const std::vector<Point> points = flatten(Subpath{from, {s}, false}, tolerance);
            for (std::size_t i = 0; i + 1 < points.size(); ++i)
                addVertex(points[i], 0);
        }
        from = s.end;
    }
    if (!run.isClosed || distance(from, run.start) > 1e-9)
        addVertex(from, 0);
    begin(layer, "LWPOLYLINE", "AcDbPolyline");
    entities_ += group(90, std::to_string(count)) + group(70, run.isClosed ? "1" : "0") + vertices;
}

void DxfDrawing::addCircle(std::string_view layer, Point centre, double radius) {
    begin(layer, "CIRCLE", "AcDbCircle");
    entities_ += number(10, centre.x) + number(20, up(centre.y)) + number(30, 0) + number(40, radius);
}

std::string DxfDrawing::text() const {
    const std::string header =
        group(9, "$ACADVER") + group(1, "AC1015") + group(9, "$HANDSEED") + group(5, handleText(handle_)) +
        group(9, "$INSUNITS") + group(70, "4") + group(9, "$MEASUREMENT") + group(70, "1") +
        group(9, "$EXTMIN") + number(10, page_.least.x) + number(20, 0) + number(30, 0) +
        group(9, "$EXTMAX") + number(10, page_.most.x) + number(20, page_.height()) + number(30, 0);
    std::vector<Record> layers{{"AcDbLayerTableRecord", "0",
                                group(70, "0") + group(62, "7") + group(6, "Continuous") + group(390, "F"),
                                0x10}};
    // By what a screen shows of the window's own colours for lines: greens, browns, violets.
    for (std::size_t i = 0; i < layers_.size(); ++i) {
        const std::string& name = layers_[i];
        const char* colour = name == "kiss" ? "96" : name == "crease" ? "196" : name == "marks" ? "7" : "32";
        layers.push_back({"AcDbLayerTableRecord", name,
                          group(70, "0") + group(62, colour) + group(6, "Continuous") + group(390, "F"),
                          firstFree + unsigned(i)});
    }
    const auto lineType = [](const char* name, unsigned handle) {
        return Record{"AcDbLinetypeTableRecord", name,
                      group(70, "0") + group(3, "") + group(72, "65") + group(73, "0") + number(40, 0),
                      handle};
    };
    const std::string style = group(70, "0") + number(40, 0) + number(41, 1) + number(50, 0) +
                              group(71, "0") + number(42, 2.5) + group(3, "txt") + group(4, "");
    const std::string tables =
        table("VPORT", 0x8, {}) +
        table("LTYPE", 0x5,
              {lineType("ByBlock", 0x14), lineType("ByLayer", 0x15), lineType("Continuous", 0x16)}) +
        table("LAYER", 0x2, layers) +
        table("STYLE", 0x3, {{"AcDbTextStyleTableRecord", "Standard", style, 0x11}}) +
        table("VIEW", 0x6, {}) + table("UCS", 0x7, {}) +
        table("APPID", 0x9, {{"AcDbRegAppTableRecord", "ACAD", group(70, "0"), 0x12}}) +
        table("DIMSTYLE", 0xA, {{"AcDbDimStyleTableRecord", "Standard", group(70, "0"), 0x27}}) +
        table("BLOCK_RECORD", 0x1,
              {{"AcDbBlockTableRecord", "*Model_Space", "", modelSpace},
               {"AcDbBlockTableRecord", "*Paper_Space", "", paperSpace}});
    const std::string objects =
        group(0, "DICTIONARY") + group(5, "C") + group(330, "0") + group(100, "AcDbDictionary") +
        group(281, "1") + group(3, "ACAD_GROUP") + group(350, "D") + group(3, "ACAD_PLOTSTYLENAME") +
        group(350, "E") + group(0, "DICTIONARY") + group(5, "D") + group(330, "C") +
        group(100, "AcDbDictionary") + group(281, "1") + group(0, "ACDBDICTIONARYWDFLT") + group(5, "E") +
        group(330, "C") + group(100, "AcDbDictionary") + group(281, "1") + group(3, "Normal") +
        group(350, "F") + group(100, "AcDbDictionaryWithDefault") + group(340, "F") +
        group(0, "ACDBPLACEHOLDER") + group(5, "F") + group(330, "E");
    return section("HEADER", header) + section("CLASSES", "") + section("TABLES", tables) +
           section("BLOCKS",
                   block("*Model_Space", modelSpace, 0x20) + block("*Paper_Space", paperSpace, 0x22)) +
           section("ENTITIES", entities_) + section("OBJECTS", objects) + group(0, "EOF");
}

} // namespace hasami
