#include "drawing/drawing_id.h"

#include <cstdio>
#include <memory>
#include <string_view>
#include <xxhash.h>

namespace hasami {

namespace {

class Digest {
public:
    Digest() : state_(XXH3_createState()) { XXH3_128bits_reset(state_.get()); }

    void add(double value) { XXH3_128bits_update(state_.get(), &value, sizeof value); }
    void add(std::string_view text) {
        add(double(text.size()));
        XXH3_128bits_update(state_.get(), text.data(), text.size());
    }
    void add(Point p) {
        add(p.x);
        add(p.y);
    }
    void add(const std::vector<Curve>& rims) {
        add(double(rims.size()));
        for (const Curve& rim : rims) {
            add(double(rim.segments.size()));
            add(rim.start);
            for (const CurveSegment& s : rim.segments)
                for (const Point p : {s.control1, s.control2, s.end})
                    add(p);
        }
    }
    void add(const PaintColour& colour) {
        for (const std::uint8_t part :
             {colour.shown.red, colour.shown.green, colour.shown.blue, colour.shown.coverage})
            add(double(part));
        add(double(colour.inks.has_value()));
        for (const double ink : colour.inks.value_or(std::array<double, 4>{}))
            add(ink);
        add(colour.spot);
    }
    void add(const Gradient& gradient) {
        add(double(gradient.isRadial));
        add(gradient.angle);
        add(gradient.from);
        add(gradient.to);
    }
    void add(const PictureFill& picture) {
        add(picture.file.asset);
        for (const double part :
             {double(picture.file.page), picture.place.at.x, picture.place.at.y, picture.place.width,
              picture.place.height, picture.place.turn, double(picture.place.isMirrored)})
            add(part);
    }
    void add(std::monostate) {}

    std::string text() const {
        const XXH128_hash_t hash = XXH3_128bits_digest(state_.get());
        char text[48];
        std::snprintf(text, sizeof text, "drawing-%016llx%016llx",
                      static_cast<unsigned long long>(hash.high64),
                      static_cast<unsigned long long>(hash.low64));
        return text;
    }

private:
    struct Free {
        void operator()(XXH3_state_t* state) const { XXH3_freeState(state); }
    };
    std::unique_ptr<XXH3_state_t, Free> state_;
};

} // namespace

std::string drawingId(const Drawing& drawing) {
    Digest digest;
    digest.add(drawing.width);
    digest.add(drawing.height);
    digest.add(double(drawing.areas.size()));
    for (const DrawnArea& area : drawing.areas) {
        digest.add(area.rims);
        digest.add(double(area.fill.index()));
        std::visit([&](const auto& fill) { digest.add(fill); }, area.fill);
    }
    return digest.text();
}

} // namespace hasami
