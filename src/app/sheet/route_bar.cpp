#include "app/sheet/route_bar.h"

#include "app/paint/line_names.h"
#include "checks/costs.h"
#include "machine/tool_path.h"
#include "workshop/route_sheet.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSlider>

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr int steps = 1000;             // of the slider
constexpr int frame = 33;               // ms
constexpr double secondsOfPlaying = 12; // however long the cutting takes

/// Each stretch with its time, by the speeds of the profile.
class Clock {
public:
    Clock(const Job& job, RouteBar::Way& way) : profile_(job.profile), way_(way) {}

    void startSheet(std::size_t sheet) {
        sheet_ = sheet;
        at_ = {};
    }

    void cut(const ToolStroke& stroke) {
        QPolygonF points;
        for (const Point p : stroke.path)
            points << QPointF(p.x, p.y);
        travelTo(stroke.kind, points.front());
        now_ += secondsPerLift;
        go(stroke.kind, true, points, profile_.cutter.tool(stroke.kind).speed);
        at_ = points.back();
    }

    void travelTo(LineKind kind, QPointF place) {
        go(kind, false, QPolygonF{at_, place}, profile_.cutter.tool(LineKind::kiss).speed);
    }

private:
    void go(LineKind kind, bool isCut, const QPolygonF& points, double speed) {
        double length = 0;
        for (qsizetype i = 1; i < points.size(); ++i)
            length += std::hypot(points[i].x() - points[i - 1].x(), points[i].y() - points[i - 1].y());
        way_.push_back({sheet_, kind, isCut, points, now_, now_ + length / speed});
        now_ = way_.back().to;
    }

    const Profile& profile_;
    RouteBar::Way& way_;
    std::size_t sheet_ = 0;
    QPointF at_;
    double now_ = 0;
};

RouteBar::Way wayOf(const Job& job, const Made& made, const std::stop_token& stop) {
    RouteBar::Way way;
    Clock clock(job, way);
    for (std::size_t i = 0; i < made.layout.sheets.size(); ++i) {
        clock.startSheet(i);
        const std::vector<ToolStroke> strokes =
            toolStrokes(routeOf(job, made, made.layout.sheets[i], stop), job.profile);
        for (const ToolStroke& stroke : strokes)
            clock.cut(stroke);
        if (!strokes.empty())
            clock.travelTo(strokes.back().kind, {});
    }
    return way;
}

QString inMinutes(double seconds) {
    const int whole = int(std::lround(seconds));
    return QString("%1:%2").arg(whole / 60).arg(whole % 60, 2, 10, QChar('0'));
}

} // namespace

RouteBar::RouteBar(Document& document, QWidget* parent)
    : QWidget(parent), document_(document), show_(new QPushButton("Cutting order")),
      play_(new QPushButton("Play")), time_(new QSlider(Qt::Horizontal)), text_(new QLabel) {
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(6);
    for (QPushButton* button : {show_, play_}) {
        button->setCheckable(true);
        button->setProperty("role", "small");
        button->setObjectName(button->text());
    }
    show_->setToolTip("Shows in which order the lines are cut, and where the knife goes between them");
    play_->setToolTip("Plays the cutting in a few seconds");
    time_->setRange(0, steps);
    time_->setObjectName("Cutting time");
    time_->setAccessibleName("Cutting time");
    time_->setToolTip("How far the cutting is");
    text_->setObjectName("Cutting time text");
    text_->setProperty("role", "quiet");
    layout->addWidget(show_);
    layout->addWidget(play_);
    layout->addWidget(time_, 1);
    layout->addWidget(text_);
    connect(show_, &QPushButton::toggled, this, &RouteBar::begin);
    connect(&document, &Document::madeChanged, this, &RouteBar::begin);
    connect(time_, &QSlider::valueChanged, this, &RouteBar::showNow);
    connect(play_, &QPushButton::toggled, this, [this](bool plays) {
        if (plays && time_->value() == steps)
            time_->setValue(0);
        plays ? timer_.start(frame) : timer_.stop();
    });
    connect(&timer_, &QTimer::timeout, this, [this] {
        time_->setValue(time_->value() + std::max(1, int(steps * frame / 1000 / secondsOfPlaying)));
        if (time_->value() == steps)
            play_->setChecked(false);
    });
    begin();
}

bool RouteBar::isOn() const {
    return show_->isChecked() && !way_.empty();
}

double RouteBar::now() const {
    return whole() * time_->value() / steps;
}

void RouteBar::begin() {
    asked_.request_stop();
    way_.clear();
    const bool isWanted =
        show_->isChecked() && document_.isMade() && !document_.made()->layout.sheets.empty();
    for (QWidget* control : std::initializer_list<QWidget*>{play_, time_, text_})
        control->setVisible(show_->isChecked());
    if (!show_->isChecked())
        play_->setChecked(false);
    if (!isWanted) {
        text_->setText({});
        return changed();
    }
    text_->setText("Finding the cut path…");
    asked_ = runInBackground(
        document_.background().routes, this, "The cut path can't be found",
        [job = document_.sharedJob(), made = document_.made()](const std::stop_token& stop) {
            return wayOf(*job, *made, stop);
        },
        [this](const Outcome<Way>& way) {
            if (!way.failure.empty())
                text_->setText(QString::fromStdString(way.failure));
            if (!way.value)
                return;
            way_ = *way.value;
            showNow();
        });
}

void RouteBar::showNow() {
    if (way_.empty())
        return;
    const double seconds = now();
    const auto stretch =
        std::find_if(way_.begin(), way_.end(), [&](const Stretch& s) { return s.to >= seconds; });
    const Stretch& at = stretch == way_.end() ? way_.back() : *stretch;
    text_->setText(
        QString("%1 of %2, %3").arg(inMinutes(seconds), inMinutes(whole()), nameOf(at.kind).toLower()));
    Q_EMIT changed();
}

} // namespace hasami
