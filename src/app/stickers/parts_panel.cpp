#include "app/stickers/parts_panel.h"

#include "app/controls/design_controls.h"
#include "app/kit/named.h"
#include "app/kit/quantity_field.h"
#include "app/words/words.h"
#include "base/error.h"
#include "job/split.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QVBoxLayout>

namespace hasami {

namespace {

constexpr std::size_t mostParts = 2000; // that are counted while one works

std::size_t outerLines(const Sticker& sticker) {
    return std::size_t(std::ranges::count_if(
        sticker.edge, [](const Curve& curve) { return signedArea(flatten(curve, 0.1)) > 0; }));
}

} // namespace

PartsPanel::PartsPanel(Document& document, QWidget* parent)
    : QWidget(parent), document_(document), count_(quietText()), parts_(new QWidget),
      together_(new QuantityField(QuantityKind::length, 0, Limits::mostSize)), split_(new QPushButton),
      gather_(new QPushButton(tr("Gather designs"))), others_(new QMenu(this)) {
    auto* layout = pageLayout(this);
    auto* inner = pageLayout(parts_);
    count_->setObjectName("Parts");
    inner->addWidget(count_);
    auto* row = new QHBoxLayout;
    row->addWidget(labelOf(*together_, N_("Together within"),
                           N_("Parts closer to each other than this stay one sticker"), " field"),
                   1);
    together_->setFixedWidth(88);
    together_->setZeroWord(tr("none"));
    together_->show(0);
    row->addWidget(together_);
    inner->addLayout(row);
    split_->setObjectName("Split into designs");
    split_->setAccessibleName(tr("Split into designs"));
    split_->setProperty("role", "small");
    split_->setToolTip(
        tr("Each part becomes a design of its own with its share of the artwork; vector art stays so"));
    inner->addWidget(split_);
    layout->addWidget(parts_);
    gather_->setObjectName("Gather designs");
    gather_->setProperty("role", "small");
    gather_->setToolTip(tr("Lays the artwork of another design beside this one's, as one design"));
    gather_->setMenu(others_);
    others_->setObjectName("Designs to gather");
    layout->addWidget(gather_);
    connect(together_, &QuantityField::entered, this, [this] {
        if (const Design* design = document_.selectedDesign())
            showDesign(*design, document_.newest(design->id));
    });
    connect(split_, &QPushButton::clicked, this, [this] { splitSelected(document_, together_->value()); });
    connect(others_, &QMenu::aboutToShow, this, &PartsPanel::listOthers);
}

void PartsPanel::showDesign(const Design& design, const MadeDesign* made) {
    together_->setUnit(document_.job().unit);
    gather_->setVisible(document_.job().designs.size() > 1);
    const bool isMade = made && made->artwork == design.artwork && made->recipe.edge == design.recipe.edge;
    const std::size_t lines = made ? outerLines(*made->sticker) : 0;
    parts_->setVisible(isMade && lines > 1 && lines <= mostParts);
    if (!parts_->isVisibleTo(this))
        return;
    if (counted_ != made->sticker || countedWithin_ != together_->value()) {
        counted_ = made->sticker;
        countedWithin_ = together_->value();
        found_ = partsOf(made->sticker->edge, countedWithin_).size();
    }
    count_->setText(counted(found_, "The artwork is %1 part.", "The artwork falls into %1 separate parts."));
    split_->setEnabled(found_ > 1);
    split_->setText(counted(found_, "Split into %1 design", "Split into %1 designs"));
}

void splitSelected(Document& document, double together) {
    const std::string id = document.selected();
    const MadeDesign* made = document.newest(id);
    const Design* design = document.selectedDesign();
    if (!made || !design)
        return;
    const std::shared_ptr<const Sticker> sticker = made->sticker;
    Job next = document.job();
    try {
        const auto ids = splitDesign(next, id, sticker->edge, together);
        if (ids.empty())
            return;
        const QString label =
            tr("Split %1 into %2 designs").arg(QString::fromStdString(design->name)).arg(ids.size());
        document.endRun();
        document.change(label, [&](Job& job) { job = next; });
        document.select(ids.front());
    } catch (const InputError& error) {
        Q_EMIT document.refused(QString::fromStdString(error.what()));
    }
}

void PartsPanel::listOthers() {
    others_->clear();
    const std::string own = document_.selected();
    std::vector<std::string> all;
    for (const Design& design : document_.job().designs) {
        if (design.id == own)
            continue;
        all.push_back(design.id);
        const QString name = QString::fromStdString(design.name);
        others_->addAction(QString(name).replace('&', "&&"), this,
                           [this, id = design.id, name] { gather({id}, tr("Gather %1").arg(name)); });
    }
    if (all.size() > 1) {
        others_->addSeparator();
        others_->addAction(tr("All of them"), this, [this, all] { gather(all, tr("Gather all designs")); });
    }
}

void PartsPanel::gather(const std::vector<std::string>& others, const QString& label) {
    const std::string id = document_.selected();
    Job next = document_.job();
    try {
        gatherDesigns(next, id, others);
        document_.endRun();
        document_.change(label, [&](Job& job) { job = next; });
        document_.select(id);
    } catch (const InputError& error) {
        Q_EMIT document_.refused(QString::fromStdString(error.what()));
    }
}

} // namespace hasami
