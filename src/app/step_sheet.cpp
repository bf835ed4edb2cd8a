#include "app/step_sheet.h"

#include "app/step_state.h"
#include "app/theme.h"

#include <QLabel>
#include <QLineEdit>
#include <QStackedWidget>
#include <QVBoxLayout>

#include <cmath>

namespace hasami {

namespace {

QLabel* quietText() {
    auto* label = new QLabel;
    label->setProperty("role", "quiet");
    label->setWordWrap(true);
    return label;
}

QVBoxLayout* pageLayout(QWidget* page) {
    auto* layout = new QVBoxLayout(page);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(12);
    return layout;
}

} // namespace

StepSheet::StepSheet(Document& document, QWidget* parent)
    : QFrame(parent), document_(document), heading_(new QLabel), pages_(new QStackedWidget) {
    setProperty("role", "panel");
    setFixedWidth(272);
    heading_->setProperty("role", "heading");
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 12, 16, 12);
    layout->setSpacing(12);
    layout->addWidget(heading_);
    layout->addWidget(pages_, 1);
    pages_->addWidget(artworkPage());
    pages_->addWidget(edgePage());
    pages_->addWidget(cutLinesPage());
    connect(&document, &Document::jobChanged, this, &StepSheet::showJob);
    connect(&document, &Document::madeChanged, this, &StepSheet::showJob);
    connect(&document, &Document::selectionChanged, this, &StepSheet::showJob);
    setStep(step_);
    showJob();
}

QuantityRow* StepSheet::row(const QuantityRow::Description& description, const QString& label,
                            const std::function<void(Design&, double)>& set) {
    auto* made = new QuantityRow(description);
    connect(made, &QuantityRow::chosen, this, [this, label, kind = description.kind, set](double value) {
        const std::string id = document_.selected();
        document_.change(
            QString("%1 %2").arg(label, quantityText(value, kind, document_.job().unit)),
            [&](Job& job) {
                if (Design* design = job.find(id))
                    set(*design, value);
            },
            label + QString::fromStdString(id));
    });
    connect(made, &QuantityRow::rested, &document_, &Document::endRun);
    return made;
}

QWidget* StepSheet::artworkPage() {
    auto* page = new QWidget;
    auto* layout = pageLayout(page);
    auto* nameLabel = new QLabel("Name");
    name_ = new QLineEdit;
    name_->setObjectName("Name field");
    name_->setAccessibleName("Name");
    name_->setToolTip("What this sticker is called on the shelf");
    name_->setMaxLength(200);
    nameLabel->setBuddy(name_);
    connect(name_, &QLineEdit::editingFinished, this, [this] {
        const std::string id = document_.selected(), name = name_->text().trimmed().toStdString();
        if (!name.empty() && name_->isModified())
            document_.change("Rename to " + name_->text().trimmed(), [&](Job& job) {
                if (Design* design = job.find(id))
                    design->name = name;
            });
        name_->setModified(false);
    });
    width_ = row({"Width", "How wide the artwork is printed; the height follows", QuantityKind::length,
                  Limits::leastSize, Limits::mostSize, 5, 300, 0.5},
                 "Width", [](Design& design, double value) {
                     const hasami::Box box = bounds(design.artwork);
                     const double height = box.height() * value / box.width();
                     if (height >= Limits::leastSize && height <= Limits::mostSize)
                         design.artwork = scaledToWidth(design.artwork, value);
                 });
    height_ = quietText();
    resolution_ = quietText();
    auto* nameBox = new QVBoxLayout;
    nameBox->setSpacing(4);
    nameBox->addWidget(nameLabel);
    nameBox->addWidget(name_);
    layout->addLayout(nameBox);
    layout->addWidget(width_);
    layout->addWidget(height_);
    layout->addWidget(resolution_);
    layout->addStretch(1);
    return page;
}

QWidget* StepSheet::edgePage() {
    auto* page = new QWidget;
    auto* layout = pageLayout(page);
    level_ = row({"Level", "Low takes faint pixels into the sticker, high leaves them out",
                  QuantityKind::percent, 0, 100, 1, 99, 1},
                 "Edge level", [](Design& design, double value) { design.recipe.edge.level = value; });
    edgeText_ = quietText();
    layout->addWidget(level_);
    layout->addWidget(edgeText_);
    layout->addStretch(1);
    return page;
}

QWidget* StepSheet::cutLinesPage() {
    auto* page = new QWidget;
    auto* layout = pageLayout(page);
    offset_ = row({"Offset", "Outward leaves a white margin around the artwork, inward cuts into it",
                   QuantityKind::length, Limits::mostInset, Limits::mostOffset, -3, 15, 0.1},
                  "Offset", [](Design& design, double value) { design.recipe.kissOffset = value; });
    lineText_ = quietText();
    layout->addWidget(offset_);
    layout->addWidget(lineText_);
    layout->addStretch(1);
    return page;
}

void StepSheet::setStep(RecipeStep step) {
    step_ = step;
    heading_->setText(stepName(step));
    pages_->setCurrentIndex(
        int(std::find(recipeSteps.begin(), recipeSteps.end(), step) - recipeSteps.begin()));
}

void StepSheet::editName() {
    name_->setFocus();
    name_->selectAll();
}

void StepSheet::stepMainNumber(int by) {
    const Design* design = document_.selectedDesign();
    if (!design)
        return;
    switch (step_) {
    case RecipeStep::artwork:
        return width_->step(by);
    case RecipeStep::edge:
        return level_->step(by);
    case RecipeStep::cutLines:
        return offset_->step(by);
    }
}

void StepSheet::showJob() {
    const Design* design = document_.selectedDesign();
    pages_->setVisible(design != nullptr);
    heading_->setVisible(design != nullptr);
    if (!design)
        return;
    const Recipe start;
    const hasami::Box box = bounds(design->artwork);
    if (!(name_->hasFocus() && name_->isModified()))
        name_->setText(QString::fromStdString(design->name));
    for (QuantityRow* row : {width_, level_, offset_})
        row->setUnit(document_.job().unit);
    width_->setStart(std::clamp(design->artwork.items.front().pixelWidth / usualPixelsPerMillimetre,
                                Limits::leastSize, Limits::mostSize));
    width_->show(box.width());
    height_->setText("Height " + quantityText(box.height(), QuantityKind::length, document_.job().unit));
    const double dpi = dotsPerInch(design->artwork);
    resolution_->setText(
        QString("%1 dots an inch at this size: %2").arg(std::lround(dpi)).arg(resolutionWord(dpi)));
    resolution_->setProperty("role", dpi >= 150 ? "quiet" : "trouble");
    level_->setStart(start.edge.level);
    level_->show(design->recipe.edge.level);
    offset_->setStart(start.kissOffset);
    offset_->show(design->recipe.kissOffset);

    const MadeDesign* made = document_.newest(design->id);
    if (isMadeFor(RecipeStep::edge, *design, made))
        edgeText_->setText(made->sticker->edge.empty()
                               ? QString::fromStdString(made->trouble)
                               : QString("Found from the picture's transparency. Openings are closed."));
    else
        edgeText_->setText("The edge is being found…");
    if (!isMadeFor(RecipeStep::cutLines, *design, made))
        return lineText_->setText("The cut line is being made…");
    double length = 0;
    for (const CutLine& line : made->sticker->lines)
        length += perimeter(flatten(line.curve, flatteningTolerance));
    lineText_->setText(made->sticker->isEmpty()
                           ? QString::fromStdString(made->trouble)
                           : QString("Kiss cut: %1 of %2 points, %3 long")
                                 .arg(counted(made->sticker->lines.size(), "line", "lines"))
                                 .arg(made->sticker->points())
                                 .arg(quantityText(length, QuantityKind::length, document_.job().unit)
                                          .replace(' ', QChar::Nbsp)));
}

} // namespace hasami
