#include "app/artwork_page.h"

#include "app/design_controls.h"
#include "app/step_state.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QVBoxLayout>

#include <cmath>

namespace hasami {

ArtworkPage::ArtworkPage(Document& document, QWidget* parent)
    : StepPage(document, parent), name_(new QLineEdit), height_(quietText()), resolution_(quietText()),
      pages_(new QWidget), page_(new QSpinBox) {
    auto* nameLabel = new QLabel("Name");
    resolution_->setObjectName("Resolution");
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
    auto* pageLabel = new QLabel("Page of the file");
    page_->setObjectName("Page field");
    page_->setAccessibleName("Page of the file");
    page_->setToolTip("Which page of the file the sticker shows; the recipe stays");
    page_->setKeyboardTracking(false);
    page_->setMinimum(1);
    pageLabel->setBuddy(page_);
    connect(page_, &QSpinBox::valueChanged, this,
            [this](int page) { this->document().showPage(this->document().selected(), 0, page); });
    connect(&document, &Document::refused, this, [this] { // a page that can't be shown is not the one shown
        if (const Design* design = this->document().selectedDesign())
            showDesign(*design, this->document().newest(design->id));
    });
    auto* pageBox = new QHBoxLayout(pages_);
    pageBox->setContentsMargins(0, 0, 0, 0);
    pageBox->addWidget(pageLabel);
    pageBox->addStretch(1);
    pageBox->addWidget(page_);
    auto* nameBox = new QVBoxLayout;
    nameBox->setSpacing(4);
    nameBox->addWidget(nameLabel);
    nameBox->addWidget(name_);
    auto* layout = pageLayout(this);
    layout->addLayout(nameBox);
    layout->addWidget(pages_);
    layout->addWidget(width_);
    layout->addWidget(height_);
    layout->addWidget(resolution_);
    layout->addStretch(1);
}

void ArtworkPage::editName() {
    name_->setFocus();
    name_->selectAll();
}

void ArtworkPage::showDesign(const Design& design, const MadeDesign* made) {
    const LengthUnit unit = document().job().unit;
    const hasami::Box box = bounds(design.artwork);
    if (!(name_->hasFocus() && name_->isModified()))
        name_->setText(QString::fromStdString(design.name));
    width_->setUnit(unit);
    const Item& first = design.artwork.items.front();
    const QSignalBlocker quiet(page_);
    const int pages = made && !made->sources.empty() ? made->sources.front().pages : first.page;
    pages_->setVisible(pages > 1);
    page_->setMaximum(std::max(pages, first.page));
    page_->setSuffix(QString(" of %1").arg(pages));
    page_->setValue(first.page);
    const double natural = made && !made->sources.empty() ? made->sources.front().naturalSize.x
                                                          : first.pixelWidth / usualPixelsPerMillimetre;
    width_->setStart(std::clamp(natural, Limits::leastSize, Limits::mostSize));
    width_->show(box.width());
    height_->setText("Height " + quantityText(box.height(), QuantityKind::length, unit));
    const double dpi = dotsPerInch(design.artwork);
    resolution_->setText(
        dpi == 0
            ? QString("Vector art: sharp at every size")
            : QString("%1 dots an inch at this size: %2").arg(std::lround(dpi)).arg(resolutionWord(dpi)));
    resolution_->setProperty("role", dpi == 0 || dpi >= 150 ? "quiet" : "trouble");
}

} // namespace hasami
