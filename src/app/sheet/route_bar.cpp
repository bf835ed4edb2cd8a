#include "app/sheet/route_bar.h"

#include "app/paint/line_names.h"
#include "app/words/words.h"
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

QPolygonF polygonOf(const CutStep& step) {
    QPolygonF points;
    if (const auto* travel = std::get_if<Travel>(&step))
        points << QPointF(travel->from.x, travel->from.y) << QPointF(travel->to.x, travel->to.y);
    else if (const auto* cut = std::get_if<Cut>(&step))
        for (const Point p : cut->path)
            points << QPointF(p.x, p.y);
    return points;
}

LineKind kindOf(const CutStep& step) {
    return std::visit([](const auto& s) { return s.kind; }, step);
}

RouteBar::Way wayOf(const Job& job, const Made& made, const std::stop_token& stop) {
    RouteBar::Way way;
    double now = 0;
    for (std::size_t i = 0; i < made.layout.sheets.size(); ++i)
        for (const CutStep& step : programOf(job, made, made.layout.sheets[i], {}, stop)) {
            const double from = now;
            now += secondsOf(step, job.profile.cutter);
            if (QPolygonF points = polygonOf(step); !points.isEmpty())
                way.push_back(
                    {i, kindOf(step), std::holds_alternative<Cut>(step), std::move(points), from, now});
        }
    return way;
}

QString inMinutes(double seconds) {
    const int whole = int(std::lround(seconds));
    return QString("%1:%2").arg(whole / 60).arg(whole % 60, 2, 10, QChar('0'));
}

} // namespace

RouteBar::RouteBar(Document& document, QWidget* parent)
    : QWidget(parent), document_(document), show_(new QPushButton(tr("Cutting order"))),
      play_(new QPushButton(tr("Play"))), time_(new QSlider(Qt::Horizontal)), text_(new QLabel) {
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(6);
    for (QPushButton* button : {show_, play_}) {
        button->setCheckable(true);
        button->setProperty("role", "small");
        button->setObjectName(button == show_ ? "Cutting order" : "Play");
    }
    show_->setToolTip(tr("Shows in which order the lines are cut, and where the knife goes between them"));
    play_->setToolTip(tr("Plays the cutting in a few seconds"));
    time_->setRange(0, steps);
    time_->setObjectName("Cutting time");
    time_->setAccessibleName(tr("Cutting time"));
    time_->setToolTip(tr("How far the cutting has come"));
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
    text_->setText(tr("Finding the cut path…"));
    asked_ = runInBackground(
        document_.background().routes, this, tr("The cut path can't be found"),
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
    text_->setText(tr("%1 of %2, %3").arg(inMinutes(seconds), inMinutes(whole()), nameOf(at.kind)));
    Q_EMIT changed();
}

} // namespace hasami
