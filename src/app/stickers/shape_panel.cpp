#include "app/stickers/shape_panel.h"

#include "app/controls/design_controls.h"
#include "app/words/words.h"

#include <QComboBox>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QVBoxLayout>

namespace hasami {

namespace {

/// In the order of the choice.
constexpr PlainShapeKind kinds[] = {PlainShapeKind::box, PlainShapeKind::rounded, PlainShapeKind::ellipse,
                                    PlainShapeKind::circle, PlainShapeKind::polygon};
QStringList kindNames() {
    return translatedList(
        {N_("Box"), N_("Box with round corners"), N_("Ellipse"), N_("Circle"), N_("Regular polygon")});
}

PlainShape& shapeOf(Design& design) {
    return design.recipe.edge.shape;
}

bool isRound(PlainShapeKind kind) {
    return kind == PlainShapeKind::circle || kind == PlainShapeKind::polygon;
}

} // namespace

ShapePanel::ShapePanel(Document& document, QWidget* parent)
    : StepPage(document, parent), share_(new QPushButton(tr("Same shape for…"))), others_(new QMenu(this)),
      sharing_(quietText()) {
    auto* layout = pageLayout(this);
    kind_ = designChoice(document, layout, N_("Shape"), N_("The shape around the artwork, whatever it shows"),
                         kindNames(), [](Design& design, int place) { shapeOf(design).kind = kinds[place]; });
    measure_ =
        designChoice(document, layout, N_("Measured by"),
                     N_("The shape follows the artwork's size, or has a size of its own"),
                     {tr("Margin around the artwork"), tr("Its own size")}, [](Design& design, int place) {
                         PlainShape& shape = shapeOf(design);
                         if (place == 1 && !shape.bySize)
                             shape = withOwnSize(bounds(design.artwork), shape);
                         shape.bySize = place == 1;
                     });
    addRows();
    addSharing();
    layout->addStretch(1);
}

void ShapePanel::addRows() {
    const auto row = [&](const QuantityRow::Description& description, const char* label,
                         std::function<void(Design&, double)> set) {
        auto* made = designRow(document(), description, label, std::move(set));
        layout()->addWidget(made);
        return made;
    };
    margin_ = row({N_("Margin"), N_("From the artwork out to the shape; inward where negative"),
                   QuantityKind::length, Limits::mostInset, Limits::mostOffset, -10, 10, 0.25},
                  N_("Shape margin"), [](Design& design, double value) { shapeOf(design).margin = value; });
    width_ = row({N_("Shape width"), N_("Of the shape itself; a circle's and a polygon's from side to side"),
                  QuantityKind::length, Limits::leastSize, Limits::mostSize, 5, 200, 0.5},
                 N_("Shape width"), [](Design& design, double value) { shapeOf(design).width = value; });
    height_ = row({N_("Shape height"), N_("Of the shape itself"), QuantityKind::length, Limits::leastSize,
                   Limits::mostSize, 5, 200, 0.5},
                  N_("Shape height"), [](Design& design, double value) { shapeOf(design).height = value; });
    radius_ = row({N_("Corner radius"), N_("How round the box's corners are"), QuantityKind::length, 0,
                   Limits::mostSize, 0, 25, 0.25},
                  N_("Corner radius"), [](Design& design, double value) { shapeOf(design).radius = value; });
    sides_ = row({N_("Sides"), N_("How many sides the polygon has"), QuantityKind::count, 3,
                  Limits::mostSides, 3, 12, 1},
                 N_("Sides"), [](Design& design, double value) { shapeOf(design).sides = int(value); });
}

void ShapePanel::addSharing() {
    share_->setObjectName("Same shape for");
    share_->setToolTip(tr("Other designs take this shape and size, and follow when it changes"));
    share_->setMenu(others_);
    others_->setObjectName("Designs of the same shape");
    connect(others_, &QMenu::aboutToShow, this, &ShapePanel::listOthers);
    layout()->addWidget(share_);
    layout()->addWidget(sharing_);
}

void ShapePanel::listOthers() {
    others_->clear();
    const std::string own = document().selected();
    const Design* design = document().selectedDesign();
    if (!design)
        return;
    const int shared = design->recipe.edge.shape.shared;
    for (const Design& other : document().job().designs) {
        if (other.id == own)
            continue;
        QAction* action = others_->addAction(QString::fromStdString(other.name).replace('&', "&&"));
        action->setCheckable(true);
        action->setChecked(shared > 0 && other.recipe.edge.shape.shared == shared);
        connect(action, &QAction::triggered, this, [this, own, id = other.id](bool isShared) {
            document().endRun();
            document().change(isShared ? tr("Share the shape") : tr("Stop sharing the shape"),
                              [&](Job& job) { shareShape(job, own, id, isShared); });
        });
    }
}

QuantityRow& ShapePanel::mainNumber() {
    return margin_->isVisibleTo(this) ? *margin_ : *width_;
}

QuantityRow* ShapePanel::secondNumber() {
    for (QuantityRow* row : {height_, radius_})
        if (row->isVisibleTo(this))
            return row;
    return nullptr;
}

void ShapePanel::showDesign(const Design& design, const MadeDesign*) {
    const PlainShape &shape = design.recipe.edge.shape, start;
    const PlainShape around = withOwnSize(bounds(design.artwork), [&] {
        PlainShape byMargin = shape;
        byMargin.bySize = false;
        return byMargin;
    }());
    const auto both = [&](QuantityRow* row, double startValue, double value) {
        row->setUnit(document().job().unit);
        row->setStart(startValue);
        row->show(value);
    };
    kind_->setCurrentIndex(
        int(std::find(std::begin(kinds), std::end(kinds), shape.kind) - std::begin(kinds)));
    measure_->setCurrentIndex(shape.bySize ? 1 : 0);
    both(margin_, start.margin, shape.margin);
    both(width_, around.width, shape.width);
    both(height_, around.height, shape.height);
    both(radius_, start.radius, shape.radius);
    both(sides_, start.sides, shape.sides);
    margin_->setVisible(!shape.bySize);
    width_->setVisible(shape.bySize);
    height_->setVisible(shape.bySize && !isRound(shape.kind));
    radius_->setVisible(shape.kind == PlainShapeKind::rounded);
    sides_->setVisible(shape.kind == PlainShapeKind::polygon);
    showSharing(design);
}

void ShapePanel::showSharing(const Design& design) {
    const int shared = design.recipe.edge.shape.shared;
    const auto& designs = document().job().designs;
    const auto count = std::count_if(designs.begin(), designs.end(), [&](const Design& other) {
        return other.recipe.edge.shape.shared == shared;
    });
    share_->setEnabled(designs.size() > 1);
    sharing_->setText(shared > 0 && count > 1 ? counted(std::size_t(count), "%1 design has this shape.",
                                                        "%1 designs share this shape.")
                                              : tr("This shape is this design's own."));
}

} // namespace hasami
