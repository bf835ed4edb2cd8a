#pragma once

#include <QPixmap>
#include <QTransform>

#include <functional>
#include <vector>

class QPainter;

namespace hasami {

/// Lines over a view, each drawn once into a picture that lies over what is below, some milliseconds at a
/// time: keys and clicks are answered in between, however many there are.
class LineLayer {
public:
    /// A line by its number, and how far it is drawn: what that means knows `draw`.
    struct Part {
        std::size_t line = 0;
        double along = 0;
    };
    using Draw = std::function<void(QPainter& painter, const Part& part)>;

    /// All that was drawn goes.
    void clear();
    /// Whether it shows what a view of that size and place has.
    bool fits(QSize pixels, const QTransform& place) const { return pixels_ == pixels && place_ == place; }
    /// Begins anew for such a view.
    void begin(QSize pixels, double ratio, const QTransform& place);
    void add(const Part& part) { waiting_.push_back(part); }
    /// Draws what waits, and then all into the painter's picture. False if the time did not suffice.
    bool paint(QPainter& painter, const Draw& draw);

private:
    QPixmap picture_;
    QSize pixels_;
    QTransform place_;
    std::vector<Part> waiting_;
    std::size_t drawn_ = 0; ///< of those
};

} // namespace hasami
