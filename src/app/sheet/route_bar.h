#pragma once

#include "app/document/document.h"

#include <QPolygonF>
#include <QTimer>
#include <QWidget>

#include <vector>

class QLabel;
class QPushButton;
class QSlider;

namespace hasami {

/// The cutting order over time: switched on, it is computed in the background; a slider goes through it,
/// and it plays by itself.
class RouteBar : public QWidget {
    Q_OBJECT
public:
    explicit RouteBar(Document& document, QWidget* parent = nullptr);

    /// One stretch of the way, with the knife down or up, in mm of a sheet.
    struct Stretch {
        std::size_t sheet = 0;
        LineKind kind = LineKind::kiss; ///< that is cut, or gone to
        bool isCut = false;
        QPolygonF points;
        double from = 0, to = 0; ///< seconds
    };
    using Way = std::vector<Stretch>;

    bool isOn() const;
    const Way& way() const { return way_; }
    double now() const; ///< seconds

Q_SIGNALS:
    void changed();

private:
    void begin();
    void showNow();
    double whole() const { return way_.empty() ? 0 : way_.back().to; }

    Document& document_;
    QPushButton *show_, *play_;
    QSlider* time_;
    QLabel* text_;
    QTimer timer_;
    Way way_;
    std::stop_source asked_; ///< for the route being found: of an older revision it is given up
};

} // namespace hasami
