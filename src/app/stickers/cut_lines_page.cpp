#include "app/stickers/cut_lines_page.h"

#include "app/controls/design_controls.h"
#include "app/document/step_state.h"
#include "app/paint/line_names.h"
#include "app/words/words.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QMenu>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <cmath>

namespace hasami {

namespace {

constexpr double ringDistance = 3; // mm between a line and the next one added

/// "2 mm outside", of the edge or of the border's rim.
QString placeInWords(const LineRecipe& line, bool hasBorder, LengthUnit unit) {
    if (!line.isCut)
        return tr("not cut");
    if (line.course == LineCourse::fold)
        return line.fold.isAcross ? tr("from side to side") : tr("from top to bottom");
    if (line.course == LineCourse::shape)
        return tr("a plain shape");
    if (line.course == LineCourse::drawn)
        return !line.drawn.isThere() ? tr("not drawn yet") : tr("as drawn");
    const QString what = hasBorder ? tr("on the border's rim") : tr("on the edge");
    if (line.offset == 0 || (hasBorder && line.offset < 0))
        return what;
    return (line.offset > 0 ? tr("%1 outside") : tr("%1 inside"))
        .arg(quantityText(std::abs(line.offset), QuantityKind::length, unit));
}

} // namespace

CutLinesPage::CutLinesPage(Document& document, QWidget* parent)
    : StepPage(document, parent), lines_(new QListWidget), add_(new QPushButton(tr("Add line"))),
      remove_(new QPushButton(tr("Remove"))), line_(new CutLinePanel(document, [this] { return line(); })),
      text_(quietText()) {
    auto* layout = pageLayout(this);
    addList();
    layout->addWidget(line_);
    bridge_ =
        designRow(document,
                  {N_("Bridge"), N_("Parts of the artwork that come closer than this become one sticker"),
                   QuantityKind::length, 0, Limits::mostBridge, 0, 10, 0.25, N_("none")},
                  N_("Bridge"), [](Design& design, double value) { design.recipe.bridge = value; });
    layout->addWidget(bridge_);
    layout->addWidget(text_);
    layout->addStretch(1);
}

std::size_t CutLinesPage::line() const {
    return std::size_t(std::max(lines_->currentRow(), 0));
}

QuantityRow* CutLinesPage::secondNumber() {
    QuantityRow* own = line_->secondNumber();
    return own ? own : bridge_;
}

void CutLinesPage::addList() {
    lines_->setObjectName("Cut lines list");
    lines_->setAccessibleName(tr("Cut lines"));
    lines_->setToolTip(tr("Ticked lines are cut; what stands below is about the chosen one"));
    lines_->setIconSize({28, 16});
    lines_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    lines_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    lines_->setTextElideMode(Qt::ElideRight);
    connect(lines_, &QListWidget::currentRowChanged, this, [this] {
        document().endRun();
        if (const Design* design = document().selectedDesign())
            showDesign(*design, document().newest(design->id));
        Q_EMIT lineChosen();
    });
    connect(lines_, &QListWidget::itemChanged, this,
            [this](QListWidgetItem* item) { setCut(lines_->row(item), item->checkState() == Qt::Checked); });
    add_->setToolTip(tr("One more line, around all others"));
    remove_->setToolTip(tr("Removes the chosen line from the recipe"));
    auto* kinds = new QMenu(this);
    for (const LineKind kind : lineKinds) {
        QAction* action = kinds->addAction(signOf(kind), nameOf(kind), this, [this, kind] { addLine(kind); });
        action->setObjectName("Add " + QString(englishNameOf(kind)).toLower());
    }
    kinds->addSeparator();
    QAction* slit = kinds->addAction(tr("Slit, drawn by two clicks"), this,
                                     [this] { addLine(LineKind::kiss, LineCourse::drawn); });
    slit->setObjectName("Add slit");
    add_->setMenu(kinds);
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(6);
    add_->setObjectName("Add line");
    remove_->setObjectName("Remove");
    for (QPushButton* button : {add_, remove_}) {
        button->setProperty("role", "small");
        buttons->addWidget(button);
    }
    connect(remove_, &QPushButton::clicked, this, &CutLinesPage::removeLine);
    auto* both = new QVBoxLayout;
    both->setSpacing(6);
    both->addWidget(lines_);
    both->addLayout(buttons);
    static_cast<QVBoxLayout*>(layout())->addLayout(both);
}

void CutLinesPage::setCut(int row, bool isCut) {
    const std::string id = document().selected();
    const Design* design = document().selectedDesign();
    if (!design || row >= int(design->recipe.lines.size()) ||
        design->recipe.lines[std::size_t(row)].isCut == isCut)
        return;
    document().endRun();
    document().change((isCut ? tr("Cut the line: %1") : tr("Leave out the line: %1"))
                          .arg(nameOf(design->recipe.lines[std::size_t(row)].kind)),
                      [&](Job& job) { job.find(id)->recipe.lines[std::size_t(row)].isCut = isCut; });
}

void CutLinesPage::addLine(LineKind kind, LineCourse course) {
    const std::string id = document().selected();
    document().endRun();
    document().change(tr("Add line: %1").arg(nameOf(kind)), [&](Job& job) {
        Design* design = job.find(id);
        if (!design || design->recipe.lines.size() >= Limits::mostLines)
            return;
        const auto& lines = design->recipe.lines;
        const auto outermost =
            std::max_element(lines.begin(), lines.end(),
                             [](const LineRecipe& a, const LineRecipe& b) { return a.offset < b.offset; });
        LineRecipe line{kind, std::max(outermost->offset, 0.0) + ringDistance, outermost->corners};
        line.offset = std::min(line.offset, Limits::mostOffset);
        line.course = kind == LineKind::crease ? LineCourse::fold : course;
        design->recipe.lines.push_back(line);
    });
    lines_->setCurrentRow(lines_->count() - 1);
}

void CutLinesPage::removeLine() {
    const std::string id = document().selected();
    const int row = lines_->currentRow();
    document().endRun();
    document().change(tr("Remove line: %1").arg(lines_->currentItem()->text().section(',', 0, 0)),
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
        lines_->item(i)->setIcon(signOf(line.kind, line.isCut));
        lines_->item(i)->setFlags(lines_->item(i)->flags() | Qt::ItemIsUserCheckable);
        lines_->item(i)->setCheckState(line.isCut ? Qt::Checked : Qt::Unchecked);
        lines_->item(i)->setToolTip(nameOf(line.kind));
        lines_->item(i)->setText(
            tr("%1, %2").arg(line.kind == LineKind::perforated ? tr("Perforated") : nameOf(line.kind),
                             placeInWords(line, recipe.border.width > 0, document().job().unit)));
    }
    lines_->setCurrentRow(std::clamp(lines_->currentRow(), 0, count - 1));
    lines_->setFixedHeight(count * lines_->sizeHintForRow(0) + 2 * lines_->frameWidth());
    remove_->setEnabled(count > 1);
    add_->setEnabled(recipe.lines.size() < Limits::mostLines);
}

void CutLinesPage::showDesign(const Design& design, const MadeDesign* made) {
    const Recipe& recipe = design.recipe;
    showList(recipe);
    line_->showDesign(design, made);
    bridge_->setUnit(document().job().unit);
    bridge_->setStart(0);
    bridge_->show(recipe.bridge);
    const bool isBrought = bringsAllLines(design, made); // as drawn: nothing is left to set
    for (QWidget* control : std::initializer_list<QWidget*>{line_, bridge_, lines_, add_, remove_})
        control->setVisible(!isBrought);
    showMade(design, made);
}

void CutLinesPage::showMade(const Design& design, const MadeDesign* made) {
    if (!isMadeFor(RecipeStep::cutLines, design, made))
        return text_->setText(tr("The cut line is being made…"));
    if (made->sticker->isEmpty())
        return text_->setText("▲ " + QString::fromStdString(made->trouble));
    QStringList rows;
    if (bringsAllLines(design, made))
        rows << tr(
            "The cut lines that the file brings, as drawn. Find the edge another way to make them here.");
    for (const LineKind kind : lineKinds) {
        std::size_t count = 0, points = 0, arcs = 0, tabs = 0;
        double length = 0;
        for (const CutLine& line : made->sticker->lines) {
            if (line.kind != kind)
                continue;
            ++count;
            points += line.curve.points();
            arcs += std::size_t(std::count_if(line.curve.segments.begin(), line.curve.segments.end(),
                                              [](const CurveSegment& s) { return s.isArc(); }));
            length += cutLength(line);
            tabs += line.tabs.size();
        }
        if (count > 0) {
            QStringList facts{counted(count, "%1 line", "%1 lines"),
                              counted(points, "%1 point", "%1 points")};
            if (arcs > 0)
                facts << counted(arcs, "%1 arc", "%1 arcs");
            if (tabs > 0)
                facts << counted(tabs, "%1 tab", "%1 tabs");
            const QString size = quantityText(length, QuantityKind::length, document().job().unit);
            facts << tr("%1 long").arg(QString(size).replace(' ', QChar::Nbsp));
            rows << tr("%1: %2").arg(nameOf(kind), facts.join(", "));
        }
    }
    text_->setText(rows.join("\n"));
}

} // namespace hasami
