#include "files/svg_text.h"

#include "base/number_text.h"
#include "files/path_data.h"

namespace hasami {

namespace {

std::string millimetres(double value) {
    return numberText(value, 4);
}

} // namespace

std::string svgStart(const Box& page) {
    const std::string width = millimetres(page.width()), height = millimetres(page.height());
    return "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n"
           "<svg xmlns=\"http://www.w3.org/2000/svg\" version=\"1.1\" width=\"" +
           width + "mm\" height=\"" + height + "mm\" viewBox=\"" + millimetres(page.least.x) + " " +
           millimetres(page.least.y) + " " + width + " " + height + "\">\n";
}

std::string svgGroupStart(std::string_view name) {
    const bool isMarks = name == "marks";
    const std::string colour = name == "die" || name == "perforated" ? "#C8501E"
                               : name == "crease"                    ? "#7A4B8C"
                                                                     : "#2E8B57";
    return "<g id=\"" + std::string(name) + "\" " +
           (isMarks ? "fill=\"#000000\" stroke=\"none\""
                    : "fill=\"none\" stroke=\"" + colour + "\" stroke-width=\"0.1\"") +
           ">\n";
}

std::string svgLine(const Subpath& run) {
    return "<path d=\"" + pathData(run) + "\"/>\n";
}

std::string svgDot(Point centre, double radius) {
    return "<circle cx=\"" + millimetres(centre.x) + "\" cy=\"" + millimetres(centre.y) + "\" r=\"" +
           millimetres(radius) + "\"/>\n";
}

std::string svgGroupEnd() {
    return "</g>\n";
}

std::string svgEnd() {
    return "</svg>\n";
}

} // namespace hasami
