#include "app/artwork_page.h"

#include "app/design_controls.h"
#include "app/step_state.h"

#include <QLabel>
#include <QLineEdit>
#include <QVBoxLayout>

#include <cmath>

namespace hasami {

ArtworkPage::ArtworkPage(Document& document, QWidget* parent)
    : StepPage(document, parent), name_(new QLineEdit), height_(quietText()), resolution_(quietText()) {
    auto* nameLabel = new QLabel("Name");
    name_->setObjectName("Name field");
    name_->setAccessibleName("Name");
    name_->setToolTip("What this sticker is called on the shelf");
    name_->setMaxLength(200);
    nameLabel->setBuddy(name_);
    connect(name_, &QLineEdit::editingFinished, this, [this] {
        const std::string id = this->document().selected(), name = name_->text().trimmed().toStdString();
        if (!name.empty() && name_->isModified())
            this->document().change("Rename to " + name_->text().trimmed(), [&](Job& job) {
                if (Design* design = job.find(id))
                    design->name = name;
            });
        name_->setModified(false);
    });
    width_ = designRow(document,
                       {"Width", "How wide the artwork is printed; the height follows", QuantityKind::length,
                        Limits::leastSize, Limits::mostSize, 5, 300, 0.5},
                       "Width", [](Design& design, double value) {
                           const hasami::Box box = bounds(design.artwork);
                           const double height = box.height() * value / box.width();
                           if (height >= Limits::leastSize && height <= Limits::mostSize)
                               design.artwork = scaledToWidth(design.artwork, value);
                       });
    auto* nameBox = new QVBoxLayout;
    nameBox->setSpacing(4);
    nameBox->addWidget(nameLabel);
    nameBox->addWidget(name_);
    auto* layout = pageLayout(this);
    layout->addLayout(nameBox);
    layout->addWidget(width_);
    layout->addWidget(height_);
    layout->addWidget(resolution_);
    layout->addStretch(1);
}

void ArtworkPage::editName() {
    name_->setFocus();
    name_->selectAll();
}

void ArtworkPage::showDesign(const Design& design, const MadeDesign*) {
    const LengthUnit unit = document().job().unit;
    const hasami::Box box = bounds(design.artwork);
    if (!(name_->hasFocus() && name_->isModified()))
        name_->setText(QString::fromStdString(design.name));
    width_->setUnit(unit);
    width_->setStart(std::clamp(design.artwork.items.front().pixelWidth / usualPixelsPerMillimetre,
                                Limits::leastSize, Limits::mostSize));
    width_->show(box.width());
    height_->setText("Height " + quantityText(box.height(), QuantityKind::length, unit));
    const double dpi = dotsPerInch(design.artwork);
    resolution_->setText(
        QString("%1 dots an inch at this size: %2").arg(std::lround(dpi)).arg(resolutionWord(dpi)));
    resolution_->setProperty("role", dpi >= 150 ? "quiet" : "trouble");
}

} // namespace hasami
