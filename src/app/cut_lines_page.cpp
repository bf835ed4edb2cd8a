#include "app/cut_lines_page.h"

#include "app/design_controls.h"
#include "app/paint_design.h"
#include "app/step_state.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <cmath>

namespace hasami {

namespace {

constexpr double ringDistance = 3; // mm between a line and the next one added

QString nameOf(LineKind kind) {
    return kind == LineKind::kiss ? "Kiss cut" : "Die cut";
}

/// "2 mm outside", of the edge or of the border's rim.
QString placeInWords(const LineRecipe& line, bool hasBorder, LengthUnit unit) {
    const QString what = hasBorder ? "on the border's rim" : "on the edge";
    if (line.offset == 0 || (hasBorder && line.offset < 0))
        return what;
    return quantityText(std::abs(line.offset), QuantityKind::length, unit) +
           (line.offset > 0 ? " outside" : " inside");
}

/// The line as it looks on the bench.
QIcon signOf(LineKind kind) {
    QPixmap picture(28, 16);
    picture.fill(Qt::transparent);
    QPainter painter(&picture);
    QPainterPath line(QPointF(2, 8));
    line.lineTo(26, 8);
    LinePaths paths;
    paths[std::size_t(kind)] = line;
    paintCutLines(painter, paths, 2);
    return picture;
}

} // namespace

CutLinesPage::CutLinesPage(Document& document, QWidget* parent)
    : StepPage(document, parent), lines_(new QListWidget), addKiss_(new QPushButton("Add kiss")),
      addDie_(new QPushButton("Add die")), remove_(new QPushButton("Remove")), text_(quietText()) {
    auto* layout = pageLayout(this);
    addList();
    offset_ = designRow(document,
                        {"Offset", "Outward leaves a white margin around the artwork, inward cuts into it",
                         QuantityKind::length, Limits::mostInset, Limits::mostOffset, -3, 15, 0.1},
                        "Offset", [this](Design& design, double value) { lineOf(design).offset = value; });
    layout->addWidget(offset_);
    corners_ = designChoice(document, layout, "Corners", "What the offset makes of the artwork's corners",
                            {"Round", "Sharp", "Flat"}, [this](Design& design, int place) {
                                lineOf(design).corners.form = CornerForm(place);
                            });
    limit_ = designRow(document,
                       {"Reach of sharp corners",
                        "A corner that would reach farther than this many offsets is cut flat",
                        QuantityKind::number, Limits::leastCornerLimit, Limits::mostCornerLimit, 2, 10, 0.5},
                       "Reach of sharp corners",
                       [this](Design& design, double value) { lineOf(design).corners.limit = value; });
    layout->addWidget(limit_);
    bridge_ = designRow(document,
                        {"Bridge", "Parts of the artwork that come closer than this become one sticker",
                         QuantityKind::length, 0, Limits::mostBridge, 0, 10, 0.25},
                        "Bridge", [](Design& design, double value) { design.recipe.bridge = value; });
    layout->addWidget(bridge_);
    layout->addWidget(text_);
    layout->addStretch(1);
}

void CutLinesPage::addList() {
    lines_->setObjectName("Cut lines list");
    lines_->setAccessibleName("Cut lines");
    lines_->setToolTip("All lines are cut; what stands below is about the chosen one");
    lines_->setIconSize({28, 16});
    lines_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    connect(lines_, &QListWidget::currentRowChanged, this, [this] {
        document().endRun();
        if (const Design* design = document().selectedDesign())
            showDesign(*design, document().newest(design->id));
    });
    addKiss_->setToolTip("One more line through the vinyl, around all others");
    addDie_->setToolTip("One more line through vinyl and backing, around all others");
    remove_->setToolTip("The chosen line is no longer cut");
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(6);
    for (QPushButton* button : {addKiss_, addDie_, remove_}) {
        button->setObjectName(button->text());
        button->setProperty("role", "small");
        buttons->addWidget(button);
    }
    connect(addKiss_, &QPushButton::clicked, this, [this] { addLine(LineKind::kiss); });
    connect(addDie_, &QPushButton::clicked, this, [this] { addLine(LineKind::die); });
    connect(remove_, &QPushButton::clicked, this, &CutLinesPage::removeLine);
    auto* both = new QVBoxLayout;
    both->setSpacing(6);
    both->addWidget(lines_);
    both->addLayout(buttons);
    static_cast<QVBoxLayout*>(layout())->addLayout(both);
}

LineRecipe& CutLinesPage::lineOf(Design& design) const {
    const auto row = std::size_t(std::max(lines_->currentRow(), 0));
    return design.recipe.lines[std::min(row, design.recipe.lines.size() - 1)];
}

void CutLinesPage::addLine(LineKind kind) {
    const std::string id = document().selected();
    document().endRun();
    document().change("Add " + nameOf(kind).toLower() + " line", [&](Job& job) {
        Design* design = job.find(id);
        if (!design || design->recipe.lines.size() >= Limits::mostLines)
            return;
        const auto& lines = design->recipe.lines;
        const auto outermost =
            std::max_element(lines.begin(), lines.end(),
                             [](const LineRecipe& a, const LineRecipe& b) { return a.offset < b.offset; });
        LineRecipe line{kind, std::max(outermost->offset, 0.0) + ringDistance, outermost->corners};
        line.offset = std::min(line.offset, Limits::mostOffset);
        design->recipe.lines.push_back(line);
    });
    lines_->setCurrentRow(lines_->count() - 1);
}

void CutLinesPage::removeLine() {
    const std::string id = document().selected();
    const int row = lines_->currentRow();
    document().endRun();
    document().change("Remove " + lines_->currentItem()->text().section(',', 0, 0).toLower() + " line",
                      [&](Job& job) {
                          if (Design* design = job.find(id); design && design->recipe.lines.size() > 1)
                              design->recipe.lines.erase(design->recipe.lines.begin() + row);
                      });
}

void CutLinesPage::showList(const Recipe& recipe) {
    const QSignalBlocker quiet(lines_);
    const int count = int(recipe.lines.size());
    while (lines_->count() > count)
        delete lines_->takeItem(lines_->count() - 1);
    for (int i = 0; i < count; ++i) {
        if (lines_->count() == i)
            lines_->addItem(new QListWidgetItem);
        const LineRecipe& line = recipe.lines[std::size_t(i)];
        lines_->item(i)->setIcon(signOf(line.kind));
        lines_->item(i)->setText(nameOf(line.kind) + ", " +
                                 placeInWords(line, recipe.border.width > 0, document().job().unit));
    }
    lines_->setCurrentRow(std::clamp(lines_->currentRow(), 0, count - 1));
    lines_->setFixedHeight(count * lines_->sizeHintForRow(0) + 2 * lines_->frameWidth());
    remove_->setEnabled(count > 1);
    addKiss_->setEnabled(recipe.lines.size() < Limits::mostLines);
    addDie_->setEnabled(recipe.lines.size() < Limits::mostLines);
}

void CutLinesPage::showDesign(const Design& design, const MadeDesign* made) {
    const Recipe& recipe = design.recipe;
    showList(recipe);
    const LineRecipe& line = recipe.lines[std::size_t(lines_->currentRow())];
    const LineRecipe start;
    offset_->setUnit(document().job().unit);
    bridge_->setUnit(document().job().unit);
    offset_->setStart(start.offset);
    offset_->show(line.offset);
    corners_->setCurrentIndex(int(line.corners.form));
    limit_->setStart(start.corners.limit);
    limit_->show(line.corners.limit);
    bridge_->setStart(0);
    bridge_->show(recipe.bridge);
    const bool isBrought = recipe.edge.way == EdgeWay::lines; // as drawn: nothing is left to set
    for (QWidget* control : std::initializer_list<QWidget*>{offset_, corners_, limit_, bridge_, lines_,
                                                            addKiss_, addDie_, remove_})
        control->setVisible(!isBrought && (control != limit_ || line.corners.form == CornerForm::sharp));
    for (QLabel* label : findChildren<QLabel*>())
        if (label->buddy() == corners_)
            label->setVisible(!isBrought);
    showMade(design, made);
}

void CutLinesPage::showMade(const Design& design, const MadeDesign* made) {
    if (!isMadeFor(RecipeStep::cutLines, design, made))
        return text_->setText("The cut line is being made…");
    if (made->sticker->isEmpty())
        return text_->setText("▲ " + QString::fromStdString(made->trouble));
    QStringList rows;
    if (design.recipe.edge.way == EdgeWay::lines)
        rows << "The cut lines that the file brings, as drawn. Find the edge another way to make them here.";
    for (const LineKind kind : lineKinds) {
        std::size_t count = 0, points = 0, arcs = 0;
        double length = 0;
        for (const CutLine& line : made->sticker->lines) {
            if (line.kind != kind)
                continue;
            ++count;
            points += line.curve.points();
            arcs += std::size_t(std::count_if(line.curve.segments.begin(), line.curve.segments.end(),
                                              [](const CurveSegment& s) { return s.isArc(); }));
            length += perimeter(flatten(line.curve, flatteningTolerance));
        }
        if (count > 0)
            rows << QString("%1: %2 of %3 points%5, %4 long")
                        .arg(nameOf(kind), counted(count, "line", "lines"))
                        .arg(points)
                        .arg(quantityText(length, QuantityKind::length, document().job().unit)
                                 .replace(' ', QChar::Nbsp))
                        .arg(arcs > 0 ? " (" + counted(arcs, "arc", "arcs") + ")" : QString());
    }
    text_->setText(rows.join("\n"));
}

} // namespace hasami
