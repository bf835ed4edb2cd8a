#include "app/step_sheet.h"

#include "app/design_controls.h"
#include "app/edge_page.h"
#include "app/step_state.h"
#include "app/theme.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QStackedWidget>
#include <QVBoxLayout>

#include <cmath>

namespace hasami {

StepSheet::StepSheet(Document& document, QWidget* parent)
    : QFrame(parent), document_(document), heading_(new QLabel), pages_(new QStackedWidget),
      edge_(new EdgePage(document)) {
    setProperty("role", "panel");
    setFixedWidth(272);
    heading_->setProperty("role", "heading");
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 12, 16, 12);
    layout->setSpacing(12);
    layout->addWidget(heading_);
    layout->addWidget(pages_, 1);
    pages_->addWidget(artworkPage());
    pages_->addWidget(edge_);
    pages_->addWidget(cutLinesPage());
    connect(&document, &Document::jobChanged, this, &StepSheet::showJob);
    connect(&document, &Document::madeChanged, this, &StepSheet::showJob);
    connect(&document, &Document::selectionChanged, this, &StepSheet::showJob);
    setStep(step_);
    showJob();
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
    width_ = designRow(document_,
                       {"Width", "How wide the artwork is printed; the height follows", QuantityKind::length,
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

QWidget* StepSheet::cutLinesPage() {
    auto* page = new QWidget;
    auto* layout = pageLayout(page);
    offset_ = designRow(document_,
                        {"Offset", "Outward leaves a white margin around the artwork, inward cuts into it",
                         QuantityKind::length, Limits::mostInset, Limits::mostOffset, -3, 15, 0.1},
                        "Offset", [](Design& design, double value) { design.recipe.kissOffset = value; });
    lineText_ = quietText();
    layout->addWidget(offset_);
    corners_ = designChoice(document_, layout, "Corners", "What the offset makes of the artwork's corners",
                            {"Round", "Sharp", "Flat"}, [](Design& design, int place) {
                                design.recipe.corners.form = CornerForm(place);
                            });
    limit_ = designRow(
        document_,
        {"Reach of sharp corners", "A corner that would reach farther than this many offsets is cut flat",
         QuantityKind::number, Limits::leastCornerLimit, Limits::mostCornerLimit, 2, 10, 0.5},
        "Reach of sharp corners", [](Design& design, double value) { design.recipe.corners.limit = value; });
    layout->addWidget(limit_);
    bridge_ = designRow(document_,
                        {"Bridge", "Parts of the artwork that come closer than this become one sticker",
                         QuantityKind::length, 0, Limits::mostBridge, 0, 10, 0.25},
                        "Bridge", [](Design& design, double value) { design.recipe.bridge = value; });
    layout->addWidget(bridge_);
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
        return edge_->mainNumber().step(by);
    case RecipeStep::cutLines:
        return offset_->step(by);
    }
}

bool StepSheet::hasSecondNumber() const {
    return step_ == RecipeStep::cutLines || (step_ == RecipeStep::edge && edge_->secondNumber());
}

void StepSheet::stepSecondNumber(int by) {
    if (document_.selectedDesign() && hasSecondNumber())
        (step_ == RecipeStep::edge ? edge_->secondNumber() : bridge_)->step(by);
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
    for (QuantityRow* row : {width_, offset_, bridge_})
        row->setUnit(document_.job().unit);
    width_->setStart(std::clamp(design->artwork.items.front().pixelWidth / usualPixelsPerMillimetre,
                                Limits::leastSize, Limits::mostSize));
    width_->show(box.width());
    height_->setText("Height " + quantityText(box.height(), QuantityKind::length, document_.job().unit));
    const double dpi = dotsPerInch(design->artwork);
    resolution_->setText(
        QString("%1 dots an inch at this size: %2").arg(std::lround(dpi)).arg(resolutionWord(dpi)));
    resolution_->setProperty("role", dpi >= 150 ? "quiet" : "trouble");
    offset_->setStart(start.kissOffset);
    offset_->show(design->recipe.kissOffset);
    corners_->setCurrentIndex(int(design->recipe.corners.form));
    limit_->setVisible(design->recipe.corners.form == CornerForm::sharp);
    limit_->setStart(start.corners.limit);
    limit_->show(design->recipe.corners.limit);
    bridge_->setStart(start.bridge);
    bridge_->show(design->recipe.bridge);

    const MadeDesign* made = document_.newest(design->id);
    edge_->show(*design, made);
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
