#include "artwork/paint_list.h"

#include "base/error.h"
#include "base/hexadecimal.h"
#include "base/translation.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <utility>

namespace hasami {

namespace {

constexpr std::string_view heading = "paint-list 1";
constexpr double farthest = 100'000; // mm
constexpr std::size_t mostPieces = 20'000'000, mostDashLengths = 1000;

constexpr std::array<std::pair<PaintItem::Kind, std::string_view>, 3> kinds{
    {{PaintItem::Kind::plain, "plain"},
     {PaintItem::Kind::shading, "shading"},
     {PaintItem::Kind::picture, "picture"}}};
constexpr std::array<std::string_view, 3> caps{"butt", "round", "square"};
constexpr std::array<std::string_view, 3> joins{"miter", "round", "bevel"};

/// Words parted by spaces, one record a line. A path ends with a semicolon.
class Writer {
public:
    void word(std::string_view word) {
        text_ += word;
        text_ += ' ';
    }
    void number(double value) {
        std::array<char, 32> digits{};
        const auto end = std::to_chars(digits.data(), digits.data() + digits.size(), value);
        word({digits.data(), std::size_t(end.ptr - digits.data())});
    }
    void point(Point p) {
        number(p.x);
        number(p.y);
    }
    /// A name in hexadecimal digits, "-" if it is empty.
    void name(std::string_view name) { word(name.empty() ? "-" : hexadecimal(name)); }
    void endLine() { text_.back() = '\n'; }

    void shape(const PaintShape& shape) {
        if (shape.stroke) {
            const auto& [style, toPage] = *shape.stroke;
            word("stroke");
            number(style.width);
            word(caps[std::size_t(style.cap)]);
            word(joins[std::size_t(style.join)]);
            number(style.miterLimit);
            number(style.dashPhase);
            number(double(style.dashes.size()));
            for (const double dash : style.dashes)
                number(dash);
            for (const double v : {toPage.a, toPage.b, toPage.c, toPage.d, toPage.e, toPage.f})
                number(v);
        } else {
            word(shape.rule == FillRule::nonZero ? "fill" : "fill-even-odd");
        }
        for (const Subpath& run : shape.path) {
            word("m");
            point(run.start);
            for (const CurveSegment& s : run.segments) {
                word(s.straight ? "l" : "c");
                if (!s.straight) {
                    point(s.control1);
                    point(s.control2);
                }
                point(s.end);
            }
            if (run.isClosed)
                word("z");
        }
        word(";");
    }

    std::string take() { return std::move(text_); }

private:
    std::string text_;
};

class Parser {
public:
    explicit Parser(std::string_view text) : text_(text) {}

    PaintList parse() {
        if (line() != heading)
            refuse();
        PaintList list;
        expect("size");
        list.width = positive();
        list.height = positive();
        while (!atEnd()) {
            const std::string_view what = word();
            if (what == "grey") {
                list.isGrey = true;
            } else if (what == "inks") {
                list.hasInks = true;
            } else if (what == "tagged") {
                list.isTagged = true;
            } else if (what == "clip") {
                const int parent = clipBefore(list);
                list.clips.push_back({parent, shape()});
            } else if (what == "item") {
                list.items.push_back(item(list));
            } else {
                refuse();
            }
        }
        return list;
    }

private:
    [[noreturn]] static void refuse() { throw InputError(translated("what it paints can't be read")); }

    static bool isSpace(char c) { return c == ' ' || c == '\n'; }

    bool atEnd() {
        while (at_ < text_.size() && isSpace(text_[at_]))
            ++at_;
        return at_ == text_.size();
    }

    std::string_view line() {
        const auto end = std::min(text_.find('\n'), text_.size());
        at_ = end;
        return text_.substr(0, end);
    }

    std::string_view word() {
        if (atEnd())
            refuse();
        const std::size_t begin = at_;
        while (at_ < text_.size() && !isSpace(text_[at_]))
            ++at_;
        return text_.substr(begin, at_ - begin);
    }

    void expect(std::string_view wanted) {
        if (word() != wanted)
            refuse();
    }

    static double numberIn(std::string_view digits) {
        double value = 0;
        const auto read = std::from_chars(digits.data(), digits.data() + digits.size(), value);
        if (read.ec != std::errc() || read.ptr != digits.data() + digits.size() || !std::isfinite(value))
            refuse();
        return value;
    }

    double number() { return numberIn(word()); }

    double number(double least, double most) {
        const double value = number();
        if (value < least || value > most)
            refuse();
        return value;
    }

    double positive() {
        const double value = number(0, farthest);
        if (value <= 0)
            refuse();
        return value;
    }

    Point point() {
        const double x = number(-farthest, farthest);
        return {x, number(-farthest, farthest)};
    }

    std::size_t count(std::size_t most) {
        const double value = number(0, double(most));
        if (value != std::floor(value))
            refuse();
        return std::size_t(value);
    }

    template <std::size_t n>
    std::size_t choice(const std::array<std::string_view, n>& of) {
        const std::string_view chosen = word();
        for (std::size_t i = 0; i < n; ++i)
            if (of[i] == chosen)
                return i;
        refuse();
    }

    int clipBefore(const PaintList& list) {
        const double index = number(-1, double(list.clips.size()) - 1);
        if (index != std::floor(index))
            refuse();
        return int(index);
    }

    std::string name() {
        const std::string_view coded = word();
        if (coded == "-")
            return {};
        if (coded.size() % 2 != 0)
            refuse();
        std::string name;
        for (std::size_t i = 0; i < coded.size(); i += 2) {
            unsigned value = 0;
            const char* end = coded.data() + i + 2;
            if (std::from_chars(coded.data() + i, end, value, 16).ptr != end)
                refuse();
            name += char(value);
        }
        return name;
    }

    PaintItem item(const PaintList& list) {
        PaintItem item;
        const std::string_view kind = word();
        const auto found =
            std::find_if(kinds.begin(), kinds.end(), [&](const auto& k) { return k.second == kind; });
        if (found == kinds.end())
            refuse();
        item.kind = found->first;
        item.clip = clipBefore(list);
        item.opacity = number(0, 1);
        item.isMasked = count(1) == 1;
        item.colour = {std::uint8_t(count(255)), 0, 0, 255};
        item.colour.green = std::uint8_t(count(255));
        item.colour.blue = std::uint8_t(count(255));
        item.spot = name();
        item.shape = shape();
        return item;
    }

    PaintShape shape() {
        PaintShape shape;
        const std::string_view what = word();
        if (what == "stroke")
            shape.stroke = stroke();
        else if (what == "fill-even-odd")
            shape.rule = FillRule::evenOdd;
        else if (what != "fill")
            refuse();
        for (std::string_view step = word(); step != ";"; step = word()) {
            if (++pieces_ > mostPieces)
                throw InputError(translated("it paints more than 20 million pieces of lines"));
            if (step == "m")
                shape.path.push_back({point(), {}, false});
            else
                addTo(shape.path, step);
        }
        return shape;
    }

    void addTo(Path& path, std::string_view step) {
        if (path.empty())
            refuse();
        Subpath& run = path.back();
        const Point from = run.segments.empty() ? run.start : run.segments.back().end;
        if (step == "z") {
            run.isClosed = true;
        } else if (step == "l") {
            run.segments.push_back(straightSegment(from, point()));
        } else if (step == "c") {
            const Point control1 = point(), control2 = point();
            run.segments.push_back({control1, control2, point(), false});
        } else {
            refuse();
        }
    }

    PaintShape::Stroke stroke() {
        PaintShape::Stroke stroke;
        StrokeStyle& style = stroke.style;
        style.width = number(0, farthest);
        style.cap = LineCap(choice(caps));
        style.join = LineJoin(choice(joins));
        style.miterLimit = number(1, 1e9);
        style.dashPhase = number(-1e9, 1e9);
        style.dashes.resize(count(mostDashLengths));
        for (double& dash : style.dashes)
            dash = number(0, 1e9);
        for (double* v : {&stroke.toPage.a, &stroke.toPage.b, &stroke.toPage.c, &stroke.toPage.d,
                          &stroke.toPage.e, &stroke.toPage.f})
            *v = number(-farthest, farthest);
        return stroke;
    }

    std::string_view text_;
    std::size_t at_ = 0, pieces_ = 0;
};

} // namespace

std::size_t bytesOf(const PaintList& list) {
    std::size_t sum =
        sizeof list + list.clips.size() * sizeof(PaintClip) + list.items.size() * sizeof(PaintItem);
    const auto add = [&](const Path& path) {
        for (const Subpath& run : path)
            sum += sizeof(Subpath) + run.segments.size() * sizeof(CurveSegment);
    };
    for (const PaintClip& clip : list.clips)
        add(clip.shape.path);
    for (const PaintItem& item : list.items)
        add(item.shape.path);
    return sum;
}

std::string paintListText(const PaintList& list) {
    Writer out;
    out.word(heading);
    out.endLine();
    out.word("size");
    out.number(list.width);
    out.number(list.height);
    out.endLine();
    for (const auto& [is, word] :
         {std::pair(list.isGrey, "grey"), {list.hasInks, "inks"}, {list.isTagged, "tagged"}})
        if (is) {
            out.word(word);
            out.endLine();
        }
    for (const PaintClip& clip : list.clips) {
        out.word("clip");
        out.number(clip.parent);
        out.shape(clip.shape);
        out.endLine();
    }
    for (const PaintItem& item : list.items) {
        out.word("item");
        out.word(kinds[std::size_t(item.kind)].second);
        out.number(item.clip);
        out.number(item.opacity);
        out.number(item.isMasked);
        for (const int part : {item.colour.red, item.colour.green, item.colour.blue})
            out.number(part);
        out.name(item.spot);
        out.shape(item.shape);
        out.endLine();
    }
    return out.take();
}

PaintList parsePaintList(std::string_view text) {
    return Parser(text).parse();
}

} // namespace hasami
