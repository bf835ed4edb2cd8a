#include "app/sheet/marks_panel.h"

#include "app/sheet/change_profile.h"
#include "sheet/sheet.h"

#include <QComboBox>
#include <QLabel>
#include <QLocale>
#include <QPushButton>

#include <array>
#include <cmath>

namespace hasami {

namespace {

struct Look {
    MarkShape shape;
    bool isOutlined;
};
/// In the order of the choice.
constexpr std::array looks{Look{MarkShape::dot, false}, Look{MarkShape::bracket, false},
                           Look{MarkShape::cross, false}, Look{MarkShape::square, false},
                           Look{MarkShape::square, true}};
constexpr std::array cornerCounts{4, 3, 0};

bool hasLines(const MarkScheme& marks) {
    return marks.shape == MarkShape::bracket || marks.shape == MarkShape::cross ||
           (marks.shape == MarkShape::square && marks.isOutlined);
}

/// mm², of a sheet, or of as much of a roll as is used now.
double usable(SheetPlan plan, const Profile& profile, double usedLength) {
    if (!plan.medium.whole())
        plan.medium.length = std::max(usedLength, 1.0);
    const Box area = workArea(plan, profile);
    return area.isEmpty() ? 0 : area.width() * area.height();
}

} // namespace

MarksPanel::MarksPanel(Document& document, QWidget* parent)
    : SettingsGroup(document, N_("Marks"), parent),
      shape_(addChoice(
          N_("Mark shape"), N_("What the machine's sensor looks for"),
          {tr("Dots"), tr("Corner brackets"), tr("Crosses"), tr("Filled squares"), tr("Outlined squares")},
          [this](int place) {
              change(tr("%1: %2").arg(tr("Mark shape"), shape_->itemText(place)), [place](MarkScheme& marks) {
                  marks.shape = looks[std::size_t(place)].shape;
                  marks.isOutlined = looks[std::size_t(place)].isOutlined;
                  marks.distance = std::max(marks.distance, leastDistance(marks));
              });
          })),
      corners_(addChoice(N_("Corners with marks"), N_("How many corners of the work have a mark"),
                         {tr("At four corners"), tr("At three corners"), tr("No marks")},
                         [this](int place) {
                             change(corners_->itemText(place), [place](MarkScheme& marks) {
                                 marks.corners = cornerCounts[std::size_t(place)];
                             });
                         })),
      size_(addLength(N_("Mark size"), N_("Across a dot, a cross or a square; how long a bracket's arms are"),
                      0.5, 50, [](MarkScheme& marks, double value) { marks.size = value; })),
      lineWidth_(addLength(N_("Line width"), N_("How thick the lines of brackets, crosses and squares are"),
                           0.1, 10, [](MarkScheme& marks, double value) { marks.lineWidth = value; })),
      distance_(addLength(N_("Mark distance"), N_("From the corner of the work to the middle of its mark"), 0,
                          200, [](MarkScheme& marks, double value) { marks.distance = value; })),
      quiet_(addLength(N_("Quiet zone"), N_("Nothing is printed this close to a mark"), 0, 100,
                       [](MarkScheme& marks, double value) { marks.quiet = value; })),
      close_(new QPushButton(tr("As close as possible"))), text_(addText()) {
    close_->setObjectName("Marks as close as possible");
    close_->setProperty("role", "small");
    close_->setToolTip(tr("Puts the marks where their quiet zones just stay clear of the work"));
    connect(close_, &QPushButton::clicked, this, [this] {
        change(tr("Marks as close as possible"),
               [](MarkScheme& marks) { marks.distance = std::ceil(leastDistance(marks) * 100) / 100; });
    });
    text_->setObjectName("Marks text");
    addWide(close_);
    connect(&document, &Document::jobChanged, this, &MarksPanel::showJob);
    connect(&document, &Document::madeChanged, this, &MarksPanel::showGain);
    showJob();
}

QuantityField* MarksPanel::addLength(const char* name, const char* effect, double least, double most,
                                     Set set) {
    return addField(name, effect, QuantityKind::length, least, most,
                    [this, set = std::move(set)](const QString& label, double value) {
                        change(label, [&](MarkScheme& marks) { set(marks, value); });
                    });
}

/// A refused value is shown no longer.
void MarksPanel::change(const QString& label, const std::function<void(MarkScheme&)>& change) {
    if (!changeProfile(document_, label, [&](Profile& profile) { change(profile.marks); }))
        showJob();
}

void MarksPanel::showJob() {
    const MarkScheme& marks = document_.job().profile.marks;
    for (std::size_t i = 0; i < looks.size(); ++i)
        if (looks[i].shape == marks.shape &&
            (marks.shape != MarkShape::square || looks[i].isOutlined == marks.isOutlined))
            shape_->setCurrentIndex(int(i));
    corners_->setCurrentIndex(
        int(std::find(cornerCounts.begin(), cornerCounts.end(), marks.corners) - cornerCounts.begin()));
    const bool hasMarks = marks.corners > 0;
    shape_->setVisible(hasMarks);
    show(size_, marks.size, hasMarks);
    show(lineWidth_, marks.lineWidth, hasMarks && hasLines(marks));
    show(distance_, marks.distance, hasMarks);
    show(quiet_, marks.quiet, hasMarks);
    showGain();
}

void MarksPanel::showGain() {
    const Job& job = document_.job();
    const MarkScheme& marks = job.profile.marks;
    Profile closer = job.profile;
    closer.marks.distance = leastDistance(marks);
    const double used = document_.made()->layout.usedLength();
    const double now = usable(job.plan, job.profile, used), then = usable(job.plan, closer, used);
    const bool canBeCloser = marks.corners > 0 && marks.distance > leastDistance(marks) + 0.005;
    close_->setVisible(canBeCloser);
    if (marks.corners == 0)
        text_->setText(tr("The operator sets the origin: nothing is measured."));
    else if (!canBeCloser)
        text_->setText(tr("The marks stand as close to the work as their quiet zones allow."));
    else
        text_->setText(
            tr("At %1 the marks would be as close as their quiet zones allow: %2 % more could be used.")
                .arg(quantityText(leastDistance(marks), QuantityKind::length, job.unit),
                     QLocale().toString(now > 0 ? (then / now - 1) * 100 : 0, 'f', 1)));
}

} // namespace hasami
