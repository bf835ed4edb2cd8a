#pragma once

#include "geometry/path.h"

#include <string>
#include <string_view>
#include <vector>

namespace hasami {

/// A drawing in DXF, version AC1015 of 2000, in millimetres, y up. Lines become polylines: straight pieces
/// and arcs exactly, others within 0.01 mm. Source: "DXF Reference", 2000.
class DxfDrawing {
public:
    /// Of a page whose y runs down; layers in this order. Names are plain words.
    DxfDrawing(const Box& page, std::vector<std::string> layers);

    void add(std::string_view layer, const Subpath& run);
    void addCircle(std::string_view layer, Point centre, double radius);

    std::string text() const;

private:
    void begin(std::string_view layer, const char* entity, const char* subclass);
    double up(double y) const { return page_.most.y - y; }

    Box page_;
    std::vector<std::string> layers_;
    std::string entities_;
    unsigned handle_;
};

} // namespace hasami
